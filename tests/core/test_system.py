"""The assembled system in the situations that a builder knows."""

from __future__ import annotations

import pickle
from dataclasses import fields, replace
from typing import Any

import numpy as np
import pytest

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.base import DomainError
from ebbrin.core.circuit import cap as caps
from ebbrin.core.media.coolants import expansion, properties
from ebbrin.core.records import changed
from ebbrin.core.studies import assess as assessment
from ebbrin.core.studies.assess import assess
from ebbrin.core.studies.chance import FAILS, HOLDS, TIGHT
from ebbrin.core.system import inlet
from ebbrin.core.system.balance import coolant_at, shed, shed_with_air
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.parts import Cases
from ebbrin.core.system.settle import settle
from ebbrin.demo import demo_builds
from oracles.builds import edited, linnet, part, plain_build, to_core
from oracles.made import made
from oracles.parts import WATER


def judged(build: Build) -> assessment.Assessment:
    return assess(*to_core(build))


def assert_no_nan(record: object) -> None:
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        if isinstance(value, np.ndarray):
            assert not np.isnan(value).any(), field.name
        elif hasattr(value, "__dataclass_fields__"):
            assert_no_nan(value)


def test_thermostat_holds_an_easy_case() -> None:
    a = judged(plain_build(brake_power_kw=15, speed_km_h=90))
    opens = 88.0 + 273.15
    assert a.control[0] == assessment.THERMOSTAT_CONTROLLED
    assert not a.state.runs_on[0]
    assert opens < a.state.top_hose[0] < opens + 12.0
    assert a.verdict[0] == HOLDS


def test_cold_morning_downhill_stays_below_opening() -> None:
    a = judged(
        edited(plain_build(brake_power_kw=0, engine_rpm=900, speed_km_h=80, heater=True), site__ambient_c=-30)
    )
    assert a.control[0] == assessment.BELOW_OPENING
    assert a.state.shed.coolant.lift[0] == 0.0


def test_no_fan_and_no_speed_boils_and_says_what_is_short() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=30), air__fan__kind="none", air__shroud="none")
    a = judged(build)
    assert a.control[0] == assessment.NO_STEADY_STATE
    assert not a.state.exists[0]
    assert a.state.top_hose[0] == a.limit[0]
    assert a.state.shortfall[0] == pytest.approx(a.state.heat_in[0] - a.state.heat_shed[0])
    assert not a.on.exists[0]
    assert a.on.top_hose[0] == a.limit[0]
    assert settle(*to_core(build), FULL).top_hose[0] == 413.15
    assert a.verdict[0] == FAILS
    assert_no_nan(a)


def queue(**changes: Any) -> Build:
    return part(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900), **changes)


def test_fan_cycles_between_off_and_on() -> None:
    a = judged(queue())
    assert a.state.cycles[0]
    assert 0.0 < a.state.duty[0] < 1.0
    # The mean over time lies close to the middle of the band; margins are taken from its upper end.
    assert a.state.top_hose[0] == pytest.approx(99.0 + 273.15, abs=0.2)
    assert a.state.judged[0] == pytest.approx(102.0 + 273.15)
    assert a.margin[0] == pytest.approx(108.0 - 102.0)
    assert a.state.heat_shed[0] == pytest.approx(a.state.heat_in[0], rel=1e-6)


def test_mean_of_a_cycle_is_that_of_an_integration_in_time() -> None:
    # One heat store between the switch's points, stepped in time with the balances themselves.
    system, cases = to_core(queue(fan_switch__on_c=104, fan_switch__off_c=93))
    a = assess(system, cases)
    points = np.linspace(93.0, 104.0, 45) + 273.15
    surplus = []
    for stage in (fans.OFF, fans.FULL):
        heat = full_demand(system, cases, stage).total
        hot = points[:, None]
        shedding = shed(system, cases, stage, hot, coolant_at(system, cases, hot, heat), heat).heat
        surplus.append((heat - shedding)[:, 0])
    store, t, T, on = 5e4, 0.0, points[0], False
    area = time = 0.0
    for _ in range(200_000):
        if points[-1] <= T:
            on = True
        elif points[0] >= T and on:
            if time:
                break
            on = False
        T += 0.05 * np.interp(T, points, surplus[int(on)]) / store
        t += 0.05
        if t > 0.0:
            area, time = area + 0.05 * T, time + 0.05
    assert a.state.top_hose[0] == pytest.approx(area / time, abs=0.1)


