"""Chances in words and in per cent: they never say more than is so, and never differ from each other."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.ground.quantities import QUANTITIES
from ebbrin.ground.words import DAYS, Measure, bare, chance, in_days, in_percent, printed, share

CHANCES = st.floats(0.0, 1.0)


def least_of(words: str) -> float:
    """The least chance that the words may be said of."""
    if words == "ninety-nine days in a hundred":
        return 0.99
    if words in ("not one day in a hundred", "less than one day in ten"):
        return 0.0
    if words == "just under even odds":
        return 0.45
    return 0.5 if words == "even odds" else DAYS.index(words.removesuffix(" in ten")) / 10.0


@given(CHANCES)
def test_words_never_say_more_than_is_so(value: float) -> None:
    assert least_of(in_days(value)) <= value + 1e-9


@given(CHANCES, CHANCES)
def test_more_is_never_said_of_less(one: float, other: float) -> None:
    low, high = sorted((one, other))
    assert least_of(in_days(low)) <= least_of(in_days(high))
    assert percent(in_percent(low)) <= percent(in_percent(high))


def percent(text: str) -> float:
    """The number in a text of per cent, half of it where it is below one."""
    found = re.fullmatch(r"(under )?(\d+) %", text)
    assert found is not None, text
    return 0.5 if found[1] else float(found[2])


@given(CHANCES)
def test_per_cent_never_say_more_than_is_so_and_agree_with_the_words(value: float) -> None:
    text = in_percent(value)
    assert percent(text) <= 100.0 * value + 0.5
    if not text.startswith("under"):
        assert percent(text) <= 100.0 * value + 1e-6
        # A reader of both sees one chance: what the words promise is reached in per cent too.
        assert percent(text) >= 100.0 * least_of(in_days(value)) - 1e-9
    assert text not in ("0 %", "100 %")


@pytest.mark.parametrize("edge", [0.01, 0.1, 0.45, 0.5, 0.6, 0.9, 0.99])
def test_an_edge_is_reached_at_the_edge_and_not_before(edge: float) -> None:
    assert in_percent(edge) == f"{round(100 * edge)} %"
    assert in_percent(edge - 1e-6) != in_percent(edge)
    assert in_days(edge - 1e-6) != in_days(edge)


@given(st.sampled_from(sorted(QUANTITIES)), st.floats(-1e4, 1e4))
def test_a_measure_is_printed_with_its_unit_and_decimals_or_bare(quantity: str, value: float) -> None:
    whole = Measure(quantity=quantity, value=value)
    text = printed(["It is ", whole, "."])
    number = printed([bare(whole)])
    known = QUANTITIES[quantity]
    assert text == f"It is {number}{known.unit}."
    assert not re.fullmatch(r"-0(\.0*)?", number)
    said = float(number.replace("\u2212", "-"))
    scaled = 100.0 * value if quantity == "share" else value
    assert abs(said - scaled) <= 0.5 * 10.0**-known.decimals + 1e-6 * abs(scaled)


@pytest.mark.parametrize(
    ("quantity", "value", "said"),
    [("pressure", 0.347, "0.35 kPa"), ("pressure", 0.02, "0.020 kPa"), ("pressure", 0.0, "0 kPa"),
     ("pressure", 12.3, "12 kPa"), ("velocity", 0.04, "0.040 m/s")],
)  # fmt: skip
def test_what_is_slight_is_not_written_as_nothing(quantity: str, value: float, said: str) -> None:
    assert (
        printed([Measure(quantity=quantity, value=value)]).replace("\u202f", " ").replace("\xa0", " ") == said
    )


def test_a_chance_among_words_is_said_in_days() -> None:
    assert printed(["It holds ", chance(0.93), "."]) == "It holds nine days in ten."
    assert printed([share(0.256), " open"]) == "26 % open"
