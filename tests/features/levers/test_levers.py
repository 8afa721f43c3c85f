"""Pulling a lever gives a variant that is worth what the lever was said to be worth."""

from __future__ import annotations

import pytest

from ebbrin.build.resolve import UnknownVariant
from ebbrin.core.studies import levers as core
from ebbrin.demo import demo_builds
from ebbrin.features.judge.service import evaluate
from ebbrin.features.levers.service import LEVERS, LeverRefused, UnknownLever, pull
from oracles.builds import edited, linnet, part, plain_build

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
