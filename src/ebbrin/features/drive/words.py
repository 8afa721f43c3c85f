"""What happens in a drive, in words."""

from __future__ import annotations

from ebbrin.build.resolve import Assumed
from ebbrin.features.drive.answers import EventName
from ebbrin.ground.words import Measure, Text, temperature

SAID: dict[EventName, str] = {
    "thermostat_opens": "thermostat opens",
    "thermostat_wide_open": "thermostat wide open",
    "thermostat_shuts": "thermostat shuts",
    "fan_on": "fan on",
    "fan_off": "fan off",
    "limit_passed": "over the limit",
    "back_below_limit": "back below the limit",
    "cap_lifts": "cap lifts, coolant goes to the bottle",
    "steam_in_engine": "steam in the coolant, held by its own pressure",
    "boils": "boils, and coolant is pushed out",
    "runs_low": "so little coolant is left that {breaks}",
    "over_rating": "pressure above what the weakest part stands",
    "runs_dry": "the head stands dry, which ruins the engine: the drive ends",
}
BREAKS = {True: "the pump draws air", False: "its way round breaks off"}
"""What too little coolant does, whether it is pumped or rises by itself."""
BURST = "Pressure passes what the weakest part stands: a hose or a tank can burst. Keep away, and never drive on a cap that sticks."
LOST = "Coolant is lost until {breaks}. A gauge whose sensor stands in steam or air can read cool while the engine is ruined: stop at once."
STOP = (
    "Stop and let it cool with the engine off, rather than race home. Never open a hot cap: scalding coolant."
)


def event(kind: EventName, engine_out_c: float, pumped: bool) -> Text:
    """An event with the temperature of the coolant that leaves the engine then."""
    return [SAID[kind].format(breaks=BREAKS[pumped]) + ", engine out ", temperature(engine_out_c)]


def guessed(leg: str, value: Assumed) -> Text:
    """What was left open of a leg, and what is taken for it."""
    taken = Measure(quantity=value.quantity, value=value.value)
    return [f"{leg}: {value.title.lower()} was left open and is taken as ", taken, "."]


def cautions(too_hot: bool, over_rating: bool, runs_low: bool, pumped: bool) -> list[Text]:
    """What a drive asks to be careful of."""
    asked = ((STOP, too_hot), (BURST, over_rating), (LOST.format(breaks=BREAKS[pumped]), runs_low))
    return [[text] for text, needed in asked if needed]
