"""What can be wrong, each with a severity from 0 to 1: with a component, or with what controls it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.core.base import require
from ebbrin.core.drive.controls import Controls
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, PROPYLENE_GLYCOL, STRONGEST_MIX
from ebbrin.core.records import changed, value_at
from ebbrin.core.system.parts import System

STUCK_CAP = 200_000.0  # common practice: a cap whose spring sticks lets pressure climb to almost 2 bar, Pa
MOST_SHUT = 0.95  # of a core that is silted or covered at severity 1
LATEST, MOST_LEAK, MOST_LOSS, MOST_GAS, MOST_LOW = 25.0, 0.3, 0.02, 5e-6, 0.5
"""At severity 1 (choices): how much later a thermostat opens [K], the lift that one keeps which does not shut [-],
coolant lost [kg/s], combustion gas into the coolant [m³/s], share of the fill that is missing [-]."""

ChangeSystem = Callable[[System, float], System]
ChangeControls = Callable[[Controls, float], Controls]


@dataclass(frozen=True)
class Fault:
    """What a fault does to the system, to what controls it, or to both; whether it is there for the whole drive,
    whenever it is said to begin."""

    system: ChangeSystem | None = None
    controls: ChangeControls | None = None
    throughout: bool = False


def _scaled(*paths: str, most: float) -> ChangeSystem:
    """The fields at ``paths`` times 1 at severity 0, down to 1 - ``most`` at 1."""

    def change(system: System, severity: float) -> System:
        for path in paths:
            system = changed(system, path, np.asarray(value_at(system, path) * (1.0 - most * severity)))
        return system

    return change


def _at_least(path: str) -> ChangeSystem:
    def change(system: System, severity: float) -> System:
        return changed(system, path, np.maximum(value_at(system, path), MOST_SHUT * severity))

    return change


def _held(**values: Callable[[Controls, float], Any]) -> ChangeControls:
    """Controls with fields set at every point."""

    def change(controls: Controls, severity: float) -> Controls:
        points = np.shape(controls.cap)
        made = {name: np.full(points, value(controls, severity)) for name, value in values.items()}
        return replace(controls, **made)

    return change


def _hotter(system: System, severity: float) -> System:
    return changed(
        system, "engine.tune_factor", np.asarray(system.engine.tune_factor * (1.0 + 0.25 * severity))
    )


def _slipping(system: System, severity: float) -> System:
    """A worn clutch passes on less when it is engaged, and never less than it does when free."""
    fan = system.air.fan
    passed = np.maximum(fan.engaged * (1.0 - 0.8 * severity), np.minimum(fan.disengaged, fan.engaged))
    return changed(system, "air.fan.engaged", np.asarray(passed))


def _locked(system: System, _severity: float) -> System:
    return changed(system, "air.fan.disengaged", np.asarray(system.air.fan.engaged))


def _weaker_mix(system: System, severity: float) -> System:
    """The share of glycol that is left beside more and more water."""
    fraction = system.coolant.mass_fraction
    mixed = np.isin(system.coolant.kind, (ETHYLENE_GLYCOL, PROPYLENE_GLYCOL))
    return changed(system, "coolant.mass_fraction", np.where(mixed, fraction * (1.0 - severity), fraction))


def _stronger_mix(system: System, severity: float) -> System:
    """From the share of glycol as meant towards the strongest that is known."""
    fraction = system.coolant.mass_fraction
    mixed = np.isin(system.coolant.kind, (ETHYLENE_GLYCOL, PROPYLENE_GLYCOL))
    stronger = fraction + severity * (STRONGEST_MIX - fraction)
    return changed(system, "coolant.mass_fraction", np.where(mixed, stronger, fraction))


def _one_fan(system: System, _severity: float) -> System:
    return changed(system, "air.fan.count", np.asarray(1.0))


def _weak(controls: Controls, severity: float) -> Controls:
    return replace(controls, cap=controls.cap * (1.0 - severity))


FAULTS: dict[str, Fault] = {
    "thermostat_shut": Fault(controls=_held(held_lift=lambda _c, _s: 0.0)),
    "thermostat_open": Fault(controls=_held(held_lift=lambda _c, _s: 1.0)),
    "thermostat_late": Fault(controls=_held(late=lambda _c, s: LATEST * s)),
    "thermostat_leaks": Fault(controls=_held(least_lift=lambda _c, s: MOST_LEAK * s)),
    "fan_dead": Fault(controls=_held(held_stage=lambda _c, _s: 0)),
    "fan_switch_stuck": Fault(controls=_held(deaf=lambda _c, _s: True)),
    "fan_relay_open": Fault(controls=_held(lost_stages=lambda _c, _s: 1)),
    "fan_always_on": Fault(controls=_held(held_stage=lambda _c, _s: 2)),
    "one_fan_dead": Fault(system=_one_fan),
    "clutch_slips": Fault(system=_slipping),
    "clutch_locked": Fault(system=_locked),
    "pump_worn": Fault(system=_scaled("circuit.pump.shut_off", "circuit.pump.run_out", most=0.7)),
    "impeller_loose": Fault(system=_scaled("circuit.pump.shut_off", "circuit.pump.run_out", most=0.98)),
    "belt_slips": Fault(system=_scaled("circuit.pump.belt_ratio", most=0.8)),
    "hose_collapsed": Fault(system=_scaled("circuit.hose_bore", most=0.75)),
    "core_silted": Fault(system=_at_least("core.blocked_tubes")),
    "debris": Fault(system=_at_least("core.blocked_face")),
    "timing_retarded": Fault(system=_hotter),
    "cap_weak": Fault(controls=_weak),
    "cap_stuck": Fault(controls=_held(cap=lambda _c, _s: STUCK_CAP)),
    "return_valve_dead": Fault(controls=_held(back=lambda _c, _s: 1e9)),
    "coolant_low": Fault(controls=_held(fill=lambda _c, s: 1.0 - MOST_LOW * s)),
    "heater_air_lock": Fault(system=_scaled("circuit.heater.conductance", most=1.0)),
    "mix_weak": Fault(system=_weaker_mix, throughout=True),
    "mix_strong": Fault(system=_stronger_mix, throughout=True),
    "coolant_leak": Fault(controls=_held(leak=lambda _c, s: MOST_LOSS * s)),
    "head_gasket": Fault(controls=_held(gas=lambda _c, s: MOST_GAS * s)),
}
"""Every fault by its name."""
GRADED = frozenset({
    "thermostat_late", "thermostat_leaks", "clutch_slips", "pump_worn", "impeller_loose", "belt_slips",
    "hose_collapsed", "core_silted", "debris", "timing_retarded", "cap_weak", "coolant_leak", "head_gasket",
    "coolant_low", "heater_air_lock", "mix_weak", "mix_strong",
})  # fmt: skip
"""Faults of which there can be more or less; the others are there or not, whatever their severity."""


def possible(name: str, system: System) -> bool:
    """Whether a system (fields of shape ()) has the part that a fault breaks."""
    fan, mechanical = system.air.fan, bool(system.air.fan.mechanical)
    electric = bool(fan.fitted) and not mechanical
    if name in ("clutch_slips", "clutch_locked"):
        return bool(fan.fitted) and mechanical and float(fan.engaged) != float(fan.disengaged)
    if name in ("pump_worn", "impeller_loose"):
        return float(system.circuit.pump.siphon) == 0.0
    if name in ("fan_switch_stuck", "fan_relay_open", "fan_always_on"):
        return electric
    if name == "one_fan_dead":
        return electric and float(fan.count) > 1.0
    if name == "fan_dead":
        return bool(fan.fitted)
    if name == "belt_slips":
        return bool(system.circuit.pump.belt)
    if name == "heater_air_lock":
        return float(system.circuit.heater.conductance) > 0.0
    if name in ("mix_weak", "mix_strong"):
        return int(system.coolant.kind) in (ETHYLENE_GLYCOL, PROPYLENE_GLYCOL)
    return True


def all_possible(system: System) -> list[str]:
    """The faults that a system (fields of shape ()) can have."""
    return [name for name in FAULTS if possible(name, system)]


def broken(system: System, controls: Controls, faults: dict[str, float]) -> tuple[System, Controls]:
    """A system and its controls with faults, by their names and severities [-].

    Raises
    ------
    KeyError
        If there is no such fault.
    DomainError
        If a severity lies outside 0 to 1, or the parts are none any more.
    """
    for name, severity in faults.items():
        require(f"severity of {name}", severity, 0.0, 1.0, "-")
        fault = FAULTS[name]
        if fault.system is not None:
            system = fault.system(system, severity)
        if fault.controls is not None:
            controls = fault.controls(controls, severity)
    return system, controls