def test_fan_never_stops_where_even_with_it_the_top_hose_stays_above_the_off_point() -> None:
    a = judged(plain_build(brake_power_kw=60))
    assert a.on.top_hose[0] > 96.0 + 273.15
    assert not a.state.cycles[0]
    assert a.state.duty[0] == 1.0
    assert a.state.judged[0] == a.state.top_hose[0] == pytest.approx(a.on.top_hose[0], abs=1e-4)


def test_a_fan_that_need_not_start_but_would_not_stop_is_said_and_judged_resting() -> None:
    # The thermostat holds the coolant between off- and on-point, with the fan or without.
    a = judged(plain_build(brake_power_kw=30, speed_km_h=90))
    warm = part(plain_build(brake_power_kw=30, speed_km_h=90), fan_switch__on_c=101, fan_switch__off_c=80)
    b = judged(warm)
    assert b.state.runs_on[0]
    assert b.state.duty[0] == 0.0
    resting = settle(*to_core(warm), fans.OFF)
    assert b.state.judged[0] == pytest.approx(max(resting.top_hose[0], b.on.top_hose[0]), abs=1e-4)
    assert not a.state.runs_on[0] or a.on.top_hose[0] > 96.0 + 273.15


def test_a_switch_above_the_limit_is_blamed_and_nothing_else() -> None:
    late = queue(fan_switch__on_c=112, fan_switch__off_c=106)
    a = judged(late)
    assert a.state.by_switch[0]
    assert a.margin[0] == pytest.approx(108.0 - 112.0)
    assert a.limiting_ambient.ambient[0] < to_core(late)[1].ambient[0]
    assert not judged(queue()).state.by_switch[0]


@pytest.mark.parametrize("on", [92.0, 102.0, 107.0, 112.0])
def test_margin_and_limiting_ambient_have_one_sign(on: float) -> None:
    for ambient in np.arange(-10.0, 60.0, 10.0):
        build = edited(queue(fan_switch__on_c=on, fan_switch__off_c=on - 6.0), site__ambient_c=float(ambient))
        a = judged(build)
        spare = a.limiting_ambient.ambient[0] - (ambient + 273.15)
        if abs(spare) > 0.05:
            assert (a.margin[0] > 0.0) == (spare > 0.0)


def test_a_driven_fan_has_no_switch() -> None:
    build = part(
        plain_build(brake_power_kw=42),
        air__fan__kind="mechanical",
        air__fan__engaged_share=1.0,
        air__fan__disengaged_share=1.0,
    )
    moved = part(build, fan_switch__on_c=60, fan_switch__off_c=55)
    a, b = judged(build), judged(moved)
    assert a.state.duty[0] == 1.0
    assert a.state.judged[0] == a.state.top_hose[0] == b.state.judged[0]
    assert a.limiting_ambient.ambient[0] == b.limiting_ambient.ambient[0]


def test_a_spring_bypass_that_starves_an_inlet_thermostat_hunts() -> None:
    build = part(
        edited(plain_build(speed_km_h=0, brake_power_kw=8, engine_rpm=850), site__ambient_c=-10),
        thermostat__position="inlet",
        thermostat__opens_c=82,
        circuit__bypass="spring",
    )
    a = judged(build)
    assert a.state.hunts[0]
    assert not a.state.exists[0]
    assert a.control[0] == assessment.HUNTS
    assert a.state.coldest[0] < a.state.top_hose[0] < a.state.hottest[0]
    assert a.state.shortfall[0] == 0.0
    outlet = judged(part(build, thermostat__position="outlet"))
    assert outlet.state.exists[0]


