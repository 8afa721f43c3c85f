"""Properties of air and coolants against published values and general-purpose libraries."""

from __future__ import annotations

import CoolProp.CoolProp as CP
import numpy as np
import pytest
from iapws import IAPWS97

from ebbrin.core.base import DomainError
from ebbrin.core.media import air, boiling, coolants
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, WATER, Coolant

KPA = 1000.0


def mix(volume_share: float) -> Coolant:
    fraction = coolants.mass_fraction_from_volume(volume_share)
    return Coolant(np.asarray(ETHYLENE_GLYCOL), fraction)


water = Coolant(np.asarray(WATER), np.asarray(0.0))


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
    expected = CP.PropsSI("D", "T", 313.15, "P", 90_000.0, "Air")
    assert air.density(313.15, 90_000.0) == pytest.approx(expected, rel=1e-3)


def test_water_vapour_pressure_is_if97() -> None:
    # IAPWS R7-97, checked against the iapws package's implementation.
    T = np.linspace(274.0, 500.0, 23)
    expected = np.array([IAPWS97(T=t, x=0).P * 1e6 for t in T])
    assert boiling.water_vapour_pressure(T) == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize(("pressure", "celsius"), [(101_325.0, 99.974), (200_000.0, 120.21)])
def test_water_boils_where_the_steam_tables_say(pressure: float, celsius: float) -> None:
    # IAPWS saturation tables.
    assert boiling.boiling_temperature(pressure, 1.0) - 273.15 == pytest.approx(celsius, abs=0.01)


@pytest.mark.parametrize(
    ("share", "altitude", "gauge", "celsius"),
    [
        # Water from IAPWS; mixes: ASTM D3306 gives 107.8 °C or higher at 50 vol% (from memory), trade
        # tables 111 °C at 60 vol% (common practice, no source). The rest follows from Raoult's law.
        (0.0, 0.0, 0.0, 100.0),
        (0.0, 0.0, 89.6, 118.8),
        (0.0, 0.0, 110.3, 122.0),
        (0.5, 0.0, 0.0, 107.8),
        (0.5, 0.0, 89.6, 127.4),
        (0.5, 0.0, 110.3, 130.8),
        (0.6, 0.0, 0.0, 111.1),
        (0.6, 0.0, 89.6, 131.1),
        (0.6, 0.0, 110.3, 134.5),
        (0.5, 2000.0, 0.0, 100.8),
        (0.5, 2000.0, 89.6, 123.5),
        (0.5, 2000.0, 110.3, 127.2),
    ],
)
def test_boiling_table(share: float, altitude: float, gauge: float, celsius: float) -> None:
    coolant = mix(share) if share else water
    pressure = air.standard_pressure(altitude) + gauge * KPA
    boils = boiling.boiling_temperature(pressure, coolants.water_mole_fraction(coolant))
    assert boils - 273.15 == pytest.approx(celsius, abs=0.2)


def test_rise_per_psi_of_cap_is_what_workshops_say() -> None:
    # Common practice, no source: 2 °F per psi by one rule, 3 °F by another; computed lies between.
    x = coolants.water_mole_fraction(mix(0.5))
    first, last = boiling.boiling_temperature(101_325.0 + np.array([0.0, 15 * 6894.757]), x)
    assert 2.0 < (last - first) * 1.8 / 15.0 < 3.0


def test_pure_glycol_boils_where_handbooks_say() -> None:
    # Normal boiling point of ethylene glycol 197.3 °C (CRC Handbook, from memory).
    assert boiling.glycol_vapour_pressure(197.3 + 273.15) == pytest.approx(101_325.0, rel=0.02)


@pytest.mark.parametrize("fraction", [0.1, 0.25, 0.333, 0.527, 0.59])
def test_glycol_tables_match_coolprop_between_their_points(fraction: float) -> None:
    coolant = Coolant(np.asarray(ETHYLENE_GLYCOL), np.asarray(fraction))
    for celsius in (5.0, 21.7, 54.3, 78.9, 97.1):
        found = coolants.properties(coolant, celsius + 273.15)
        name = f"INCOMP::MEG[{fraction}]"
        wanted = {n: CP.PropsSI(n, "T", celsius + 273.15, "P", 1e6, name) for n in "DCLV"}
        assert found.density == pytest.approx(wanted["D"], rel=2e-3)
        assert found.heat_capacity == pytest.approx(wanted["C"], rel=2e-3)
        assert found.conductivity == pytest.approx(wanted["L"], rel=2e-3)
        assert found.viscosity == pytest.approx(wanted["V"], rel=1e-2)
        assert not found.outside_fit


@pytest.mark.parametrize("celsius", [3.3, 40.0, 90.0, 118.0, 139.0])
def test_water_tables_match_coolprop_between_their_points(celsius: float) -> None:
    found = coolants.properties(water, celsius + 273.15)
    wanted = {n: CP.PropsSI(n, "T", celsius + 273.15, "P", 1e6, "Water") for n in "DCLV"}
    assert found.density == pytest.approx(wanted["D"], rel=2e-3)
    assert found.heat_capacity == pytest.approx(wanted["C"], rel=2e-3)
    assert found.conductivity == pytest.approx(wanted["L"], rel=2e-3)
    assert found.viscosity == pytest.approx(wanted["V"], rel=1e-2)


def test_beyond_the_fit_is_continued_and_flagged() -> None:
    at = np.array([95.0, 100.0, 105.0, 130.0]) + 273.15
    found = coolants.properties(mix(0.5), at)
    assert found.outside_fit.tolist() == [False, False, True, True]
    slope = np.diff(found.density) / np.diff(at)
    assert slope[1:] == pytest.approx(np.full(2, slope[0]), rel=0.05)
    assert np.all(np.diff(found.viscosity) < 0)


def test_properties_refuse_what_the_tables_do_not_hold() -> None:
    with pytest.raises(DomainError, match="coolant temperature is 420 K"):
        coolants.properties(water, 420.0)
    with pytest.raises(DomainError, match="coolant temperature is nan"):
        coolants.properties(water, np.nan)


def test_half_glycol_by_volume_is_more_by_mass() -> None:
    # From the densities at 20 °C: 52.7 mass%.
    assert coolants.mass_fraction_from_volume(0.5) == pytest.approx(0.527, abs=5e-4)


def test_half_glycol_freezes_where_the_standard_says() -> None:
    # ASTM D3306: -36.4 °C or lower at 50 vol% (from memory).
    assert -41.0 < coolants.freezing_temperature(mix(0.5)) - 273.15 < -36.4
    assert coolants.freezing_temperature(water) == 273.15
