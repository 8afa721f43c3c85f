"""Fan laws, pump affinity, hoses, thermostat and cap against what is published and practised."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import elementwise

from ebbrin.core import ducts
from ebbrin.core.airpath import fan as fans
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit import thermostat as thermostats
from ebbrin.core.media import coolants
from ebbrin.core.roots import bracketed_root
from ebbrin.core.system.thermostat_choice import CANDIDATES
from tests.builds import linnet, to_core

system, cases = to_core(linnet())


def test_fan_laws() -> None:
    # White, Fluid Mechanics, ch. 11: at half speed half the flow at a quarter of the pressure; pressure
    # follows density.
    fan = system.air.fan
    full = fans.pressure_rise(fan, 0.10, 1.0, 1.2)
    assert fans.pressure_rise(fan, 0.05, 0.5, 1.2) == pytest.approx(full / 4)
    assert fans.pressure_rise(fan, 0.10, 1.0, 0.9) == pytest.approx(0.75 * full)


def test_fan_curve_passes_its_tested_points_and_never_rises() -> None:
    fan = system.air.fan
    assert fans.pressure_rise(fan, 0.0, 1.0, 1.2) == pytest.approx(72.0)
    assert fans.pressure_rise(fan, 0.188, 1.0, 1.2) == pytest.approx(0.0, abs=1e-9)
    flow = np.linspace(0.0, 0.6, 200)
    assert np.all(np.diff(fans.pressure_rise(fan, flow, 1.0, 1.2)) <= 1e-12)


def test_turning_fan_never_resists_more_than_a_stopped_one() -> None:
    flow = np.linspace(0.0, 2.0, 60)
    fan = system.air.fan
    assert np.all(fans.pressure_rise(fan, flow, 1.0, 1.1) >= fans.pressure_rise(fan, flow, 0.0, 1.1) - 1e-12)
    assert fans.pressure_rise(fan, 0.5, 0.0, 1.2) == pytest.approx(-1.5 * 0.6 * (0.5 / fan.disc) ** 2)


def test_pump_affinity() -> None:
    # White, Fluid Mechanics, ch. 11.
    pump = system.circuit.pump
    full = circuit.pump_pressure(pump, 2e-3, 1.0, 1000.0)
    assert circuit.pump_pressure(pump, 1e-3, 0.5, 1000.0) == pytest.approx(full / 4)


def test_hose_loss_is_darcys_with_cranes_bends() -> None:
    # Crane TP-410: a moulded bend counts as about 20 diameters of pipe. Turbulent, by hand.
    fluid = coolants.properties(system.coolant, 363.15)
    duct = circuit.hose_duct(system.circuit, fluid)
    flow = 3e-3
    velocity = flow / (np.pi / 4 * 0.036**2)
    f = ducts.konakov_friction(fluid.density * velocity * 0.036 / fluid.viscosity)
    by_hand = f * (1.5 / 0.036 + 5 * 20) * 0.5 * fluid.density * velocity**2
    assert ducts.pressure_drop(duct, flow) == pytest.approx(by_hand, rel=1e-9)


def test_coolant_flow_closes_the_pressure_balance() -> None:
    top = np.array([300.0, 350.0, 356.0, 362.0, 375.0, 400.0])
    speed = np.full(6, 40.0)
    found = circuit.solve(system.circuit, system.core, system.coolant, top, speed)
    density = coolants.properties(system.coolant, top).density / 1000.0
    fixed = system.circuit.jacket_resistance + system.circuit.thermostat_resistance / found.opening**2
    lost = density * fixed * found.volume_flow**2 + found.radiator_drop + found.hose_drop
    assert found.pump_rise == pytest.approx(lost, rel=1e-6)


def test_thermostat_of_82_degrees_behaves_as_the_trade_says() -> None:
    # Common practice, no source: cracks open near its mark and is wide open 8 to 15 K later.
    valve = thermostats.Thermostat(np.asarray(355.15), np.asarray(12.0))
    assert thermostats.valve_lift(valve, 354.0) == 0.0
    assert thermostats.valve_lift(valve, 355.15 + 12.0) == 1.0
    assert 82.0 + 273.15 in CANDIDATES
    assert thermostats.valve_opening(0.0) == thermostats.LEAK


def test_root_finder_agrees_with_scipy() -> None:
    target = np.linspace(0.1, 20.0, 40)

    def f(x: np.ndarray) -> np.ndarray:
        return np.asarray(x**3 + x - target)

    ours = bracketed_root(f, np.zeros(40), 5.0, 1e-10)
    theirs = elementwise.find_root(lambda x, t: x**3 + x - t, (0.0, 5.0), args=(target,))
    assert ours.bracketed.all()
    assert ours.x == pytest.approx(theirs.x, abs=1e-9)


def test_root_finder_says_where_it_has_no_proof() -> None:
    found = bracketed_root(lambda x: x - np.array([0.5, 2.0]), np.zeros(2), 1.0, 1e-9)
    assert found.bracketed.tolist() == [True, False]
    assert found.x[1] == 1.0
