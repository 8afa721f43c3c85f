"""What the car is like where one works on it: asked once, and all of it may stay unknown."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ebbrin.build.fields import fact, optional
from ebbrin.build.part import Number, Part

YES = {"yes": "Yes", "no": "No"}
YesNo = Literal["yes", "no"]
STATE = {"good": "Good", "bad": "Tired or bad"}
State = Literal["good", "bad"]
COOLED_GEARBOX, WITH_CONDENSER = (
    {"/variants/*/engine/gearbox_cooler": [True]},
    {"/variants/*/air/condenser": [True]},
)
HEATED, PUMPED = {"/variants/*/circuit/heater": [True]}, {"/variants/*/circuit/pump_drive": ["electric"]}
FANNED = {"/variants/*/air/fan/kind": ["electric"]}


class Car(Part):
    """Facts that decide how the job is done. Heights are above the middle of the lower hose."""

    drain: Literal["cock", "screw", "none"] | None = fact(
        "How the radiator is drained",
        {"cock": "Cock, by hand", "screw": "Screw", "none": "Not at all: lower hose off"},
        "Not known counts as no drain: the lower hose comes off.",
    )
    block_drains: Annotated[int | None, Field()] = optional(
        "Drain plugs in the block",
        "count",
        0,
        4,
        "don’t know",
        "What stands in the block drains there alone.",
    )
    stays_share: Number = optional(
        "Stays behind when drained",
        "share",
        0.02,
        0.60,
        "don’t know",
        "10 to 40 % is common practice: what went in after the last drain, or a refractometer before and after, tells.",
    )
    filler: Literal["radiator", "remote", "bottle"] | None = fact(
        "Filler",
        {
            "radiator": "On the radiator",
            "remote": "Apart, on the high point",
            "bottle": "On a pressurised bottle",
        },
        "Where coolant is poured in.",
    )
    filler_height_mm: Number = optional(
        "Filler, height", "length", 0, 2000, "don’t know", "Above the middle of the lower hose, car level."
    )
    heater_height_mm: Number = optional(
        "Heater core, height",
        "length",
        0,
        2000,
        "don’t know",
        "Its upper end, above the middle of the lower hose.",
        HEATED,
    )
    outlet_height_mm: Number = optional(
        "Engine outlet, height", "length", 0, 2000, "don’t know", "Above the middle of the lower hose."
    )
    bleed_screws: Annotated[int | None, Field()] = optional(
        "Bleed screws", "count", 0, 6, "don’t know", "How many there are; 0 for none."
    )
    bleed_height_mm: Number = optional(
        "Highest bleed screw, height", "length", 0, 2000, "don’t know", "Above the middle of the lower hose."
    )
    heater_flow: Literal["tap", "constant"] | None = fact(
        "Heater",
        {"tap": "Has a tap", "constant": "Always has flow"},
        "A tap has to be open while filling.",
        HEATED,
    )
    vent_run: YesNo | None = fact(
        "Vent run of the electric pump",
        YES,
        "A run of the pump alone, key on and engine off, that carries the air out.",
        PUMPED,
    )
    gearbox_lines: Literal["threaded", "quick", "hose"] | None = fact(
        "Gearbox lines at the radiator",
        {"threaded": "Threaded", "quick": "Quick-release", "hose": "Hoses with clamps"},
        "How the gearbox cooler in the tank is connected.",
        COOLED_GEARBOX,
    )
    condenser_bolted: YesNo | None = fact(
        "Condenser bolted to the radiator",
        YES,
        "It is untied and stays in the car, its lines shut.",
        WITH_CONDENSER,
    )
    fans_on_shroud: YesNo | None = fact("Fans on the shroud", YES, "Fans and shroud come out as one piece.")
    fan_plugs: Annotated[int | None, Field()] = optional(
        "Plugs of the fans", "count", 0, 6, "don’t know", "To be pulled, and to click on again.", FANNED
    )
    shroud_lifts: YesNo | None = fact("Shroud lifts out", YES, "No: it is bolted to the radiator.")
    undertray: YesNo | None = fact("Undertray", YES, "It has to come off to reach the lower hose.")
    heat_shield: YesNo | None = fact("Heat shield in the way", YES, "Between you and a hose.")
    airbox: YesNo | None = fact("Airbox in the way", YES, "Above the hoses or the fan.")
    battery: YesNo | None = fact("Battery in the way", YES, "It has to come out, not only off.")
    strut: YesNo | None = fact("Brace in the way", YES, "A strut brace or a crossmember above the radiator.")
    sensor: YesNo | None = fact("Sensor or switch in the radiator", YES, "It moves over to the new one.")
    feet: YesNo | None = fact("Radiator stands in rubber feet", YES, "They move over, or are renewed.")
    hoses_years: Number = optional(
        "Age of the hoses", "years", 0, 60, "don’t know", "They last 5 to 10 years [common practice]."
    )
    coolant_years: Number = optional(
        "Age of the coolant", "years", 0, 60, "don’t know", "Old coolant leaves dirt: it is flushed out."
    )
    hoses: State | None = fact("Hoses", STATE, "Soft, cracked, swollen or oily hoses are bad.")
    clamps: State | None = fact("Clamps", STATE, "Rusty or stripped ones are bad.")
    cap: State | None = fact(
        "Cap", STATE, "Hard seal, weak spring, or older than three years [common practice]."
    )
    thermostat: State | None = fact("Thermostat", STATE, "By a test in a pot, or by how it warms up.")
    belt: State | None = fact("Belt", STATE, "Cracked, shiny or slack ones are bad.")
