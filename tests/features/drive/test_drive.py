"""A drive as it is asked for and told."""

from __future__ import annotations

import csv
import io
from typing import Any, get_args

import numpy as np
import pytest
from pydantic import ValidationError

from ebbrin.build.drive import Drive
from ebbrin.build.resolve import resolve
from ebbrin.core.drive.events import EventKind
from ebbrin.core.drive.faults import FAULTS
from ebbrin.demo import NAMES, demo_builds
from ebbrin.features.drive.answers import DriveQuestion, EventName
from ebbrin.features.drive.from_core import thinned
from ebbrin.features.drive.service import HALF, NoDrive, as_csv, drive, driven, each_fault
from ebbrin.features.drive.words import SAID
from ebbrin.features.judge import evaluate
from ebbrin.ground.words import printed
from oracles.builds import part

pytestmark = pytest.mark.long

DEMO = dict(zip(NAMES, demo_builds(), strict=True))


def question(name: str, asked: dict[str, Any] | None = None) -> DriveQuestion:
    """A demo build's drive, or another of it."""
    build = DEMO[name]
    chosen = build.drives[0] if asked is None else Drive.model_validate({"id": "asked"} | asked)
    return DriveQuestion(build=build, variant=build.variants[0].id, drive=chosen)


def test_events_are_named_alike_everywhere() -> None:
    assert {kind.name.lower() for kind in EventKind} == set(get_args(EventName)) == set(SAID)


def test_linnets_run_is_shorter_than_the_time_to_the_limit_and_its_soak_is_not() -> None:
    found = drive(question("linnet"))
    run = next(leg for leg in found.legs if leg.name == "Hill run")
    assert run.hottest_c < found.limit_c
    soak = found.legs[-1]
    assert soak.hottest_c > found.limit_c
    assert found.time_to_limit_s is not None
    assert found.time_to_limit_s > soak.from_s
    assert next(printed(text) for text in found.cautions).startswith("Stop and let it cool")
    at = found.points.time_s.index(found.hottest_at_s)
    assert found.points.engine_out_c[at] == pytest.approx(found.hottest_c, abs=0.006)


def test_a_leg_whose_power_was_left_open_says_what_is_taken_for_it() -> None:
    # Nothing, of all powers: a drive that stays cool for that reason says so. Once a name, and not of an engine that is off.
    own = {"id": "own", "name": "Pull", "load": "power"}
    off = {"case": own | {"name": "Rest"}, "duration_s": 60, "engine_runs": False}
    said = {"case": own | {"name": "Hill", "brake_power_kw": 20}, "duration_s": 60}
    legs = [{"case": own, "duration_s": 60}, off, said, {"case": own, "duration_s": 60}]
    found = drive(question("linnet", {"legs": legs}))
    assert [printed(text) for text in found.guessed] == [
        "Pull: brake power was left open and is taken as 0.0 kW."
    ]
    assert drive(question("linnet")).guessed == []


@pytest.mark.parametrize(("name", "case_id"), [("linnet", "queue"), ("brigade", "road")])
def test_a_leg_that_has_settled_tells_the_flow_of_the_verdict(name: str, case_id: str) -> None:
    # Litres as hot as they flow: those of the cold fill are a twentieth fewer.
    build = DEMO[name]
    told = next(case for case in evaluate(build).cases if case.id == case_id)
    legs = [{"case_id": case_id, "duration_s": 7200}]
    settled = drive(question(name, {"legs": legs, "start_c": told.top_hose_c})).points
    assert settled.thermostat_lift[-1] == told.thermostat_lift == 1.0
    assert settled.coolant_flow_l_per_min[-1] == pytest.approx(told.coolant_flow_l_per_min, rel=0.003)


def test_a_car_whose_engine_is_off_stands_whatever_its_case_says() -> None:
    def stopped(case_id: str) -> list[float]:
        legs = [
            {"case_id": "road", "duration_s": 1200},
            {"case_id": case_id, "duration_s": 900, "engine_runs": False},
        ]
        return drive(question("linnet", {"legs": legs})).points.bottom_hose_c

    # Once the engine is off, a hill run and a queue differ in little but speed.
    hill, queue = stopped("hill"), stopped("queue")
    assert hill[-1] == pytest.approx(queue[-1], abs=0.5)
    assert hill[-1] > DEMO["linnet"].site.ambient_c + 3.0


def test_mule_boils_on_the_pass_and_loses_coolant() -> None:
    found = drive(question("mule"))
    boils = next(event for event in found.events if event.kind == "boils")
    on_the_pass = found.legs[1]
    assert on_the_pass.from_s < boils.time_s < on_the_pass.from_s + 600
    assert found.coolant_in_bottle_l > 1.0
    assert printed(boils.text).startswith("boils")


