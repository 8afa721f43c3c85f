"""Documents that were once answered wrongly, each with what must be said of it; tests/anomalies holds them."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path

import pytest
from pydantic import ValidationError

from ebbrin.build.build import Build
from ebbrin.features.judge.answers import CaseResult, Evaluation
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.words import printed
from oracles.contradictions import contradictions

PLACE = Path(__file__).parent / "anomalies"
ALL = sorted(path.stem for path in PLACE.glob("*.json"))
REFUSED = "13-measured-fuel-below-work"


def build(name: str) -> Build:
    return Build.model_validate(json.loads((PLACE / f"{name}.json").read_text()))


@cache
def answer(name: str) -> Evaluation:
    return evaluate(build(name))


def case(name: str, case_id: str) -> CaseResult:
    return next(entry for entry in answer(name).cases if entry.id == case_id)


def said(name: str, case_id: str) -> str:
    entry = case(name, case_id)
    return f"{printed(entry.sentence)} {printed(entry.detail)}"


@pytest.mark.parametrize("name", [name for name in ALL if name != REFUSED])
def test_no_document_contradicts_itself(name: str) -> None:
    assert contradictions(build(name), answer(name)) == []


def test_zones_are_warmed_by_their_own_heat() -> None:
    # 107 °C with the idle losses of before; a throttled petrol engine pumps against 0.6 bar as well.
    assert (case("01-zone-heat", "queue").top_hose_c or 0.0) > 107.0


def test_a_fan_that_cycles_is_not_one_that_never_stops() -> None:
    cycling = case("02-fan-never-stops", "idle")
    assert cycling.fan_cycles
    assert not cycling.fan_never_stops
    assert not any(f.code == "fan_never_stops" for f in answer("02-fan-never-stops").findings)


@pytest.mark.parametrize("name", [name for name in ALL if "crash" in name])
def test_what_crashed_gets_an_answer(name: str) -> None:
    assert answer(name).cases


def test_what_jumps_hunts() -> None:
    idle = case("06-inlet-spring-does-not-close", "idle")
    assert idle.control == "hunts"
    assert idle.top_hose_c is None
    assert idle.hunt is not None
    assert idle.hunt.coldest_c < idle.hunt.hottest_c
    assert said("06-inlet-spring-does-not-close", "idle").startswith("Hunts between ")


def test_a_shut_thermostat_is_not_said_to_be_wide_open() -> None:
    climb = case("07-wide-open-while-shut", "climb")
    assert climb.thermostat_lift == 0.0
    assert "wide open" not in said("07-wide-open-while-shut", "climb")


def test_what_is_over_its_limit_does_not_stay_cold() -> None:
    idle = case("08-stays-cold-and-fails", "idle")
    assert idle.verdict == "fails"
    assert idle.cause == "thermostat"
    words = said("08-stays-cold-and-fails", "idle")
    assert "Stays cold" not in words
    assert "one that opens sooner is wanted" in words


def test_the_fans_switch_is_blamed_for_itself() -> None:
    assert case("09-fan-switch-blamed-on-core", "idle").cause == "fan_switch"
    assert "a switch that comes on sooner" in said("09-fan-switch-blamed-on-core", "idle")


def test_what_is_short_of_air_is_said_to_be() -> None:
    for case_id in ("idle", "mway"):
        found = case("10-cause-sign", case_id)
        assert found.cause == "air"
        needed = found.air_needed_m3_per_s
        if needed is None:
            assert "none alone makes it hold" in said("10-cause-sign", case_id)
        else:
            assert needed > found.air_available_m3_per_s


def test_the_cap_does_not_jump_with_a_kilowatt() -> None:
    a, b = answer("11-cap-at-77-kw"), answer("11-cap-at-78-kw")
    assert a.cap_needed_kpa == pytest.approx(b.cap_needed_kpa, abs=3.0)
    assert a.answers.cap.recommended == b.answers.cap.recommended


def test_nothing_settles_above_boiling() -> None:
    climb = case("12-settles-above-boiling", "climb")
    assert (climb.top_hose_c or 0.0) > climb.boils_c
    assert said("12-settles-above-boiling", "climb").startswith("Boils: ")


def test_fuel_below_the_work_is_refused() -> None:
    with pytest.raises(ValidationError, match="Fuel flow then must be at least"):
        build(REFUSED)


def test_the_air_needed_is_what_a_fan_can_move() -> None:
    for entry in answer("14-air-need").cases:
        assert entry.air_needed_m3_per_s is None or entry.air_needed_m3_per_s < 10.0


def test_a_school_lies_within_its_own_band() -> None:
    for entry in answer("15-school-at-idle").cases:
        for school in entry.heat.schools:
            assert school.low_kw <= school.heat_kw <= school.high_kw


def test_a_case_that_holds_has_enough_air() -> None:
    name = "16-timed-holds-but-short-of-air"
    assert answer(name).verdict == "holds"
    assert answer(name).answers.airflow.verdict == "holds"


def test_rated_power_may_be_asked_for() -> None:
    assert not any(f.code == "asks_too_much" for f in answer("17-rated-power-warned").findings)


def test_a_driven_fan_is_judged_without_a_switch() -> None:
    only = case("18-clutchless-fan", "c")
    assert only.judged_c == only.top_hose_c
    assert only.cause != "fan_switch"