def test_air_conditioning_forces_the_fan_on() -> None:
    build = part(
        plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900, air_conditioning=True),
        air__condenser=True,
    )
    a = judged(build)
    assert a.state.duty[0] == 1.0
    assert (
        a.on.heat.total[0]
        > judged(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900)).on.heat.total[0]
    )


def test_cooler_thermostat_changes_nothing_where_capacity_is_short() -> None:
    # Common practice, no source: it only moves the point where control begins.
    hot = plain_build(brake_power_kw=75, speed_km_h=80)
    cooler = part(hot, thermostat__opens_c=71)
    assert judged(hot).control[0] == assessment.CAPACITY_LIMITED
    assert judged(cooler).state.top_hose[0] == pytest.approx(judged(hot).state.top_hose[0], abs=1e-4)


def test_shroud_helps_the_queue_and_its_stopped_fan_hinders_the_road() -> None:
    shrouded = judged(part(linnet(), air__shroud="full"))
    assert shrouded.on.shed.air.volume_flow[0] > judged(linnet()).on.shed.air.volume_flow[0]
    fast = plain_build(brake_power_kw=40, speed_km_h=140)
    behind, beside = (settle(*to_core(b), fans.OFF).shed.air for b in (fast, part(fast, air__shroud="none")))
    assert behind.volume_flow[0] < beside.volume_flow[0]


def test_blocked_tubes_and_debris_cost_heat() -> None:
    build = plain_build(brake_power_kw=60)
    clean, silted, covered = (
        settle(*to_core(b), FULL).top_hose[0]
        for b in (
            build,
            part(build, radiator__blocked_tubes_share=0.3),
            part(build, radiator__blocked_face_share=0.3),
        )
    )
    assert silted > clean + 1
    assert covered > clean + 1


def test_disengaged_clutch_fan_still_turns() -> None:
    cool = part(plain_build(speed_km_h=0, brake_power_kw=0, ambient_c=-10), air__fan__kind="mechanical")
    a = judged(cool)
    without = judged(part(cool, air__fan__kind="none", air__shroud="none"))
    assert a.state.air_flow[0] > 1.5 * without.state.air_flow[0]
    hot = judged(part(plain_build(speed_km_h=0, brake_power_kw=20), air__fan__kind="mechanical"))
    ratios = [x.state.shed.air.fan_ratio[0, 0] for x in (a, hot)]
    assert ratios[1] > 1.5 * ratios[0]


def test_without_a_pump_the_coolant_rises_and_falls_by_20_to_35_kelvins() -> None:
    # Common practice, no source: 20 to 35 K through the engine of a car from before the pump.
    build = part(
        plain_build(speed_km_h=30, brake_power_kw=5, engine_rpm=1300, ambient_c=20),
        engine__displacement_l=2.9,
        engine__rated_power_kw=15,
        engine__rated_rpm=1600,
        engine__kind="side_valve",
        circuit__pump_drive="none",
        circuit__jacket_drop_kpa=0.5,
        circuit__hose_bore_mm=55,
        circuit__hose_length_mm=700,
        circuit__hose_bends=3,
        circuit__bypass="none",
        circuit__heater=False,
        thermostat__opens_c=50,
        thermostat__drop_kpa=0.3,
        coolant__kind="water",
        cap__pressure_kpa=0,
        air__fan__kind="mechanical",
        air__shroud="none",
    )
    a = judged(build)
    rise = a.state.top_hose[0] - a.state.pump_inlet[0]
    assert 15.0 < rise < 40.0
    low, high = (judged(part(build, circuit__siphon_height_mm=h)) for h in (200, 800))
    assert low.state.shed.coolant.volume_flow[0] < high.state.shed.coolant.volume_flow[0]
    assert low.state.top_hose[0] > high.state.top_hose[0]
    assert np.isinf(a.cavitation_speed[0])