def test_coolant_boils_in_a_drive_where_the_judgement_says_that_it_boils() -> None:
    asked = question(
        "mule", {"legs": [{"case_id": "pass", "duration_s": 3600}], "faults": [{"fault": "fan_dead"}]}
    )
    judged = evaluate(asked.build, asked.variant, levers=False)
    boils = next(case.boils_c for case in judged.cases if case.id == "pass")
    found = drive(asked)
    assert "boils" in {event.kind for event in found.events}
    assert max(found.points.top_hose_c) == pytest.approx(boils, abs=0.05)


def test_what_boils_below_the_limit_of_its_top_hose_asks_for_the_same_caution() -> None:
    asked = question("mule")
    build = asked.build.model_dump()
    for variant in build["variants"]:
        variant["cap"]["pressure_kpa"] = 0.0
        variant["coolant"]["kind"] = "water"
    build["site"]["altitude_m"] = 4000.0
    legs = [{"case_id": asked.build.cases[0].id, "duration_s": 240}]
    other = DriveQuestion.model_validate(
        {
            "build": build,
            "variant": asked.variant,
            "drive": {"id": "low", "name": "Low", "legs": legs, "start_c": 70.0},
        }
    )
    found = drive(other)
    kinds = {event.kind for event in found.events}
    assert "boils" in kinds
    assert found.hottest_c < found.limit_c
    assert any(printed(text).startswith("Stop and let it cool") for text in found.cautions)


def test_a_drive_that_runs_dry_ends_there_and_says_so() -> None:
    asked = {
        "legs": [{"case_id": "road", "duration_s": 1800}, {"case_id": "queue", "duration_s": 900}],
        "faults": [{"fault": "coolant_leak", "severity_share": 0.5}],
    }
    found = drive(question("linnet", asked))
    assert found.runs_dry_s == found.points.time_s[-1] == found.events[-1].time_s
    assert [leg.name for leg in found.legs] == ["Liaison road"]
    assert "the drive ends" in printed(found.events[-1].text)
    assert any("can read cool while the engine is ruined" in printed(text) for text in found.cautions)
    assert drive(question("linnet")).runs_dry_s is None


def test_brigade_overheats_at_the_parade_not_on_the_road() -> None:
    road, parade = drive(question("brigade")).legs
    assert road.end_c < 97.0
    assert parade.end_c > 97.0


def test_a_cap_that_sticks_passes_what_the_weakest_part_stands() -> None:
    asked = DEMO["mule"].drives[0].model_dump() | {"faults": [{"fault": "cap_stuck"}]}
    found = drive(question("mule", asked))
    over = next(event for event in found.events if event.kind == "over_rating")
    assert printed(over.text).startswith("pressure above what the weakest part stands")
    assert any("can burst" in printed(text) for text in found.cautions)
    assert not any("can burst" in printed(text) for text in drive(question("mule")).cautions)


def test_every_single_fault_is_driven_alone_the_hottest_first() -> None:
    outcomes = each_fault(question("linnet"))
    names = [outcome.fault for outcome in outcomes]
    # Linnet has one electric fan and no clutch; the others have what Linnet lacks.
    assert not {"one_fan_dead", "clutch_slips", "clutch_locked"} & set(names)
    assert set(names) <= set(FAULTS)
    hottest = [outcome.hottest_c for outcome in outcomes]
    assert hottest == sorted(hottest, reverse=True)
    shut = next(outcome for outcome in outcomes if outcome.fault == "thermostat_shut")
    alone = drive(
        question("linnet", DEMO["linnet"].drives[0].model_dump() | {"faults": [{"fault": "thermostat_shut"}]})
    )
    assert shut.hottest_c == pytest.approx(alone.hottest_c)
    assert shut.time_to_limit_s == alone.time_to_limit_s
    assert shut.lost_l == pytest.approx(alone.coolant_on_ground_l)
    assert shut.boils
    # Linnet's drive passes its limit as it is: what changes nothing of that is not held against a fault.
    without = drive(question("linnet"))
    assert without.time_to_limit_s is not None
    same = next(outcome for outcome in outcomes if not outcome.worse)
    for outcome in (shut, same, outcomes[-1]):
        asked = DEMO["linnet"].drives[0].model_dump() | {
            "faults": [
                {"fault": outcome.fault, "severity_share": HALF if FAULTS[outcome.fault].graded else 1.0}
            ]
        }
        found = drive(question("linnet", asked))
        hotter = found.hottest_c >= without.hottest_c + 0.5
        lost = found.coolant_on_ground_l >= without.coolant_on_ground_l + 0.05
        dry = found.runs_dry_s is not None and without.runs_dry_s is None
        boils, did = (any(e.kind == "boils" for e in one.events) for one in (found, without))
        assert outcome.worse == (hotter or lost or dry or (boils and not did)), outcome.fault
    assert shut.worse
    others = {o.fault for name in ("mule", "brigade") for o in each_fault(question(name))}
    assert {"one_fan_dead", "clutch_slips", "clutch_locked"} & others


