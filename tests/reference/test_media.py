"""Properties of air and coolants against published values and general-purpose libraries."""

from __future__ import annotations

import numpy as np
import pytest
from chemicals import vapor_pressure
from iapws import IAPWS97

from ebbrin.core.base import DomainError
from ebbrin.core.media import air, boiling, coolants
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, PROPYLENE_GLYCOL, Coolant
from oracles.fluids import coolprop
from oracles.parts import WATER, mix, waterless

KPA = 1000.0


@pytest.mark.parametrize(
    ("altitude", "pressure"),
    # ISO 2533:1975 / U.S. Standard Atmosphere 1976, tables, geopotential altitude.
    [(0.0, 101_325.0), (1000.0, 89_875.0), (2000.0, 79_495.0), (3000.0, 70_109.0), (5000.0, 54_020.0)],
)
def test_standard_pressure_is_the_standard_atmosphere(altitude: float, pressure: float) -> None:
    assert air.standard_pressure(altitude) == pytest.approx(pressure, rel=1e-4)


def test_standard_pressure_refuses_the_stratosphere() -> None:
    with pytest.raises(DomainError, match="altitude is 20000 m; it must lie between -500 and 11000 m"):
        air.standard_pressure(20_000.0)


@pytest.mark.parametrize(
    # White, Viscous Fluid Flow; the same as tables of air at 1 atm (from memory), three figures.
    ("celsius", "viscosity"),
    [(0.0, 1.716e-5), (40.0, 1.907e-5), (100.0, 2.18e-5)],
)
def test_air_viscosity_matches_tables(celsius: float, viscosity: float) -> None:
    assert air.viscosity(celsius + 273.15) == pytest.approx(viscosity, rel=5e-3)


def test_air_density_matches_coolprop() -> None:
    expected = coolprop("D", "T", 313.15, "P", 90_000.0, "Air")
    assert air.density(313.15, 90_000.0) == pytest.approx(expected, rel=1e-3)


def test_water_vapour_pressure_is_if97() -> None:
    # IAPWS R7-97, checked against the iapws package's implementation.
    T = np.linspace(274.0, 500.0, 23)
    expected = np.array([IAPWS97(T=t, x=0).P * 1e6 for t in T])
    assert boiling.water_vapour_pressure(T) == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize(("pressure", "celsius"), [(101_325.0, 99.974), (200_000.0, 120.21)])
def test_water_boils_where_the_steam_tables_say(pressure: float, celsius: float) -> None:
    # IAPWS saturation tables.
    assert boiling.boiling_temperature(pressure, WATER) - 273.15 == pytest.approx(celsius, abs=0.01)


@pytest.mark.parametrize(
    ("share", "kind", "altitude", "gauge", "celsius"),
    [
        # Water from IAPWS; mixes: ASTM D3306 gives 107.8 °C or higher at 50 vol% (from memory), trade
        # tables 111 °C at 60 vol% (common practice, no source). The rest follows from Raoult's law.
        (0.0, ETHYLENE_GLYCOL, 0.0, 0.0, 100.0),
        (0.0, ETHYLENE_GLYCOL, 0.0, 89.6, 118.8),
        (0.0, ETHYLENE_GLYCOL, 0.0, 110.3, 122.0),
        (0.5, ETHYLENE_GLYCOL, 0.0, 0.0, 107.8),
        (0.5, ETHYLENE_GLYCOL, 0.0, 89.6, 127.4),
        (0.5, ETHYLENE_GLYCOL, 0.0, 110.3, 130.8),
        (0.6, ETHYLENE_GLYCOL, 0.0, 0.0, 111.1),
        (0.6, ETHYLENE_GLYCOL, 0.0, 89.6, 131.1),
        (0.6, ETHYLENE_GLYCOL, 0.0, 110.3, 134.5),
        (0.5, ETHYLENE_GLYCOL, 2000.0, 0.0, 100.8),
        (0.5, ETHYLENE_GLYCOL, 2000.0, 89.6, 123.5),
        (0.5, ETHYLENE_GLYCOL, 2000.0, 110.3, 127.2),
        (0.5, PROPYLENE_GLYCOL, 0.0, 0.0, 106.0),
        (0.5, PROPYLENE_GLYCOL, 0.0, 89.6, 125.4),
        (0.5, PROPYLENE_GLYCOL, 0.0, 110.3, 128.8),
    ],
)
def test_boiling_table(share: float, kind: int, altitude: float, gauge: float, celsius: float) -> None:
    coolant = mix(share, kind) if share else WATER
    pressure = air.standard_pressure(altitude) + gauge * KPA
    boils = boiling.boiling_temperature(pressure, coolant)
    assert boils - 273.15 == pytest.approx(celsius, abs=0.2)