def test_timed_run_is_shorter_than_the_time_to_get_hot() -> None:
    a = judged(linnet())
    i = [case.id for case in linnet().cases].index("hill")
    assert a.on.top_hose[i] > a.limit[i]
    assert a.run.end[i] < a.limit[i]
    assert a.run.time_to_limit[i] > 75.0
    assert a.verdict[i] == HOLDS


def test_timed_run_by_hand_while_nothing_is_shed() -> None:
    # Behind a shut thermostat and with hardly any air all heat stays: dT/dt = Q/C.
    build = edited(
        plain_build(kind="timed", duration_s=20, start_c=20, brake_power_kw=40, speed_km_h=0),
        site__ambient_c=20,
    )
    a = judged(
        part(
            build,
            thermostat__opens_c=100,
            air__fan__kind="none",
            air__shroud="none",
            engine__metal_heat_kj_per_k=60,
        )
    )
    warmed = a.run.end[0] - 293.15
    store = 60e3 + 8.0e-3 * 1070 * 3350
    assert warmed == pytest.approx(a.on.heat.total[0] * 20 / store, rel=0.03)


def test_demo_story() -> None:
    a = judged(linnet())
    verdict = dict(zip([case.id for case in linnet().cases], a.verdict, strict=True))
    assert verdict == {
        "queue": TIGHT,
        "hill": HOLDS,
        "motorway": HOLDS,
        "road": HOLDS,
    }
    assert a.control[1] == assessment.CAPACITY_LIMITED


def test_lowest_cap_that_clears_is_chosen() -> None:
    hottest, sea = np.array([373.15]), np.array([101_325.0])
    choice = caps.choose(hottest, sea, np.array([40e3]), WATER, 12.0, 138e3)
    # Water at 112 °C boils under 153 kPa: 52 kPa gauge, 59 with a weak cap; 69 is the next mark.
    assert caps.CANDIDATES[choice.chosen] == 69e3
    assert choice.needed == pytest.approx(59.0e3, rel=0.02)
    assert not choice.needed_by_inlet
    reasons = [caps.CapReason(r).name for r in choice.reason]
    assert reasons == ["BOILS", "BOILS", "CHOSEN", *["MORE_THAN_NEEDED"] * 5]


def test_cap_above_the_weakest_part_is_refused() -> None:
    choice = caps.choose(np.array([391.15]), np.array([101_325.0]), np.array([0.0]), WATER, 12.0, 103e3)
    assert choice.chosen == -1
    assert choice.needed > 103e3
    assert caps.CapReason(choice.reason[-1]) is caps.CapReason.ABOVE_RATING


def test_pump_inlet_may_ask_for_more_cap_than_boiling_does() -> None:
    choice = caps.choose(np.array([363.15]), np.array([101_325.0]), np.array([-55e3]), WATER, 12.0, 138e3)
    # 10 kPa above the 55 that are short, and the 3 by which half of all caps open early.
    assert choice.needed == pytest.approx(68e3)
    assert choice.needed_by_inlet
    assert caps.CANDIDATES[choice.chosen] == 69e3
    assert caps.CapReason(choice.reason[1]) is caps.CapReason.PUMP_INLET


@pytest.mark.parametrize(
    ("change", "message"),
    [
        (
            {"ambient": np.array([400.0])},
            "ambient temperature is 400 K; it must lie between 233.1 and 333.2 K",
        ),
        ({"ambient": np.array([np.nan])}, "ambient temperature is nan K"),
        ({"altitude": np.array([9000.0])}, "altitude is 9000 m"),
        ({"crank_speed": np.array([0.0])}, "engine speed is 0 rev/s"),
    ],
)
def test_impossible_cases_are_named(change: dict[str, np.ndarray], message: str) -> None:
    system, cases = to_core(plain_build())
    values = {f.name: getattr(cases, f.name) for f in fields(Cases)} | change
    with pytest.raises(DomainError, match=message):
        assess(system, Cases(**values))


