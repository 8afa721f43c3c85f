"""Which thermostats would work with this build, and why the others would not."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ZERO_CELSIUS, BoolArray, FloatArray
from ebbrin.core.system.limits import SAFE_MARGIN
from ebbrin.core.system.parts import System

CANDIDATES = np.array([68.0, 71.0, 77.0, 82.0, 88.0, 91.0, 95.0]) + ZERO_CELSIUS
WARM_ENOUGH = 80.0 + ZERO_CELSIUS  # common practice: cabin heat and warm-up suffer below
LIGHT_LOAD_LIFT = 0.25  # choice: lift at which a thermostat holds an engine at light load


@dataclass(frozen=True)
class ThermostatChoice:
    """For each candidate [K]: fully open early enough below the limit, warm enough for cabin and engine
    management, and held below the fan's off-point at light load. ``chosen`` is an index, -1 for none;
    ``fitted_works`` says the same of the one that is fitted."""

    opens: FloatArray
    early_enough: BoolArray
    warm_enough: BoolArray
    fan_can_stop: BoolArray
    chosen: int
    fitted_works: bool


def _tests(system: System, opens: FloatArray, limit: FloatArray) -> tuple[BoolArray, BoolArray, BoolArray]:
    span = system.circuit.thermostat.span
    early = opens + span <= np.min(limit) - SAFE_MARGIN
    warm = opens >= WARM_ENOUGH
    can_stop = ~np.asarray(system.air.fan.fitted) | (opens + LIGHT_LOAD_LIFT * span < system.fan_switch.off)
    return early, warm, np.broadcast_to(can_stop, opens.shape)


def thermostat_choice(system: System, limit: FloatArray) -> ThermostatChoice:
    """The candidate that works and lies nearest to the one fitted; rule: choice, points: common practice.

    Parameters
    ----------
    limit : (cases,) float array, highest allowed top hose [K].
    """
    early, warm, stops = _tests(system, CANDIDATES, limit)
    works = np.flatnonzero(early & warm & stops)
    fitted = np.atleast_1d(system.circuit.thermostat.opens)
    nearest = works[np.argmin(np.abs(CANDIDATES[works] - fitted[0]))] if works.size else -1
    fine = all(bool(test[0]) for test in _tests(system, fitted, limit))
    return ThermostatChoice(CANDIDATES, early, warm, stops, int(nearest), fine)
