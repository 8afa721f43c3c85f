"""What a build says about which causes there can be in it, and how likely they were before anything was seen."""

from __future__ import annotations

from ebbrin.build.build import Variant
from ebbrin.build.fields import known
from ebbrin.core.cause.tables import CAUSES, OBSERVATIONS

TWELVE_VOLT = 16.0  # V; a system of more is none of 12 V
NEW, UNKNOWN = 0.2, 1.3
"""How much likelier than usual (choices) a silted or eaten core is where the radiator is new, or nothing is known of it."""

WORDS = {
    "pump": "it has no pump",
    "belt_pump": "its pump has no belt",
    "electric_pump": "its pump is not electric",
    "fan": "it has no fan",
    "electric_fan": "it has no electric fan",
    "two_fans": "it has no second fan",
    "clutch": "its fan has no clutch",
    "gearbox_cooler": "its radiator cools no gearbox",
    "condenser": "it has no air conditioning",
    "heater": "it has no heater",
    "pressure": "its system has no pressure",
    "bottle": "it has no bottle",
    "glycol": "it runs on water",
    "inlet_thermostat": "its thermostat sits at the engine's outlet",
    "spark": "a diesel has no spark plugs",
    "12_volt": "its fan is not one for 12 V",
}
"""Each fact that a cause or an observation needs, as it is said where it does not hold."""


def denied(variant: Variant) -> frozenset[str]:
    """The facts that do not hold for a variant, values that are not known taken as they would be."""
    fan, circuit = variant.air.fan, variant.circuit
    electric = fan.kind == "electric"
    engaged, free = known(fan, "engaged_share"), known(fan, "disengaged_share")
    volts = max(known(fan, "test_voltage_v"), fan.voltage_v or 0.0)
    holds = {
        "pump": circuit.pump_drive != "none",
        "belt_pump": circuit.pump_drive == "belt",
        "electric_pump": circuit.pump_drive == "electric",
        "fan": fan.kind != "none",
        "electric_fan": electric,
        "two_fans": fan.count == 2,
        "clutch": fan.kind == "mechanical" and engaged != free,
        "gearbox_cooler": variant.engine.gearbox_cooler,
        "condenser": variant.air.condenser,
        "heater": circuit.heater,
        "pressure": known(variant.cap, "pressure_kpa") > 0.0,
        "bottle": known(variant.cap, "bottle_l") > 0.0,
        "glycol": variant.coolant.kind != "water",
        "inlet_thermostat": variant.thermostat.position == "inlet",
        "spark": "diesel" not in variant.engine.kind,
        "12_volt": electric and volts <= TWELVE_VOLT,
    }
    return frozenset(name for name, true in holds.items() if not true)


def factors(variant: Variant) -> dict[str, float]:
    """How much likelier than in any car some causes are in this one, before anything was seen."""
    condition = variant.radiator.condition
    factor = {"new": NEW, "unknown": UNKNOWN}.get(condition)
    return {} if factor is None else {"core_silted": factor, "core_corroded": factor}


EXCLUDES = {"electric_fan": "clutch", "clutch": "electric_fan", "belt_pump": "electric_pump"}
"""A car that has the one has not the other, as far as anybody would look at it."""


def excluded_by(needs: frozenset[str]) -> frozenset[str]:
    """The facts that cannot hold of a car of which something was seen that needs these."""
    return frozenset(EXCLUDES[fact] for fact in needs if fact in EXCLUDES)


def impossible(lacking: frozenset[str]) -> dict[str, str]:
    """The causes that cannot be where these facts do not hold, each with the first of them."""
    found = {name: sorted(cause.needs & lacking) for name, cause in CAUSES.items()}
    return {name: missing[0] for name, missing in found.items() if missing}


def useless(lacking: frozenset[str]) -> frozenset[str]:
    """The observations that cannot be made where these facts do not hold."""
    return frozenset(name for name, seen in OBSERVATIONS.items() if seen.needs & lacking)
