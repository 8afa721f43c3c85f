"""Thermostat and fan switch that leave a wanted margin below the limit."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit.thermostat import FanSwitch
from ebbrin.core.records import changed
from ebbrin.core.studies.control_choice import CANDIDATES, SWITCHES, nearest, switch_tests, thermostat_tests
from ebbrin.core.system.parts import System

APART = 0.5  # choice: least between a stage's on- and off-point, K


@dataclass(frozen=True)
class SwitchingPoints:
    """Thermostat opening, fan on- and off-point [K], and what else of the common ones would do: openings
    (n,), switch pairs (m, 2)."""

    opens: float
    on: float
    off: float
    openings: FloatArray
    pairs: FloatArray


def switching_points(
    system: System, limit: FloatArray, margin: float, keep_thermostat: bool, keep_switch: bool
) -> SwitchingPoints:
    """The common ones that leave ``margin`` [K] below the least ``limit`` (cases,) [K], nearest to those fitted;
    those fitted where none does, or where they are kept. Rules as in control_choice; a switch that is not kept is
    chosen to go with the thermostat.

    Parameters
    ----------
    system : one system, fields of shape ().
    """
    valve, switch = system.circuit.thermostat, system.fan_switch
    opens, on, off = float(valve.opens), float(switch.on), float(switch.off)
    early, warm, stops = thermostat_tests(system, CANDIDATES, limit, margin)
    works = early & warm & (stops | np.asarray(not keep_switch))
    if not keep_thermostat and works.any():
        opens = float(CANDIDATES[nearest(works, np.abs(CANDIDATES - opens))])
    with_it = changed(system, "circuit.thermostat.opens", np.asarray(opens))
    fits = np.logical_and(*switch_tests(with_it, SWITCHES, limit, margin))
    if not keep_switch and fits.any():
        on, off = (float(x) for x in SWITCHES[nearest(fits, np.abs(SWITCHES[:, 0] - on))])
    return SwitchingPoints(opens, on, off, CANDIDATES[works], SWITCHES[fits])


def second_stage(switch: FanSwitch, on: float, off: float) -> tuple[float, float]:
    """On- and off-point of a staged fan's second stage [K] once its first has others: each moves with the one of the first,
    and they stay APART."""
    full_on = float(switch.full_on) + on - float(switch.on)
    return full_on, min(float(switch.full_off) + off - float(switch.off), full_on - APART)


def with_switching_points(system: System, found: SwitchingPoints) -> System:
    """The system with them; a staged fan's second pair moves with the first."""
    full_on, full_off = second_stage(system.fan_switch, found.on, found.off)
    for path, value in (
        ("circuit.thermostat.opens", found.opens),
        ("fan_switch.on", found.on),
        ("fan_switch.off", found.off),
        ("fan_switch.full_on", full_on),
        ("fan_switch.full_off", full_off),
    ):
        system = changed(system, path, np.asarray(value))
    return system
