"""The drive over time: it settles on the steady state, keeps heat and coolant, and behaves as systems do."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import DomainError
from ebbrin.core.drive.controls import free, joined
from ebbrin.core.drive.events import EventKind, events, time_to
from ebbrin.core.drive.faults import FAULTS, all_possible, broken
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs, drive_many
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import Course, drive, without_hysteresis
from ebbrin.core.studies.assess import assess
from ebbrin.core.system.demand import full_demand
from ebbrin.core.system.limits import boiling_temperature
from ebbrin.core.system.parts import Cases, System
from ebbrin.demo import demo_builds
from oracles.builds import part, plain_build, to_core
from oracles.drive_by_lsoda import solved
from oracles.drive_maps import maps
from oracles.made import made

pytestmark = pytest.mark.long

DEMO = [build.name for build in demo_builds()]
CLUTCH = "Brigade with a clutch"
HOUR = 3600.0
ZERO = 273.15


def legs(cases: Cases, which: list[int], duration: list[float], running: list[bool] | None = None) -> Legs:
    """Legs over some of a build's cases."""
    on = np.ones(len(which), bool) if running is None else np.array(running)
    return Legs(cases.taken(np.array(which)), np.array(duration, float), on)


def car(name: str) -> tuple[System, Cases]:
    """A demo build by its name, or the fire engine with a clutched fan that takes much."""
    if name != CLUTCH:
        return to_core(demo_builds()[DEMO.index(name)])
    system, cases = car("Brigade")
    fan = replace(
        system.air.fan, engaged=np.asarray(0.9), disengaged=np.asarray(0.25), shaft_power=np.asarray(8e3)
    )
    return replace(system, air=replace(system.air, fan=fan)), replace(cases, ambient=cases.ambient - 30.0)


def idling(**case: object) -> tuple[System, Cases]:
    """A shrouded electric fan on an engine at idle."""
    values = {"brake_power_kw": 6, "engine_rpm": 900, "speed_km_h": 0} | case
    return to_core(plain_build(**values))


def kinds(course: Course, limit: float = 381.15) -> list[EventKind]:
    return [event.kind for event in events(course, limit)]


@pytest.mark.parametrize("name", [*DEMO, CLUTCH])
def test_steady_legs_settle_on_the_steady_state(name: str) -> None:
    system, cases = car(name)
    count = len(cases.ambient)
    plant = without_hysteresis(plant_of(system))
    stages = fans.stages(system.air.fan)
    steady = assess(system, cases, with_levers=False)
    seen = 0
    for i in range(count):
        boils = steady.boils[i]
        if not steady.state.exists[i] or steady.state.cycles[i] or steady.state.top_hose[i] > boils:
            continue
        start = float(steady.state.top_hose[i]) - 3.0
        controls = free(1, float(system.cap.holds))
        # The fan begins off; where the steady state has it on without its switch being passed, it is held.
        if steady.state.duty[i] > 0.0:
            controls = replace(controls, held_stage=np.full(1, stages.index(int(steady.state.stage[i]))))
        point = np.full(8 * 14400, i)
        course = drive(
            [system], cases, np.ones(count, bool), plant, controls, point, np.zeros_like(point), start
        )
        assert course.engine_out[-1] == pytest.approx(steady.state.top_hose[i], abs=0.5)
        assert course.bottom_hose[-1] == pytest.approx(steady.state.bottom_hose[i], abs=1.0)
        # What a clutch lets the fan take depends on the air that comes through.
        assert course.heat[-1] == pytest.approx(steady.state.engine_heat[i], rel=0.01)
        seen += 1
    assert seen >= (1 if system.air.fan.mechanical else 2)  # the fire engine boils in all but one