@pytest.mark.parametrize(
    "coolant",
    [
        {"kind": "ethylene_glycol", "glycol_vol_share": 0.05},
        {"kind": "ethylene_glycol", "glycol_vol_share": 0.7},
        {"kind": "propylene_glycol", "glycol_vol_share": 0.7},
        {"kind": "water"},
        {"kind": "waterless", "residual_water_share": 0.1},
    ],
)
@pytest.mark.parametrize("ambient", [-40.0, 60.0])
@pytest.mark.parametrize("altitude", [-400.0, 5000.0])
def test_corners_of_the_domain_give_numbers(coolant: dict[str, Any], ambient: float, altitude: float) -> None:
    build = edited(plain_build(), site__ambient_c=ambient, site__altitude_m=altitude)
    for name, value in coolant.items():
        build = part(build, **{f"coolant__{name}": value})
    for changes in (
        {"cap__pressure_kpa": 0},
        {"air__fan__kind": "none", "air__shroud": "none"},
        {"thermostat__position": "inlet", "circuit__bypass": "none"},
        {"circuit__shut_off_kpa": 5, "circuit__run_out_l_per_min": 10},
    ):
        a = judged(part(build, **changes))
        assert_no_nan(a)
        ends = a.state.heat_in - a.state.heat_shed
        assert np.all(np.abs(ends[a.state.exists]) <= 1e-6 * a.state.heat_in[a.state.exists])


@pytest.mark.parametrize("share", [0.0, 0.5, 0.9])
def test_limiting_ambient_is_found_by_the_bracket_where_quick_looks_fail(share: float) -> None:
    # Little air and much that comes round: the answer lies far away and the first looks do not settle.
    build = part(
        plain_build(speed_km_h=0, brake_power_kw=5),
        air__fan__kind="none",
        air__shroud="none",
        air__front_recirculation_share=0.4,
        radiator__blocked_face_share=share,
    )
    a = judged(build)
    assert a.limiting_ambient.ambient.shape == (1,)
    assert a.air_to_boil.ambient[0] >= a.limiting_ambient.ambient[0] - 0.01
    assert_no_nan(a)


@pytest.mark.parametrize(
    ("path", "value", "message"),
    [
        ("core.width", np.nan, "core width is nan m"),
        ("core.fin_pitch", np.inf, "core fin pitch is inf m"),
        ("circuit.pump.shut_off", 0.0, "pump shut-off pressure is 0 Pa"),
        ("circuit.pump.run_out", 0.0, "pump run-out flow is 0 m³/s"),
        ("air.fan.free_flow", 0.0, "fan free flow is 0 m³/s"),
        ("air.front_loss", 0.0, "front loss coefficient is 0 -"),
        ("cap.pressure", -1.0, "cap pressure is -1 Pa"),
        ("coolant.mass_fraction", 0.76, "glycol share by mass is 0.76"),
        ("engine.rated_power", np.nan, "rated power is nan W"),
        ("vehicle.driveline_efficiency", 0.0, "driveline efficiency is 0 -"),
    ],
)
def test_impossible_parts_are_named(path: str, value: float, message: str) -> None:
    system, cases = to_core(plain_build())
    with pytest.raises(DomainError, match=message):
        assess(changed(system, path, np.asarray(value)), cases)


def test_staged_fan_cycles_between_its_stages() -> None:
    staged = part(
        plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900),
        air__fan__staging="slow",
        air__fan__slow_speed_share=0.35,
    )
    idle = judged(staged)
    assert idle.state.stage[0] == fans.LOW
    busy = judged(edited(staged, cases__0__brake_power_kw=14))
    assert busy.state.stage[0] == fans.FULL
    both = np.array([idle.state.top_hose[0], busy.state.top_hose[0]]) - 273.15
    assert both.tolist() == [pytest.approx(99.0, abs=0.5), pytest.approx(104.0, abs=0.5)]
    assert 0.0 < busy.state.duty[0] < 1.0


