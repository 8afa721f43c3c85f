"""The radiator against textbooks, general-purpose libraries and its own published ranges."""

from __future__ import annotations

import fluids
import ht
import numpy as np
import pytest
from scipy.optimize import brentq

from ebbrin.core import ducts
from ebbrin.core.base import DomainError
from ebbrin.core.media import air, coolants
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, Coolant
from ebbrin.core.radiator import air_side, coolant_side, exchange
from ebbrin.core.radiator.exchange import crossflow_effectiveness
from ebbrin.core.radiator.geometry import Core


def sample_core(**changes: float) -> Core:
    given: dict[str, float | bool] = {
        "width": 0.65, "height": 0.42, "depth": 0.040, "rows": 1.0, "crossflow": True,
        "fin_pitch": 0.0254 / 14, "fin_height": 0.008, "fin_thickness": 0.08e-3, "louvre_pitch": 1.2e-3,
        "louvre_length": 6.8e-3, "louvre_angle": float(np.radians(27)), "tube_height": 0.002,
        "tube_wall": 0.3e-3, "conductivity": 200.0, "blocked_tubes": 0.0, "blocked_face": 0.0,
    }  # fmt: skip
    return Core(**{name: np.asarray(value) for name, value in (given | changes).items()})  # type: ignore[arg-type]


def test_effectiveness_matches_ht_over_a_grid() -> None:
    NTU, ratio = np.meshgrid(np.geomspace(0.02, 9.0, 14), np.linspace(0.02, 1.0, 9))
    expected = np.vectorize(lambda n, r: ht.effectiveness_from_NTU(n, r, subtype="crossflow"))(NTU, ratio)
    assert crossflow_effectiveness(NTU, ratio) == pytest.approx(expected, rel=1e-8)


def test_effectiveness_with_one_endless_stream_is_exponential() -> None:
    assert crossflow_effectiveness(1.7, 0.0) == pytest.approx(1.0 - np.exp(-1.7), rel=1e-9)


def test_cengel_radiator() -> None:
    # Çengel, Heat Transfer, worked example "Cooling of water in an automotive radiator" (from memory):
    # 40 tubes of 5 mm x 650 mm, water 0.6 kg/s 90 to 65 °C, air 20 to 40 °C: 62.9 kW, U_i = 3341 W/m² K.
    heat = 0.6 * 4195.0 * 25.0
    assert heat == pytest.approx(62.9e3, rel=1e-3)
    hot, cold = heat / 25.0, heat / 20.0
    effectiveness = heat / (hot * 70.0)
    NTU = brentq(lambda n: float(crossflow_effectiveness(n, hot / cold)) - effectiveness, 0.01, 5.0)
    area = 40 * np.pi * 0.005 * 0.65
    assert NTU * hot / area == pytest.approx(3341.0, rel=0.01)


def test_incropera_gas_heater() -> None:
    # Incropera et al., finned crossflow exchanger (from memory): gas 300 to 100 °C heats 1 kg/s of water
    # from 35 to 125 °C, U = 100 W/m² K on the gas side: about 39 to 40 m².
    water = 1.0 * 4197.0
    gas = water * 90.0 / 200.0
    NTU = brentq(lambda n: float(crossflow_effectiveness(n, gas / water)) - 200.0 / 265.0, 0.1, 10.0)
    assert NTU * gas / 100.0 == pytest.approx(39.5, rel=0.025)


@pytest.mark.parametrize(
    # Our own figures for a common core; independent derivations of the same sources agree to 8 %.
    ("velocity", "heat", "drop"),
    [(3.1, 36e3, 65.0), (6.2, 50e3, 170.0), (10.4, 60e3, 370.0)],
)
def test_common_core_sheds_what_is_expected(velocity: float, heat: float, drop: float) -> None:
    core = sample_core()
    mixture = Coolant(np.asarray(ETHYLENE_GLYCOL), coolants.mass_fraction_from_volume(0.5))
    density = air.density(308.15, 101_325.0)
    G = density * velocity
    shed = heat
    for _ in range(6):
        mean = 308.15 + shed / (G * core.open_face * air.HEAT_CAPACITY) / 2
        fluid = coolants.properties(mixture, 373.15 - shed / 3600.0 / 2)
        h = air_side.heat_transfer_coefficient(core, G, mean)
        eta = air_side.surface_efficiency(air_side.fin_efficiency(h, core), core.fin_share)
        film = coolant_side.heat_transfer_coefficient(core, 1.0 / fluid.density, fluid) * core.coolant_area
        UA = 1.0 / (1.0 / (eta * h * core.air_area) + 1.0 / film)
        shed = 65.0 * exchange.heat_per_kelvin(UA, G * core.open_face * 1007.0, 1.0 * fluid.heat_capacity)
    resistance = air_side.core_resistance(core)
    assert shed == pytest.approx(heat, rel=0.08)
    assert air_side.pressure_drop(resistance, G, mean, air.density(mean, 101_325.0)) == pytest.approx(
        drop, rel=0.08
    )


