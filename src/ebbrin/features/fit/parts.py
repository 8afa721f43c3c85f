"""Parts and materials of a job: what to get, what moves over, what must be adapted, how much of it and why."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil
from typing import Any

from pydantic import Field

from ebbrin.build.build import Build, Variant
from ebbrin.build.fan import Fan
from ebbrin.build.fields import known
from ebbrin.build.parts import Cap, Circuit, Radiator, Thermostat
from ebbrin.features.fit.materials import Kind, Line, electrics, materials, small_parts
from ebbrin.features.fit.mixing import for_the_fill
from ebbrin.features.fit.plan import plan_of
from ebbrin.features.fit.situation import School, Situation, Slot, fitted, run_out_of, situation, volume_of
from ebbrin.features.shelf import (
    PRICES,
    ROUGH,
    ShelfKind,
    ShelfPart,
    core_estimate,
    is_still,
    nearest_price,
    of_kind,
)
from ebbrin.ground.words import Answer, Text, capital, length, pressure, temperature, volume

SCHOOLS: tuple[School, ...] = ("bad", "usual", "all")
Shelved = Radiator | Fan | Circuit | Thermostat | Cap
"""What a build can take from the shelf at a price of its own."""


class PartLine(Answer):
    """One line of the list."""

    id: str = Field(description="The same for the same thing in every list of the build.")
    kind: Kind
    title: str
    amount: Text
    why: Text
    price: float | None = Field(
        description="Of it all, in the workshop's money; null for what costs nothing or is unknown."
    )
    source: str = Field(description="Where the price comes from.")
    schools: list[School] = Field(description="In which schools the line is.")


class PartsList(Answer):
    """Parts and materials of a job by one school."""

    school: School
    does: Text
    lines: list[PartLine]
    total: float
    totals: dict[School, float] = Field(description="Sum of each school.")
    unpriced: list[str] = Field(
        default=[], description="What is to be bought at a price that nobody knows: it is in no sum."
    )


def parts_list(build: Build, chosen: str, school: School, shelf: Sequence[ShelfPart]) -> PartsList:
    """Parts and materials of a job, with the sums of all schools.

    Raises
    ------
    UnknownVariant
    """
    by_school = {name: _lines(situation(build, chosen, name), shelf) for name in SCHOOLS}
    mine = by_school[school]
    within = {name: {line.id for line in lines} for name, lines in by_school.items()}
    return PartsList(
        school=school,
        does=plan_of(situation(build, chosen, school)).does,
        lines=[
            PartLine(
                id=line.id,
                kind=line.kind,
                title=line.title,
                amount=line.amount,
                why=line.why,
                price=None if line.price is None else round(line.price, 2),
                source=line.source,
                schools=[name for name in SCHOOLS if line.id in within[name]],
            )
            for line in mine
        ],
        total=_sum(mine),
        totals={name: _sum(lines) for name, lines in by_school.items()},
        unpriced=[line.title for line in mine if line.price is None and line.kind in ("buy", "material")],
    )


def _sum(lines: Sequence[Line]) -> float:
    return round(sum(line.price or 0.0 for line in lines), 2)


def _lines(so: Situation, shelf: Sequence[ShelfPart]) -> list[Line]:
    lines = [
        *_new_parts(so, shelf),
        *_moved(so),
        *small_parts(so),
        *materials(so, for_the_fill(so)),
        *electrics(so),
        *_kept(so),
    ]
    if "drains" in so.holds:
        litres = float(ceil(1.2 * volume_of(so.standing)))
        lines.append(
            Line(
                "basin",
                "tool",
                "Catch basin",
                [volume(litres), " or more"],
                ["It has to hold the whole fill."],
            )
        )
    return lines


def _new_parts(so: Situation, shelf: Sequence[ShelfPart]) -> list[Line]:
    found: list[Line] = []
    v = so.chosen
    texts: dict[Slot, tuple[str, Text]] = {
        "radiator": ("Radiator", _size(v)),
        "fan": (
            "Fan",
            ["two of " if v.air.fan.count == 2 else "one of ", length(known(v.air.fan, "diameter_mm"))],
        ),
        "shroud": (
            "Shroud",
            [{"ring": "a ring around the fan", "full": "over the whole core"}.get(v.air.shroud, "none")],
        ),
        "pump": ("Coolant pump", ["one"]),
        "thermostat": ("Thermostat", ["opens at ", temperature(known(v.thermostat, "opens_c"))]),
        "fan_switch": ("Fan switch", ["on at ", temperature(known(v.fan_switch, "on_c"))]),
        "cap": ("Pressure cap", [pressure(known(v.cap, "pressure_kpa"))])
        if known(v.cap, "pressure_kpa") > 0.0
        else ("Cap", ["one that holds no pressure"]),
    }
    for slot, (title, amount) in texts.items():
        why = so.new.get(slot)
        if why is None or not fitted(slot, v):
            continue
        price, source = _price(slot, v, shelf)
        found.append(Line(slot, "buy", title, amount, [capital(why), "."], price, source))
    return found


def _size(variant: Variant) -> Text:
    width, height, depth = _sides(variant)
    if width is None or height is None or depth is None:
        return ["its size is not known yet"]
    return [length(width), " × ", length(height), " × ", length(depth)]


def _price(slot: Slot, variant: Variant, shelf: Sequence[ShelfPart]) -> tuple[float | None, str]:
    if slot == "shroud":
        return PRICES[f"shroud_{variant.air.shroud}"], ROUGH
    if slot == "fan_switch":
        return PRICES["switch"], ROUGH
    parts: dict[str, tuple[ShelfKind, Shelved, dict[str, Any]]] = {
        "radiator": (
            "radiator",
            variant.radiator,
            {name: getattr(variant.radiator, name) for name in ("width_mm", "height_mm", "depth_mm")},
        ),
        "fan": (
            "fan",
            variant.air.fan,
            {
                "kind": variant.air.fan.kind,
                "fans": variant.air.fan.fans,
                "diameter_mm": known(variant.air.fan, "diameter_mm"),
            },
        ),
        "pump": (
            "pump",
            variant.circuit,
            {"pump_drive": variant.circuit.pump_drive, "run_out_l_per_min": run_out_of(variant)},
        ),
        "thermostat": (
            "thermostat",
            variant.thermostat,
            {"opens_c": known(variant.thermostat, "opens_c")},
        ),
        "cap": ("cap", variant.cap, {"pressure_kpa": known(variant.cap, "pressure_kpa")}),
    }
    kind, part, values = parts[slot]
    ref = part.from_shelf
    own = next((p for p in shelf if ref is not None and p.id == ref.id and p.price is not None), None)
    if own is not None and not is_still(own, part.model_dump(mode="json")):
        own = None  # taken from there and changed since
    if own is not None:
        return own.price, f"the shelf: {own.name}"
    made = _made(variant.radiator, shelf) if slot == "radiator" else None
    if made is not None:
        return made
    near = nearest_price(shelf, kind, values)
    if near is None:
        return None, "no price known"
    return near[1], f"the nearest on the shelf: {near[0].name}"


def _made(radiator: Radiator, shelf: Sequence[ShelfPart]) -> tuple[float, str] | None:
    """Price of a core that the shelf does not hold, as a sizing has it; None for one that it holds, or of no size, and
    where its cores tell nothing."""
    held = any(
        all(getattr(radiator, name) == value for name, value in part.values.items())
        for part in of_kind(shelf, "radiator")
    )
    guess = core_estimate(shelf, radiator.core_type)
    if held or guess is None or None in (radiator.width_mm, radiator.height_mm, radiator.depth_mm):
        return None
    return float(round(guess.price_of(radiator))), "made to measure, by the shelf's cores"


def _moved(so: Situation) -> list[Line]:
    """What moves over to the new part, and what has to be made to fit."""
    if "radiator" not in so.holds:
        return []
    found = []
    if "feet" in so.holds:
        found.append(
            Line("feet", "move", "Rubber feet", ["the old ones"], ["Hard or torn ones are renewed."])
        )
    if "sensor" in so.holds:
        found.append(
            Line("sensor", "move", "Sensor of the radiator", ["the old one"], ["With a new seal ring."])
        )
    found.append(
        Line(
            "brackets",
            "move",
            "Brackets and bolts",
            ["the old ones"],
            ["Compare them with the new core first."],
        )
    )
    if "fan" in so.holds and "fan" not in so.new:
        found.append(Line("fan_over", "move", "Fan", ["the old one"], ["It stays; only the core changes."]))
    if "shroud" in so.holds and "shroud" not in so.new:
        adapt = _sides(so.standing) != _sides(so.chosen)
        found.append(
            Line(
                "shroud_over",
                "adapt",
                "Shroud",
                ["the old one"],
                ["It was made for another core: extend or trim it so that no air goes round."],
            )
            if adapt
            else Line("shroud_over", "move", "Shroud", ["the old one"], ["It fits the new core."])
        )
    if _sides(so.standing) != _sides(so.chosen):
        found.append(
            Line(
                "tray",
                "adapt",
                "Feet, tray and upper support",
                ["to the new size"],
                ["The core is of another size."],
            )
        )
        found.append(
            Line(
                "hose_ends",
                "adapt",
                "Hose ends",
                ["check both"],
                ["The ports of another core seldom stand where the old ones did."],
            )
        )
    return found


def _sides(variant: Variant) -> tuple[float | None, float | None, float | None]:
    return variant.radiator.width_mm, variant.radiator.height_mm, variant.radiator.depth_mm


def _kept(so: Situation) -> list[Line]:
    """What stays as it is, so that nobody buys it twice."""
    same = "It is the same in both variants." if so.standing.id != so.chosen.id else "It stays."
    words: dict[Slot, str] = {
        "radiator": "Radiator",
        "fan": "Fan",
        "thermostat": "Thermostat",
        "cap": "Pressure cap",
        "pump": "Coolant pump",
    }
    found = []
    for slot, title in words.items():
        gone = slot in so.new or (
            slot == "fan" and ("radiator" in so.holds or so.chosen.air.fan.kind == "none")
        )
        if (
            gone
            or (slot == "cap" and "pressure" not in so.holds)
            or (slot == "pump" and so.chosen.circuit.pump_drive == "none")
        ):
            continue
        found.append(Line(f"keep_{slot}", "keep", title, ["the one that is there"], [same]))
    return found
