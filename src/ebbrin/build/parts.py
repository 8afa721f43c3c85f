"""The parts of a variant as people write them; units are in the names."""

from __future__ import annotations

from typing import Literal

from ebbrin.build.air import Air
from ebbrin.build.circuit import Circuit, FanSwitch, Thermostat
from ebbrin.build.engine import Engine, Vehicle
from ebbrin.build.fan import CurvePoint, Fan
from ebbrin.build.fields import assumed, choice
from ebbrin.build.part import Number, Part, ShelfRef, from_shelf
from ebbrin.build.radiator import Radiator

__all__ = [
    "Air",
    "Cap",
    "Circuit",
    "Coolant",
    "CurvePoint",
    "Engine",
    "Fan",
    "FanSwitch",
    "Limits",
    "Number",
    "Part",
    "Radiator",
    "Thermostat",
    "Vehicle",
]


class Coolant(Part):
    """What is in the system."""

    kind: Literal["water", "ethylene_glycol", "propylene_glycol", "waterless"] = choice(
        "ethylene_glycol",
        "Coolant",
        {
            "water": "Water, with or without a wetting additive",
            "ethylene_glycol": "Water and ethylene glycol",
            "propylene_glycol": "Water and propylene glycol",
            "waterless": "Waterless glycol",
        },
        "A wetting additive changes corrosion and wetting, not the figures used here: it counts as water.",
    )
    glycol_vol_share: Number = assumed(
        "Glycol by volume",
        "share",
        0.0,
        0.70,
        0.5,
        "Share of concentrate in the mix, by volume.",
        when={"/coolant/kind": ["ethylene_glycol", "propylene_glycol"]},
    )
    residual_water_share: Number = assumed(
        "Water left in it",
        "share",
        0.0,
        0.10,
        0.01,
        "By mass. Each percent costs some 10 K of boiling point; 3 % is the usual limit.",
        when={"/coolant/kind": ["waterless"]},
        guess=True,
    )
    volume_l: Number = assumed(
        "Coolant volume",
        "volume",
        1,
        200,
        "4 L and 2 L per litre of displacement",
        "All coolant in the system: sizes the tank and stores heat in timed cases.",
        guess=True,
    )
    from_shelf: ShelfRef | None = from_shelf("coolant")


class Cap(Part):
    """The pressure cap and what the system stands."""

    pressure_kpa: Number = assumed(
        "Cap pressure", "pressure", 0, 250, 90, "Gauge pressure marked on the cap; 0 for an open system."
    )
    position: Literal["hot_tank", "suction"] = choice(
        "hot_tank",
        "Cap sits on",
        {"hot_tank": "The tank where the top hose enters", "suction": "The suction side of the pump"},
        "Decides what is left of its pressure at the pump inlet.",
    )
    weakest_part_kpa: Number = assumed(
        "Weakest part stands",
        "pressure",
        0,
        400,
        210,
        "Rating of the weakest part: radiator, heater core, hose at temperature.",
        guess=True,
    )
    bottle_l: Number = assumed(
        "Overflow bottle takes",
        "volume",
        0,
        20,
        1.5,
        "Coolant that it takes in and gives back before it runs over; 0 without a bottle. Matters in Drive it.",
    )
    from_shelf: ShelfRef | None = from_shelf("cap")


class Limits(Part):
    """How hot is too hot."""

    top_hose_c: Number = assumed(
        "Highest top hose",
        "temperature",
        70,
        130,
        108,
        "Hotter than this counts as too hot, whatever the cap holds.",
    )
    boiling_margin_k: Number = assumed(
        "Margin below boiling",
        "temperature_difference",
        0,
        40,
        12,
        "Kept between top hose and boiling; hot spots in the head boil first.",
    )