@pytest.mark.parametrize(
    ("drive_", "breaks"), [("none", "its way round breaks off"), ("belt", "the pump draws air")]
)
def test_what_too_little_coolant_does_is_said_of_a_pump_only_where_there_is_one(
    drive_: str, breaks: str
) -> None:
    build = part(DEMO["linnet"], circuit__pump_drive=drive_)
    asked = DEMO["linnet"].drives[0].model_dump() | {
        "faults": [{"fault": "coolant_low", "severity_share": 1.0}]
    }
    found = drive(DriveQuestion(build=build, variant="as-found", drive=Drive.model_validate(asked)))
    low = [printed(event.text) for event in found.events if event.kind == "runs_low"]
    assert low
    words = " ".join([*low, *(printed(text) for text in found.cautions)])
    assert words.count(breaks) == len(low) + 1
    assert ("pump" in words) == (drive_ != "none")


def test_flows_are_told_by_the_coolant_as_it_is_filled_however_little_there_is() -> None:
    asked = DEMO["linnet"].drives[0].model_dump() | {
        "faults": [{"fault": "coolant_low", "severity_share": 0.25}]
    }
    low = drive(question("linnet", asked)).points
    volume = resolve(DEMO["linnet"], "as-found").variant.coolant.volume_l
    assert volume is not None
    assert low.coolant_l[0] == pytest.approx(0.875 * volume, rel=0.01)


def test_a_drive_keeps_its_extremes_when_thinned() -> None:
    found = driven(question("linnet"))
    course, at = found.course, thinned(found.course)
    assert len(at) < 0.3 * len(course.time)
    assert at[0] == 0
    assert at[-1] == len(course.time) - 1
    for values in (course.engine_out, course.top_hose, course.bottom_hose, course.flow, course.pressure):
        assert values[at].max() == values.max()
        assert values[at].min() == values.min()


def test_every_step_is_in_the_file_with_units() -> None:
    script = {"legs": [{"case_id": "road", "duration_s": 60}]}
    found = driven(question("linnet", script))
    rows = list(csv.reader(io.StringIO(as_csv(found))))
    assert rows[0][:4] == ["time [s]", "metal [°C]", "engine out [°C]", "top hose [°C]"]
    assert "heater air [°C]" not in rows[0]  # it is never on
    assert len(rows) == 1 + 240
    assert float(rows[-1][2]) == pytest.approx(found.course.engine_out[-1] - 273.15, abs=0.005)


def test_a_start_in_the_deepest_frost_is_driven() -> None:
    own = {"id": "x", "name": "Frost", "engine_rpm": 1200, "speed_km_h": 0, "ambient_c": -40}
    found = drive(question("linnet", {"legs": [{"case": own, "duration_s": 120}]}))
    assert found.points.engine_out_c[0] == pytest.approx(-40.0, abs=0.2)
    assert found.points.engine_out_c[-1] > -38.0


def test_a_leg_may_hold_a_case_of_its_own() -> None:
    own = {
        "id": "x",
        "name": "Crawl",
        "load": "power",
        "brake_power_kw": 20,
        "engine_rpm": 1500,
        "speed_km_h": 10,
    }
    found = drive(question("linnet", {"legs": [{"case": own, "duration_s": 120}]}))
    assert [leg.name for leg in found.legs] == ["Crawl"]
    assert np.diff(found.points.time_s).min() > 0


@pytest.mark.parametrize(
    ("script", "message"),
    [
        ({"legs": []}, "a leg or a recording"),
        ({"legs": [{"duration_s": 60}]}, "not both"),
        ({"legs": [{"case_id": "road"}], "faults": [{"fault": "gremlins"}]}, "thermostat_shut"),
    ],
)
def test_a_drive_that_cannot_be_is_refused(script: dict[str, Any], message: str) -> None:
    with pytest.raises(ValidationError, match=message):
        Drive.model_validate({"id": "x"} | script)


def test_a_drive_that_lasts_too_long_is_kept_and_not_driven() -> None:
    # A build that holds it can be saved while its legs are being put right.
    with pytest.raises(NoDrive, match="last 360 minutes; a drive may last four hours"):
        drive(question("linnet", {"legs": [{"case_id": "road", "duration_s": 7200}] * 3}))


def test_an_unknown_case_is_named() -> None:
    with pytest.raises(NoDrive, match="Leg 1 is as in the case moon"):
        drive(question("linnet", {"legs": [{"case_id": "moon"}]}))