@pytest.mark.parametrize("fault", [None, *FAULTS])
def test_heat_and_coolant_are_kept(fault: str | None) -> None:
    system, cases = to_core(demo_builds()[0])
    course_legs = legs(cases, [3, 0, 1, 1], [600, 900, 75, 900], [True, True, True, False])
    troubles = [] if fault is None else [Trouble(fault, 0.7, 300.0)]
    course = drive_legs(system, course_legs, 293.15, troubles)
    assert abs(course.energy_gap) <= 1e-6
    whole = course.mass[-1] + course.bottle + course.ground
    filled = (
        system if fault not in ("mix_weak", "mix_strong") else broken(system, free(1, 0.0), {fault: 0.7})[0]
    )
    first = float(system.coolant_volume) * plant_of(filled).filled_density
    assert whole == pytest.approx(first, rel=1e-6)
    for values in (course.engine_out, course.metal, course.pressure, course.lift):
        assert np.isfinite(values).all()


@pytest.mark.parametrize("fault", FAULTS)
@pytest.mark.parametrize("which", range(len(DEMO)), ids=DEMO)
def test_every_fault_can_be_as_bad_as_it_gets_or_nothing(which: int, fault: str) -> None:
    system, cases = to_core(demo_builds()[which])
    course_legs = legs(cases, [0, 1], [240.0, 240.0])
    worst = drive_legs(system, course_legs, 303.15, [Trouble(fault, 1.0, 60.0)])
    assert abs(worst.energy_gap) <= 1e-6
    assert np.isfinite(worst.engine_out).all()
    if FAULTS[fault].graded:
        # None of a fault is the sound system.
        none = drive_legs(system, course_legs, 303.15, [Trouble(fault, 0.0, 60.0)])
        sound = drive_legs(system, course_legs, 303.15)
        assert none.engine_out == pytest.approx(sound.engine_out, abs=1e-4)


@pytest.mark.parametrize("name", [*DEMO, CLUTCH])
def test_an_hour_agrees_with_a_general_solver(name: str) -> None:
    # The same equations through SciPy's LSODA: legs that warm up, work and idle, the fan switching.
    system, cases = car(name)
    lasts = [1200.0, 900.0, 900.0]
    chosen = cases.taken(np.array([len(cases.ambient) - 1, 0, 1]))
    chosen = replace(chosen, air_conditioning=np.zeros(3, bool))
    on = np.ones(3, bool)
    plant, cap = without_hysteresis(plant_of(system)), float(system.cap.holds)
    point = np.repeat(np.arange(3), [int(4 * t) for t in lasts])
    ours = drive([system], chosen, on, plant, free(1, cap), point, np.zeros_like(point), 293.15)
    theirs = solved(maps(system, chosen, on), plant, lasts, cap, 293.15)
    whole = np.round(theirs.time).astype(int)
    # What boils or leaves the tables is not in the comparison.
    calm = (ours.boiling_margin > 0.0) & (ours.engine_out < 410.0)
    until = ours.time[np.argmin(calm)] if not calm.all() else np.inf
    switched = ours.time[np.flatnonzero(np.diff(ours.stage)) + 1]
    here = (whole > 0) & (whole < until)
    away = np.array([np.abs(np.array([*switched, *theirs.switched, -1e9]) - t).min() > 20.0 for t in whole])
    index = 4 * whole[here & away].astype(int) - 1
    assert len(index) > 300
    # A clutch bends between the places of the oracle's maps: with four times as many lifts it is 0.31 K instead of 0.59.
    apart = 0.7 if name == CLUTCH else 0.3
    assert np.abs(ours.engine_out[index] - theirs.engine_out[here & away]).max() <= apart
    assert np.abs(ours.metal[index] - theirs.metal[here & away]).max() <= apart
    expected = [t for t in theirs.switched if t < until]
    assert np.allclose([t for t in switched if t < until][: len(expected)], expected, atol=2.0)


def test_a_smaller_step_changes_little() -> None:
    system, cases = idling()
    coarse = drive_legs(system, legs(cases, [0], [1200.0]), 303.15)
    fine = drive_legs(system, legs(cases, [0], [1200.0]), 303.15, step=0.05)
    before_fan = coarse.time < 0.9 * min(time_to(coarse, 373.0), time_to(fine, 373.0))
    assert np.abs(coarse.engine_out - fine.engine_out[4::5])[before_fan].max() < 0.2
    ours = [e for e in events(coarse, 381.15) if e.time < 1000.0]
    theirs = [e for e in events(fine, 381.15) if e.time < 1000.0]
    assert [e.kind for e in ours] == [e.kind for e in theirs]
    assert np.allclose([e.time for e in ours], [e.time for e in theirs], atol=2.0)


