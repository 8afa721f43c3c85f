"""Fan laws, pump affinity, hoses, thermostat and cap against what is published and practised."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from scipy.interpolate import PchipInterpolator
from scipy.optimize import elementwise

from ebbrin.core import ducts
from ebbrin.core.airpath import fan as fans
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit import thermostat as thermostats
from ebbrin.core.circuit.parts import hose_duct
from ebbrin.core.media import coolants
from ebbrin.core.roots import MAX_STEPS, bracketed_root, first_share, next_share, root_among
from ebbrin.core.studies.control_choice import CANDIDATES
from ebbrin.core.system.parts import System
from oracles.builds import linnet, part, plain_build, to_core

system, cases = to_core(linnet())


def rise(*of: Any) -> Any:
    """What a fan adds at a flow."""
    return fans.pressure_rise(*of)[0]


def test_fan_laws() -> None:
    # White, Fluid Mechanics, ch. 11: at half speed half the flow at a quarter of the pressure; pressure
    # follows density.
    fan = system.air.fan
    full = rise(fan, 0.10, 1.0, 1.2)
    assert rise(fan, 0.05, 0.5, 1.2) == pytest.approx(full / 4)
    assert rise(fan, 0.10, 1.0, 0.9) == pytest.approx(0.75 * full)


def test_fan_curve_passes_its_tested_points_and_never_rises() -> None:
    fan = system.air.fan
    curve = linnet().variants[0].air.fan.curve or []
    for point in curve[::4]:
        assert rise(fan, point.flow_m3_per_s, 1.0, 1.2) == pytest.approx(point.pressure_pa, abs=1e-9)
    flow = np.linspace(0.0, 0.6, 200)
    assert np.all(np.diff(rise(fan, flow, 1.0, 1.2)) <= 1e-12)


def test_fan_curve_is_scipys_monotone_cubic() -> None:
    rng = np.random.default_rng(5)
    for _ in range(30):
        n = int(rng.integers(2, 9))
        flow = np.concatenate([[0.0], np.cumsum(rng.uniform(0.01, 0.4, n - 1))])
        rise = np.concatenate([np.cumsum(rng.uniform(0.0, 60.0, n - 1))[::-1], [0.0]])
        free, table = fans.curve_table(flow.tolist(), rise.tolist())
        at = np.linspace(0.0, free, fans.CURVE_POINTS)
        assert table == pytest.approx(PchipInterpolator(flow, rise)(at), abs=1e-9)


def test_two_fans_move_twice_the_air_at_the_same_pressure() -> None:
    one, _ = to_core(part(linnet(), air__shroud="full"))
    two, _ = to_core(part(linnet(), air__shroud="full", air__fan__fans="two"))
    assert two.air.fan.count == 2.0
    assert rise(one.air.fan, 0.1, 1.0, 1.2) == rise(two.air.fan, 0.1, 1.0, 1.2)


def ratio(own: System, stage: int) -> Any:
    """Speed of a fan without a clutch."""
    return fans.speeds(own.air.fan, stage, 50.0).at(np.array([300.0]))


def test_fan_speed_follows_voltage_and_stage() -> None:
    # Common practice, no source: a direct-current fan turns with its voltage; power goes with the cube (fan law).
    weak, _ = to_core(part(linnet(), air__fan__voltage_v=11.0, air__fan__test_voltage_v=13.75))
    assert ratio(weak, fans.FULL).tolist() == [pytest.approx(0.8)]
    assert fans.drawn_power(weak.air.fan, ratio(weak, fans.FULL), 1.2)[0] == pytest.approx(
        0.8**3 * float(weak.air.fan.electric_power)
    )
    slow, _ = to_core(part(linnet(), air__fan__staging="slow", air__fan__slow_speed_share=0.5))
    assert fans.stages(slow.air.fan) == (fans.OFF, fans.LOW, fans.FULL)
    assert ratio(slow, fans.LOW).tolist() == [pytest.approx(0.5)]
    pair, _ = to_core(part(linnet(), air__fan__fans="two", air__fan__staging="one_of_two"))
    assert ratio(pair, fans.LOW).tolist() == [1.0, 0.0]
    assert ratio(pair, fans.FULL).tolist() == [1.0, 1.0]
    assert ratio(pair, fans.OFF).tolist() == [0.0, 0.0]


def test_driven_fan_follows_crank_pulley_and_clutch() -> None:
    own, _ = to_core(
        part(linnet(), air__fan__kind="mechanical", air__fan__pulley_ratio=1.2, air__fan__curve_rpm=2400)
    )
    turns = fans.speeds(own.air.fan, fans.FULL, 25.0)
    assert turns.engaged == pytest.approx(25 * 1.2 * 0.9 / 40)
    assert turns.free == pytest.approx(25 * 1.2 * 0.25 / 40)
    # Common practice, no source: a viscous clutch begins to slip so that no fan passes some 2800 rpm.
    fast = fans.speeds(own.air.fan, fans.FULL, 90.0)
    assert fast.at(np.array([400.0])) == pytest.approx(2800 / 2400)
    half_way = fans.speeds(own.air.fan, fans.FULL, 25.0).at(np.array([273.15 + 72.5]))
    assert half_way == pytest.approx(25 * 1.2 * (0.25 + 0.5 * 0.65) / 40)
    assert fans.speeds(own.air.fan, fans.OFF, 25.0).at(np.array([400.0])) == 0.0  # its belt is off
    electric, shaft = fans.drawn_power(own.air.fan, np.array([1.35]), 0.6)
    assert electric == 0.0
    assert shaft == pytest.approx(1000.0 * 1.35**3 * 0.5)


def test_turning_fan_never_resists_more_than_a_stopped_one() -> None:
    flow = np.linspace(0.0, 2.0, 60)
    fan = system.air.fan
    assert np.all(rise(fan, flow, 1.0, 1.1) >= rise(fan, flow, 0.0, 1.1) - 1e-12)
    assert rise(fan, 0.5, 0.0, 1.2) == pytest.approx(-1.5 * 0.6 * (0.5 / fan.disc) ** 2)


def test_pump_affinity() -> None:
    # White, Fluid Mechanics, ch. 11.
    pump = system.circuit.pump
    full = pumps.pressure_rise(pump, 2e-3, 1.0, 1000.0)
    assert pumps.pressure_rise(pump, 1e-3, 0.5, 1000.0) == pytest.approx(full / 4)


def test_hose_loss_is_darcys_with_cranes_bends() -> None:
    # Crane TP-410: a moulded bend counts as about 20 diameters of pipe. Turbulent, by hand.
    fluid = coolants.properties(system.coolant, 363.15)
    duct = hose_duct(system.circuit, fluid)
    flow = 3e-3
    velocity = flow / (np.pi / 4 * 0.036**2)
    f = ducts.konakov_friction(fluid.density * velocity * 0.036 / fluid.viscosity)
    by_hand = f * (1.5 / 0.036 + 5 * 20) * 0.5 * fluid.density * velocity**2
    assert ducts.pressure_drop(duct, flow) == pytest.approx(by_hand, rel=1e-9)


def balance(build, top, speed):  # type: ignore[no-untyped-def]
    own, _ = to_core(build)
    found = circuit.solve(own.circuit, own.tubes, own.coolant, top, speed, 20e3, 300.0)
    return own, found, coolants.properties(own.coolant, top).density


@pytest.mark.parametrize("bypass", ["none", "open", "spring", "blocked"])
@pytest.mark.parametrize("heater", [True, False])
@pytest.mark.parametrize("position", ["outlet", "inlet"])
def test_coolant_flow_closes_both_balances(bypass: str, heater: bool, position: str) -> None:
    # Pressure round each branch and mass at the branch point, at every lift of the thermostat.
    build = part(plain_build(), circuit__bypass=bypass, circuit__heater=heater, thermostat__position=position)
    top, speed = np.array([300.0, 350.0, 362.0, 365.0, 375.0, 400.0]), np.full(6, 40.0)
    own, found, density = balance(build, top, speed)
    rho = density / 1000.0
    total = found.total_mass / density
    jacket = rho * own.circuit.jacket_resistance * total**2
    valve = rho * own.circuit.thermostat_resistance * (found.volume_flow / found.opening) ** 2
    assert found.pump_rise == pytest.approx(jacket + found.branch_drop, rel=1e-6)
    assert found.branch_drop == pytest.approx(valve + found.radiator_drop + found.hose_drop, rel=1e-9)
    through_heater = own.circuit.heater.conductance * np.sqrt(found.branch_drop / rho)
    assert found.heater_mass == pytest.approx(through_heater * density, rel=1e-9)
    assert (found.heater_mass > 0).all() == heater
    assert (found.bypass_mass > 0).all() == (bypass != "none")


def test_foot_of_the_thermostat_shuts_the_bypass() -> None:
    top, speed = np.array([340.0, 390.0]), np.full(2, 40.0)
    _, found, _ = balance(part(plain_build(), circuit__bypass="blocked"), top, speed)
    assert found.bypass_mass[1] < 0.03 * found.bypass_mass[0]
    _, still, _ = balance(part(plain_build(), circuit__bypass="open"), top, speed)
    assert still.bypass_mass[1] > 0.3 * still.bypass_mass[0]


def test_spring_bypass_stays_shut_at_idle() -> None:
    # Common practice, no source: a spring that cracks at 6 to 12 kPa leaks a little at idle and opens with speed.
    build = part(plain_build(), circuit__bypass="spring", circuit__bypass_cracks_kpa=20)
    _, found, _ = balance(build, np.array([340.0, 340.0]), np.array([10.0, 60.0]))
    assert found.bypass_mass[0] < 0.1 * found.bypass_mass[1]


def test_inlet_thermostat_opens_later_than_its_engine_is_hot() -> None:
    # The bulb feels bypass and return: at the same engine outlet the valve at the inlet is open less.
    top, speed = np.array([368.0]), np.array([30.0])
    _, outlet, _ = balance(part(plain_build(), circuit__bypass="open"), top, speed)
    inlet_build = part(plain_build(), circuit__bypass="open", thermostat__position="inlet")
    _, inlet, _ = balance(inlet_build, top, speed)
    assert 0.0 < inlet.lift[0] < outlet.lift[0]
    starved = part(plain_build(), circuit__bypass="none", thermostat__position="inlet")
    _, shut, _ = balance(starved, top, speed)
    assert shut.lift[0] < inlet.lift[0]


def test_flow_does_not_depend_on_what_stands_beside_it() -> None:
    # Two speeds along a leading axis, one case: each is what it is alone.
    own, _ = to_core(linnet())
    speeds = np.array([[10.0], [90.0]])
    both = circuit.solve(own.circuit, own.tubes, own.coolant, np.array([370.0]), speeds, 1e4, 300.0)
    for i in range(2):
        alone = circuit.solve(own.circuit, own.tubes, own.coolant, np.array([370.0]), speeds[i], 1e4, 300.0)
        assert both.volume_flow[i] == pytest.approx(alone.volume_flow, rel=1e-9)


def test_thermostat_of_82_degrees_behaves_as_the_trade_says() -> None:
    # Common practice, no source: cracks open near its mark and is wide open 8 to 15 K later.
    valve = thermostats.Thermostat(*map(np.asarray, (355.15, 12.0, 0.003, False)))
    assert thermostats.valve_lift(valve, 354.0) == 0.0
    assert thermostats.valve_lift(valve, 355.15 + 12.0) == 1.0
    assert 82.0 + 273.15 in CANDIDATES
    assert thermostats.valve_opening(valve, 0.0) == 0.003
    assert thermostats.valve_opening(valve, 1.0) == 1.0


def test_root_finder_agrees_with_scipy() -> None:
    target = np.linspace(0.1, 20.0, 40)

    def f(x: np.ndarray) -> np.ndarray:
        return np.asarray(x**3 + x - target)

    ours = bracketed_root(f, np.zeros(40), 5.0, 1e-10)
    theirs = elementwise.find_root(lambda x, t: x**3 + x - t, (0.0, 5.0), args=(target,))  # type: ignore[arg-type, misc]
    assert ours.bracketed.all()
    assert ours.x == pytest.approx(theirs.x, abs=1e-9)


def test_root_finder_says_where_it_has_no_proof() -> None:
    found = bracketed_root(lambda x: x - np.array([0.5, 2.0]), np.zeros(2), 1.0, 1e-9)
    assert found.bracketed.tolist() == [True, False]
    assert found.x[1] == 1.0


def test_the_search_of_compiled_code_finds_what_scipys_does() -> None:
    # scipy.optimize.elementwise.find_root is the same published method.
    for target in np.linspace(0.1, 20.0, 40):
        a, b = 0.0, 5.0
        fa, fb = -target, 130.0 - target
        share, looks = first_share(fa, fb), 0
        while abs(b - a) > 2e-12 and abs(fa) > 1e-12 and looks < MAX_STEPS:
            x = a + share * (b - a)
            fx, looks = x**3 + x - target, looks + 1
            if (fx > 0.0) == (fa > 0.0):
                c, fc = a, fa
            else:
                c, fc, b, fb = b, fb, a, fa
            a, fa = x, fx
            share = next_share(a, fa, b, fb, c, fc, 1e-12)
        found = elementwise.find_root(lambda x, t=target: x**3 + x - t, (0.0, 5.0))  # type: ignore[misc]
        assert a == pytest.approx(float(found.x), abs=1e-9)
        assert looks < 15


def test_root_among_searches_between_the_first_knots_that_differ() -> None:
    knots = np.array([[0.0], [1.0], [2.0], [4.0]])
    found = root_among(lambda x: x - 1.7, knots, 1e-12)
    assert found.x == pytest.approx(1.7)
