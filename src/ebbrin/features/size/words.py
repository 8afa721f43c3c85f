"""What a sizing says in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np

from ebbrin.build.parts import Radiator
from ebbrin.core.base import FloatArray
from ebbrin.core.sizing.switching import SwitchingPoints
from ebbrin.features.judge import CaseResult, MeasureFirst
from ebbrin.features.size.answers import SizedPart, Slot, Wishes
from ebbrin.features.size.choices import Choice, Room, core_text
from ebbrin.features.size.specification import length
from ebbrin.ground.words import (
    Measure,
    Text,
    chance,
    difference,
    in_days,
    pressure,
    printed,
    share,
    temperature,
)

CAUTION: Text = [
    "A design aid: tested parts, local codes and a licensed technician come first. Prices are the shelf’s, of these parts alone: what is poured, clamps, gaskets and wiring come on top, see the job’s list. ",
    "Let alternator, wires, relay and fuse of a fan be checked by whoever answers for them.",
]

NOTHING_AT_ALL: Text = ["No combination of these parts holds, and no single wish given up changes that."]
BEST: tuple[Text, ...] = (["most in hand"], ["cheapest"], ["least current"], ["smallest core"])
SLOTS: tuple[Slot, ...] = ("radiator", "fan", "pump", "coolant")
CAUSES = {"air": "more air", "core": "more core", "coolant": "more coolant flow"}
BARELY = 0.5  # K; less is written as nothing
NAMED = 3  # parts that are named before the rest is counted
SEEN = 0.02  # share of the doubt below which an unknown is not named


def begins_over(case: str, start: float, limit: float) -> Text:
    """A timed case that begins at or above its limit [°C]."""
    begins: Text = [case, " begins at ", temperature(start)]
    return [
        *begins,
        ", and its limit is ",
        temperature(limit),
        ": no part changes that. Let it begin cooler.",
    ]


def money(value: float) -> Measure:
    """In the shelf's own money."""
    return Measure(quantity="money", value=value)


def enough(cost: float) -> Measure:
    """A price that suffices as it is said: nobody is sent off with a few cents too little."""
    return money(float(np.ceil(cost - 1e-9)))


def taken(room: Room, found: SwitchingPoints, cap_kpa: float, offered: Sequence[Choice]) -> list[Text]:
    """What was taken for what the wishes leave open, and for prices of what was ``offered``."""
    said: list[Text] = []
    if room.taken:
        sides = " and ".join(room.taken) if len(room.taken) < 3 else "room"
        is_ = "are" if len(room.taken) == 2 else "is"
        said.append([f"The {sides} in the car {is_} not measured: taken ", *sizes(room), "."])
    said.append(
        [
            "The search allows caps up to ",
            pressure(cap_kpa),
            "; each solution then keeps the fitted cap where that does, else takes the lowest.",
        ]
    )
    if not found.openings.size:
        said.append(
            ["No common thermostat opens soon enough and keeps the engine warm: the fitted one stays."]
        )
    if not len(found.pairs):
        said.append(["No common fan switch comes on soon enough: the fitted one stays."])
    return [*said, *prices(offered)]


def prices(offered: Sequence[Choice]) -> Iterator[Text]:
    """What was taken for prices that nobody wrote down."""
    unpriced = {printed(choice.text): choice.price for choice in offered if choice.unpriced}
    for like, names in (
        (
            "that of what is most like it on the shelf",
            [name for name, price in unpriced.items() if price > 0.0],
        ),
        (
            "nothing, for nothing on the shelf tells",
            [name for name, price in unpriced.items() if price <= 0.0],
        ),
    ):
        if names:
            more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
            yield [f"No price is known of {'; '.join(names[:NAMED])}{more}: taken to cost {like}."]


def sizes(room: Room) -> Text:
    """Width, height and depth."""
    return [length(room.width, True), " × ", length(room.height, True), " × ", length(room.depth)]


def titles(costs: FloatArray) -> list[list[Text]]:
    """What each of some combinations (n, 4), smaller being better, is best at; each title goes to one of them."""
    if len(costs) == 0:
        return []
    low, high = costs.min(0), costs.max(0)
    scaled = (costs - low) / np.where(high > low, high - low, 1.0)
    far = (scaled**2).sum(-1)
    found: list[list[Text]] = [[] for _ in costs]
    for k, title in enumerate(BEST):
        if high[k] > low[k]:
            found[int(np.lexsort((far, costs[:, k]))[0])].append(title)
    found[int(np.argmin(far))].append(["the balance"])
    return [said or [["in between"]] for said in found]


def name_of(core: Choice) -> str:
    """What the variant is called, in the document's units."""
    radiator = core.part
    assert isinstance(radiator, Radiator)
    whose = "" if core.new else "fitted "
    return f"Sized: {whose}{radiator.width_mm:.0f} × {radiator.height_mm:.0f} × {radiator.depth_mm:.0f}"


def parts(
    chosen: Sequence[Choice],
    controls: Sequence[tuple[Slot, Text, bool, float]],
    cap: tuple[Text, bool, float],
) -> list[SizedPart]:
    """Every part of a solution, with its price where it is new."""
    found: list[SizedPart] = []
    for slot, choice in zip(SLOTS, chosen, strict=True):
        price = choice.price if choice.new else None
        guessed = choice.new and choice.unpriced
        found.append(SizedPart(slot=slot, text=choice.text, new=choice.new, price=price, unpriced=guessed))
        for beside, text, cost, new in choice.plus:
            found.append(SizedPart(slot=beside, text=text, new=new, price=cost if new else None))
    for slot, text, new, price in controls:
        found.append(SizedPart(slot=slot, text=text, new=new, price=price if new else None))
    found.append(SizedPart(slot="cap", text=cap[0], new=cap[1], price=cap[2] if cap[1] else None))
    return found


