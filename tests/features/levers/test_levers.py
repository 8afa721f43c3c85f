"""Pulling a lever gives a variant that is worth what the lever was said to be worth."""

from __future__ import annotations

import pytest

from ebbrin.build.build import Build
from ebbrin.build.resolve import UnknownVariant
from ebbrin.core.studies import levers as core
from ebbrin.demo import demo_builds
from ebbrin.features.judge.service import evaluate
from ebbrin.features.levers.service import LEVERS, LeverRefused, UnknownLever, pull
from ebbrin.ground.words import printed
from oracles.builds import edited, linnet, part, plain_build
from oracles.made import made

ALL = part(
    plain_build(brake_power_kw=55, speed_km_h=40),
    air__shroud="none",
    radiator__blocked_face_share=0.1,
    radiator__blocked_tubes_share=0.1,
    radiator__scale_mm=0.1,
    coolant__glycol_vol_share=0.4,
)


def test_every_lever_has_words_and_can_be_pulled() -> None:
    assert set(LEVERS) == set(core.LEVERS)


def test_a_lever_that_is_none_is_named() -> None:
    with pytest.raises(UnknownLever, match="no lever wishing"):
        pull(plain_build(), "v", "wishing")
    with pytest.raises(UnknownVariant, match="no variant w"):
        pull(plain_build(), "w", "ram")


def worth(build: Build, name: str) -> tuple[list[object], list[object]]:
    """Gains of air and margin in the first case: what is said of a lever, and what the variant with it has."""
    build = build.model_copy(update={"variants": build.variants[:1]})
    now = evaluate(build)
    told = next(lever for lever in now.levers if lever.name == name)
    pulled = pull(build, build.variants[0].id, name)
    then = evaluate(pulled.model_copy(update={"variants": pulled.variants[1:]}), levers=False)
    first = build.cases[0].id
    said = next(gain for gain in told.cases if gain.case_id == first)
    before, after = (next(case for case in each.cases if case.id == first) for each in (now, then))

    def grown(old: float | None, new: float | None) -> object:
        return None if old is None or new is None else pytest.approx(new - old, abs=0.05)

    return [said.ambient_gain_k, said.margin_gain_k], [
        grown(before.limiting_ambient_c, after.limiting_ambient_c),
        grown(before.margin_k, after.margin_k),
    ]


def test_a_timed_case_begins_where_the_thermostat_of_the_lever_stands_open() -> None:
    pulling = edited(plain_build(), cases__0__kind="timed", cases__0__duration_s=5)
    said, got = worth(pulling, "thermostat_down")
    assert said == got
    assert said[1] == pytest.approx(6.0, abs=1.0)  # so short that it warms little
    said, got = worth(edited(pulling, cases__0__start_c=95), "thermostat_down")
    assert said == got
    assert said[1] == pytest.approx(0.0, abs=0.05)


def test_flaps_are_there_once_a_shroud_is() -> None:
    fast = part(plain_build(speed_km_h=130), air__shroud="none", air__flaps=True, air__fan__kind="mechanical")
    said, got = worth(fast, "full_shroud")
    assert said == got


@pytest.mark.parametrize(("seed", "name"), [(5004, "debris_cleared"), (5026, "fan_flow")])
def test_no_air_is_won_where_none_is_told(seed: int, name: str) -> None:
    # Of one the first case, of the other the last settles above a limit that it could keep: its fan has started.
    build = made(seed)
    assert build is not None
    for case in build.cases:
        said, got = worth(build.model_copy(update={"cases": [case]}), name)
        assert said == got


@pytest.mark.parametrize("name", sorted(LEVERS))
def test_pulled_lever_is_worth_what_was_said(name: str) -> None:
    told = next(lever for lever in evaluate(ALL).levers if lever.name == name).cases[0]
    tried = pull(ALL, "v", name)
    assert len(tried.variants) == 2
    before, after = (evaluate(tried, v.id, levers=False).cases[0] for v in tried.variants)
    assert after.limiting_ambient_c is not None
    assert before.limiting_ambient_c is not None
    gain = after.limiting_ambient_c - before.limiting_ambient_c
    assert told.ambient_gain_k == pytest.approx(gain, abs=0.15)