# The five behaviours. Figures: common practice, no source, unless said otherwise.


def test_the_fan_cycles_between_its_switch_points_at_idle() -> None:
    system, cases = idling()
    course = drive_legs(system, legs(cases, [0], [HOUR]), 303.15)
    found = kinds(course)
    assert found.count(EventKind.FAN_ON) >= 5
    assert abs(found.count(EventKind.FAN_ON) - found.count(EventKind.FAN_OFF)) <= 1
    later = course.engine_out[course.time > 1800.0]
    assert later.max() == pytest.approx(float(system.fan_switch.on), abs=1.0)
    assert later.min() == pytest.approx(
        float(system.fan_switch.off), abs=2.5
    )  # the cold slug of the core follows


@pytest.mark.parametrize("trouble", [Trouble("thermostat_shut"), Trouble("impeller_loose")])
def test_one_hot_hose_and_one_cold_without_flow(trouble: Trouble) -> None:
    system, cases = idling()
    course = drive_legs(system, legs(cases, [0], [1500.0]), 303.15, [trouble])
    hottest = int(np.argmax(course.engine_out >= 370.15)) or len(course.time) - 1
    assert course.engine_out[hottest] - ZERO > 90.0
    assert course.bottom_hose[hottest] - ZERO < 65.0
    sound = drive_legs(system, legs(cases, [0], [1500.0]), 303.15)
    assert sound.bottom_hose[-1] - ZERO > 75.0


def test_overheating_at_a_standstill_disappears_at_speed() -> None:
    system, _ = idling()
    _, standing = idling()
    _, moving = idling(speed_km_h=80)
    points = Cases(**{k: np.concatenate([getattr(standing, k), getattr(moving, k)]) for k in vars(standing)})
    dead = [Trouble("fan_dead")]
    limit = float(system.limits.top_hose)
    until = time_to(drive_legs(system, legs(points, [0], [HOUR]), 303.15, dead), limit) + 30.0
    assert np.isfinite(until)
    course = drive_legs(system, legs(points, [0, 1], [until, 1200.0]), 303.15, dead)
    assert course.engine_out.max() > limit
    assert course.engine_out[-1] < float(system.limits.top_hose) - 6.0


def test_overheating_at_speed_disappears_at_a_standstill() -> None:
    system, idle = idling()
    _, flat_out = to_core(plain_build(brake_power_kw=75, engine_rpm=4500, speed_km_h=120))
    points = Cases(**{k: np.concatenate([getattr(idle, k), getattr(flat_out, k)]) for k in vars(idle)})
    silted = [Trouble("core_silted", 0.6)]
    course = drive_legs(system, legs(points, [1, 0], [1500.0, 1500.0]), 303.15, silted)
    assert course.engine_out[course.time < 1500.0].max() > float(system.limits.top_hose)
    calm = drive_legs(system, legs(points, [0], [3000.0]), 303.15, silted)
    assert calm.engine_out.max() < float(system.limits.top_hose)


def inlet_system(**values: object) -> tuple[System, Cases]:
    """8 kW at idle in -5 °C, 57 kJ/K of metal, the thermostat at the pump's inlet."""
    build = part(
        plain_build(brake_power_kw=3, engine_rpm=850, speed_km_h=0, ambient_c=-5),
        **{
            "thermostat__position": "inlet",
            "thermostat__opens_c": 82,
            "circuit__bypass": "spring",
            "circuit__bypass_cracks_kpa": 8,
            "circuit__bypass_drop_kpa": 35,
            "thermostat__drop_kpa": 1,
            "engine__metal_heat_kj_per_k": 57,
            "coolant__volume_l": 8.0,
        }
        | values,
    )
    return to_core(build)


def with_heat(system: System, cases: Cases, watts: float) -> System:
    now = float(full_demand(system, cases, fans.OFF).engine[0])
    return replace(system, engine=replace(system.engine, heat_factor=np.asarray(watts / now)))