HOLDS = {
    (True, True): "thermostat and fan switch hold it there",
    (True, False): "its thermostat holds it there",
    (False, True): "its fan switch holds it there",
    (False, False): "",
}
"""Whether a thermostat and a switched fan hold a case where it is."""


def limit(worst: CaseResult) -> Text:
    """What holds a solution back."""
    if worst.hunt is not None:
        return [
            f"{worst.name} hunts between ",
            temperature(worst.hunt.coldest_c),
            " and ",
            temperature(worst.hunt.hottest_c),
            ".",
        ]
    if worst.margin_k is None:
        return [f"{worst.name} never settles."]
    below: Text = [difference(worst.margin_k)] if worst.margin_k > BARELY else ["just"]
    close: Text = [f"{worst.name} comes closest, ", *below, " below its limit"]
    holds = HOLDS[worst.control == "thermostat", worst.fan_cycles]
    if worst.control == "below_opening":
        holds = "its thermostat stays shut there"
    if holds and worst.timed is None:
        return [*close, f"; {holds}, and a larger part gains nothing."]
    return [*close, f"; there {CAUSES[worst.cause]} helps most." if worst.cause in CAUSES else "."]


def lost(choice: Choice, axis: int, short: float, case: str, air: bool = True) -> Text:
    """Why a combination that is better in something does not hold: ``short`` [K] of what is wanted, where that is colder
    air, whether there is any."""
    what: Text = choice.text if axis != 1 or not choice.plus else [*choice.text, " with ", *choice.plus[0][1]]
    if not np.isfinite(short):
        return ["With ", *what, f", {case} never settles."]
    if not air:
        return ["With ", *what, f", {case} is far too much in any air."]
    if short <= BARELY:
        return ["With ", *what, f", just short in {case}."]
    return ["With ", *what, ", ", difference(short), f" short in {case}."]


def dearer(choice: Choice, gain: float, price: float) -> Text:
    """What more core would buy."""
    return [
        "With ",
        *choice.text,
        ", ",
        difference(gain),
        " more in hand for ",
        money(price),
        " more to pay.",
    ]


def unsure(first: MeasureFirst) -> list[Text]:
    """What a chance hangs on most."""
    return [
        [f"{u.title}: ", share(u.settles), " of the doubt"] for u in first.unknowns[:3] if u.settles > SEEN
    ]


def freezing(coldest_c: float, only_fitted: bool) -> Text:
    """No coolant of the school stands the cold, or not the one that is in it where no other is allowed."""
    return [
        "The coolant that is in it" if only_fitted else "Each of these coolants",
        " freezes in the coldest case, ",
        temperature(coldest_c),
        ": allow another.",
    ]


def no_core(room: Room) -> Text:
    """No core goes in."""
    return ["No core goes into ", *sizes(room), "."]


def chance_too_high(wishes: Wishes, surest: float) -> Text:
    """Combinations hold, but not surely enough."""
    asked = wishes.chance_share if wishes.by == "chance" else 0.5
    if in_days(surest) == in_days(asked):
        return [
            "Combinations come near; the surest of those tried falls just short of that chance: measure what it hangs on."
        ]
    return [
        "Combinations come near; the surest of those tried stays below its limits ",
        chance(surest),
        " instead of ",
        chance(asked),
        ": measure what the chance hangs on.",
    ]


def chance_must_give(short: float, case: str, air: bool) -> Text:
    """How far the best falls short of the chance asked, and whether there is ``air`` so cool."""
    if not air:
        return [
            f"The best that keeps to all else has that chance in no air, however cold: {case} is far too much for it."
        ]
    if short <= BARELY:
        return [f"The best that keeps to all else falls just short of that chance, in {case}."]
    return [
        "The best that keeps to all else has that chance only in air ",
        difference(short),
        f" cooler, set by {case}.",
    ]


def margin_must_give(wishes: Wishes, margin: float, case: str) -> Text:
    """How far the wish for a margin would have to give."""
    if margin < 0.0:
        over: Text = [difference(-margin)] if margin < -BARELY else ["just"]
        return ["The best that keeps to all else is ", *over, f" over its limit in {case}."]
    if wishes.margin_k - margin < 1.0:  # nearer both may be written alike
        return [f"The best that keeps to all else falls just short of that margin, in {case}."]
    left: Text = [difference(margin)] if margin > BARELY else ["none"]
    return [
        "Margin: ", *left, " instead of ", difference(wishes.margin_k), f", set by {case}.",
    ]  # fmt: skip


def must_give(
    wish: Any, before: Wishes, after: Wishes, cost: float, electric_w: float, smallest: Choice
) -> Text:
    """How far one wish would have to give for something to fit."""
    core = smallest.part
    assert isinstance(core, Radiator)
    if wish == "budget":
        return ["Budget: ", enough(cost), " instead of ", money(before.budget or 0.0), "."]
    if wish == "electric":
        watts = Measure(quantity="electric_power", value=float(np.ceil(electric_w - 1e-9)))
        return [
            "Electric power: ",
            watts,
            " instead of ",
            Measure(quantity="electric_power", value=before.electric_w or 0.0),
            ".",
        ]
    if wish == "room":
        return ["Room for a larger core: ", *core_text(core), " would do."]
    if wish == "keep":
        given = next(slot for slot in before.keep if slot not in after.keep)
        return [f"Let the {given.replace('_', ' ')} go: then something fits from ", enough(cost), "."]
    if wish == "cores":
        return [
            "Allow cores from the shelf and made to measure: then something fits from ",
            enough(cost),
            ".",
        ]
    return ["Allow another coolant: then something fits from ", enough(cost), "."]
