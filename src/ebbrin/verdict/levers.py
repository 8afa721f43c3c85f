"""What each lever is called."""

from __future__ import annotations

from ebbrin.document.result import Lever, Text
from ebbrin.verdict.text import difference, pressure

WORDS: dict[str, Text] = {
    "core_area": ["Core 10 % larger"],
    "core_depth": ["Core a quarter deeper"],
    "fin_density": ["Fins 15 % closer"],
    "full_shroud": ["A full shroud"],
    "ring_shroud": ["A ring round the fan"],
    "fan_flow": ["A fan with 20 % more flow"],
    "ram": ["Better ducting: 0.2 more of the ram pressure"],
    "front_sealed": ["Front sealed, no warm air coming round"],
    "debris_cleared": ["Face cleared of debris"],
    "tubes_cleared": ["Blocked tubes cleared"],
    "descaled": ["Scale removed"],
    "pump_ratio": ["Pump 10 % faster"],
    "water": ["Plain water"],
    "half_glycol": ["Half water, half ethylene glycol"],
    "waterless": ["Waterless coolant"],
    "cap_up": ["A cap ", pressure(20.0), " stronger"],
    "thermostat_down": ["A thermostat ", difference(6.0), " cooler"],
}
"""By the name of the core's lever; a test proves that none is missing."""


def said(lever: Lever) -> Lever:
    """The lever with its words."""
    return lever.model_copy(update={"text": WORDS[lever.name]})
