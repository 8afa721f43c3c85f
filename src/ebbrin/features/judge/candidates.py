"""Why each cap, thermostat and fan switch was chosen or not."""

from __future__ import annotations

from typing import TypeVar

from ebbrin.bridge.units import kilopascals
from ebbrin.core.circuit.cap import INLET_MARGIN
from ebbrin.features.judge.answers import CapCandidate, SwitchCandidate, ThermostatCandidate
from ebbrin.features.judge.four_answers import inlet_words
from ebbrin.ground.words import Text, difference, pressure

Candidate = TypeVar("Candidate", CapCandidate, ThermostatCandidate, SwitchCandidate)

CAPS: dict[str, Text] = {
    "chosen": ["The lowest that keeps the margin to boiling{feeds} and stays within the weakest part."],
    "above_rating": ["More than the weakest part stands."],
    "boils": ["Leaves less than the wanted margin to boiling."],
    "pump_inlet": ["Leaves {inlet} less than ", pressure(kilopascals(INLET_MARGIN)), " from boiling."],
    "more_than_needed": ["Would do, but loads every hose more than is needed."],
}
THERMOSTATS: dict[str, Text] = {
    "chosen": ["Works, and is nearest to the one fitted."],
    "opens_too_late": ["Wide open too late below the limit."],
    "too_cool": ["Holds the engine too cool for heater and engine management."],
    "fan_never_stops": ["Holds the coolant above the fan’s off-point, so the fan would never stop."],
    "further_from_fitted": ["Would do; further from the one fitted."],
}
SWITCHES: dict[str, Text] = {
    "chosen": ["Works with this thermostat, and is nearest to the one fitted."],
    "too_near_limit": ["Comes on too near the limit."],
    "never_stops": ["Off-point below what the thermostat holds: the fan would never stop."],
    "further_from_fitted": ["Would do; further from the one fitted."],
    "no_fan": ["There is no fan to switch."],
}


def caps(found: list[CapCandidate], pumped: bool = True) -> list[CapCandidate]:
    """The caps with their reasons in words, of a pump where there is one; a margin that falls short says by how much it
    holds."""
    known = {"inlet": inlet_words(pumped), "feeds": ", feeds the pump" if pumped else ""}
    return [_with(c, [*_told(CAPS[c.reason], known), *_left(c)]) for c in found]


def _told(text: Text, known: dict[str, str]) -> Text:
    return [part.format(**known) if isinstance(part, str) else part for part in text]


def _left(cap: CapCandidate) -> Text:
    kelvins, inlet = cap.boiling_margin_k, cap.pump_inlet_margin_kpa
    if cap.reason == "boils":
        if kelvins >= 0.5:
            return [" Left: ", difference(kelvins), "."]
        return (
            [" Boiling lies ", difference(-kelvins), " below the hottest case."]
            if kelvins <= -0.5
            else [" It just boils."]
        )
    if cap.reason != "pump_inlet":
        return []
    if inlet < 0.5:
        return [" It boils there."]
    if round(inlet) >= round(kilopascals(INLET_MARGIN)):
        return [" It just misses that."]
    return [" Left: ", pressure(inlet), "."]


def thermostats(found: list[ThermostatCandidate]) -> list[ThermostatCandidate]:
    """The thermostats with their reasons in words."""
    return [_with(c, THERMOSTATS[c.reason]) for c in found]


def switches(found: list[SwitchCandidate]) -> list[SwitchCandidate]:
    """The fan switches with their reasons in words."""
    return [_with(c, SWITCHES[c.reason]) for c in found]


def _with(candidate: Candidate, text: Text) -> Candidate:
    return candidate.model_copy(update={"text": text})
