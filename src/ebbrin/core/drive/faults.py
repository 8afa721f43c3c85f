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
MOST_ROUND = (
    0.45  # choice: share of the air at rest that has been through the core before, with no seals or ducts
)
LATEST, MOST_LEAK, MOST_LOSS, MOST_GAS, MOST_LOW = 25.0, 0.3, 0.02, 5e-6, 0.5
"""At severity 1 (choices): how much later a thermostat opens [K], the lift that one keeps which does not shut [-],
coolant lost [kg/s], combustion gas into the coolant [m³/s], share of the fill that is missing [-]."""

ChangeSystem = Callable[[System, float], System]
ChangeControls = Callable[[Controls, float], Controls]


@dataclass(frozen=True)
class Fault:
    """One fault: what it is called and where it lies; what it does to the system, to what controls it, or to both;
    whether it is there for the whole drive, whenever it is said to begin; whether there can be more or less of it, or
    only all of it whatever its severity; and whether a system (fields of shape ()) has the part that it breaks."""

    title: str
    group: str
    system: ChangeSystem | None = None
    controls: ChangeControls | None = None
    throughout: bool = False
    graded: bool = False
    needs: Callable[[System], bool] = lambda _: True


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


def _reversed(system: System, _severity: float) -> System:
    """A fan whose blades turn the wrong way moves about half of the air, and that out of the warm engine bay; on the
    road it stands against the wind. (The air path knows one direction only: what comes through counts, and how much
    of it is warm.)"""
    air = system.air
    for path, value in (
        ("air.fan.pressure", air.fan.pressure * 0.35),
        ("air.fan.free_flow", air.fan.free_flow * 0.55),
        ("air.recirculation_at_rest", np.maximum(air.recirculation_at_rest, MOST_ROUND)),
        ("air.ram", air.ram * 0.6),
    ):
        system = changed(system, path, np.asarray(value))
    return system


def _open_ducts(system: System, severity: float) -> System:
    """Warm air comes round the front at rest, and half of the wind goes past the core."""
    air = system.air
    warm = air.recirculation_at_rest + severity * np.maximum(MOST_ROUND - air.recirculation_at_rest, 0.0)
    system = changed(system, "air.recirculation_at_rest", np.asarray(warm))
    return changed(system, "air.ram", np.asarray(air.ram * (1.0 - 0.5 * severity)))


def _dragging(system: System, severity: float) -> System:
    rolling = system.vehicle.rolling_resistance * (1.0 + 3.0 * severity)
    return changed(system, "vehicle.rolling_resistance", np.asarray(rolling))


def _one_fan(system: System, _severity: float) -> System:
    return changed(system, "air.fan.count", np.asarray(1.0))


def _weak(controls: Controls, severity: float) -> Controls:
    return replace(controls, cap=controls.cap * (1.0 - severity))


def _has_fan(system: System) -> bool:
    return bool(system.air.fan.fitted)


def _has_electric_fan(system: System) -> bool:
    return _has_fan(system) and not bool(system.air.fan.mechanical)


def _has_two_fans(system: System) -> bool:
    return _has_electric_fan(system) and float(system.air.fan.count) > 1.0


def _has_clutch(system: System) -> bool:
    fan = system.air.fan
    return _has_fan(system) and bool(fan.mechanical) and float(fan.engaged) != float(fan.disengaged)


def _has_pump(system: System) -> bool:
    return float(system.circuit.pump.siphon) == 0.0


def _has_belt_pump(system: System) -> bool:
    return bool(system.circuit.pump.belt)


def _starvable(system: System) -> bool:
    """A thermostat at the inlet lives by what the bypass brings it."""
    return bool(system.circuit.thermostat.at_inlet) and float(system.circuit.bypass.conductance) > 0.0


def _has_heater(system: System) -> bool:
    return float(system.circuit.heater.conductance) > 0.0


def _has_mix(system: System) -> bool:
    return int(system.coolant.kind) in (ETHYLENE_GLYCOL, PROPYLENE_GLYCOL)


