"""What happens in a drive, in words."""

from __future__ import annotations

from ebbrin.features.drive.answers import EventName
from ebbrin.ground.words import Text, temperature

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
    "runs_low": "so little coolant is left that the pump draws air",
    "over_rating": "pressure above what the weakest part stands",
    "runs_dry": "the head stands dry, which ruins the engine: the drive ends",
}
BURST: Text = [
    "Pressure passes what the weakest part stands: a hose or a tank can burst. Keep away, and never drive on a cap that sticks."
]
LOST: Text = [
    "Coolant is lost until the pump draws air. A gauge whose sensor stands in steam or air can read cool while the engine is ruined: stop at once."
]
STOP: Text = [
    "Stop and let it cool with the engine off, rather than race home. Never open a hot cap: scalding coolant."
]


def event(kind: EventName, engine_out_c: float) -> Text:
    """An event with the temperature of the coolant that leaves the engine then."""
    return [f"{SAID[kind]}, engine out ", temperature(engine_out_c)]


def cautions(too_hot: bool, over_rating: bool, runs_low: bool) -> list[Text]:
    """What a drive asks to be careful of."""
    asked = ((STOP, too_hot), (BURST, over_rating), (LOST, runs_low))
    return [text for text, needed in asked if needed]
