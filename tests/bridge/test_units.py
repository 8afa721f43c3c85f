"""The document's units against SciPy's constants, which are CODATA's and the SI brochure's."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import constants

from ebbrin.bridge import units

TEMPERATURES = st.floats(-60.0, 400.0)


@pytest.mark.parametrize(
    ("ours", "theirs"),
    [
        (units.MM, constants.milli),
        (units.LITRE, constants.liter),
        (units.KILO, constants.kilo),
        (units.MINUTE, constants.minute),
        (units.HOUR, constants.hour),
        (units.KM_H, constants.kmh),
        (units.RPM, 1.0 / constants.minute),
        (units.LITRE_PER_MINUTE, constants.liter / constants.minute),
        (units.KG_PER_HOUR, 1.0 / constants.hour),
    ],
)
def test_a_unit_is_what_the_si_says(ours: float, theirs: float) -> None:
    assert ours == pytest.approx(theirs, rel=1e-12)


@given(TEMPERATURES)
def test_a_temperature_is_that_of_scipy_both_ways(value: float) -> None:
    expected = constants.convert_temperature(value, "Celsius", "Kelvin")
    assert float(units.kelvin(value)) == pytest.approx(expected, abs=1e-9)
    assert units.celsius(units.kelvin(value)) == pytest.approx(value, abs=1e-9)


@given(TEMPERATURES, TEMPERATURES)
def test_a_difference_is_the_same_in_both(one: float, other: float) -> None:
    assert float(units.kelvin(one) - units.kelvin(other)) == pytest.approx(one - other, abs=1e-9)


def test_arrays_keep_their_shape_and_what_is_not_known() -> None:
    found = units.kelvin([[20.0, np.nan], [0.0, -40.0]])
    assert found.shape == (2, 2)
    assert np.isnan(found[0, 1])
    assert found[1].tolist() == [constants.zero_Celsius, constants.zero_Celsius - 40.0]


def test_water_boils_at_a_standard_atmosphere_in_round_units() -> None:
    # The standard atmosphere is 101.325 kPa by definition (SI brochure); a horsepower is no unit of the document.
    assert units.kilopascals(constants.atm) == pytest.approx(101.325, rel=1e-12)
    assert units.kilowatts(constants.hp) == pytest.approx(0.7457, abs=1e-4)