THERMOSTAT, CORE_AND_FAN, PUMP_AND_HOSES = "Thermostat", "Core and fan", "Pump and hoses"
CAP_AND_COOLANT, ENGINE = "Cap and coolant", "Engine"
GROUPS = (THERMOSTAT, CORE_AND_FAN, PUMP_AND_HOSES, CAP_AND_COOLANT, ENGINE)
"""Where a fault lies, in the order in which coolant meets it."""
FAULTS: dict[str, Fault] = {
    "thermostat_shut": Fault(
        "Thermostat stuck shut", THERMOSTAT, controls=_held(held_lift=lambda _c, _s: 0.0)
    ),
    "thermostat_open": Fault(
        "Thermostat stuck open", THERMOSTAT, controls=_held(held_lift=lambda _c, _s: 1.0)
    ),
    "thermostat_late": Fault(
        "Thermostat opens late", THERMOSTAT, controls=_held(late=lambda _c, s: LATEST * s), graded=True
    ),
    "thermostat_leaks": Fault(
        "Thermostat does not shut",
        THERMOSTAT,
        controls=_held(least_lift=lambda _c, s: MOST_LEAK * s),
        graded=True,
    ),
    "thermostat_starved": Fault(
        "Bypass starves the thermostat",
        THERMOSTAT,
        system=_scaled("circuit.bypass.conductance", most=0.9),
        graded=True,
        needs=_starvable,
    ),
    "fan_dead": Fault(
        "Fan does not turn", CORE_AND_FAN, controls=_held(held_stage=lambda _c, _s: 0), needs=_has_fan
    ),
    "fan_switch_stuck": Fault(
        "Fan switch stuck as it stands",
        CORE_AND_FAN,
        controls=_held(deaf=lambda _c, _s: True),
        needs=_has_electric_fan,
    ),
    "fan_relay_open": Fault(
        "Relay or fuse of the fan open",
        CORE_AND_FAN,
        controls=_held(lost_stages=lambda _c, _s: 1),
        needs=_has_electric_fan,
    ),
    "fan_always_on": Fault(
        "Fan always on", CORE_AND_FAN, controls=_held(held_stage=lambda _c, _s: 2), needs=_has_electric_fan
    ),
    "one_fan_dead": Fault("One of two fans dead", CORE_AND_FAN, system=_one_fan, needs=_has_two_fans),
    "fan_slow": Fault(
        "Fan runs slow: wires too thin",
        CORE_AND_FAN,
        system=_scaled("air.fan.voltage_ratio", most=0.4),
        graded=True,
        needs=_has_electric_fan,
    ),
    "fan_reversed": Fault(
        "Fan blows the wrong way", CORE_AND_FAN, system=_reversed, throughout=True, needs=_has_fan
    ),
    "fan_weak": Fault(
        "Fan weaker than its curve",
        CORE_AND_FAN,
        system=_scaled("air.fan.pressure", "air.fan.free_flow", most=0.5),
        graded=True,
        needs=_has_fan,
    ),
    "ducts_open": Fault(
        "Seals and ducts of the front missing", CORE_AND_FAN, system=_open_ducts, throughout=True, graded=True
    ),
    "clutch_slips": Fault("Fan clutch slips", CORE_AND_FAN, system=_slipping, graded=True, needs=_has_clutch),
    "clutch_locked": Fault("Fan clutch locked", CORE_AND_FAN, system=_locked, needs=_has_clutch),
    "pump_worn": Fault(
        "Pump worn",
        PUMP_AND_HOSES,
        system=_scaled("circuit.pump.shut_off", "circuit.pump.run_out", most=0.7),
        graded=True,
        needs=_has_pump,
    ),
    "impeller_loose": Fault(
        "Impeller loose on its shaft",
        PUMP_AND_HOSES,
        system=_scaled("circuit.pump.shut_off", "circuit.pump.run_out", most=0.98),
        graded=True,
        needs=_has_pump,
    ),
    "belt_slips": Fault(
        "Belt slips",
        PUMP_AND_HOSES,
        system=_scaled("circuit.pump.belt_ratio", most=0.8),
        graded=True,
        needs=_has_belt_pump,
    ),
    "hose_collapsed": Fault(
        "Lower hose collapses", PUMP_AND_HOSES, system=_scaled("circuit.hose_bore", most=0.75), graded=True
    ),
    "core_silted": Fault("Core silted", CORE_AND_FAN, system=_at_least("core.blocked_tubes"), graded=True),
    "core_small": Fault(
        "Core sheds less than computed",
        CORE_AND_FAN,
        system=_scaled("core.UA_factor", most=0.6),
        throughout=True,
        graded=True,
    ),
    "debris": Fault("Debris on the core", CORE_AND_FAN, system=_at_least("core.blocked_face"), graded=True),
    "timing_retarded": Fault("Timing retarded", ENGINE, system=_hotter, graded=True),
    "drag": Fault("Brakes drag", ENGINE, system=_dragging, graded=True),
    "cap_weak": Fault("Cap weak", CAP_AND_COOLANT, controls=_weak, graded=True),
    "cap_stuck": Fault("Cap stuck shut", CAP_AND_COOLANT, controls=_held(cap=lambda _c, _s: STUCK_CAP)),
    "return_valve_dead": Fault(
        "Return valve of the cap dead", CAP_AND_COOLANT, controls=_held(back=lambda _c, _s: 1e9)
    ),
    "coolant_leak": Fault(
        "Coolant leaks", CAP_AND_COOLANT, controls=_held(leak=lambda _c, s: MOST_LOSS * s), graded=True
    ),
    "coolant_low": Fault(
        "Coolant low", CAP_AND_COOLANT, controls=_held(fill=lambda _c, s: 1.0 - MOST_LOW * s), graded=True
    ),
    "heater_air_lock": Fault(
        "Air lock in the heater",
        PUMP_AND_HOSES,
        system=_scaled("circuit.heater.conductance", most=1.0),
        graded=True,
        needs=_has_heater,
    ),
    "mix_weak": Fault(
        "Mix too weak: topped up with water",
        CAP_AND_COOLANT,
        system=_weaker_mix,
        throughout=True,
        graded=True,
        needs=_has_mix,
    ),
    "mix_strong": Fault(
        "Mix too strong: topped up with glycol",
        CAP_AND_COOLANT,
        system=_stronger_mix,
        throughout=True,
        graded=True,
        needs=_has_mix,
    ),
    "head_gasket": Fault(
        "Head gasket lets gas into the coolant",
        ENGINE,
        controls=_held(gas=lambda _c, s: MOST_GAS * s),
        graded=True,
    ),
}
"""Every fault by its name."""


def all_possible(system: System) -> list[str]:
    """The faults that a system (fields of shape ()) can have."""
    return [name for name, fault in FAULTS.items() if fault.needs(system)]


def broken(system: System, controls: Controls, faults: dict[str, float]) -> tuple[System, Controls]:
    """A system and its controls with faults, by their names and severities [-].

    Raises
    ------
    KeyError
        If there is no such fault: a mistake of the caller's, whose documents know every name.
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