# With less heat the same slug of cold coolant takes the engine some 3 K further down.
@pytest.mark.parametrize(("watts", "coldest"), [(7000.0, 53.0), (8000.0, 57.0)])
def test_an_inlet_thermostat_starved_of_bypass_swings(watts: float, coldest: float) -> None:
    system, cases = inlet_system()
    course = drive_legs(with_heat(system, cases, watts), legs(cases, [0], [2.0 * HOUR]), 268.15)
    top = course.engine_out[course.time > 2400.0] - ZERO
    assert 114.5 <= top.max() <= 117.0
    assert coldest <= top.min() <= 70.0
    rises = np.flatnonzero((top[1:] > 110.0) & (top[:-1] <= 110.0)) / 4.0
    period = np.diff(rises)
    assert len(period) >= 6
    assert 500.0 <= period.mean() <= 700.0
    # It falls within seconds, not minutes.
    peak = int(np.argmax(top))
    assert (top[peak : peak + 240] < 80.0).any()


def swinging(rpm: float) -> tuple[System, Cases]:
    """The system that swings with 8 kW at idle, there and at another engine speed of the same load."""
    system, cases = inlet_system()
    _, faster = inlet_system()
    faster = replace(faster, crank_speed=np.full(1, rpm / 60.0))
    both = Cases(**{k: np.concatenate([getattr(cases, k), getattr(faster, k)]) for k in vars(cases)})
    return with_heat(system, both, 8000.0), both


def test_a_blip_of_the_throttle_opens_a_swinging_thermostat_early() -> None:
    # Common practice, no source: flow through the bypass brings hot coolant to the bulb at last.
    system, both = swinging(3000.0)
    opened = [
        event.time
        for event in events(drive_legs(system, legs(both, [0], [2 * HOUR]), 268.15), 500.0)
        if event.kind is EventKind.THERMOSTAT_OPENS
    ]
    last, due = opened[-2:]
    assert due - last > 500.0
    blip = legs(both, [0, 1, 0], [last + 400.0, 10.0, HOUR])
    early = [
        event.time
        for event in events(drive_legs(system, blip, 268.15), 500.0)
        if event.kind is EventKind.THERMOSTAT_OPENS and event.time > last + 60.0
    ]
    assert last + 400.0 < early[0] < last + 420.0


@pytest.mark.parametrize(("rpm", "steady"), [(850.0, False), (1800.0, True)])
def test_a_held_fast_idle_stops_the_swing(rpm: float, steady: bool) -> None:
    # Common practice, no source.
    system, both = swinging(rpm)
    course = drive_legs(system, legs(both, [1], [2 * HOUR]), 268.15)
    later = course.engine_out[course.time > HOUR] - ZERO
    assert (later.max() < 104.0) == steady
    assert (later.max() - later.min() < 12.0) == steady


@pytest.mark.parametrize("cure", [{"thermostat__position": "outlet"}, {"circuit__bypass": "open"}])
def test_what_cures_the_swing(cure: dict[str, object]) -> None:
    system, cases = inlet_system(**cure)
    course = drive_legs(with_heat(system, cases, 8000.0), legs(cases, [0], [2.0 * HOUR]), 268.15)
    later = course.engine_out[course.time > HOUR] - ZERO
    assert later.max() < 104.0
    assert later.max() - later.min() < 12.0


@pytest.mark.parametrize(
    ("altitude", "cap", "boils"),
    # IAPWS: 100.0 °C at 101.325 kPa, 93.3 at 79.5 kPa (2000 m), 120.6 at 202.6 kPa (one bar of cap).
    [(0, 0, 100.0), (2000, 0, 93.3), (0, 101.325, 120.6)],
)
def test_water_boils_where_its_pressure_says(altitude: float, cap: float, boils: float) -> None:
    build = part(
        plain_build(brake_power_kw=60, engine_rpm=3000, speed_km_h=0, altitude_m=altitude),
        coolant__kind="water",
        cap__pressure_kpa=cap + 3.0 * (cap > 0.0),  # caps open so much below their mark
    )
    system, cases = to_core(build)
    course = drive_legs(system, legs(cases, [0], [900.0]), 303.15, [Trouble("fan_dead")])
    assert EventKind.BOILS in kinds(course)
    assert course.engine_out.max() - ZERO == pytest.approx(boils, abs=0.4)
    assert course.bottle > 0.5