def test_louvre_friction_joins_its_branches() -> None:
    # The amendment of 2006 joins what the paper of 2000 leaves apart; no jump, always falling.
    law = air_side.louvre_friction(sample_core())
    Re = np.geomspace(3.0, 5000.0, 400)
    f = air_side.louvred_f(Re, law)
    assert np.all(np.diff(f) < 0)
    assert np.max(np.abs(np.diff(np.log(f)))) < 0.05
    assert np.all(np.diff(f * Re**2) > 0)


def test_louvre_factors_lie_where_measured_cores_do() -> None:
    # Kays & London and later surveys: j from 0.01 to 0.1, f/j from 2 to 8 over Re 100 to 1000 (from memory).
    core = sample_core()
    Re = np.array([100.0, 300.0, 1000.0])
    j, f = air_side.louvred_j(Re, core), air_side.louvred_f(Re, air_side.louvre_friction(core))
    assert np.all((j > 0.01) & (j < 0.1))
    assert np.all((f / j > 2.0) & (f / j < 8.0))


def test_leaving_the_fitted_range_is_flagged() -> None:
    core = sample_core()
    assert air_side.outside_fit(core, np.array([10.0, 300.0, 6000.0])).tolist() == [True, False, True]
    assert bool(air_side.outside_fit(sample_core(louvre_angle=float(np.radians(6))), 300.0))


def test_gnielinski_matches_ht() -> None:
    Re, Pr = 12_000.0, 9.0
    f = float(ducts.konakov_friction(Re))
    expected = ht.conv_internal.turbulent_Gnielinski(Re=Re, Pr=Pr, fd=f)
    assert coolant_side.gnielinski_nusselt(Re, Pr, 0.0) == pytest.approx(expected, rel=1e-9)


def test_smooth_friction_matches_the_implicit_law() -> None:
    # Prandtl and von Kármán for smooth pipes, as the fluids library solves it; Konakov is within 2 %.
    for Re in (5e3, 2e4, 1e5):
        expected = fluids.friction_factor(Re=Re, eD=0.0)
        assert ducts.konakov_friction(Re) == pytest.approx(expected, rel=0.02)


@pytest.mark.parametrize(("aspect", "Nu"), [(1e-9, 7.541), (0.25, 4.44), (0.5, 3.39), (1.0, 2.976)])
def test_laminar_nusselt_is_that_of_shah_and_london(aspect: float, Nu: float) -> None:
    # Shah & London 1978, table 42: rectangular ducts, constant wall temperature.
    assert coolant_side.laminar_nusselt(aspect) == pytest.approx(Nu, rel=2e-3)


@pytest.mark.parametrize(("aspect", "constant"), [(1e-9, 96.0), (0.5, 62.19), (1.0, 56.91)])
def test_laminar_friction_is_that_of_shah_and_london(aspect: float, constant: float) -> None:
    # Shah & London 1978, table 42, f·Re times four.
    assert coolant_side.laminar_friction_constant(aspect) == pytest.approx(constant, rel=1e-3)


def test_coolant_side_is_continuous_and_rises_through_transition() -> None:
    Re = np.linspace(1500.0, 6000.0, 600)
    Nu = coolant_side.nusselt(Re, 8.0, 0.03, 0.004)
    assert np.all(np.diff(Nu) >= 0)
    assert np.max(np.diff(Nu)) < 0.3
    drop = ducts.friction_factor(Re, 93.0) * Re**2
    assert np.all(np.diff(drop) > 0)


def test_fin_efficiency_of_a_short_fin_is_one() -> None:
    # Incropera, straight fin with an adiabatic tip: 1 - (mL)²/3 for small mL.
    core = sample_core(fin_height=0.001)
    h = 100.0
    mL = np.sqrt(2 * h / (200.0 * 0.08e-3)) * 0.0005
    assert air_side.fin_efficiency(h, core) == pytest.approx(1 - mL**2 / 3, abs=3e-6)


def test_surface_efficiency_refuses_nonsense() -> None:
    with pytest.raises(DomainError, match="fin efficiency is 1.2"):
        air_side.surface_efficiency(1.2, 0.5)


def test_geometry_adds_up() -> None:
    core = sample_core()
    passages = 0.42 / 0.010
    fins = 0.65 / (0.0254 / 14)
    by_hand = passages * fins * 2 * 0.04 * (0.008 + (0.0254 / 14 - 0.08e-3))
    assert core.air_area == pytest.approx(by_hand, rel=1e-9)
    assert core.coolant_area == pytest.approx(42 * 2 * (0.0394 + 0.0014) * 0.65, rel=1e-9)