def test_heater_takes_heat_off_the_radiator() -> None:
    hot = plain_build(brake_power_kw=60)
    cold, warm = judged(hot), judged(edited(hot, cases__0__heater=True))
    assert warm.state.shed.heater[0] > 2e3
    assert cold.state.shed.heater[0] == 0.0
    assert warm.on.top_hose[0] < cold.on.top_hose[0] - 1.0
    assert warm.state.shed.heat[0] == pytest.approx(warm.state.shed.radiator[0] + warm.state.shed.heater[0])


def test_pump_inlet_mixes_what_comes_back() -> None:
    a = judged(part(edited(plain_build(brake_power_kw=60), cases__0__heater=True), circuit__bypass="open"))
    state, flow = a.state, a.state.shed.coolant
    cp = properties(to_core(plain_build())[0].coolant, state.top_hose).heat_capacity
    into = state.engine_heat / (flow.total_mass * cp)
    assert state.top_hose - state.pump_inlet == pytest.approx(into)
    assert state.bottom_hose[0] < state.pump_inlet[0] < state.top_hose[0]


def test_margin_at_the_pump_inlet_ends_where_it_is_said() -> None:
    system, cases = to_core(plain_build(brake_power_kw=40, speed_km_h=90))
    a = assess(system, cases)
    assert a.cavitation_speed[0] > cases.crank_speed[0]
    there = replace(cases, crank_speed=a.cavitation_speed)
    coolant = coolant_at(system, there, a.state.top_hose, a.state.heat_in)
    left = inlet.margin(system, there, coolant, a.state.pump_inlet) + system.cap.holds
    assert left[0] == pytest.approx(0.0, abs=20.0)
    electric = judged(part(plain_build(), circuit__pump_drive="electric"))
    assert np.isinf(electric.cavitation_speed[0])


def test_cap_on_the_suction_side_leaves_the_pump_more() -> None:
    # All of the cap's pressure reaches the inlet; from the hot tank the radiator's drop is lost on the way.
    hot = plain_build(brake_power_kw=60)
    tank, suction = (judged(part(hot, cap__position=place)) for place in ("hot_tank", "suction"))
    lost = tank.state.shed.coolant.radiator_drop + 0.5 * tank.state.shed.coolant.hose_drop
    assert suction.inlet_margin - tank.inlet_margin == pytest.approx(lost)


def test_tank_takes_what_the_fill_grows() -> None:
    build = plain_build(brake_power_kw=60)
    a = judged(build)
    grown = expansion(to_core(build)[0].coolant, 293.15, a.state.top_hose[0])
    assert a.tank.growth == pytest.approx(8.0e-3 * grown)
    assert a.tank.bottle == pytest.approx(1.5 * a.tank.growth)
    assert a.tank.air_space > a.tank.growth
    without = judged(part(plain_build(brake_power_kw=60), cap__pressure_kpa=0))
    assert np.isinf(without.tank.air_space)


def test_shaft_work_on_a_standing_truck_is_heat_to_shed() -> None:
    still = plain_build(load="road", speed_km_h=0, engine_rpm=1800)
    idle, pumping = judged(still), judged(edited(still, cases__0__shaft_work_kw=25))
    assert pumping.on.heat.brake_power[0] - idle.on.heat.brake_power[0] == pytest.approx(25e3)


def test_gearing_sets_the_engine_speed() -> None:
    build = plain_build(speed_km_h=100, engine_speed_by="gearing", overall_ratio=3.6)
    _, cases = to_core(build)
    assert cases.crank_speed[0] * 60 == pytest.approx(3081, abs=1)


def test_a_bench_point_makes_the_core_what_it_was_tested_to_be() -> None:
    tested = part(
        plain_build(brake_power_kw=70),
        radiator__test_point=True,
        radiator__test_heat_kw=40,
        radiator__test_air_m_per_s=6,
        radiator__test_coolant_l_per_min=60,
    )
    system, _ = to_core(tested)
    better, _ = to_core(part(tested, radiator__test_heat_kw=44))
    assert 0.5 < float(system.core.UA_factor) < float(better.core.UA_factor)


