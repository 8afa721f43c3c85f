"""The assembled system in the situations that a builder knows."""

from __future__ import annotations

from dataclasses import fields

import numpy as np
import pytest

from ebbrin.core.base import DomainError
from ebbrin.core.circuit import cap as caps
from ebbrin.core.media.coolants import TABLE_END
from ebbrin.core.system import assess as assessment
from ebbrin.core.system.assess import assess
from ebbrin.core.system.parts import Cases
from ebbrin.document.build import Build
from tests.builds import edited, linnet, part, plain_build, to_core


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
    assert opens < a.state.top_hose[0] < opens + 12.0
    assert a.verdict[0] == assessment.HOLDS


def test_cold_morning_downhill_stays_below_opening() -> None:
    a = judged(edited(plain_build(brake_power_kw=0, engine_rpm=900, speed_km_h=80), site__ambient_c=-25))
    assert a.control[0] == assessment.BELOW_OPENING
    assert a.state.shed.coolant.lift[0] == 0.0


def test_no_fan_and_no_speed_boils_and_says_what_is_short() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=30), air__fan__kind="none", air__shroud="none")
    a = judged(build)
    assert a.control[0] == assessment.NO_STEADY_STATE
    assert not a.state.exists[0]
    assert a.state.top_hose[0] == a.limit[0]
    assert a.state.shortfall[0] == pytest.approx(a.state.heat_in[0] - a.state.heat_shed[0])
    assert a.state.on.top_hose[0] == TABLE_END
    assert a.verdict[0] == assessment.FAILS
    assert_no_nan(a)


def test_fan_cycles_between_off_and_on() -> None:
    a = judged(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900))
    assert a.state.cycles[0]
    assert 0.0 < a.state.duty[0] < 1.0
    assert a.state.top_hose[0] == pytest.approx(97.0 + 273.15)
    assert a.state.margin_temperature[0] == pytest.approx(100.0 + 273.15)


def test_air_conditioning_forces_the_fan_on() -> None:
    build = part(
        plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900, air_conditioning=True),
        air__condenser=True,
    )
    a = judged(build)
    assert a.state.duty[0] == 1.0
    assert (
        a.state.on.heat.total[0]
        > judged(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900)).state.on.heat.total[0]
    )


def test_cooler_thermostat_changes_nothing_where_capacity_is_short() -> None:
    # Common practice, no source: it only moves the point where control begins.
    hot = plain_build(brake_power_kw=75, speed_km_h=80)
    cooler = part(hot, thermostat__opens_c=71)
    assert judged(hot).control[0] == assessment.CAPACITY_LIMITED
    assert judged(cooler).state.top_hose[0] == pytest.approx(judged(hot).state.top_hose[0], abs=1e-4)


def test_shroud_helps_the_queue_and_its_stopped_fan_hinders_the_road() -> None:
    queue = judged(part(linnet(), air__shroud="full"))
    assert queue.state.on.air.flow.volume_flow[0] > judged(linnet()).state.on.air.flow.volume_flow[0]
    fast = plain_build(brake_power_kw=40, speed_km_h=140)
    behind, beside = judged(fast), judged(part(fast, air__shroud="none"))
    assert behind.state.off.air.flow.volume_flow[0] < beside.state.off.air.flow.volume_flow[0]


def test_blocked_tubes_and_debris_cost_heat() -> None:
    base = judged(plain_build(brake_power_kw=60)).state.on.top_hose[0]
    assert (
        judged(part(plain_build(brake_power_kw=60), radiator__blocked_tubes_share=0.3)).state.on.top_hose[0]
        > base + 1
    )
    assert (
        judged(part(plain_build(brake_power_kw=60), radiator__blocked_face_share=0.3)).state.on.top_hose[0]
        > base + 1
    )


def test_disengaged_clutch_fan_still_turns() -> None:
    build = part(plain_build(speed_km_h=0), air__fan__kind="mechanical")
    a = judged(build)
    without = judged(part(plain_build(speed_km_h=0), air__fan__kind="none", air__shroud="none"))
    assert a.state.off.air.flow.volume_flow[0] > 1.5 * without.state.off.air.flow.volume_flow[0]
    assert a.state.on.air.flow.volume_flow[0] > a.state.off.air.flow.volume_flow[0]


def test_timed_run_is_shorter_than_the_time_to_get_hot() -> None:
    a = judged(linnet())
    i = [case.id for case in linnet().cases].index("hill")
    assert a.state.top_hose[i] > a.limit[i]
    assert a.run.end[i] < a.limit[i]
    assert a.run.time_to_limit[i] > 75.0
    assert a.verdict[i] == assessment.HOLDS


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
    assert warmed == pytest.approx(a.state.on.heat.total[0] * 20 / store, rel=0.03)


def test_demo_story() -> None:
    a = judged(linnet())
    verdict = dict(zip([case.id for case in linnet().cases], a.verdict, strict=True))
    assert verdict == {
        "queue": assessment.TIGHT,
        "hill": assessment.HOLDS,
        "motorway": assessment.HOLDS,
        "road": assessment.HOLDS,
    }
    assert a.control[1] == assessment.CAPACITY_LIMITED


def test_lowest_cap_that_clears_is_chosen() -> None:
    hottest, sea = np.array([373.15]), np.array([101_325.0])
    choice = caps.choose(hottest, sea, np.array([40e3]), 1.0, 12.0, 138e3)
    # Water at 112 °C boils under 153 kPa: 52 kPa gauge, 59 with a weak cap; 69 is the next mark.
    assert caps.CANDIDATES[choice.chosen] == 69e3
    assert choice.needed == pytest.approx(59.0e3, rel=0.02)


def test_cap_above_the_weakest_part_is_refused() -> None:
    choice = caps.choose(np.array([391.15]), np.array([101_325.0]), np.array([0.0]), 1.0, 12.0, 103e3)
    assert choice.chosen == -1
    assert choice.needed > 103e3


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


@pytest.mark.parametrize("share", [0.05, 0.3, 0.6, 0.7])
@pytest.mark.parametrize("ambient", [-40.0, 60.0])
@pytest.mark.parametrize("altitude", [-400.0, 5000.0])
def test_corners_of_the_domain_give_numbers(share: float, ambient: float, altitude: float) -> None:
    build = edited(plain_build(), site__ambient_c=ambient, site__altitude_m=altitude)
    assert_no_nan(judged(part(build, coolant__glycol_vol_share=share, cap__pressure_kpa=0)))


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
