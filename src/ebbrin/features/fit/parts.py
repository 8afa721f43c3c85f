"""Parts and materials of a job: what to get, what moves over, what must be adapted, how much of it and why."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Literal

from pydantic import Field

from ebbrin.build.build import Build, Variant
from ebbrin.build.fields import known
from ebbrin.build.part import ShelfRef
from ebbrin.core.fit.wiring import fuse_for, wire_for
from ebbrin.features.fit.mixing import Poured, for_the_fill
from ebbrin.features.fit.plan import plan_of
from ebbrin.features.fit.prices import PRICES, ROUGH
from ebbrin.features.fit.situation import School, Situation, Slot, situation, volume_of
from ebbrin.features.shelf import ShelfKind, ShelfPart, priced_nearest
from ebbrin.ground.words import Answer, Measure, Text, length, pressure, printed, share, temperature, volume

SPARE = 1.10
"""Materials are bought with a tenth more (common practice)."""
RATED_VOLTS = 13.5
Kind = Literal["buy", "move", "adapt", "keep", "material", "tool"]
SCHOOLS: tuple[School, ...] = ("bad", "usual", "all")


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


@dataclass(frozen=True)
class _Line:
    id: str
    kind: Kind
    title: str
    amount: Text
    why: Text
    price: float | None = None
    source: str = ""


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
    )


def _sum(lines: Sequence[_Line]) -> float:
    return round(sum(line.price or 0.0 for line in lines), 2)


def _lines(so: Situation, shelf: Sequence[ShelfPart]) -> list[_Line]:
    lines = [
        *_new_parts(so, shelf),
        *_moved(so),
        *_small_parts(so),
        *_materials(so, for_the_fill(so)),
        *_electrics(so),
        *_kept(so),
    ]
    if "drains" in so.holds:
        litres = float(ceil(1.2 * volume_of(so.standing)))
        lines.append(
            _Line(
                "basin",
                "tool",
                "Catch basin",
                [volume(litres), " or more"],
                ["It has to hold the whole fill."],
            )
        )
    return lines


def _new_parts(so: Situation, shelf: Sequence[ShelfPart]) -> list[_Line]:
    found: list[_Line] = []
    v = so.chosen
    texts: dict[Slot, tuple[str, Text]] = {
        "radiator": ("Radiator", _size(v)),
        "fan": (
            "Fan",
            ["two of " if v.air.fan.fans == "two" else "one of ", length(known(v.air.fan, "diameter_mm"))],
        ),
        "shroud": (
            "Shroud",
            [{"none": "none", "ring": "a ring around the fan", "full": "over the whole core"}[v.air.shroud]],
        ),
        "pump": ("Coolant pump", ["one"]),
        "thermostat": ("Thermostat", ["opens at ", temperature(known(v.thermostat, "opens_c"))]),
        "fan_switch": ("Fan switch", ["on at ", temperature(known(v.fan_switch, "on_c"))]),
        "cap": ("Pressure cap", [pressure(known(v.cap, "pressure_kpa"))]),
    }
    for slot, (title, amount) in texts.items():
        why = so.new.get(slot)
        if (
            why is None
            or (slot == "shroud" and v.air.shroud == "none")
            or (slot == "fan" and v.air.fan.kind == "none")
        ):
            continue
        if slot == "fan_switch" and v.air.fan.kind != "electric":
            continue
        price, source = _price(slot, v, shelf)
        found.append(_Line(slot, "buy", title, amount, [_capital(why), "."], price, source))
    return found


def _size(variant: Variant) -> Text:
    width, height, depth = _sides(variant)
    if width is None or height is None or depth is None:
        return ["its size is not known yet"]
    return [length(width), " × ", length(height), " × ", length(depth)]


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _price(slot: Slot, variant: Variant, shelf: Sequence[ShelfPart]) -> tuple[float | None, str]:
    if slot == "shroud":
        return PRICES[f"shroud_{variant.air.shroud}"], ROUGH
    if slot == "fan_switch":
        return PRICES["switch"], ROUGH
    parts: dict[str, tuple[ShelfKind, ShelfRef | None, dict[str, float | None]]] = {
        "radiator": (
            "radiator",
            variant.radiator.from_shelf,
            {name: getattr(variant.radiator, name) for name in ("width_mm", "height_mm", "depth_mm")},
        ),
        "fan": ("fan", variant.air.fan.from_shelf, {"diameter_mm": known(variant.air.fan, "diameter_mm")}),
        "pump": (
            "pump",
            variant.circuit.from_shelf,
            {"run_out_l_per_min": variant.circuit.run_out_l_per_min},
        ),
        "thermostat": (
            "thermostat",
            variant.thermostat.from_shelf,
            {"opens_c": known(variant.thermostat, "opens_c")},
        ),
        "cap": ("cap", variant.cap.from_shelf, {"pressure_kpa": known(variant.cap, "pressure_kpa")}),
    }
    kind, ref, values = parts[slot]
    own = next((p for p in shelf if ref is not None and p.id == ref.id and p.price is not None), None)
    if own is not None:
        return own.price, f"the shelf: {own.name}"

    def far(part: ShelfPart) -> float | None:
        if slot == "fan" and part.values.get("kind") != variant.air.fan.kind:
            return None
        away = 0.0
        for name, value in values.items():
            there = part.values.get(name)
            if value is None or there is None:
                return None
            away += abs(there - value) / max(abs(value), 1.0)
        return away

    near = priced_nearest(shelf, kind, far)
    if near is None or near.price is None:
        return None, "no price known"
    count = 2 if slot == "fan" and variant.air.fan.fans == "two" else 1
    return count * near.price, f"the nearest on the shelf: {near.name}"


def _moved(so: Situation) -> list[_Line]:
    """What moves over to the new part, and what has to be made to fit."""
    if "radiator" not in so.holds:
        return []
    found = []
    if "feet" in so.holds:
        found.append(
            _Line("feet", "move", "Rubber feet", ["the old ones"], ["Hard or torn ones are renewed."])
        )
    if "sensor" in so.holds:
        found.append(
            _Line("sensor", "move", "Sensor of the radiator", ["the old one"], ["With a new seal ring."])
        )
    found.append(
        _Line(
            "brackets",
            "move",
            "Brackets and bolts",
            ["the old ones"],
            ["Compare them with the new core first."],
        )
    )
    if "fan" in so.holds and "fan" not in so.new:
        found.append(_Line("fan_over", "move", "Fan", ["the old one"], ["It stays; only the core changes."]))
    if "shroud" in so.holds and "shroud" not in so.new:
        adapt = _sides(so.standing) != _sides(so.chosen)
        found.append(
            _Line(
                "shroud_over",
                "adapt",
                "Shroud",
                ["the old one"],
                ["It was made for another core: extend or trim it so that no air goes round."],
            )
            if adapt
            else _Line("shroud_over", "move", "Shroud", ["the old one"], ["It fits the new core."])
        )
    if _sides(so.standing) != _sides(so.chosen):
        found.append(
            _Line(
                "tray",
                "adapt",
                "Feet, tray and upper support",
                ["to the new size"],
                ["The core is of another size."],
            )
        )
        found.append(
            _Line(
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


def _bought(name: str, title: str, amount: Text, why: str, pieces: float) -> _Line:
    return _Line(name, "buy", title, amount, [why], pieces * PRICES[name], ROUGH)


def _small_parts(so: Situation) -> list[_Line]:
    bore = known(so.chosen.circuit, "hose_bore_mm")
    found = []
    if "clamps" in so.also:
        count = 4 + (4 if "hoses" in so.also and so.chosen.circuit.heater else 0)
        found.append(
            _Line(
                "clamps",
                "buy",
                "Hose clamps",
                [f"{count} for hoses of ", length(bore)],
                [_capital(so.also["clamps"]), "."],
                count * PRICES["clamp"],
                ROUGH,
            )
        )
    if "hoses" in so.also:
        found.append(
            _bought(
                "radiator_hoses",
                "Radiator hoses",
                ["two of ", length(bore)],
                _capital(so.also["hoses"]) + ".",
                1,
            )
        )
        if so.chosen.circuit.heater:
            found.append(
                _bought(
                    "heater_hoses",
                    "Heater hoses",
                    ["by the metre, two runs"],
                    _capital(so.also["hoses"]) + ".",
                    1,
                )
            )
    if "belt" in so.also:
        found.append(_bought("belt", "Belt", ["one"], _capital(so.also["belt"]) + ".", 1))
    if "thermostat" in so.new or "pump" in so.new:
        found.append(
            _bought(
                "gasket",
                "Gaskets",
                ["one" if len({"thermostat", "pump"} & so.new.keys()) == 1 else "two"],
                "Old ones do not seal twice.",
                len({"thermostat", "pump"} & so.new.keys()),
            )
        )
        found.append(
            _bought("sealant", "Sealant", ["a small tube"], "For housings without a gasket, and threads.", 1)
        )
    if {"drain_screw", "sensor", "block_drain", "switch_work"} & so.holds and "drains" in so.holds:
        found.append(_bought("seals", "Seal rings", ["an assortment"], "For what is screwed in anew.", 1))
    if "radiator_new" in so.holds:
        found.append(
            _bought(
                "sock",
                "Strainer for the upper hose",
                ["for ", length(bore)],
                "It catches what the old block lets go.",
                1,
            )
        )
    if "front_sealed" in so.also:
        found.append(
            _bought(
                "foam",
                "Closed-cell foam and sheet",
                ["for four sides"],
                _capital(so.also["front_sealed"]) + ".",
                1,
            )
        )
    return found


def _materials(so: Situation, poured: Poured) -> list[_Line]:
    found: list[_Line] = []

    def litres(name: str, title: str, needed: float, why: Text) -> None:
        bought = SPARE * needed
        found.append(_Line(name, "material", title, [volume(bought)], why, bought * PRICES[name], ROUGH))

    if "fills" in so.holds and "partial" not in so.holds:
        left: Text = [volume(poured.left_l), " of the old fill stay behind."]
        if poured.concentrate_l:
            litres(
                "concentrate",
                "Concentrate",
                poured.concentrate_l,
                [
                    "For ",
                    share(known(so.chosen.coolant, "glycol_vol_share")),
                    " in ",
                    volume(volume_of(so.chosen)),
                    "; ",
                    *left,
                ],
            )
        if poured.water_l:
            litres(
                "water",
                "Distilled or deionised water",
                poured.water_l,
                ["Tap water leaves lime in the core."],
            )
        if poured.waterless_l:
            litres("waterless", "Waterless coolant", poured.waterless_l, [*left])
        if poured.flush_l:
            litres(
                "flush_fluid",
                "Flush fluid",
                poured.flush_l,
                ["Carries the water out before waterless coolant goes in."],
            )
        if so.chosen.coolant.kind == "water":
            found.append(
                _Line(
                    "additive",
                    "material",
                    "Wetting and rust-protecting additive",
                    ["one bottle"],
                    ["Water alone rusts."],
                    PRICES["additive"],
                    ROUGH,
                )
            )
    if "gearbox" in so.holds and "radiator" in so.holds:
        found.append(
            _Line(
                "gearbox_fluid",
                "material",
                "Gearbox fluid",
                ["about a quarter of a litre; buy one"],
                ["Some runs out with the lines."],
                PRICES["gearbox_fluid"],
                ROUGH,
            )
        )
    return found


def _electrics(so: Situation) -> list[_Line]:
    """Wire, fuse and relay for an electric fan that draws more than the one before."""
    fan, before = so.chosen.air.fan, so.standing.air.fan
    if "fan" not in so.new or fan.kind != "electric":
        return []
    watts = known(fan, "electric_power_w")
    old = known(before, "electric_power_w") if before.kind == "electric" else 0.0
    if watts <= old:
        return []
    fans = 2 if fan.fans == "two" else 1
    amps = watts / RATED_VOLTS / fans
    fuse, wire = fuse_for(amps), wire_for(amps)
    amount: Text = (
        [
            f"{'for each: ' if fans == 2 else ''}fuse {fuse:g} A, wire {wire:g} mm², relay {ceil(1.25 * amps)} A or more"
        ]
        if fuse is not None and wire is not None
        else ["more than one circuit, each with fuse, wire and relay"]
    )
    why: Text = [
        "It draws ",
        Measure(quantity="electric_power", value=watts),
        f" in all, {amps:.0f} A a fan: one relay a fan, the fuse close to the battery, and the fuse protects the wire.",
    ]
    return [
        _Line(
            "wiring", "buy", "Wire, fuse and relay for the fan", amount, why, fans * PRICES["wiring"], ROUGH
        )
    ]


def _kept(so: Situation) -> list[_Line]:
    """What stays as it is, so that nobody buys it twice."""
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
        found.append(
            _Line(
                f"keep_{slot}", "keep", title, ["the one that is there"], ["It is the same in both variants."]
            )
        )
    return found


def as_csv(found: PartsList, currency: str = "") -> str:
    """The list as CSV, quantities in the document's units; what a sheet would take for a formula is made plain text."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(
        ["kind", "part", "amount", "why", f"price{f' [{currency}]' if currency else ''}", "price from"]
    )
    for line in found.lines:
        price = "" if line.price is None else f"{line.price:.2f}"
        table.writerow([line.kind, line.title, printed(line.amount), printed(line.why), price, line.source])
    table.writerow(["", "sum", "", "", f"{found.total:.2f}", ""])
    return out.getvalue()