def test_rise_per_psi_of_cap_is_what_workshops_say() -> None:
    # Common practice, no source: 2 °F per psi by one rule, 3 °F by another; computed lies between.
    first, last = boiling.boiling_temperature(101_325.0 + np.array([0.0, 15 * 6894.757]), mix(0.5))
    assert 2.0 < (last - first) * 1.8 / 15.0 < 3.0


@pytest.mark.parametrize(
    # Normal boiling points 197.3 and 188.2 °C (CRC Handbook, from memory).
    ("kind", "celsius"),
    [(ETHYLENE_GLYCOL, 197.3), (PROPYLENE_GLYCOL, 188.2)],
)
def test_pure_glycol_boils_where_handbooks_say(kind: int, celsius: float) -> None:
    pressure = boiling.glycol_vapour_pressure(celsius + 273.15, kind)
    assert pressure == pytest.approx(101_325.0, rel=0.02)


@pytest.mark.parametrize("celsius", [90.0, 120.0, 150.0, 180.0])
def test_glycol_vapour_pressures_match_perrys(celsius: float) -> None:
    # Perry's Chemical Engineers' Handbook, table 2-8, coefficients as in the chemicals library.
    T = celsius + 273.15
    for kind, cas in ((ETHYLENE_GLYCOL, "107-21-1"), (PROPYLENE_GLYCOL, "57-55-6")):
        row = vapor_pressure.Psat_data_Perrys2_8.loc[cas]
        expected = np.exp(row.C1 + row.C2 / T + row.C3 * np.log(T) + row.C4 * T**row.C5)
        assert boiling.glycol_vapour_pressure(T, kind) == pytest.approx(expected, rel=0.07)


@pytest.mark.parametrize(
    # Trade: about 190 °C when fresh (common practice, no source); each percent of water costs some 10 K.
    ("water", "celsius"),
    [(0.0, 197.0), (0.01, 184.0), (0.03, 166.0)],
)
def test_waterless_coolant_boils_by_what_water_is_left(water: float, celsius: float) -> None:
    assert boiling.boiling_temperature(101_325.0, waterless(water)) - 273.15 == pytest.approx(
        celsius, abs=1.5
    )


def test_boiling_inverts_vapour_pressure() -> None:
    for coolant in (WATER, mix(0.3), mix(0.6, PROPYLENE_GLYCOL), waterless()):
        pressure = np.geomspace(2e4, 3e5, 9)
        T = boiling.boiling_temperature(pressure, coolant)
        assert boiling.vapour_pressure(T, coolant) == pytest.approx(pressure, rel=1e-7)


@pytest.mark.parametrize("fraction", [0.1, 0.25, 0.333, 0.527, 0.59])
@pytest.mark.parametrize(("kind", "fluid"), [(ETHYLENE_GLYCOL, "MEG"), (PROPYLENE_GLYCOL, "MPG")])
def test_glycol_tables_match_coolprop_between_their_points(kind: int, fluid: str, fraction: float) -> None:
    coolant = Coolant(np.asarray(kind), np.asarray(fraction))
    for celsius in (5.0, 21.7, 54.3, 78.9, 97.1):
        found = coolants.properties(coolant, celsius + 273.15)
        name = f"INCOMP::{fluid}[{fraction}]"
        wanted = {n: coolprop(n, "T", celsius + 273.15, "P", 1e6, name) for n in "DCLV"}
        assert found.density == pytest.approx(wanted["D"], rel=2e-3)
        assert found.heat_capacity == pytest.approx(wanted["C"], rel=2e-3)
        assert found.conductivity == pytest.approx(wanted["L"], rel=2e-3)
        assert found.viscosity == pytest.approx(wanted["V"], rel=1e-2)
        assert not coolants.outside_fit(coolant, celsius + 273.15)


