"""Timed cases as an estimate: one heat store of metal and coolant between heat in and heat out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.media.coolants import TABLE_END, properties
from ebbrin.core.system.balance import coolant_at, shed
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import Settled

GRID_POINTS = 40


@dataclass(frozen=True)
class TimedRun:
    """Estimate for each case: top hose at the end of its duration [K]; time until the limit [s], inf
    where it is never reached; both meaningful only where ``timed``."""

    end: FloatArray
    time_to_limit: FloatArray
    timed: BoolArray


def heat_store(system: System, temperature: FloatArray) -> FloatArray:
    """Heat capacity of metal and coolant together [J/K]."""
    fluid = properties(system.coolant, temperature)
    return np.asarray(
        system.engine.heat_capacity + system.coolant_volume * fluid.density * fluid.heat_capacity
    )


def estimate(system: System, cases: Cases, on: Settled, limit: FloatArray) -> TimedRun:
    """Integrate dt = C dT / (heat in - heat out) from each case's start, fan on; (cases,) only.

    The surplus is taken as linear between temperatures of a grid, which gives each step's time exactly.
    The airflow is that of the full heat. An estimate until the drive over time is computed.
    """
    start = np.broadcast_to(cases.start, on.top_hose.shape)
    timed = np.isfinite(cases.duration)
    if not timed.any():
        return TimedRun(start, np.full(start.shape, np.inf), timed)
    steps = np.linspace(0.0, 1.0, GRID_POINTS)[:, None]
    top = np.where(on.exists & (on.top_hose > start), on.top_hose, TABLE_END)
    T = start + steps * (top - start)
    coolant = coolant_at(system, cases, T)
    surplus = on.heat.total - shed(system, T, coolant, on.air, on.heat.total, cases.ambient).heat
    capacity = heat_store(system, start)
    rising = np.cumprod(surplus > 0.0, axis=0).astype(bool)
    times = np.concatenate([np.zeros((1, T.shape[1])), _step_times(T, surplus, capacity)])
    times = np.where(rising, np.cumsum(np.where(rising, times, 0.0), axis=0), np.inf)
    end, to_limit = start.copy(), np.full(start.shape, np.inf)
    for case in np.flatnonzero(timed):
        reach = np.flatnonzero(rising[:, case])
        if not reach.size:
            continue
        t, temperature = times[reach, case], T[reach, case]
        end[case] = np.interp(cases.duration[case], t, temperature)
        if limit[case] <= temperature[-1]:
            to_limit[case] = max(float(np.interp(limit[case], temperature, t)), 0.0)
    return TimedRun(end, to_limit, timed)


def _step_times(T: FloatArray, surplus: FloatArray, capacity: FloatArray) -> FloatArray:
    """Time for each step of the grid [s] when the surplus runs linearly across it."""
    first, last = np.maximum(surplus[:-1], 1e-6), np.maximum(surplus[1:], 1e-6)
    same = np.isclose(first, last, rtol=1e-9)
    mean = np.where(same, first, (last - first) / np.where(same, 1.0, np.log(last / first)))
    return np.asarray(capacity * np.diff(T, axis=0) / mean)
