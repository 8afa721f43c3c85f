"""Thermostat and fan switch that leave a wanted margin below the limit."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.records import changed
from ebbrin.core.studies.control_choice import (
    CANDIDATES,
    OVERSHOOT,
    SWITCHES,
    WARM_ENOUGH,
    light_load_temperature,
)
from ebbrin.core.system.parts import System


@dataclass(frozen=True)
class Controls:
    """Thermostat opening, fan on- and off-point [K], and what else of the common ones would do: openings
    (n,), switch pairs (m, 2)."""

    opens: float
    on: float
    off: float
    openings: FloatArray
    pairs: FloatArray


def controls(
    system: System, limit: FloatArray, margin: float, keep_thermostat: bool, keep_switch: bool
) -> Controls:
    """The common ones that leave ``margin`` [K] below the least ``limit`` (cases,) [K], nearest to those fitted;
    those fitted where none does, or where they are kept. Rules as in control_choice.

    Parameters
    ----------
    system : one system, fields of shape ().
    """
    valve, switch = system.circuit.thermostat, system.fan_switch
    highest, span = float(np.min(limit)), float(valve.span)
    opens, on, off = float(valve.opens), float(switch.on), float(switch.off)
    wanted = CANDIDATES[(CANDIDATES + span <= highest - margin) & (CANDIDATES >= WARM_ENOUGH)]
    if not keep_thermostat and wanted.size:
        opens = float(wanted[np.argmin(np.abs(wanted - opens))])
    held = float(light_load_temperature(np.asarray(opens), np.asarray(span)))
    below = (SWITCHES[:, 0] <= highest - max(margin, OVERSHOOT)) & (SWITCHES[:, 1] > held)
    pairs = SWITCHES[below]
    if not keep_switch and len(pairs):
        on, off = (float(x) for x in pairs[np.argmin(np.abs(pairs[:, 0] - on))])
    return Controls(opens, on, off, wanted, pairs)


def with_controls(system: System, found: Controls) -> System:
    """The system with them; a staged fan's second pair moves with the first."""
    moved = found.on - float(system.fan_switch.on)
    for path, value in (
        ("circuit.thermostat.opens", found.opens),
        ("fan_switch.on", found.on),
        ("fan_switch.off", found.off),
        ("fan_switch.full_on", float(system.fan_switch.full_on) + moved),
        ("fan_switch.full_off", float(system.fan_switch.full_off) + moved),
    ):
        system = changed(system, path, np.asarray(value))
    return system
