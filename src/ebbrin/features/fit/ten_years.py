"""Ten years of coolant: what each way comes to in litres, money and work."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ebbrin.build.part import Part
from ebbrin.build.parts import Coolant
from ebbrin.features.fit.situation import LEFT_BEHIND
from ebbrin.features.fit.waterless import MOST_WATER
from ebbrin.features.shelf import PRICES, fill_price
from ebbrin.ground.words import Answer, Text, share

YEARS = 10


class YearsQuestion(Part):
    """A system, and the strength that a mix would have."""

    volume_l: Annotated[float, Field(gt=0.1, le=200, title="Fill")]
    strength: Annotated[float, Field(ge=0.0, le=0.70, title="Strength")] = 0.5


class TenYears(Answer):
    """One way of keeping a system filled."""

    way: str
    every_years: int | None = Field(description="Years between changes; null where it is filled once.")
    fills: int = Field(description="In ten years, the first one counted.")
    litres: float
    flushes: int
    price: float = Field(description="In the shelf's money, by rough figures.")
    text: Text


WAYS: tuple[tuple[str, int | None, str], ...] = (
    ("Water with a wetting additive", 1, "Each season anew, and out before the frost: it freezes."),
    ("Glycol mix with silicates", 2, "Its protection is used up after two years."),
    ("Glycol mix with organic acids", 5, "Five years, where nothing else was mixed in."),
    (
        "Waterless",
        None,
        "Once. On the road only water may be at hand: a loss made up with it means drain and flush anew.",
    ),
)
"""Intervals are common practice; a maker's own word comes first."""


def ten_years(question: YearsQuestion) -> list[TenYears]:
    """Each way over ten years. What draining leaves behind is not bought again, but for the first fill."""
    volume, fresh = question.volume_l, (1.0 - LEFT_BEHIND) * question.volume_l
    found = []
    for way, every, says in WAYS:
        fills = 1 if every is None else YEARS // every
        litres = volume + (fills - 1) * fresh
        if every is None:
            price = fill_price(Coolant(kind="waterless"), volume)
            text: Text = [says, " Water must stay below ", share(MOST_WATER), "."]
        elif every == 1:
            price = litres * PRICES["water"] + fills * PRICES["additive"]
            text = [says]
        else:
            mixed = Coolant(kind="ethylene_glycol", glycol_vol_share=question.strength)
            price, text = fill_price(mixed, litres), [says]
        found.append(
            TenYears(
                way=way,
                every_years=every,
                fills=fills,
                litres=litres,
                flushes=1 if every is None else fills - 1,
                price=round(price, 2),
                text=text,
            )
        )
    return found
