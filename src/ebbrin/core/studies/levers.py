"""What each single change would buy, by solving the changed system again."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ebbrin.core.airpath.front_end import FULL_SHROUD, RING
from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.media import coolants
from ebbrin.core.media.coolants import Coolant, mass_fraction_from_volume
from ebbrin.core.records import changed, value_at
from ebbrin.core.system.parts import System

AREA, DEPTH, FINS, FAN, RAM, PUMP = 1.10, 1.25, 1.15, 1.20, 0.20, 1.10
MOST_RAM, THERMOSTAT_STEP, CAP_STEP = 0.9, 6.0, 20_000.0
FULL_RECIRCULATION, RING_RECIRCULATION = 0.05, 0.05

Change = Callable[[System], System | None]


def _scale(*paths: str, by: float) -> Change:
    def change(system: System) -> System:
        for path in paths:
            system = changed(system, path, np.asarray(value_at(system, path) * by))
        return system

    return change


def _clear(path: str) -> Change:
    """Set to none what there is; no lever where there is nothing."""

    def change(system: System) -> System | None:
        return changed(system, path, np.asarray(0.0)) if value_at(system, path) > 0.0 else None

    return change


def _shroud(kind: int, recirculation: float) -> Change:
    def change(system: System) -> System | None:
        if not system.air.fan.fitted or system.air.shroud >= kind:
            return None
        system = changed(system, "air.blade_recirculation", np.asarray(recirculation))
        return changed(system, "air.shroud", np.asarray(kind))

    return change


def _stronger_fan(system: System) -> System | None:
    """Fan laws: a fan that moves FAN times the air against the square of that in pressure."""
    if not system.air.fan.fitted:
        return None
    return _scale("air.fan.pressure", by=FAN**2)(_scale("air.fan.free_flow", by=FAN)(system) or system)


def _more_ram(system: System) -> System | None:
    ram = float(system.air.ram)
    return changed(system, "air.ram", np.asarray(ram + RAM)) if ram + RAM <= MOST_RAM else None


def _faster_pump(system: System) -> System | None:
    if system.circuit.pump.siphon > 0.0:
        return None
    path = "circuit.pump.belt_ratio" if system.circuit.pump.belt else "circuit.pump.electric_speed"
    return changed(system, path, np.asarray(value_at(system, path) * PUMP))


def _coolant(kind: int, mass_fraction: float) -> Change:
    def change(system: System) -> System | None:
        now = system.coolant
        if now.kind == kind and abs(float(now.mass_fraction) - mass_fraction) < 0.02:
            return None
        return changed(system, "coolant", Coolant(np.asarray(kind), np.asarray(mass_fraction)))

    return change


def _step(path: str, by: float) -> Change:
    def change(system: System) -> System:
        return changed(system, path, np.asarray(value_at(system, path) + by))

    return change


LEVERS: dict[str, Change] = {
    "core_area": _scale("core.width", "core.height", by=AREA**0.5),
    "core_depth": _scale("core.depth", by=DEPTH),
    "fin_density": _scale("core.fin_pitch", by=1.0 / FINS),
    "full_shroud": _shroud(FULL_SHROUD, FULL_RECIRCULATION),
    "ring_shroud": _shroud(RING, RING_RECIRCULATION),
    "fan_flow": _stronger_fan,
    "ram": _more_ram,
    "front_sealed": _clear("air.recirculation_at_rest"),
    "debris_cleared": _clear("core.blocked_face"),
    "tubes_cleared": _clear("core.blocked_tubes"),
    "descaled": _clear("core.scale"),
    "pump_ratio": _faster_pump,
    "water": _coolant(coolants.WATER, 0.0),
    "half_glycol": _coolant(coolants.ETHYLENE_GLYCOL, float(mass_fraction_from_volume(0.5))),
    "waterless": _coolant(coolants.WATERLESS, 0.99),
    "cap_up": _step("cap.pressure", CAP_STEP),
    "thermostat_down": _step("circuit.thermostat.opens", -THERMOSTAT_STEP),
}
"""Each change by its name; None where it does not apply to a system."""


def applicable(system: System) -> tuple[tuple[str, ...], list[System]]:
    """Names of the levers that apply to one system (fields of shape ()), and the changed systems."""
    found = [(name, change(system)) for name, change in LEVERS.items()]
    kept = [(name, system) for name, system in found if system is not None]
    return tuple(name for name, _ in kept), [system for _, system in kept]


@dataclass(frozen=True)
class Levers:
    """What each of ``names`` does, arrays (levers, cases).

    cooler [K] is by how much the temperature that margins are taken from falls, meaningful where ``settles``:
    both before and after there is a steady state or a timed end; spared [K] by how much the margin below the
    limit grows; ambient_gain [K] how much hotter the air may be, where ``found`` both before and after.
    ``cures`` where a case without steady state gets one. Arrays (levers,): freezes [K] the coolant's freezing
    point, and pumped [Pa] what the pump adds to the cap's pressure, once the lever is pulled.
    """

    names: tuple[str, ...]
    cooler: FloatArray
    spared: FloatArray
    settles: BoolArray
    ambient_gain: FloatArray
    found: BoolArray
    cures: BoolArray
    freezes: FloatArray
    pumped: FloatArray

    @classmethod
    def none(cls, cases: int) -> Levers:
        """No levers at all."""
        numbers, no = np.zeros((0, cases)), np.zeros((0, cases), bool)
        return cls((), numbers, numbers, no, numbers, no, no, np.zeros(0), np.zeros(0))
