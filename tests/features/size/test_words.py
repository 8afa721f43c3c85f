"""What a sizing says: no sentence puts the same figure on both sides, and a price or a power that is said is enough."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.build.radiator import Radiator
from ebbrin.demo import demo_builds
from ebbrin.features.judge import CaseResult, evaluate
from ebbrin.features.size import words
from ebbrin.features.size.answers import Wishes
from ebbrin.features.size.choices import Choice
from ebbrin.ground.words import in_days, printed

CORE = Choice(Radiator(width_mm=600, height_mm=400, depth_mm=40), ["600 × 400 × 40 mm"], 410.0, True)
FAN = Choice(CORE.part, ["one fan"], 90.0, True, plus=(("shroud", ["a shroud over the face"], 80.0, True),))


def said_twice(text: str) -> bool:
    """Whether "X instead of X" stands in a sentence."""
    found = re.search(r"(?:: |limits )([^:]+?) instead of ([^:,.]+)", text)
    return found is not None and found[1].split(" ")[0] == found[2].split(" ")[0] and found[1] == found[2]


@given(st.floats(0.5, 0.99), st.floats(0.0, 1.0))
def test_a_chance_too_high_is_never_answered_with_itself(asked: float, below: float) -> None:
    surest = asked * below
    text = printed(words.chance_too_high(Wishes(by="chance", chance_share=asked), surest))
    assert not said_twice(text)
    assert ("just short" in text) == (in_days(surest) == in_days(asked))


@given(st.floats(0.0, 40.0), st.floats(-1.0, 1.0))
def test_a_margin_that_must_give_is_never_answered_with_itself(wanted: float, share: float) -> None:
    margin = wanted * share
    text = printed(words.margin_must_give(Wishes(by="margin", margin_k=wanted), margin, "Hill run"))
    assert not said_twice(text)
    assert text.rstrip(".").endswith("Hill run")
    if margin < 0.0:
        assert "over its limit" in text
    assert not re.search(r"(?<!\d)0 K", text)


@given(st.floats(1.0, 9000.0), st.floats(0.0, 3.0))
def test_a_budget_that_must_give_is_more_than_it_was_and_enough(budget: float, more: float) -> None:
    budget = float(int(budget))
    cost = budget + max(more, 1e-3)
    before = Wishes(budget=budget)
    after = before.model_copy(update={"budget": None})
    text = printed(words.must_give("budget", before, after, cost, 0.0, CORE))
    number = re.fullmatch(r"Budget: (\d+) instead of (\d+)\.", text)
    assert number is not None, text
    assert float(number[1]) >= cost - 1e-6
    assert int(number[1]) > int(number[2]) == budget


@given(st.floats(1.0, 2000.0), st.floats(1e-3, 400.0))
def test_power_that_must_give_is_more_than_it_was_and_enough(limit: float, more: float) -> None:
    limit = float(int(limit))
    before = Wishes(electric_w=limit)
    after = before.model_copy(update={"electric_w": None})
    text = printed(words.must_give("electric", before, after, 0.0, limit + more, CORE))
    number = re.fullmatch(r"Electric power: (\d+) W instead of (\d+) W\.", text)
    assert number is not None, text
    assert float(number[1]) >= limit + more - 1e-6
    assert int(number[1]) > int(number[2]) == limit


@pytest.mark.parametrize(
    ("wish", "after", "said"),
    [
        ("keep", {"keep": ["pump"]}, "Let the fan go: then something fits from 412."),
        ("cores", {}, "Allow cores from the shelf and made to measure: then something fits from 412."),
        ("coolant", {}, "Allow another coolant: then something fits from 412."),
        ("room", {}, "Room for a larger core: "),
    ],
)
def test_what_else_may_give_is_said_with_a_price_that_is_enough(
    wish: str, after: dict[str, list[str]], said: str
) -> None:
    before = Wishes(keep=["fan", "pump"], cores="shelf")
    text = printed(words.must_give(wish, before, before.model_copy(update=after), 411.2, 0.0, CORE))
    assert text.startswith(said)


@given(st.lists(st.tuples(*(st.floats(0.0, 1e3) for _ in range(4))), min_size=1, max_size=8))
def test_each_combination_is_called_something_and_each_best_is_the_best(
    rows: list[tuple[float, ...]],
) -> None:
    costs = np.array(rows)
    found = words.titles(costs)
    assert len(found) == len(costs)
    assert all(found)
    for k, title in enumerate(words.BEST):
        named = [n for n, titles in enumerate(found) if title in titles]
        # None is best where all are alike; else it goes to one that nothing beats in it.
        assert len(named) == (1 if costs[:, k].max() > costs[:, k].min() else 0)
        assert all(costs[n, k] == costs[:, k].min() for n in named)
    assert sum(["the balance"] in titles for titles in found) == 1


def test_no_titles_where_nothing_was_found() -> None:
    assert words.titles(np.empty((0, 4))) == []


@pytest.mark.parametrize(
    ("short", "said"),
    [
        (np.inf, "With one fan with a shroud over the face, Hill run never settles."),
        (0.5, "With one fan with a shroud over the face, just short in Hill run."),
        (0.2, "With one fan with a shroud over the face, just short in Hill run."),
        (4.0, "With one fan with a shroud over the face, 4 K short in Hill run."),
    ],
)
def test_why_a_neighbour_does_not_hold(short: float, said: str) -> None:
    assert printed(words.lost(FAN, 1, short, "Hill run")) == said


def test_what_no_air_is_cold_enough_for_is_not_told_in_kelvins() -> None:
    assert printed(words.lost(FAN, 1, 4e4, "Hill run", False)).endswith(
        "Hill run is far too much in any air."
    )
    assert printed(words.chance_must_give(13.0, "Hill run", True)).endswith(
        "only in air 13 K cooler, set by Hill run."
    )
    assert printed(words.chance_must_give(4e4, "Hill run", False)).endswith(
        "in no air, however cold: Hill run is far too much for it."
    )


def _worst(case: CaseResult, **changes: object) -> str:
    return printed(words.limit(case.model_copy(update=changes)))


def test_what_holds_a_solution_back_is_said_of_the_case_as_it_stands() -> None:
    build = demo_builds()[0]
    case = next(
        c
        for c in evaluate(build, "as-found", levers=False).cases
        if c.hunt is None and c.margin_k is not None
    )
    plain = {"name": "Hill run", "margin_k": 4.0, "timed": None, "hunt": None}
    assert _worst(case, **plain | {"margin_k": None}) == "Hill run never settles."
    at_full = _worst(case, **plain, control="capacity", fan_cycles=False, cause="air")
    assert at_full == "Hill run comes closest, 4 K below its limit; there more air helps most."
    for control, cycles, what in (
        ("thermostat", False, "its thermostat holds it there"),
        ("thermostat", True, "thermostat and fan switch hold it there"),
        ("capacity", True, "its fan switch holds it there"),
        ("below_opening", False, "its thermostat stays shut there"),
    ):
        held = _worst(case, **plain, control=control, fan_cycles=cycles)
        assert (
            held == f"Hill run comes closest, 4 K below its limit; {what}, and a larger part gains nothing."
        )
    just = _worst(case, **plain | {"margin_k": 0.3}, control="capacity", fan_cycles=False, cause="none")
    assert just == "Hill run comes closest, just below its limit."
    silent = _worst(case, **plain, control="capacity", fan_cycles=False, cause="fan_switch")
    assert silent == "Hill run comes closest, 4 K below its limit."


def test_more_core_is_said_with_what_it_brings_and_costs() -> None:
    text = printed(words.dearer(CORE, 2.6, 35.0))
    assert text == "With 600 × 400 × 40 mm, 3 K more in hand for 35 more to pay."
    assert words.name_of(CORE) == "Sized: 600 × 400 × 40"


def test_a_sum_of_parts_that_are_new_alone_has_prices() -> None:
    old = Choice(CORE.part, ["as it is"], 50.0, False)
    chosen = (CORE, FAN, old, old)
    found = words.parts(chosen, [("thermostat", ["82 °C"], False, 20.0)], (["100 kPa"], True, 15.0))
    assert [part.slot for part in found] == [
        "radiator",
        "fan",
        "shroud",
        "pump",
        "coolant",
        "thermostat",
        "cap",
    ]
    assert {part.slot: part.price for part in found if part.price is not None} == {
        "radiator": 410.0,
        "fan": 90.0,
        "shroud": 80.0,
        "cap": 15.0,
    }
    assert all(part.new == (part.price is not None) for part in found)


@given(st.lists(st.tuples(st.booleans(), st.sampled_from([0.0, 90.0])), max_size=9))
def test_every_price_that_nobody_wrote_down_is_told_by_name_or_number(
    parts: list[tuple[bool, float]],
) -> None:
    offered = [replace(CORE, text=[f"core {n}"], unpriced=u, price=p) for n, (u, p) in enumerate(parts)]
    said = [printed(text) for text in words.prices(offered)]
    assert len(said) == len({price for unpriced, price in parts if unpriced})
    told = sum(len(re.findall(r"core \d", text)) for text in said)
    more = sum(int(found[1]) for text in said if (found := re.search(r"and (\d+) more", text)))
    assert told + more == sum(unpriced for unpriced, _ in parts)
    assert all(
        ("costs nothing" in text or "cost nothing" in text) == ("nothing on the shelf" in text)
        for text in said
    )
