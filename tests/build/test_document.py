"""The document: defaults marked, missing values named, errors in words, every field of use."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest
from pydantic import ValidationError

from ebbrin.bridge.unknowns import NOT_SAMPLED, SPREADS, guessed
from ebbrin.build.build import Build
from ebbrin.build.drive import Drive
from ebbrin.build.problems import problem
from ebbrin.build.radiator import CONDITIONS
from ebbrin.build.resolve import DERIVED, MissingValues, bounds, extra, resolve
from ebbrin.core.records import value_at
from ebbrin.demo import demo_builds
from ebbrin.features.drive.answers import DriveCourse, DriveQuestion
from ebbrin.features.drive.service import drive
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.paths import parts_of
from ebbrin.ground.quantities import QUANTITIES
from oracles.builds import edited, linnet, part, plain_build, to_core
from oracles.fields import DESCRIBED, NUMBERS, nudged, relevant_to

pytestmark = pytest.mark.long


@pytest.mark.parametrize(("path", "info"), DESCRIBED, ids=[p for p, _ in DESCRIBED])
def test_every_field_says_what_it_is(path: str, info: Any) -> None:
    assert info.title
    assert info.description
    more = extra(info)
    assert more["quantity"] in {*QUANTITIES, "choice", "switch", "curve", "shelf"}
    if isinstance(more.get("assumed"), str) and path != "/start_c":
        assert path in DERIVED
    if "assumed" in more and not isinstance(more["assumed"], str):
        low, high = bounds(info)
        assert low <= more["assumed"] <= high


def test_unknown_values_are_assumed_and_marked() -> None:
    resolved = resolve(plain_build(), "v")
    taken = {a.path: a for a in resolved.assumed}
    assert "/variants/0/vehicle/mass_kg" not in taken  # no case takes its load from the road
    assert taken["/variants/0/thermostat/opens_c"].value == 88
    assert not taken["/variants/0/thermostat/opens_c"].guess
    assert taken["/variants/0/air/ram_coefficient"].guess
    assert taken["/variants/0/circuit/run_out_l_per_min"].value == pytest.approx(176.0)
    assert "/variants/0/engine/stroke_mm" not in taken
    assert "/variants/0/circuit/electric_rpm" not in taken


def test_defaults_are_never_stored() -> None:
    build = plain_build()
    resolve(build, "v")
    assert build.variants[0].thermostat.opens_c is None


def test_missing_values_are_all_named() -> None:
    build = part(plain_build(), radiator__width_mm=None, engine__rated_power_kw=None)
    with pytest.raises(MissingValues) as caught:
        resolve(build, "v")
    assert {m.path for m in caught.value.missing} == {
        "/variants/0/radiator/width_mm",
        "/variants/0/engine/rated_power_kw",
    }


def test_case_inherits_the_site_unless_it_has_its_own() -> None:
    resolved = resolve(linnet(), "as-found")
    ambient = {case.id: case.ambient_c for case in resolved.cases}
    assert ambient["queue"] == 32
    assert ambient["motorway"] == 35


@pytest.mark.parametrize(
    ("change", "path", "message"),
    [
        (
            {"radiator__width_mm": 5},
            "/variants/0/radiator/width_mm",
            "Core width is 5 mm; it must lie within 100 to 2000 mm.",
        ),
        (
            {"radiator__width_mm": "5"},
            "/variants/0/radiator/width_mm",
            "Core width is 5 mm; it must lie within 100 to 2000 mm.",
        ),
        (
            {"radiator__width_mm": "wide"},
            "/variants/0/radiator/width_mm",
            "Core width must be a number within 100 to 2000 mm",
        ),
        (
            {"radiator__scale_mm": 0.8},
            "/variants/0/radiator/scale_mm",
            "Wall and scale leave -0.20 mm of bore",
        ),
        (
            {"air__fan__staging": "one_of_two"},
            "/variants/0/air/fan/staging",
            "Running one fan first takes two fans",
        ),
        (
            {"fan_switch__on_c": 100, "fan_switch__full_on_c": 98, "fan_switch__full_off_c": 96},
            "/variants/0/fan_switch/full_on_c",
            "must not switch below the first",
        ),
        (
            {"radiator__core_type": "plain", "radiator__rows": 4, "radiator__depth_mm": 40},
            "/variants/0/radiator/rows",
            "Each row needs at least 11 mm",
        ),
        ({"cap__presure_kpa": 90}, "/variants/0/cap/presure_kpa", "no field of this name"),
        ({"engine__kind": "steam"}, "/variants/0/engine/kind", "Kind must be one of"),
        (
            {"fan_switch__on_c": 90, "fan_switch__off_c": 95},
            "/variants/0/fan_switch/on_c",
            "must go on at least 0.5 K above",
        ),
        (
            {"radiator__rows": 4, "radiator__depth_mm": 20},
            "/variants/0/radiator/rows",
            "Each row needs at least 8 mm",
        ),
        (
            {
                "air__fan__curve": [
                    {"flow_m3_per_s": 0, "pressure_pa": 10},
                    {"flow_m3_per_s": 1, "pressure_pa": 20},
                ]
            },
            "/variants/0/air/fan/curve",
            "Point 2 of the fan curve",
        ),
    ],
)
def test_bad_values_are_refused_in_words(change: dict[str, Any], path: str, message: str) -> None:
    with pytest.raises(ValidationError) as caught:
        part(plain_build(), **change)
    found = problem(dict(caught.value.errors()[0]))
    assert found.path == path
    assert message in found.message


def test_gearing_without_road_speed_is_refused_in_words() -> None:
    with pytest.raises(ValidationError) as caught:
        edited(plain_build(), cases__0__engine_speed_by="gearing", cases__0__speed_km_h=0)
    found = problem(dict(caught.value.errors()[0]))
    assert found.path == "/cases/0/engine_speed_by"
    assert "needs a road speed" in found.message


def test_every_guess_is_sampled_or_said_not_to_matter() -> None:
    guesses = {p for p, i in DESCRIBED if extra(i).get("guess") and p.count("/") > 1}
    of_condition = {f"/radiator/{field}" for field in CONDITIONS["unknown"]}
    assert guesses == set(SPREADS) | set(NOT_SAMPLED) | of_condition
    system, _ = to_core(plain_build())
    for spreads in SPREADS.values():
        for spread in spreads:
            assert spread.low <= spread.median <= spread.high
            for path in spread.paths:
                assert value_at(system, path).dtype == float


def test_guesses_become_unknowns_and_what_is_known_does_not() -> None:
    resolved = resolve(plain_build(), "v")
    paths = {entry.path for entry in guessed(resolved)}
    assert "/variants/0/air/ram_coefficient" in paths
    assert "/variants/0/radiator/width_mm" not in paths
    known = resolve(part(plain_build(), air__ram_coefficient=0.6), "v")
    assert "/variants/0/air/ram_coefficient" not in {entry.path for entry in guessed(known)}


@pytest.mark.parametrize(
    ("kind", "vol_share", "by_mass"), [("ethylene_glycol", 0.5, 0.527), ("propylene_glycol", 0.5, 0.509)]
)
def test_half_by_volume_is_more_by_mass(kind: str, vol_share: float, by_mass: float) -> None:
    build = part(plain_build(), coolant__kind=kind, coolant__glycol_vol_share=vol_share)
    assert to_core(build)[0].coolant.mass_fraction == pytest.approx(by_mass, abs=5e-4)


def test_older_versions_are_brought_up_and_newer_ones_refused() -> None:
    old = json.loads(Path(__file__).with_name("version_1.json").read_text(encoding="utf-8"))
    assert old["version"] == 1
    newest = Build.model_validate({**old, "version": 5})
    for version in (1, 2, 3, 4):
        assert Build.model_validate({**old, "version": version}) == newest
    assert newest.version == 5
    with pytest.raises(ValidationError) as caught:
        Build.model_validate({**old, "version": 6})
    found = problem(dict(caught.value.errors()[0]))
    assert found.path == "/version"
    assert "format version 6, this Ebbrin reads up to 5" in found.message


def test_a_fuel_flow_below_the_work_done_is_refused_in_words() -> None:
    measured = {"measured_by": "fuel", "measured_power_kw": 100, "measured_rpm": 6000}
    values = {f"engine__{k}": v for k, v in measured.items()} | {"engine__heat_school": "measured"}
    with pytest.raises(ValidationError) as caught:
        part(plain_build(), **values, engine__measured_fuel_kg_per_h=0.1)
    found = problem(dict(caught.value.errors()[0]))
    # 100 kW for an hour are 360 MJ; at 55 % of 43.5 MJ/kg that takes 15 kg.
    assert "must be at least 15 kg/h" in found.message
    part(plain_build(), **values, engine__measured_fuel_kg_per_h=24)


@pytest.mark.parametrize("condition", ["new", "used", "unknown"])
def test_a_condition_is_what_is_taken_for_what_was_not_looked_at(condition: str) -> None:
    build = part(plain_build(), radiator__condition=condition)
    resolved = resolve(build, "v")
    core = resolved.variant.radiator
    medians = {"new": (0.005, 0.01, 0.0), "used": (0.04, 0.04, 0.03), "unknown": (0.08, 0.06, 0.06)}
    assert (core.blocked_tubes_share, core.blocked_face_share, core.scale_mm) == medians[condition]
    # The headline stands at the medians, and the scatter has them in its middle.
    for entry in guessed(resolved):
        if "/radiator/" in str(entry.path) and entry.unknown.name != "/radiator/fin_pitch_mm":
            base = float(value_at(to_core(build)[0], entry.unknown.paths[0]))
            assert entry.unknown.median == pytest.approx(base)


def test_text_with_a_nul_is_refused() -> None:
    with pytest.raises(ValidationError) as caught:
        edited(plain_build(), notes="a\x00b")
    assert problem(dict(caught.value.errors()[0])).path == "/notes"


def test_two_cases_may_not_share_an_id() -> None:
    document = linnet().model_dump(mode="json")
    document["cases"][1]["id"] = "queue"
    with pytest.raises(ValidationError, match="Two cases have the same id"):
        Build.model_validate(document)


@pytest.mark.parametrize(("path", "info"), NUMBERS, ids=[p for p, _ in NUMBERS])
def test_every_editable_number_changes_a_result(path: str, info: Any) -> None:
    build = relevant_to(path)
    is_case = path.count("/") == 1
    prefix = "cases__0" if is_case else "variants__0"
    resolved = resolve(build, build.variants[0].id)
    value: Any = resolved.cases[0] if is_case else resolved.variant
    for name in parts_of(path):
        value = getattr(value, name)
    changed = edited(build, **{prefix + path.replace("/", "__"): nudged(info, float(value))})
    answer = driven_dry if path == "/cap/bottle_l" else evaluate
    before, after = (answer(b).model_dump(exclude={"assumed"}) for b in (build, changed))
    assert strip(before) != strip(after)


def driven_dry(build: Build) -> DriveCourse:
    """A drive that boils over: what the bottle takes shows nowhere else."""
    faults = [{"fault": "fan_dead"}, {"fault": "core_silted"}]
    legs = [{"case_id": build.cases[0].id, "duration_s": 1200}]
    asked = Drive.model_validate({"id": "dry", "legs": legs, "faults": faults})
    return drive(DriveQuestion(build=build, variant=build.variants[0].id, drive=asked))


def strip(node: Any) -> Any:
    """Results only: without the entries that merely repeat what was typed."""
    if isinstance(node, dict):
        echoes = {
            "fitted",
            "headline",
            "ambient_c",
            "altitude_m",
            "speed_km_h",
            "engine_rpm",
            "ladder",
            "duration_s",
            "start_c",
        }
        return {k: strip(v) for k, v in node.items() if k not in echoes}
    return [strip(v) for v in node] if isinstance(node, list) else node


@pytest.mark.parametrize(("path", "info"), NUMBERS, ids=[p for p, _ in NUMBERS])
@pytest.mark.parametrize("above", [False, True], ids=["below", "above"])
def test_every_number_has_ends_and_says_them(path: str, info: Any, above: bool) -> None:
    low, high = bounds(info)
    wrong = high + 1.0 + abs(high) if above else low - 1.0 - abs(low)
    list_, prefix = ("cases", "cases__0") if path.count("/") == 1 else ("variants", "variants__0")
    with pytest.raises(ValidationError) as caught:
        edited(plain_build(), **{prefix + path.replace("/", "__"): wrong})
    found = next(
        entry for entry in map(problem, map(dict, caught.value.errors())) if entry.path == f"/{list_}/0{path}"
    )
    assert (found.low, found.high) == (low, high)
    assert found.message.startswith(f"{info.title} is {wrong:g}")
    assert f"must lie within {low:g} to {high:g}" in found.message


@pytest.mark.parametrize(("path", "info"), NUMBERS, ids=[p for p, _ in NUMBERS])
def test_every_number_is_refused_as_words(path: str, info: Any) -> None:
    prefix = "cases__0" if path.count("/") == 1 else "variants__0"
    with pytest.raises(ValidationError) as caught:
        edited(plain_build(), **{prefix + path.replace("/", "__"): "plenty"})
    said = [problem(dict(error)).message for error in caught.value.errors()]
    number = re.compile(re.escape(info.title) + " must be a (whole )?number within")
    assert any(number.match(message) for message in said)


@pytest.mark.parametrize("build", demo_builds(), ids=lambda build: build.name)
def test_a_build_comes_back_from_its_file_unchanged(build: Build) -> None:
    text = build.model_dump_json()
    again = Build.model_validate_json(text)
    assert again == build
    assert again.model_dump_json() == text


@pytest.mark.parametrize(
    ("leg", "path", "message"),
    [
        (
            {"case_id": "one", "duration_s": 2},
            "/drives/0/legs/0/duration_s",
            "Lasts is 2 s; it must lie within",
        ),
        ({"case_id": "one", "engine_runs": "often"}, "/drives/0/legs/0/engine_runs", "Engine running"),
        ({"case_id": "one", "slope": 3}, "/drives/0/legs/0/slope", "no field of this name"),
        ({}, "/drives/0/legs/0/case_id", "A leg"),
    ],
)
def test_a_leg_that_cannot_be_is_refused_where_it_stands(
    leg: dict[str, Any], path: str, message: str
) -> None:
    document = plain_build().model_dump(mode="json") | {"drives": [{"id": "d", "legs": [leg]}]}
    with pytest.raises(ValidationError) as caught:
        Build.model_validate(document)
    found = problem(dict(caught.value.errors()[0]))
    assert found.path == path
    assert message in found.message


@pytest.mark.parametrize(
    ("fault", "path", "message"),
    [
        ({"severity_share": 1.5}, "/drives/0/faults/0/severity_share", "must lie within 0 to 1"),
        ({"from_s": -5}, "/drives/0/faults/0/from_s", "must lie within 0 to 14400 s"),
        ({"fault": "gremlins"}, "/drives/0/faults/0/fault", "Fault must be one of"),
    ],
)
def test_a_fault_that_cannot_be_is_refused_where_it_stands(
    fault: dict[str, Any], path: str, message: str
) -> None:
    legs = [{"case_id": "one"}]
    document = plain_build().model_dump(mode="json") | {
        "drives": [{"id": "d", "legs": legs, "faults": [fault]}]
    }
    with pytest.raises(ValidationError) as caught:
        Build.model_validate(document)
    found = problem(dict(caught.value.errors()[0]))
    assert found.path == path
    assert message in found.message
