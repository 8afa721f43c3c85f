"""What single faults do to a drive, and where coolant and its heat go. Common practice where no source is named."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from ebbrin.core.drive.events import EventKind, events
from ebbrin.core.drive.faults import all_possible
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.march import DRY_FILL
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import Course
from ebbrin.core.system.balance import HEATER_AIR
from ebbrin.core.system.parts import Cases, System
from oracles.builds import part, plain_build, to_core

pytestmark = pytest.mark.long

ZERO = 273.15
COLD = 293.15


def over(
    system: System,
    cases: Cases,
    lasts: list[float],
    *troubles: Trouble,
    start: float = COLD,
    running: list[bool] | None = None,
) -> Course:
    """The only case of a build, in as many legs as there are durations."""
    on = np.ones(len(lasts), bool) if running is None else np.array(running)
    legs = Legs(cases.taken(np.zeros(len(lasts), np.int64)), np.array(lasts), on)
    return drive_legs(system, legs, start, troubles)


def idling(**parts: object) -> tuple[System, Cases]:
    """A shrouded electric fan that cycles at idle."""
    return to_core(part(plain_build(brake_power_kw=6, engine_rpm=900, speed_km_h=0), **parts))


def heated(**parts: object) -> tuple[System, Cases]:
    """A road in the cold with the heater on."""
    case = {"brake_power_kw": 20, "engine_rpm": 2000, "speed_km_h": 60, "ambient_c": 5, "heater": True}
    return to_core(part(plain_build(**case), circuit__heater=True, **parts))


def with_air_conditioning() -> tuple[System, Cases]:
    """The idling car with its compressor on."""
    build = plain_build(brake_power_kw=6, engine_rpm=900, speed_km_h=0, air_conditioning=True)
    return to_core(part(build, air__condenser=True))


def test_only_parts_that_are_there_can_break() -> None:
    car, _ = idling(circuit__heater=False)
    assert "heater_air_lock" not in all_possible(car)
    assert {"fan_switch_stuck", "belt_slips", "mix_weak"} <= set(all_possible(car))
    heater, _ = heated(coolant__kind="water", circuit__pump_drive="electric")
    assert "heater_air_lock" in all_possible(heater)
    assert not {"belt_slips", "mix_weak", "mix_strong"} & set(all_possible(heater))
    clutch, _ = idling(air__fan__kind="mechanical")
    assert {"clutch_slips", "fan_dead"} <= set(all_possible(clutch))
    assert not {"fan_relay_open", "one_fan_dead"} & set(all_possible(clutch))
    none, _ = idling(air__fan__kind="none")
    assert not {"fan_dead", "fan_always_on", "clutch_locked"} & set(all_possible(none))
    two, _ = idling(air__fan__fans="two", circuit__heater=False)
    assert set(all_possible(two)) - set(all_possible(car)) == {"one_fan_dead"}


def test_a_stuck_switch_keeps_the_fan_as_it_stands() -> None:
    system, cases = idling()
    sound = over(system, cases, [3600.0])
    on = sound.time[np.flatnonzero(np.diff(sound.stage) > 0) + 1]
    off = sound.time[np.flatnonzero(np.diff(sound.stage) < 0) + 1]
    while_on, while_off = 0.5 * (on[2] + off[2]), 0.5 * (off[2] + on[3])
    runs_on = over(system, cases, [3600.0], Trouble("fan_switch_stuck", since=while_on))
    assert (runs_on.stage[runs_on.time > while_on + 1.0] == 1).all()
    stays_off = over(system, cases, [3600.0], Trouble("fan_switch_stuck", since=while_off))
    assert (stays_off.stage[stays_off.time > while_off + 1.0] == 0).all()
    assert stays_off.engine_out.max() > float(system.limits.top_hose)


def test_air_conditioning_runs_the_fan_past_a_stuck_switch_but_not_past_an_open_relay() -> None:
    system, cases = with_air_conditioning()
    stuck = over(system, cases, [1200.0], Trouble("fan_switch_stuck"))
    assert (stuck.stage == 1).all()
    relay = over(system, cases, [1200.0], Trouble("fan_relay_open"))
    assert (relay.stage == 0).all()
    dead = over(system, cases, [1200.0], Trouble("fan_dead"))
    assert np.array_equal(dead.engine_out, relay.engine_out)


def test_an_open_relay_takes_the_fast_stage_of_a_fan_that_has_two() -> None:
    stages = {
        "air__fan__staging": "slow", "air__fan__slow_speed_share": 0.4,
        "fan_switch__on_c": 92, "fan_switch__off_c": 88, "fan_switch__full_on_c": 97, "fan_switch__full_off_c": 93,
    }  # fmt: skip
    system, cases = to_core(part(plain_build(brake_power_kw=14, engine_rpm=900, speed_km_h=0), **stages))
    sound = over(system, cases, [1800.0])
    relay = over(system, cases, [1800.0], Trouble("fan_relay_open"))
    assert (sound.stage.max(), relay.stage.max()) == (2, 1)
    assert relay.engine_out.max() > sound.engine_out.max() + 2.0


def test_the_fan_stops_with_the_air_conditioning_where_it_is_cool() -> None:
    system, cases = with_air_conditioning()
    both = cases.taken(np.array([0, 0]))
    both = replace(both, air_conditioning=np.array([True, False]))
    course = drive_legs(system, Legs(both, np.array([120.0, 120.0]), np.ones(2, bool)), COLD)
    assert course.engine_out.max() < float(system.fan_switch.off)
    assert (course.stage[course.time <= 120.0] == 1).all()
    assert (course.stage[course.time > 120.5] == 0).all()


def test_low_coolant_at_the_start_was_never_filled_and_warms_up_faster() -> None:
    system, cases = idling()
    full = over(system, cases, [600.0])
    low = over(system, cases, [600.0], Trouble("coolant_low", 0.2))
    assert low.ground == 0.0
    assert low.mass[0] == pytest.approx(0.9 * full.mass[0])
    assert abs(low.energy_gap) <= 1e-6
    early = full.time < 200.0
    assert low.engine_out[early][-1] > full.engine_out[early][-1] + 0.5
    # Half a fill: the pump draws air, and nothing reaches the core.
    dry = over(system, cases, [1500.0], Trouble("coolant_low", 1.0))
    assert dry.flow.max() < 0.01 * over(system, cases, [1500.0]).flow.max()
    kinds = [event.kind for event in events(dry, 381.15)]
    assert EventKind.LIMIT_PASSED in kinds


def test_coolant_lost_on_the_way_lies_on_the_ground() -> None:
    system, cases = idling()
    course = over(system, cases, [1200.0], Trouble("coolant_low", 0.5, 600.0))
    before, after = course.mass[course.time < 599.0][-1], course.mass[course.time > 601.0][0]
    filled = float(system.coolant_volume) * plant_of(system).filled_density
    assert after == pytest.approx(0.75 * filled, rel=1e-6)
    assert course.ground == pytest.approx(before - after, rel=0.02)
    assert abs(course.energy_gap) <= 1e-6


def test_an_air_lock_in_the_heater_leaves_it_cold_and_the_engine_warm() -> None:
    system, cases = heated()
    sound = over(system, cases, [1800.0])
    locked = over(system, cases, [1800.0], Trouble("heater_air_lock"))
    assert sound.heater_air[-1] - ZERO > 35.0
    assert locked.heater_air[-1] - ZERO == pytest.approx(5.0, abs=0.5)
    assert abs(locked.engine_out[-1] - sound.engine_out[-1]) < 10.0
    half = over(system, cases, [1800.0], Trouble("heater_air_lock", 0.9))
    assert locked.heater_air[-1] < half.heater_air[-1] < sound.heater_air[-1]


def test_low_coolant_shows_at_the_heater_first() -> None:
    system, cases = heated()
    sound = over(system, cases, [1500.0])
    low = over(system, cases, [1500.0], Trouble("coolant_low", 0.75))
    assert low.heater_air[-1] < sound.heater_air[-1] - 10.0


def test_heater_air_is_what_its_heat_makes_of_the_air_from_outside() -> None:
    system, cases = heated()
    course = over(system, cases, [1200.0])
    expected = float(cases.ambient[0]) + course.heater / HEATER_AIR
    assert np.allclose(course.heater_air, expected)


@pytest.mark.parametrize(("fault", "sooner"), [("mix_weak", True), ("mix_strong", False)])
def test_the_mix_moves_the_boiling_point(fault: str, sooner: bool) -> None:
    # Water boils before its mixes, strong ones after (ASTM D1120's order; common practice).
    system, cases = idling()
    hot = [Trouble("fan_dead")]
    sound = over(system, cases, [3600.0], *hot)
    mixed = over(system, cases, [3600.0], *hot, Trouble(fault))
    assert (mixed.engine_out.max() < sound.engine_out.max() - 2.0) == sooner
    assert (mixed.engine_out.max() > sound.engine_out.max() + 2.0) != sooner


def test_a_wrong_mix_is_there_from_the_start_whenever_it_is_said_to_begin() -> None:
    system, cases = idling()
    early = over(system, cases, [300.0], Trouble("mix_weak", 0.5))
    late = over(system, cases, [300.0], Trouble("mix_weak", 0.5, 200.0))
    assert np.array_equal(early.engine_out, late.engine_out)


def test_the_top_hose_lags_until_the_thermostat_opens_and_cools_in_a_stop() -> None:
    system, cases = idling()
    course = over(system, cases, [1500.0, 3600.0], running=[True, False])
    opens = next(e.time for e in events(course, 381.15) if e.kind is EventKind.THERMOSTAT_OPENS)
    warming = course.time < opens - 5.0
    assert (course.top_hose[warming] < course.engine_out[warming]).all()
    assert (course.engine_out - course.top_hose)[warming].max() > 5.0  # the valve's leak warms it
    driving = (course.time > opens + 300.0) & (course.time < 1500.0)
    assert np.abs(course.top_hose - course.engine_out)[driving].max() < 6.0
    stopped = course.time > 1560.0
    assert (np.diff(course.top_hose[stopped]) < 0.0).all()


def test_a_cycle_of_warm_and_cold_takes_its_coolant_back_from_the_bottle() -> None:
    system, cases = to_core(plain_build(brake_power_kw=20, engine_rpm=2500, speed_km_h=80))
    course = over(system, cases, [1200.0, 14400.0], running=[True, False])
    warm = course.mass[course.time < 1200.0].min()
    assert warm < course.mass[0] - 0.05
    assert course.mass[-1] > warm + 0.03
    dead = over(system, cases, [1200.0, 14400.0], Trouble("return_valve_dead"), running=[True, False])
    assert dead.mass[-1] == pytest.approx(warm, abs=0.02)
    assert dead.pressure[-1] < -10e3  # hoses are drawn together


@pytest.mark.parametrize("litres", [0.0, 0.4])
def test_what_the_bottle_cannot_take_is_lost(litres: float) -> None:
    system, cases = idling(cap__bottle_l=litres)
    course = over(system, cases, [3600.0], Trouble("fan_dead"))
    plant = plant_of(system)
    assert course.bottle <= litres * 1e-3 * plant.filled_density + 1e-9
    assert course.ground > 0.5
    whole = course.mass[-1] + course.bottle + course.ground
    assert whole == pytest.approx(float(system.coolant_volume) * plant.filled_density, rel=1e-6)
    assert abs(course.energy_gap) <= 1e-6


def test_a_warm_start_has_let_out_what_the_fill_has_grown_by() -> None:
    system, cases = idling()
    course = over(system, cases, [60.0], start=360.0)
    assert abs(course.pressure[0]) < 8e3
    assert course.bottle > 0.1
    whole = course.mass[-1] + course.bottle + course.ground
    assert whole == pytest.approx(float(system.coolant_volume) * plant_of(system).filled_density, rel=1e-6)


def test_a_core_of_copper_and_brass_stores_by_its_own_mass() -> None:
    # Copper 385 J/kg K and 8960 kg/m³, aluminium 900 and 2700 (from memory): per volume of metal copper stores
    # 1.4 times as much, but its sheets are thinner.
    light, _ = idling(radiator__material="aluminium")
    heavy, _ = idling(radiator__material="copper_brass")
    volume = float(light.core.width * light.core.height * light.core.depth)
    assert plant_of(light).core_metal == pytest.approx(volume * 700.0 * 900.0)
    assert plant_of(heavy).core_metal == pytest.approx(volume * 1200.0 * 385.0)


def test_a_stuck_cap_lifts_late_and_a_weak_one_early() -> None:
    system, cases = idling(cap__weakest_part_kpa=138)
    lifts = {}
    for fault in ("cap_weak", None, "cap_stuck"):
        troubles = [Trouble("fan_dead"), *([Trouble(fault, 0.6)] if fault else [])]
        course = over(system, cases, [1800.0], *troubles)
        rating = float(system.cap.weakest_part)
        found = events(course, 381.15, rating)
        lifts[fault] = next((e.time for e in found if e.kind is EventKind.CAP_LIFTS), np.inf)
        assert (EventKind.OVER_RATING in [e.kind for e in found]) == (fault == "cap_stuck")
    assert lifts["cap_weak"] < lifts[None] < lifts["cap_stuck"]


def test_a_drive_ends_where_a_running_engine_stands_dry() -> None:
    system, cases = idling()
    filled = float(system.coolant_volume) * plant_of(system).filled_density
    course = over(system, cases, [1800.0, 1800.0], Trouble("coolant_leak", 0.5))
    assert course.runs_dry
    assert course.mass[-1] < DRY_FILL * filled <= course.mass[-2]
    assert course.time[-1] == 0.25 * len(course.time) < 3600.0
    assert abs(course.energy_gap) <= 1e-6
    assert course.mass[-1] + course.bottle + course.ground == pytest.approx(filled, rel=1e-6)
    last = events(course, 381.15)[-1]
    assert (last.kind, last.time) == (EventKind.RUNS_DRY, course.time[-1])
    assert EventKind.RUNS_LOW in [event.kind for event in events(course, 381.15)]


def test_an_engine_that_stands_may_lose_all_its_coolant_until_it_is_started() -> None:
    system, cases = idling()
    leak = Trouble("coolant_leak", 1.0)
    parked = over(system, cases, [1800.0], leak, running=[False])
    assert not parked.runs_dry
    assert parked.mass[-1] == pytest.approx(0.0, abs=1e-9)
    started = over(system, cases, [1800.0, 60.0], leak, running=[False, True])
    assert started.runs_dry
    assert started.time[-1] == 1800.25


def test_half_of_the_engine_boils_out_with_water_and_the_rest_as_steam() -> None:
    # IAPWS-IF97: water at 100 °C takes 2256 kJ/kg; the drive's one figure for all pressures lies within 3 % of it.
    system, cases = idling(coolant__kind="water", cap__pressure_kpa=0, cap__bottle_l=0.0)
    course = over(system, cases, [3600.0], Trouble("fan_dead"), Trouble("thermostat_shut"))
    plant = plant_of(system)
    hot = 958.4 * plant.volume  # kg of water at 100 °C, IAPWS
    half = (1.0 - 0.5 * plant.in_engine) * hot
    low = course.mass <= half - 0.05
    assert low.any()
    rate = -np.gradient(course.mass, course.time)
    boils = (course.boiling_margin < 1e-6) & ~low & (course.mass > half + 0.05)
    assert 0.0 < rate[boils].mean() <= 0.08 + 1e-9
    after = np.flatnonzero(low)[40:-40]
    gone, lasts = (abs(values[after[-1]] - values[after[0]]) for values in (course.mass, course.time))
    # What does not leave through the core goes into the metal, whose coolant moves less and less, or into steam.
    into_metal = plant.metal * (course.metal[after[-1]] - course.metal[after[0]])
    left = (course.heat - course.shed - course.heater)[after].mean() * lasts - into_metal
    assert gone == pytest.approx(left / 2.256e6, rel=0.05)
    # An engine at a few kilowatts does not empty in a minute.
    assert course.time[-1] - course.time[after[0]] > 60.0 or not course.runs_dry
    assert abs(course.energy_gap) <= 1e-6


def test_a_system_that_starts_short_of_coolant_is_said_to_run_low() -> None:
    system, cases = idling()
    found = events(over(system, cases, [60.0], Trouble("coolant_low", 1.0)), 381.15)
    assert found[0].kind is EventKind.RUNS_LOW
    calm = events(over(system, cases, [60.0], Trouble("coolant_low", 0.1)), 381.15)
    assert EventKind.RUNS_LOW not in [event.kind for event in calm]
