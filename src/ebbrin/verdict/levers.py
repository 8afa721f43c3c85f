"""What each lever is called."""

from __future__ import annotations

from ebbrin.core.system import levers as core
from ebbrin.document.result import Lever, Text
from ebbrin.verdict.text import difference, pressure


def _more(factor: float) -> str:
    return f"{factor - 1.0:.0%}".replace("%", " %")


WORDS: dict[str, Text] = {
    "core_area": [f"Core {_more(core.AREA)} larger"],
    "core_depth": [f"Core {_more(core.DEPTH)} deeper"],
    "fin_density": [f"Fins {_more(core.FINS)} closer"],
    "full_shroud": ["A full shroud"],
    "ring_shroud": ["A ring round the fan"],
    "fan_flow": [f"A fan with {_more(core.FAN)} more flow"],
    "ram": [f"Better ducting: {core.RAM:g} more of the ram pressure"],
    "front_sealed": ["Front sealed, no warm air coming round"],
    "debris_cleared": ["Face cleared of debris"],
    "tubes_cleared": ["Blocked tubes cleared"],
    "descaled": ["Scale removed"],
    "pump_ratio": [f"Pump {_more(core.PUMP)} faster"],
    "water": ["Plain water"],
    "half_glycol": ["Half water, half ethylene glycol"],
    "waterless": ["Waterless coolant"],
    "cap_up": ["A cap ", pressure(core.CAP_STEP / 1e3), " stronger"],
    "thermostat_down": ["A thermostat ", difference(core.THERMOSTAT_STEP), " cooler"],
}
"""By the name of the core's lever; a test proves that none is missing."""


def said(lever: Lever) -> Lever:
    """The lever with its words."""
    return lever.model_copy(update={"text": WORDS[lever.name]})