def test_no_case_without_a_timed_one_changes_by_its_company() -> None:
    # A timed case is solved apart; its neighbours must not notice.
    alone, beside = judged(edited(linnet(), cases__1__kind="steady")), judged(linnet())
    for i in (0, 2, 3):
        assert alone.margin[i] == pytest.approx(beside.margin[i], abs=1e-6)


def closes(a: assessment.Assessment, i: int) -> bool:
    """Whether what is shed is what is sent, to a millionth."""
    return bool(abs(a.state.heat_shed[i] / a.state.heat_in[i] - 1.0) <= 1e-6)


def test_a_clutch_that_costs_more_than_it_cools_is_held_where_it_has_not_taken_hold() -> None:
    # Its fan takes so much power at 900 rpm that beyond 100 °C more heat comes in than the air carries off; a warming
    # engine settles long before.
    build = made(10234)
    assert build is not None
    a, system, cases = judged(build), *to_core(build)
    top = a.state.top_hose[1]
    assert a.state.exists[1]
    assert top < 333.15
    assert closes(a, 1)
    hot = np.full(3, 413.0)
    full = full_demand(system, cases, fans.FULL).total
    there = shed(system, cases, fans.FULL, hot, coolant_at(system, cases, hot, full), full)
    assert there.heat[1] < demand(system, cases, there.air.fan_ratio).total[1]


def test_a_fan_that_need_not_start_again_rests() -> None:
    # Coolant that rises by itself past an inlet thermostat: at rest it balances at 68 °C and, the heater starved, again at
    # 109, past the on-point. Once the fan has cooled it to 75 °C it falls on to the lower one.
    build = made(12830)
    assert build is not None
    system, cases = to_core(build)
    late = changed(system, "fan_switch.off", np.asarray(348.15))
    a = assess(late, cases)
    assert not a.state.cycles[0]
    assert a.state.duty[0] == 0.0
    assert 340.0 < a.state.top_hose[0] < 343.0
    assert closes(a, 0)
    assert settle(late, cases, fans.OFF).top_hose[0] > 375.15


def test_parts_are_refused_without_levers_too() -> None:
    system, cases = to_core(plain_build())
    thick = changed(system, "core.tube_wall", np.asarray(0.9e-3))
    for with_levers in (True, False):
        with pytest.raises(DomainError, match="bore of the tubes"):
            assess(thick, cases, with_levers)


def test_a_refusal_comes_out_of_another_process_whole() -> None:
    refusal = pickle.loads(pickle.dumps(DomainError("bore of the tubes", 0.0, 2e-4, 0.1, "m")))
    assert isinstance(refusal, DomainError)
    assert (refusal.quantity, refusal.low, refusal.unit) == ("bore of the tubes", 2e-4, "m")
    assert str(refusal) == "bore of the tubes is 0 m; it must lie between 0.0002 and 0.1 m"


def test_where_nothing_settles_the_air_that_is_needed_is_that_at_the_limit() -> None:
    build = demo_builds()[1]
    resolved = resolve(build, build.variants[0].id)
    system, cases = system_from(resolved), cases_from(resolved)
    a = assess(system, cases)
    n = int(np.flatnonzero(~a.state.exists & ~a.run.timed)[0])
    # The fan is at full there, so that the air in the state and the air that there is are one.
    assert a.state.duty[n] == 1.0
    assert a.air_need.available[n] == pytest.approx(a.state.air_flow[n], rel=1e-5)
    flow, heat = a.on.shed.air, a.on.heat.total
    more = flow.velocity * (a.air_need.needed / a.air_need.available)[:, None]
    coolant = coolant_at(system, cases, a.limit, heat)
    there = shed_with_air(system, cases, FULL, a.limit, coolant, heat, more, flow.mean)
    assert np.log(there.heat / heat)[n] == pytest.approx(a.chance.wanted[n], abs=2e-3)
