"""What to pour: for the fill of a job, and for a wanted strength."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.bridge.to_core import COOLANTS
from ebbrin.bridge.units import LITRE, celsius, kelvin
from ebbrin.build.fields import known
from ebbrin.build.part import Part
from ebbrin.core.base import DomainError
from ebbrin.core.media import mixing
from ebbrin.core.media.coolants import (
    Coolant,
    freezing_temperature,
    mass_fraction_from_volume,
)
from ebbrin.features.fit.situation import LEFT_BEHIND_DRAINED, Situation, volume_of
from ebbrin.ground.words import Answer, Text, counted, share, temperature, volume

CONCENTRATE, WATER = " of concentrate", " of distilled or deionised water"
MOST_ROUNDS = 12
LITTLE = 0.05
"""Litres that are shown as none."""
NEAR = 0.01
"""A strength is reached within a point: no refractometer sees less."""
ADVISED = (0.33, 0.60)
"""Common practice: weaker protects too little against rust, stronger carries less heat and freezes earlier again."""
GlycolKind = Literal["ethylene_glycol", "propylene_glycol"]
Share = Annotated[float, Field(ge=0.0, le=1.0)]


@dataclass(frozen=True)
class Poured:
    """What goes in at the fill of a job [L]: in all, and of it concentrate and water where it is mixed; waterless
    coolant and flush fluid; left, what stays behind of before. The share of glycol that is wanted, and what it reaches
    with what stays behind [-], which one fill cannot always bring to it."""

    pours_l: float
    concentrate_l: float | None = None
    water_l: float | None = None
    waterless_l: float | None = None
    flush_l: float | None = None
    left_l: float = 0.0
    wanted: float | None = None
    reaches: float | None = None

    def said(self) -> Text:
        """What is mixed, and what it comes to."""
        parts = [
            (litres, what)
            for litres, what in ((self.concentrate_l, CONCENTRATE), (self.water_l, WATER))
            if litres is not None and litres >= LITTLE
        ]
        if not parts:
            return ["Concentrate and distilled or deionised water, mixed before it goes in."]
        amounts: list[Text] = [[volume(litres), what] for litres, what in parts]
        mixed: Text = [*amounts[0], " and ", *amounts[1]] if len(amounts) == 2 else [*amounts[0], " alone"]
        if self.wanted is None or self.reaches is None:
            return [*mixed, "."]
        before = ", mixed before it goes in." if len(amounts) == 2 else "."
        comes: Text = [
            " makes " if len(amounts) == 1 else " make ",
            share(self.reaches),
            " with what stays behind",
        ]
        if abs(self.reaches - self.wanted) <= NEAR:
            apart = sum(litres for litres, _ in parts) - self.pours_l > 2.0 * LITTLE
            return [*mixed, *comes, before, *([" Mixed they take up less room than apart."] if apart else [])]
        lacks = (
            "a flush first takes out what is too strong"
            if self.reaches > self.wanted
            else "more of what is in there has to come out first"
        )
        return [*mixed, *comes, ", where ", share(self.wanted), f" is wanted: {lacks}."]


def for_the_fill(so: Situation) -> Poured:
    """What the fill of a job takes, from volume, strength and what draining leaves behind."""
    coolant, old = so.chosen.coolant, so.standing.coolant
    litres = volume_of(so.chosen)
    if "fills" not in so.holds or "partial" in so.holds:
        return Poured(0.0)  # a part is caught and goes in again: see core/fit/places.must_go
    left = so.left_l
    if coolant.kind == "waterless":
        # After the flush fluid what stays behind is that: it is waterless, too.
        flush = litres if "waterless_new" in so.holds else None
        return Poured(litres - left, waterless_l=litres - left, flush_l=flush, left_l=left)
    if coolant.kind == "water":
        return Poured(litres - left, 0.0, litres - left, left_l=left)
    kind = COOLANTS[coolant.kind]
    wanted = known(coolant, "glycol_vol_share")
    # What a flush leaves behind is water.
    before = known(old, "glycol_vol_share") if old.kind == coolant.kind and "flush" not in so.holds else 0.0
    needed = float(mixing.refill_for(kind, LITRE * litres, before, LITRE * (litres - left), wanted))
    poured = min(max(needed, 0.0), 1.0)
    concentrate, water = parts_of(kind, litres - left, poured)
    reaches = float(
        mixing.strength_after_refill(kind, LITRE * litres, before, LITRE * (litres - left), poured)
    )
    return Poured(litres - left, concentrate, water, left_l=left, wanted=wanted, reaches=reaches)


def parts_of(kind: int, litres: float, strength: float) -> tuple[float, float]:
    """Concentrate and water that make so many litres of a strength [L]; above what the tables of mixes hold the volumes
    are taken to add."""
    if strength <= 0.70:
        parts = mixing.parts_for(kind, LITRE * litres, strength)
        return float(parts.concentrate) / LITRE, float(parts.water) / LITRE
    return strength * litres, (1.0 - strength) * litres


class MixQuestion(Part):
    """A fill, and the strength that is wanted."""

    kind: Annotated[GlycolKind, Field(title="Kind of glycol")] = "ethylene_glycol"
    volume_l: Annotated[float, Field(ge=0.1, le=200, title="Fill", description="All coolant in the system.")]
    now_share: Annotated[Share, Field(title="Strength now", description="Glycol by volume, 0 for water.")]
    want_share: Annotated[
        float, Field(ge=0.0, le=0.70, title="Strength wanted", description="Glycol by volume.")
    ]
    drained_l: Annotated[float | None, Field(gt=0.0, le=200, title="Drained")] = None
    drained_share: Annotated[float | None, Field(gt=0.0, le=1.0, title="Drained, share of the fill")] = None
    product_share: Annotated[
        float,
        Field(
            ge=0.0,
            le=1.0,
            title="What is poured",
            description="1 for concentrate, 0.5 for half and half ready mixed, 0 for water.",
        ),
    ] = 1.0
    coldest_c: Annotated[
        float | None, Field(ge=-60, le=60, title="Coldest air", description="That the fill must stand.")
    ] = None

    @model_validator(mode="after")
    def drained_once(self) -> Self:
        """Drained litres or their share, not both, and not more than there is."""
        if self.drained_l is not None and self.drained_share is not None:
            raise PydanticCustomError("drained_l", "Say drained litres or their share, not both", {})
        if self.drained_l is not None and self.drained_l > self.volume_l:
            raise PydanticCustomError(
                "drained_l", "Only {volume} L are in it; no more can be drained", {"volume": self.volume_l}
            )
        return self

    @property
    def drained(self) -> float | None:
        """Drained litres, None where nobody said."""
        return self.drained_share * self.volume_l if self.drained_share is not None else self.drained_l


class Round(Answer):
    """The fill after one round of draining and filling up."""

    round: int
    strength: float
    freezes_c: float | None


class Mix(Answer):
    """What to pour."""

    lead: Text
    possible: bool = Field(description="With what is drained; true where nobody said how much that is.")
    drained_l: float = Field(description="As asked, or the least that reaches it with what is poured.")
    concentrate_l: float | None = Field(
        description="In what is poured for what is drained, a ready mix counted; null where it cannot be reached."
    )
    water_l: float | None
    comes_to: float | None = Field(
        description="Strength that the fill comes to at best with what is drained."
    )
    freezes_now_c: float | None = Field(
        description="Null above what is tabled: past the eutectic it rises again."
    )
    freezes_wanted_c: float | None
    frost: Text = Field(
        default=[], description="What the coldest air asks for where the fill would freeze in it."
    )
    least_drained_l: float | None = Field(
        description="With the product alone; null where it cannot reach it at all."
    )
    weakest: float = Field(description="What can be reached with what is drained, water poured.")
    strongest: float = Field(description="Pure concentrate poured.")
    rounds: list[Round] = Field(description="Draining as much each time and pouring the product.")
    notes: list[Text]


def mix(question: MixQuestion) -> Mix:
    """What to pour for a wanted strength; an impossible wish is answered with what is possible."""
    kind, volume = COOLANTS[question.kind], LITRE * question.volume_l
    now, want, product = question.now_share, question.want_share, question.product_share
    least = _least(kind, volume, now, want, product)
    drained = question.drained
    taken = LITRE * drained if drained is not None else least if least is not None else volume
    if taken < 1e-6:
        taken = 0.0
    weakest, strongest = (
        float(mixing.strength_after_refill(kind, volume, now, taken, end)) for end in (0.0, 1.0)
    )
    possible = weakest - NEAR <= want <= strongest + NEAR
    concentrate = water = None
    comes_to = want if possible else (strongest if want > strongest else weakest)
    if possible and taken > 0.0:
        strength = float(np.clip(mixing.refill_for(kind, volume, now, taken, want), 0.0, 1.0))
        concentrate, water = parts_of(kind, taken / LITRE, strength)
        comes_to = float(mixing.strength_after_refill(kind, volume, now, taken, strength))
    elif possible:
        concentrate = water = 0.0
    rounds = _rounds(kind, volume, now, want, taken, product)
    poured = _poured(kind, concentrate or 0.0, water or 0.0, product)
    return Mix(
        lead=_lead(question, taken / LITRE, possible, comes_to, (weakest, strongest), poured, least),
        possible=possible,
        drained_l=taken / LITRE,
        concentrate_l=concentrate,
        water_l=water,
        comes_to=comes_to,
        freezes_now_c=freezes(kind, now),
        freezes_wanted_c=freezes(kind, want),
        frost=_frost(kind, want, question.coldest_c),
        least_drained_l=None if least is None else least / LITRE,
        weakest=weakest,
        strongest=strongest,
        rounds=rounds,
        notes=_notes(question, rounds, sum(litres for litres, _ in poured) - taken / LITRE, taken / LITRE),
    )


def _least(kind: int, volume: float, now: float, want: float, product: float) -> float | None:
    """The least that must be drained for one fill with the product to reach it [m³]."""
    if abs(now - want) < 1e-12:
        return 0.0
    try:
        return float(mixing.drain_for(kind, volume, now, want, product))
    except DomainError:
        return None


def freezes(kind: int, strength: float) -> float | None:
    """Freezing point [°C] of a strength by volume [-]; None above what its source was fitted to: past the eutectic it rises again."""
    if strength > float(mixing.strongest_fitted(kind)) + 1e-9:
        return None
    x = mass_fraction_from_volume(strength, kind)
    return celsius(freezing_temperature(Coolant(np.asarray(kind), x)))


def _frost(kind: int, want: float, coldest: float | None) -> Text:
    """What to take instead where a wanted strength [-] would freeze in the coldest air [°C]."""
    point = freezes(kind, want)
    if coldest is None or point is None or point <= coldest:
        return []
    near = "just above" if round(point) == round(coldest) else "above"
    text: Text = ["It freezes at ", temperature(point), f", {near} the coldest air, ", temperature(coldest)]
    try:
        least = float(mixing.strength_at_freezing(kind, kelvin(coldest)))
    except DomainError:
        return [*text, "; no mix of this kind stands that."]
    return [*text, ": take ", share(ceil(100.0 * least) / 100.0), " or more."]


def _rounds(kind: int, volume: float, now: float, want: float, drained: float, product: float) -> list[Round]:
    # What is no nearer to what is wanted than the fill takes it there in no round.
    if (
        drained <= 0.0
        or drained >= volume
        or abs(now - want) <= NEAR
        or (product - now) * (want - now) <= 0.0
    ):
        return []
    shares = mixing.series(kind, volume, now, drained, product, MOST_ROUNDS)
    found = []
    for number, strength in enumerate(shares, 1):
        found.append(Round(round=number, strength=float(strength), freezes_c=freezes(kind, float(strength))))
        there = (strength - want) * (now - want) <= 0.0 or abs(strength - want) <= NEAR
        if there or abs(strength - product) < 0.5 * NEAR:
            break
    return found


def _lead(
    question: MixQuestion,
    drained: float,
    possible: bool,
    comes_to: float,
    ends: tuple[float, float],
    poured: Sequence[tuple[float, str]],
    least: float | None,
) -> Text:
    want = share(question.want_share)
    little = drained < LITTLE
    same = abs(question.now_share - question.want_share) < 0.005
    if possible and (drained <= 0.0 or (same and drained < 2.0 * LITTLE)):
        return ["It has ", want, " already."]
    if possible:
        # What is shown as none is none, but for the largest of such.
        least_shown = min(LITTLE, max(litres for litres, _ in poured))
        text: Text = ["Drain ", volume(drained), ", pour in "]
        for n, (litres, what) in enumerate(one for one in poured if one[0] >= least_shown):
            text += [" and "] * (n > 0) + [volume(litres), what]
        return [*text, ": it comes to ", share(comes_to), "."]
    weakest, strongest = ends
    too_strong = question.want_share > strongest
    best: Text = (
        ["even pure concentrate gives ", share(strongest)]
        if too_strong
        else ["even pure water leaves ", share(weakest)]
    )
    taken: Text = ["next to nothing"] if little else [volume(drained)]
    text = ["With ", *taken, " drained ", *best, ", not ", want, "."]
    product = 1.0 if too_strong else 0.0
    needs = _least(
        COOLANTS[question.kind], LITRE * question.volume_l, question.now_share, question.want_share, product
    )
    if needs is not None:
        text += [
            " Drain ",
            volume(needs / LITRE),
            " at least",
            " and pour concentrate." if too_strong else " and pour water.",
        ]
    elif least is None:
        text += [" It cannot be reached by pouring."]
    return text


def _poured(kind: int, concentrate: float, water: float, product: float) -> list[tuple[float, str]]:
    """What is poured in and how much of each [L], out of a ready mix as far as that goes."""
    parts = [(concentrate, CONCENTRATE), (water, WATER)]
    if not 0.0 < product < 1.0:
        return parts
    in_one = parts_of(kind, 1.0, product)
    ready = min(litres / there for (litres, _), there in zip(parts, in_one, strict=True))
    besides = [(litres - ready * there, what) for (litres, what), there in zip(parts, in_one, strict=True)]
    return [(ready, " of the ready mix"), *besides]


def _notes(question: MixQuestion, rounds: list[Round], apart: float, taken: float) -> list[Text]:
    notes: list[Text] = []
    if taken > (1.0 - LEFT_BEHIND_DRAINED) * question.volume_l:
        notes.append(
            [
                "Draining leaves 10 to 40 % behind in block and heater [common practice]: so much comes out only with the block drains open, or in more than one round."
            ]
        )
    if apart > LITTLE:
        notes.append(["Mixed, glycol and water take up less room than apart: the sum is meant."])
    low, high = ADVISED
    if question.want_share < low:
        notes.append(["Below ", share(low), " most makers' rust protection is too thin [common practice]."])
    if question.want_share > high:
        notes.append(
            ["Above ", share(high), " it carries less heat and freezes earlier again [common practice]."]
        )
    if (
        rounds
        and abs(rounds[-1].strength - question.want_share) > NEAR
        and ((rounds[-1].strength - question.want_share) * (question.now_share - question.want_share) > 0.0)
    ):
        notes.append(
            [
                "With what is poured even ",
                f"{counted(len(rounds), 'round only comes', 'rounds only come')} to ",
                share(rounds[-1].strength),
                f": take a {'stronger' if question.want_share > question.now_share else 'weaker'} product.",
            ]
        )
    notes.append(
        [
            "Concentrate counts as pure glycol; what is sold holds a few per cent of water and additives. Measure once it has run warm."
        ]
    )
    return notes