def test_coolants_of_many_kinds_at_once_are_what_each_is_alone() -> None:
    several = [WATER, mix(0.5), mix(0.4, PROPYLENE_GLYCOL), waterless(0.02)]
    T = np.array([280.0, 350.0, 390.0])
    together = Coolant(
        np.array([[int(c.kind)] for c in several]), np.array([[float(c.mass_fraction)] for c in several])
    )
    found = coolants.properties(together, T)
    for i, alone in enumerate(several):
        single = coolants.properties(alone, T)
        for name in ("density", "heat_capacity", "conductivity", "viscosity"):
            assert getattr(found, name)[i] == pytest.approx(getattr(single, name), rel=1e-12)


def test_undiluted_glycol_is_that_of_the_heat_atlas() -> None:
    # Undiluted EG at 90 °C: 1063 kg/m³, 2720 J/kg K, 2.5e-3 Pa s (from memory); k 0.26 by VDI.
    pure = coolants.properties(waterless(0.0), 363.15)
    assert pure.density == pytest.approx(1063.0, rel=3e-3)
    assert pure.heat_capacity == pytest.approx(2720.0, rel=0.01)
    assert pure.viscosity == pytest.approx(2.5e-3, rel=0.05)
    assert pure.conductivity == pytest.approx(0.26, rel=0.03)


@pytest.mark.parametrize("celsius", [3.3, 40.0, 90.0, 118.0, 139.0])
def test_water_tables_match_coolprop_between_their_points(celsius: float) -> None:
    found = coolants.properties(WATER, celsius + 273.15)
    wanted = {n: coolprop(n, "T", celsius + 273.15, "P", 1e6, "Water") for n in "DCLV"}
    assert found.density == pytest.approx(wanted["D"], rel=2e-3)
    assert found.heat_capacity == pytest.approx(wanted["C"], rel=2e-3)
    assert found.conductivity == pytest.approx(wanted["L"], rel=2e-3)
    assert found.viscosity == pytest.approx(wanted["V"], rel=1e-2)


def test_beyond_the_fit_is_continued_and_flagged() -> None:
    at = np.array([95.0, 100.0, 105.0, 130.0]) + 273.15
    found = coolants.properties(mix(0.5), at)
    assert coolants.outside_fit(mix(0.5), at).tolist() == [False, False, True, True]
    slope = np.diff(found.density) / np.diff(at)
    assert slope[1:] == pytest.approx(np.full(2, slope[0]), rel=0.05)
    assert np.all(np.diff(found.viscosity) < 0)


def test_properties_refuse_what_the_tables_do_not_hold() -> None:
    with pytest.raises(DomainError, match="coolant temperature is 420 K"):
        coolants.properties(WATER, 420.0)
    with pytest.raises(DomainError, match="coolant temperature is nan"):
        coolants.properties(WATER, np.nan)


def test_half_glycol_by_volume_is_more_by_mass() -> None:
    # From the densities at 20 °C: 52.7 mass%.
    assert coolants.mass_fraction_from_volume(0.5) == pytest.approx(0.527, abs=5e-4)


def test_half_glycol_freezes_where_the_standard_says() -> None:
    # ASTM D3306: -36.4 °C or lower at 50 vol% (from memory).
    assert -41.0 < coolants.freezing_temperature(mix(0.5)) - 273.15 < -36.4
    assert coolants.freezing_temperature(WATER) == 273.15


@pytest.mark.parametrize(
    # Common practice, no source: about 4 % for water, 5 to 6 % for a half mix, from 20 to 100 °C.
    ("share", "low", "high"),
    [(0.0, 0.04, 0.045), (0.5, 0.05, 0.06)],
)
def test_fill_grows_as_the_trade_says(share: float, low: float, high: float) -> None:
    coolant = mix(share) if share else WATER
    assert low < coolants.expansion(coolant, 293.15, 373.15) < high


@pytest.mark.parametrize(
    ("coolant", "message"),
    [
        (Coolant(np.asarray(ETHYLENE_GLYCOL), np.asarray(0.8)), "glycol share by mass is 0.8 kg/kg"),
        (Coolant(np.asarray(coolants.WATER), np.asarray(0.2)), "glycol share by mass is 0.2 kg/kg"),
        (Coolant(np.asarray(coolants.WATERLESS), np.asarray(0.7)), "must lie between 0.9 and 1 kg/kg"),
        (Coolant(np.asarray(ETHYLENE_GLYCOL), np.asarray(np.nan)), "glycol share by mass is nan"),
    ],
)
def test_strengths_that_a_kind_cannot_have_are_refused(coolant: Coolant, message: str) -> None:
    with pytest.raises(DomainError, match=message):
        coolant.checked()
