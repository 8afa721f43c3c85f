"""Timed cases as an estimate: one heat store of metal and coolant between heat in and heat out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.media.coolants import properties
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
    """Integrate dt = C dT / (heat in - heat out) from each case's start, fan on; broadcasts.

    The surplus is taken as linear between temperatures of a grid, which gives each step's time exactly.
    The airflow is that of the full heat. An estimate until the drive over time is computed.
    """
    which = np.flatnonzero(np.isfinite(cases.duration))
    shape = on.top_hose.shape
    end, to_limit = np.array(np.broadcast_to(cases.start, shape)), np.full(shape, np.inf)
    if which.size:
        few = cases.taken(which)
        limit = np.broadcast_to(limit, shape)[..., which]
        end[..., which], to_limit[..., which] = _run(system, few, on.of_cases(which), limit)
    return TimedRun(end, to_limit, np.broadcast_to(np.isfinite(cases.duration), shape))


def _run(system: System, cases: Cases, on: Settled, limit: FloatArray) -> tuple[FloatArray, FloatArray]:
    """End [K] and time to the limit [s] of timed cases alone."""
    shape = on.top_hose.shape
    start, duration = (np.broadcast_to(v, shape) for v in (cases.start, cases.duration))
    steps = np.linspace(0.0, 1.0, GRID_POINTS).reshape(-1, *(1 for _ in shape))
    end_of_table = np.broadcast_to(system.table_end, shape)
    top = np.where(on.exists & (on.top_hose > start), on.top_hose, end_of_table)
    T = start + steps * (top - start)
    heat = on.heat.total
    coolant = coolant_at(system, cases, T, heat, on.coolant.volume_flow)
    surplus = heat - shed(system, cases, T, coolant, on.air, heat).heat
    capacity = heat_store(system, start)
    rising = np.cumprod(surplus > 0.0, axis=0).astype(bool)
    steps_taken = np.where(rising[1:], _step_times(T, surplus, capacity), np.inf)
    times = np.concatenate([np.zeros((1, *shape)), np.cumsum(steps_taken, axis=0)])
    end = np.where(rising[0], _across(duration, times, T), start)
    reached = (limit <= np.where(np.isfinite(times), T, -np.inf).max(0)) & rising[0]
    to_limit = np.where(reached, np.maximum(_across(np.broadcast_to(limit, shape), T, times), 0.0), np.inf)
    return end, to_limit


def _across(x: FloatArray, along: FloatArray, values: FloatArray) -> FloatArray:
    """Linear interpolation down the leading axis, element by element; held at the last finite entry."""
    finite = np.isfinite(along) & np.isfinite(values)
    last = finite.sum(0) - 1
    i = np.minimum(np.maximum((np.where(finite, along, np.inf) <= x).sum(0) - 1, 0), np.maximum(last - 1, 0))
    (x0, x1), (y0, y1) = (
        (np.take_along_axis(a, i[None], 0)[0], np.take_along_axis(a, np.minimum(i + 1, last)[None], 0)[0])
        for a in (along, values)
    )
    share = (x - x0) / np.where(x1 > x0, x1 - x0, 1.0)
    return np.asarray(y0 + np.minimum(np.maximum(share, 0.0), 1.0) * (y1 - y0))


def _step_times(T: FloatArray, surplus: FloatArray, capacity: FloatArray) -> FloatArray:
    """Time for each step of the grid [s] when the surplus runs linearly across it."""
    first, last = np.maximum(surplus[:-1], 1e-6), np.maximum(surplus[1:], 1e-6)
    same = np.isclose(first, last, rtol=1e-9)
    mean = np.where(same, first, (last - first) / np.where(same, 1.0, np.log(last / first)))
    return np.asarray(capacity * np.diff(T, axis=0) / mean)