@pytest.mark.parametrize("build", [*demo_builds(), *(made(seed) for seed in (1, 11, 16))])
def test_what_a_lever_is_cautioned_of_is_found_once_it_is_pulled(build: Build) -> None:
    # Whatever is said of the build as a whole once the variant stands, and is not said of it now.
    of_the_build = {"freezes", "cool_engine", "over_rating", "too_large"}
    told = evaluate(build)
    now = {finding.code for finding in told.findings}
    for lever in told.levers:
        try:
            tried = pull(build, told.variant_id, lever.name)
        except LeverRefused:
            continue
        then = [
            f for f in evaluate(tried, tried.variants[-1].id, levers=False).findings if f.code in of_the_build
        ]
        texts = {printed(finding.text) for finding in then}
        assert {printed(caution) for caution in lever.cautions} <= texts
        assert {printed(f.text) for f in then if f.code not in now} <= {printed(c) for c in lever.cautions}


def test_levers_are_cautioned_of_frost_rating_room_and_a_cool_engine() -> None:
    def cautioned(lever: str, **fields: float) -> str:
        levers = evaluate(part(plain_build(ambient_c=-5), **fields)).levers
        return " ".join(printed(c) for one in levers if one.name == lever for c in one.cautions)

    assert cautioned("water") == "The coolant freezes at 0 °C, above the air of one."
    assert cautioned("cap_up", cap__pressure_kpa=100, cap__weakest_part_kpa=130) == ""
    high = cautioned("cap_up", cap__pressure_kpa=100, cap__weakest_part_kpa=110)
    assert high == "The cap holds 120 kPa, the weakest part stands 110 kPa."
    worse = cautioned("cap_up", cap__pressure_kpa=115, cap__weakest_part_kpa=110)
    assert worse == "The cap holds 135 kPa, the weakest part stands 110 kPa."
    wide = cautioned("core_area", radiator__width_mm=600, vehicle__space_width_mm=610)
    assert wide == "The core is 629 mm wide; the car has room for 610 mm."
    assert "heater is weak" in cautioned("thermostat_down", thermostat__opens_c=82)
    assert cautioned("thermostat_down", thermostat__opens_c=90) == ""


def test_pulled_twice_gets_names_of_its_own() -> None:
    twice = pull(pull(linnet(), "as-found", "ram"), "as-found", "ram")
    assert len({v.id for v in twice.variants}) == 5
    assert twice.variants[-1].name == "As found + better ducting: 0.2 more of the ram pressure"


def test_what_leaves_the_document_is_refused() -> None:
    with pytest.raises(LeverRefused, match="Cap pressure is 265 kPa; it must lie within"):
        pull(part(plain_build(), cap__pressure_kpa=245), "v", "cap_up")
    full = edited(plain_build())
    for _ in range(11):
        full = pull(full, "v", "ram")
    with pytest.raises(LeverRefused, match="not have more than 12"):
        pull(full, "v", "ram")


@pytest.mark.parametrize(
    ("build", "verdicts"),
    [
        (0, {"as-found": "tight", "shroud": "fails", "sealed": "holds"}),
        (1, {"as-found": "fails", "core": "fails", "core-fans": "holds"}),
        (2, {"as-found": "fails", "shroud": "holds"}),
    ],
)
def test_demo_builds_tell_their_story(build: int, verdicts: dict[str, str]) -> None:
    document = demo_builds()[build]
    assert {v.id: evaluate(document, v.id, levers=False).verdict for v in document.variants} == verdicts


def test_demo_worst_cases() -> None:
    worst = [evaluate(build, levers=False).worst_case_id for build in demo_builds()]
    assert worst == ["queue", "pass", "parade"]
