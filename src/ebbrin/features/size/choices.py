"""What a sizing may choose from: parts of the shelf, cores made to measure, shrouds, pulleys and coolants."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np

from ebbrin.build.part import Part, ShelfRef
from ebbrin.build.parts import Air, Circuit, Coolant, Radiator
from ebbrin.build.resolve import bounds
from ebbrin.core.base import BoolArray
from ebbrin.features.shelf import PRICES, SLOTS, ShelfPart, core_estimate, fill_price, of_kind, price_of
from ebbrin.features.size.answers import Wishes
from ebbrin.ground.words import Measure, Text

SIDES = (1.0, 0.9, 0.8, 0.7, 0.6)  # choice: of the room's width and height, rounded down to 10 mm
FIN_PITCHES = (1.4, 1.6, 1.8, 2.1)  # common practice: 18, 16, 14 and 12 fins per inch, mm
LOUVRED_ROWS = ((1, 16.0), (1, 26.0), (1, 32.0), (2, 42.0), (2, 56.0), (3, 62.0), (3, 80.0))
PLAIN_ROWS = ((2, 44.0), (3, 66.0), (4, 88.0))
"""Rows and depth [mm] that cores come in; common practice."""
PULLEYS = (0.85, 1.15, 1.3)  # choice: pump ratios over the fitted one
MOST_RATIO = 2.0  # choice: beyond it a belt-driven pump cavitates or throws its belt
FIT = 0.98  # choice: share of the core's side that the fans' diameters may take


@dataclass(frozen=True)
class Choice:
    """One thing to choose: the part of the variant as it would be, what it is called, its price if new, mass [kg], and
    whether nobody wrote its price down."""

    part: Part
    text: Text
    price: float
    new: bool
    mass_kg: float | None = None
    plus: tuple[tuple[str, Text, float, bool], ...] = ()
    """Slot, text, price and whether it is new of what goes with it (fan and shroud are chosen together)."""
    unpriced: bool = False


def _length(value: float, bare: bool = False) -> Measure:
    return Measure(quantity="length", value=value, bare=bare)


def from_shelf(fitted: Part, part: ShelfPart) -> Any:
    """A copy of the ``fitted`` part of a variant with every field that the shelf's part brings, those that it leaves
    out set back to unknown; other fields stay."""
    shelf = SLOTS[part.part]
    model = type(fitted)
    blank = {name: model.model_fields[name].get_default() for name in shelf.fields}
    values = {**fitted.model_dump(), **blank, **part.values}
    values["from_shelf"] = ShelfRef(id=part.id, version=part.version).model_dump()
    return model.model_validate(values)


@dataclass(frozen=True)
class Room:
    """What the core has room for, mm, and the sides that were taken for want of a measurement."""

    width: float
    height: float
    depth: float
    taken: tuple[str, ...]

    def holds(self, radiator: Radiator) -> bool:
        """Whether a core goes in."""
        sides = (
            (radiator.width_mm, self.width),
            (radiator.height_mm, self.height),
            (radiator.depth_mm, self.depth),
        )
        return all((size or 0.0) <= most + 1e-6 for size, most in sides)


def room_of(wishes: Wishes, vehicle: Any, radiator: Radiator) -> Room:
    """From the wishes, else what was measured in the car, else the fitted core."""
    found, taken = [], []
    for side, spare in (("width", 0.0), ("height", 0.0), ("depth", 30.0)):
        asked = getattr(wishes, f"{side}_mm") or getattr(vehicle, f"space_{side}_mm")
        if asked is None:
            taken.append(side)
            asked = float(getattr(radiator, f"{side}_mm")) + spare
        found.append(float(asked))
    width, height, depth = found
    return Room(width, height, depth, tuple(taken))


def _price(shelf: Sequence[ShelfPart], part: ShelfPart) -> tuple[float, bool]:
    """Price of a part of the shelf, 0 where nothing tells, and whether nobody wrote it down."""
    return price_of(shelf, part) or 0.0, part.price is None


def core_text(radiator: Radiator) -> Text:
    """Size, rows and fins."""
    rows = radiator.rows or 1
    sizes: Text = [
        _length(radiator.width_mm or 0.0, True),
        " × ",
        _length(radiator.height_mm or 0.0, True),
        " × ",
        _length(radiator.depth_mm or 0.0),
    ]
    fins: Text = (
        [", fins ", Measure(quantity="fin_pitch", value=radiator.fin_pitch_mm)]
        if radiator.fin_pitch_mm
        else []
    )
    return [*sizes, f", {rows} row{'s' if rows > 1 else ''}", *fins]


def cores(fitted: Radiator, shelf: Sequence[ShelfPart], room: Room, wishes: Wishes) -> list[Choice]:
    """The fitted core, those of the shelf that go in, and cores made to measure of the fitted kind."""
    own = Choice(fitted, ["the core that is fitted, ", *core_text(fitted)], 0.0, False)
    if "radiator" in wishes.keep:
        return [own]
    found = [own] if room.holds(fitted) else []
    if wishes.cores != "made":
        for part in of_kind(shelf, "radiator"):
            radiator = from_shelf(fitted, part)
            if room.holds(radiator):
                price, unpriced = _price(shelf, part)
                found.append(Choice(radiator, [part.name], price, True, part.mass_kg, unpriced=unpriced))
    if wishes.cores != "shelf":
        guess = core_estimate(shelf, fitted.core_type)
        for radiator in _made(fitted, room):
            price = guess.price_of(radiator) if guess else 0.0
            text: Text = ["a core made to measure, ", *core_text(radiator)]
            found.append(
                Choice(
                    radiator,
                    text,
                    round(price),
                    True,
                    guess.mass_of(radiator) if guess else None,
                    unpriced=not guess,
                )
            )
    return found


def clean(radiator: Radiator) -> Radiator:
    """The same core as new, without a test of its own; what lies on its face stays."""
    return radiator.model_copy(
        update={
            "condition": "new",
            "blocked_tubes_share": None,
            "scale_mm": None,
            "test_point": False,
            "from_shelf": None,
        }
    )


def _made(fitted: Radiator, room: Room) -> Iterator[Radiator]:
    plain = fitted.core_type == "plain"
    steps = [(rows, depth) for rows, depth in (PLAIN_ROWS if plain else LOUVRED_ROWS) if depth <= room.depth]
    # A car's room may be more than any core that a build can hold.
    limits = [bounds(Radiator.model_fields[name]) for name in ("width_mm", "height_mm")]
    widths, heights = (
        {10.0 * int(min(most, longest) * side / 10.0) for side in SIDES}
        for most, (_, longest) in zip((room.width, room.height), limits, strict=True)
    )
    least = max(low for low, _ in limits)
    pitches = (fitted.fin_pitch_mm,) if plain else FIN_PITCHES
    base = clean(fitted)
    for width, height, (rows, depth), pitch in product(sorted(widths), sorted(heights), steps, pitches):
        if min(width, height) < least:
            continue
        sizes = {
            "width_mm": width,
            "height_mm": height,
            "depth_mm": depth,
            "rows": rows,
            "fin_pitch_mm": pitch,
        }
        yield base.model_copy(update=sizes)


def airs(fitted: Air, shelf: Sequence[ShelfPart], wishes: Wishes) -> list[Choice]:
    """Fans with each kind of shroud; the fitted fan and shroud first."""
    there: Text = ["the fan that is fitted"] if fitted.fan.kind != "none" else ["no fan"]
    fans: list[tuple[Air, Text, float, bool, bool]] = [(fitted, there, 0.0, False, False)]
    if "fan" not in wishes.keep:
        for part in of_kind(shelf, "fan"):
            if part.values["kind"] == "mechanical" and fitted.fan.kind != "mechanical":
                continue  # there is no shaft to put it on
            air = fitted.model_copy(update={"fan": from_shelf(fitted.fan, part)})
            price, unpriced = _price(shelf, part)
            fans.append((air, [part.name], price, True, unpriced))
    # Without a fan there is nothing that a shroud would lead its air to: what the field says is of before.
    there_is = fitted.shroud if fitted.fan.kind != "none" else "none"
    found = []
    for air, text, price, new, unpriced in fans:
        for shroud in _shrouds(there_is, air, wishes):
            if air.fan.kind == "none":
                bare: Text = ["no shroud"]
                found.append(Choice(air, text, price, new, None, (("shroud", bare, 0.0, False),), unpriced))
                continue
            changed = shroud != there_is
            update: dict[str, Any] = {"shroud": shroud} | (
                {"blade_recirculation_share": None} if changed else {}
            )
            cost = PRICES[f"shroud_{shroud}"] if changed else 0.0
            words: Text = [{"none": "no shroud", "ring": "a ring shroud", "full": "a full shroud"}[shroud]]
            plus = (("shroud", words, cost, changed),)
            found.append(Choice(air.model_copy(update=update), text, price, new, None, plus, unpriced))
    return found


def _shrouds(there_is: str, air: Air, wishes: Wishes) -> tuple[str, ...]:
    if air.fan.kind == "none" or "shroud" in wishes.keep:
        return (there_is,)
    return (there_is, *(kind for kind in ("none", "ring", "full") if kind != there_is))


def go_together(cores: Sequence[Choice], airs: Sequence[Choice]) -> BoolArray:
    """(cores, airs) whether the fans of an air path go onto a core: their discs within its face. What is fitted together
    goes."""
    radiators: list[Any] = [c.part for c in cores]
    paths: list[Any] = [a.part for a in airs]
    fans = [path.fan for path in paths]
    sides = np.array([sorted((r.width_mm or 0.0, r.height_mm or 0.0)) for r in radiators]).reshape(-1, 1, 2)
    discs = np.array([0.0 if f.kind == "none" else (f.diameter_mm or 0.0) * FIT for f in fans])
    rows = discs * [f.count for f in fans]
    fitted = ~np.array([c.new for c in cores], bool)[:, None] & ~np.array([a.new for a in airs], bool)
    return np.asarray(fitted | (np.stack([discs, rows], -1) <= sides).all(-1))


def pumps(fitted: Circuit, ratio: float, wishes: Wishes) -> list[Choice]:
    """The fitted pump, and other pulleys for it. ``ratio`` is what the fitted one has, known or assumed."""
    found = [Choice(fitted, ["the pump that is fitted"], 0.0, False)]
    if "pump" in wishes.keep or fitted.pump_drive != "belt":
        return found
    for factor in PULLEYS:
        changed = round(ratio * factor, 2)
        if changed <= MOST_RATIO:
            circuit = fitted.model_copy(update={"belt_ratio": changed})
            text: Text = ["the pump on a pulley of ratio ", Measure(quantity="ratio", value=changed)]
            found.append(Choice(circuit, text, PRICES["pulley"], True))
    return found


SCHOOLS: dict[str, tuple[str, ...]] = {
    "water": ("water",),
    "glycol": ("ethylene_glycol", "propylene_glycol"),
    "waterless": ("waterless",),
    "any": ("water", "ethylene_glycol", "propylene_glycol", "waterless"),
}


def keeps_coolant(wishes: Wishes) -> bool:
    """Whether no coolant but the one that is in it is allowed."""
    return wishes.coolant == "fitted" or "coolant" in wishes.keep


def coolants(fitted: Coolant, litres: float, shelf: Sequence[ShelfPart], wishes: Wishes) -> list[Choice]:
    """The fitted coolant if its school is wished for, and those of the shelf; one without a price costs what so many
    litres of it do."""
    own = Choice(fitted, ["the coolant that is in it"], 0.0, False)
    if keeps_coolant(wishes):
        return [own]
    wanted = SCHOOLS[wishes.coolant]
    found = [own] if fitted.kind in wanted else []
    for part in of_kind(shelf, "coolant"):
        if part.values["kind"] in wanted:
            coolant = from_shelf(fitted, part)
            price = round(fill_price(coolant, litres)) if part.price is None else part.price
            found.append(Choice(coolant, [part.name], price, True))
    return found
