"""Which thermostats and which fan switches would work with this build, and why the others would not."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np

from ebbrin.core.base import ZERO_CELSIUS, BoolArray, FloatArray, IntArray
from ebbrin.core.system.limits import SAFE_MARGIN
from ebbrin.core.system.parts import System

CANDIDATES = np.array([68.0, 71.0, 77.0, 82.0, 88.0, 91.0, 95.0]) + ZERO_CELSIUS
SWITCHES = (
    np.array(
        [[82.0, 77.0], [88.0, 83.0], [90.0, 85.0], [95.0, 90.0], [98.0, 92.0], [102.0, 96.0], [104.0, 98.0]]
    )
    + ZERO_CELSIUS
)
"""On and off points of fan switches [K]; common practice (90/85 with a 71-77 °C thermostat, 102/96 with 88-92)."""
WARM_ENOUGH = 80.0 + ZERO_CELSIUS  # common practice: cabin heat and warm-up suffer below
LIGHT_LOAD_LIFT = 0.25  # choice: lift at which a thermostat holds an engine at light load
OVERSHOOT = 3.0  # choice: how far the top hose passes the on-point before the fan bites, K


class ThermostatReason(IntEnum):
    """Why a candidate is chosen or not; of several reasons the first that applies."""

    CHOSEN = 0
    OPENS_TOO_LATE = 1
    TOO_COOL = 2
    FAN_NEVER_STOPS = 3
    FURTHER_FROM_FITTED = 4


class SwitchReason(IntEnum):
    """Why a fan switch is chosen or not; of several reasons the first that applies."""

    CHOSEN = 0
    TOO_NEAR_LIMIT = 1
    NEVER_STOPS = 2
    FURTHER_FROM_FITTED = 3
    NO_FAN = 4


@dataclass(frozen=True)
class ThermostatChoice:
    """For each candidate [K]: fully open early enough below the limit, warm enough for cabin and engine
    management, held below the fan's off-point at light load, and the reason for or against it
    (ThermostatReason). ``chosen`` is an index, -1 for none; ``fitted_works`` says the same of the one that is fitted."""

    opens: FloatArray
    early_enough: BoolArray
    warm_enough: BoolArray
    fan_can_stop: BoolArray
    reason: IntArray
    chosen: int
    fitted_works: bool


@dataclass(frozen=True)
class SwitchChoice:
    """For each candidate pair (on, off) [K]: below the limit with room for overshoot, above what the
    thermostat holds at light load, and the reason (SwitchReason). ``chosen`` is an index, -1 for none;
    ``fitted_works`` says the same of the one that is fitted."""

    pairs: FloatArray
    below_limit: BoolArray
    can_stop: BoolArray
    reason: IntArray
    chosen: int
    fitted_works: bool


def light_load_temperature(opens: FloatArray, span: FloatArray) -> FloatArray:
    """Where a thermostat holds an engine at light load [K]."""
    return np.asarray(opens + LIGHT_LOAD_LIFT * span)


def _switched(system: System) -> BoolArray:
    """Whether there is a fan that a switch runs; a belt's needs none."""
    return np.asarray(system.air.fan.fitted & ~system.air.fan.mechanical)


def thermostat_tests(
    system: System, opens: FloatArray, limit: FloatArray, margin: float = SAFE_MARGIN
) -> tuple[BoolArray, BoolArray, BoolArray]:
    """Whether thermostats that open at ``opens`` (n,) [K] stand fully open ``margin`` [K] below the least ``limit`` [K],
    keep the engine warm enough, and hold it below where the fitted switch stops the fan: the one rule for all."""
    span = system.circuit.thermostat.span
    early = opens + span <= np.min(limit) - margin
    can_stop = ~_switched(system) | (light_load_temperature(opens, span) < system.fan_switch.off)
    return early, opens >= WARM_ENOUGH, np.broadcast_to(can_stop, opens.shape)


def switch_tests(
    system: System, pairs: FloatArray, limit: FloatArray, margin: float = OVERSHOOT
) -> tuple[BoolArray, BoolArray]:
    """Whether switch pairs (n, 2) of on and off [K] come on ``margin`` [K], at least the fan's overshoot, below the
    least ``limit`` [K], and go off above what the fitted thermostat holds: the one rule for all."""
    valve = system.circuit.thermostat
    held = light_load_temperature(valve.opens, valve.span)
    return pairs[:, 0] <= np.min(limit) - max(margin, OVERSHOOT), pairs[:, 1] > held


def nearest(works: BoolArray, distance: FloatArray) -> int:
    """Index of the one that works and lies nearest, -1 where none works."""
    good = np.flatnonzero(works)
    return int(good[np.argmin(distance[good])]) if good.size else -1


def thermostat_choice(system: System, limit: FloatArray) -> ThermostatChoice:
    """The candidate that works and lies nearest to the one fitted; rule: choice, points: common practice.

    Parameters
    ----------
    limit : (cases,) float array, highest allowed top hose [K].
    """
    early, warm, stops = thermostat_tests(system, CANDIDATES, limit)
    fitted = np.atleast_1d(system.circuit.thermostat.opens)
    chosen = nearest(early & warm & stops, np.abs(CANDIDATES - fitted[0]))
    reason = np.select(
        [np.arange(len(CANDIDATES)) == chosen, ~early, ~warm, ~stops],
        [
            ThermostatReason.CHOSEN,
            ThermostatReason.OPENS_TOO_LATE,
            ThermostatReason.TOO_COOL,
            ThermostatReason.FAN_NEVER_STOPS,
        ],
        ThermostatReason.FURTHER_FROM_FITTED,
    )
    fine = all(bool(test[0]) for test in thermostat_tests(system, fitted, limit))
    return ThermostatChoice(CANDIDATES, early, warm, stops, reason, chosen, fine)


def switch_choice(system: System, limit: FloatArray) -> SwitchChoice:
    """The fan switch that works with the fitted thermostat and lies nearest to the one fitted.

    Parameters
    ----------
    limit : (cases,) float array, highest allowed top hose [K].
    """
    switch = system.fan_switch
    below, stops = switch_tests(system, SWITCHES, limit)
    fitted = bool(_switched(system))
    chosen = nearest(below & stops, np.abs(SWITCHES[:, 0] - switch.on)) if fitted else -1
    reason = np.select(
        [np.full(len(SWITCHES), not fitted), np.arange(len(SWITCHES)) == chosen, ~below, ~stops],
        [SwitchReason.NO_FAN, SwitchReason.CHOSEN, SwitchReason.TOO_NEAR_LIMIT, SwitchReason.NEVER_STOPS],
        SwitchReason.FURTHER_FROM_FITTED,
    )
    own = switch_tests(system, np.stack([switch.on, switch.off])[None], limit)
    works = not fitted or (bool(own[0][0]) and bool(own[1][0]))
    return SwitchChoice(SWITCHES, below, stops, reason, chosen, works)