def test_no_coolant_is_hotter_than_it_boils_where_a_gearbox_heats_what_hardly_flows() -> None:
    build = next(build for build in demo_builds() if build.name == "Mule")
    system, cases = to_core(build)
    worst = [case.id for case in build.cases].index("pass")
    course = drive_legs(system, legs(cases, [worst], [1800.0]), 303.15, [Trouble("impeller_loose")])
    boils = float(boiling_temperature(system, cases, float(course.cap.max()))[worst])
    assert course.bottom_hose.max() == pytest.approx(boils, abs=0.3)  # 171 °C stood here, under a cap for 126
    assert course.boiling_margin.min() > -0.01
    assert abs(course.energy_gap) <= 1e-6


@pytest.mark.parametrize("seed", [62, 853, 901, 100_001])
def test_no_coolant_of_any_build_is_hotter_than_it_boils(seed: int) -> None:
    build = made(seed)
    assert build is not None
    system, cases = to_core(build)
    course = drive_legs(system, legs(cases, [0, 2, 1, 2], [900.0] * 4, [True, False, True, True]), 353.15, [])
    boils = boiling_temperature(system, cases, float(course.cap.max())).max()
    for where in (course.engine_out, course.top_hose, course.bottom_hose):
        assert where.max() <= boils + 0.3
    assert abs(course.energy_gap) <= 1e-6


def test_a_cap_that_sticks_reaches_almost_two_bar_and_a_weak_one_loses_coolant() -> None:
    build = part(plain_build(brake_power_kw=60, engine_rpm=3000, speed_km_h=0), coolant__kind="water")
    system, cases = to_core(build)
    dead = Trouble("fan_dead")
    stuck = drive_legs(system, legs(cases, [0], [900.0]), 303.15, [dead, Trouble("cap_stuck")])
    assert 1.9e5 <= stuck.pressure.max() <= 2.0e5 + 1.0
    system, cases = idling()
    sound = drive_legs(system, legs(cases, [0], [HOUR]), 303.15)
    weak = drive_legs(system, legs(cases, [0], [HOUR]), 303.15, [Trouble("cap_weak", 1.0)])
    assert weak.bottle > sound.bottle


def test_a_hot_engine_heats_still_coolant_after_it_is_stopped() -> None:
    system, cases = to_core(demo_builds()[0])
    course = drive_legs(system, legs(cases, [1, 1], [75.0, 1200.0], [True, False]), 365.15)
    stopped = int(75.0 / 0.25)
    assert course.engine_out[stopped:].max() > course.engine_out[stopped - 1] + 4.0
    assert course.engine_out[-1] < course.engine_out.max()
    assert (course.flow[stopped:] == 0.0).all()


def test_faults_come_and_go_when_they_are_told() -> None:
    system, cases = idling()
    course = drive_legs(
        system, legs(cases, [0], [HOUR]), 303.15, [Trouble("thermostat_shut", 1.0, 1200.0, 1260.0)]
    )
    during = (course.time > 1201.0) & (course.time < 1259.0)
    assert (course.lift[during] == 0.0).all()
    assert course.lift[course.time > 1300.0].max() > 0.1
    before = drive_legs(system, legs(cases, [0], [HOUR]), 303.15)
    same = course.time < 1199.0
    assert np.array_equal(course.engine_out[same], before.engine_out[same])


def test_many_drives_side_by_side_are_those_alone() -> None:
    system, cases = idling()
    course_legs = legs(cases, [0], [600.0])
    sets = [[], [Trouble("fan_dead", 1.0, 100.0)], [Trouble("core_silted", 0.5)]]
    together = drive_many(system, course_legs, 353.15, sets, lambda _, course: course)
    for troubles, course in zip(sets, together, strict=True):
        assert np.array_equal(course.engine_out, drive_legs(system, course_legs, 353.15, troubles).engine_out)


