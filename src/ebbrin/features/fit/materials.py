"""What a job needs beside its parts: small parts, materials, and the wiring of a stronger fan."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ebbrin.build.fields import known
from ebbrin.features.fit.mixing import Poured
from ebbrin.features.fit.situation import PULLEY_OF, Situation, ratio_of, volume_of
from ebbrin.features.fit.wiring import circuits
from ebbrin.features.shelf import PRICES, ROUGH
from ebbrin.ground.words import Measure, Text, capital, length, share, volume

SPARE = 1.10
"""Materials are bought with a tenth more (common practice)."""
Kind = Literal["buy", "move", "adapt", "keep", "material", "tool"]


@dataclass(frozen=True)
class Line:
    """One line of a list before its schools are known; the price is of it all, in the workshop's money."""

    id: str
    kind: Kind
    title: str
    amount: Text
    why: Text
    price: float | None = None
    source: str = ""


def bought(name: str, title: str, amount: Text, why: str, pieces: float) -> Line:
    """A line at the rough price of so many pieces."""
    return Line(name, "buy", title, amount, [why], pieces * PRICES[name], ROUGH)


def small_parts(so: Situation) -> list[Line]:
    """Clamps, hoses, gaskets and what else is renewed or goes with what is new."""
    bore = known(so.chosen.circuit, "hose_bore_mm")
    found = []
    if "clamps" in so.also:
        count = 4 + (4 if "hoses" in so.also and so.chosen.circuit.heater else 0)
        found.append(
            Line(
                "clamps",
                "buy",
                "Hose clamps",
                [f"{count} for hoses of ", length(bore)],
                [capital(so.also["clamps"]), "."],
                count * PRICES["clamp"],
                ROUGH,
            )
        )
    if "hoses" in so.also:
        found.append(
            bought(
                "radiator_hoses",
                "Radiator hoses",
                ["two of ", length(bore)],
                capital(so.also["hoses"]) + ".",
                1,
            )
        )
        if so.chosen.circuit.heater:
            found.append(
                bought(
                    "heater_hoses",
                    "Heater hoses",
                    ["by the metre, two runs"],
                    capital(so.also["hoses"]) + ".",
                    1,
                )
            )
    if "belt" in so.also:
        found.append(bought("belt", "Belt", ["one"], capital(so.also["belt"]) + ".", 1))
    for field, of in PULLEY_OF.items():
        if field in so.also:
            found.append(
                Line(
                    field,
                    "buy",
                    f"Pulley for the {of}",
                    ["of ratio ", Measure(quantity="ratio", value=ratio_of(so.chosen, field))],
                    [capital(so.also[field]), "; mind the length of the belt."],
                    PRICES["pulley"],
                    ROUGH,
                )
            )
    if "thermostat" in so.new or "pump" in so.new:
        found.append(
            bought(
                "gasket",
                "Gaskets",
                ["one" if len({"thermostat", "pump"} & so.new.keys()) == 1 else "two"],
                "Old ones do not seal twice.",
                len({"thermostat", "pump"} & so.new.keys()),
            )
        )
        found.append(
            bought("sealant", "Sealant", ["a small tube"], "For housings without a gasket, and threads.", 1)
        )
    if {"drain_screw", "sensor", "block_drain", "switch_work"} & so.holds and "drains" in so.holds:
        found.append(bought("seals", "Seal rings", ["an assortment"], "For what is screwed in anew.", 1))
    if "radiator_new" in so.holds:
        found.append(
            bought(
                "sock",
                "Strainer for the upper hose",
                ["for ", length(bore)],
                "It catches what the old block lets go.",
                1,
            )
        )
    if "front_sealed" in so.also:
        found.append(
            bought(
                "foam",
                "Closed-cell foam and sheet",
                ["for four sides"],
                capital(so.also["front_sealed"]) + ".",
                1,
            )
        )
    return found


def materials(so: Situation, poured: Poured) -> list[Line]:
    """Coolant, water, flush fluid and what else is poured."""
    found: list[Line] = []

    def litres(name: str, title: str, needed: float, why: Text) -> None:
        amount = SPARE * needed
        found.append(Line(name, "material", title, [volume(amount)], why, amount * PRICES[name], ROUGH))

    if "fills" in so.holds and "partial" not in so.holds:
        behind = "the old fill stay behind."
        if "flush" in so.holds:
            behind = "water stay behind after the flush."
        if "waterless_new" in so.holds:
            behind = "flush fluid stay behind."
        left: Text = [volume(poured.left_l), f" of {behind}"]
        if poured.concentrate_l and poured.reaches is not None:
            litres(
                "concentrate",
                "Concentrate",
                poured.concentrate_l,
                [
                    "For ",
                    share(poured.reaches),
                    " in ",
                    volume(volume_of(so.chosen)),
                    ", with a tenth to spare; ",
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
                Line(
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
            Line(
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


def electrics(so: Situation) -> list[Line]:
    """Wire, fuse and relay of each circuit that is new or carries more than before."""
    return [
        Line(
            one.id,
            "buy",
            f"Wire, fuse and relay for the {one.of}",
            [one.takes],
            [one.why],
            one.count * PRICES["wiring"],
            ROUGH,
        )
        for one in circuits(so.standing, so.chosen, so.new)
    ]