def test_severities_and_starts_are_checked() -> None:
    system, cases = idling()
    with pytest.raises(DomainError, match="severity of debris"):
        drive_legs(system, legs(cases, [0], [10.0]), 303.15, [Trouble("debris", 1.5)])
    with pytest.raises(KeyError, match="gremlins"):
        drive_legs(system, legs(cases, [0], [10.0]), 303.15, [Trouble("gremlins")])
    with pytest.raises(DomainError, match="temperature at the start"):
        drive_legs(system, legs(cases, [0], [10.0]), 500.0)


@pytest.mark.parametrize("which", range(len(DEMO)), ids=DEMO)
def test_parts_in_one_of_several_states_are_those_parts(which: int) -> None:
    # Sound, silted, and of another coolant behind a condenser of another size: states whose air runs in other zones.
    system, cases = to_core(demo_builds()[which])
    silted, _ = broken(system, free(1, 0.0), {"core_silted": 0.5})
    behind, _ = broken(system, free(1, 0.0), {"mix_weak": 0.8})
    part, loss = (np.asarray(v) for v in (0.37, 2.0))
    behind = replace(behind, air=replace(behind.air, condenser_cover=part, condenser_loss=loss))
    states, on = [system, silted, behind], np.ones(len(cases.ambient), bool)
    assert len({state.packed.faces.shape[2] for state in states}) > 1
    point, plant, cap = np.repeat([0, 1], 1200), plant_of(system), float(system.cap.holds)
    for k, each in enumerate(states):
        held = joined([free(1, cap)] * 3)
        one = drive([each], cases, on, plant, free(1, cap), point, np.zeros_like(point), 330.0)
        among = drive(states, cases, on, plant, held, point, np.full_like(point, k), 330.0)
        assert among.engine_out == pytest.approx(one.engine_out, abs=1e-9)


def test_parts_that_change_and_change_back_settle_where_they_were() -> None:
    system, cases = idling()
    course_legs = legs(cases, [0], [2.0 * HOUR])
    always = Trouble("fan_always_on")
    sound = drive_legs(system, course_legs, 340.0, [always])
    worn = Trouble("pump_worn", 0.5, 600.0, 1800.0)
    healed = drive_legs(system, course_legs, 340.0, [always, worn])
    during = (sound.time > 660.0) & (sound.time < 1800.0)
    assert (healed.pumped[during] < 0.8 * sound.pumped[during]).all()
    # The thermostat swings about its lines, each time at its own moment.
    later = slice(-4 * 3600, None)
    assert healed.engine_out[later].mean() == pytest.approx(sound.engine_out[later].mean(), abs=0.2)
    assert healed.engine_out[later].max() == pytest.approx(sound.engine_out[later].max(), abs=0.2)


@pytest.mark.parametrize("first", [0, 40, 80, 120])
def test_random_systems_keep_heat_and_nothing_is_colder_than_air_and_start(first: int) -> None:
    # Among them pumps that turn the coolant over ten times in a step (seed 128), which swung to below 0 K once.
    rng, driven = np.random.default_rng(first), 0
    for seed in range(first, first + 40):
        build = made(seed)
        if build is None:
            continue
        system, cases = to_core(build)
        names = all_possible(system)
        which, on = rng.integers(0, len(cases.ambient), 3), np.array([True, rng.random() < 0.7, True])
        troubles = [
            Trouble(str(rng.choice(names)), rng.random(), 500.0 * rng.random(), 500.0 + 400.0 * rng.random())
            for _ in range(rng.integers(0, 3))
        ]
        start = float(np.clip(cases.ambient[which[0]] + 60.0 * rng.random(), 240.0, 400.0))
        course = drive_legs(system, Legs(cases.taken(which), np.full(3, 300.0), on), start, troubles)
        assert abs(course.energy_gap) <= 1e-6, seed
        least = min(start, float(cases.ambient[which].min())) - 0.01
        for values in (course.engine_out, course.metal, course.top_hose, course.bottom_hose):
            assert values.min() >= least, seed
        assert np.isfinite(course.pressure).all(), seed
        assert (course.mass > 0.0).all(), seed
        driven += 1
    assert driven > 30
