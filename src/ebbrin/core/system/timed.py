"""Timed cases as an estimate: one heat store of metal and coolant between heat in and heat out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.media.coolants import properties
from ebbrin.core.roots import bracketed_root
from ebbrin.core.system.balance import Gains, Shed, coolant_at, demand, full_demand, shed, shed_with_air
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import shape_of, stage_below

GRID_POINTS = 32
HOTTEST_AIR, AIR_TOLERANCE = 353.15, 0.02


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


def estimate(system: System, cases: Cases, limit: FloatArray) -> TimedRun:
    """Integrate dt = C dT / (heat in - heat out) from each case's start; broadcasts.

    The fan stands as its switch leaves it on the way up. The surplus is taken as linear between temperatures of a
    grid, which gives each step's time exactly. An estimate: the drive over time has more stores than one.
    """
    which = np.flatnonzero(np.isfinite(cases.duration))
    shape = np.broadcast_shapes(limit.shape, shape_of(system), np.shape(cases.ambient))
    end, to_limit = np.array(np.broadcast_to(cases.start, shape)), np.full(shape, np.inf)
    if which.size:
        few = cases.taken(which)
        limit = np.broadcast_to(limit, shape)[..., which]
        end[..., which], to_limit[..., which] = _run(system, few, limit)
    return TimedRun(end, to_limit, np.broadcast_to(np.isfinite(cases.duration), shape))


def _run(
    system: System,
    cases: Cases,
    limit: FloatArray,
    changed: Callable[[FloatArray, IntArray, Shed], Shed] | None = None,
) -> tuple[FloatArray, FloatArray]:
    """End [K] and time to the limit [s] of timed cases alone.

    Parameters
    ----------
    changed : what is shed at top hoses and stages, from what is shed there as the parts are, where a probe changes it.
    """
    shape = np.broadcast_shapes(limit.shape, shape_of(system), np.shape(cases.start))
    start, duration = (np.broadcast_to(v, shape) for v in (cases.start, cases.duration))
    steps = np.linspace(0.0, 1.0, GRID_POINTS).reshape(-1, *(1 for _ in shape))
    T = start + steps * np.maximum(np.broadcast_to(system.table_end, shape) - start, 0.0)
    stage = stage_below(system, cases, T)
    heat = full_demand(system, cases, stage).total
    there = shed(system, cases, stage, T, coolant_at(system, cases, T, heat), heat)
    if changed is not None:
        there = changed(T, stage, there)
    surplus = demand(system, cases, there.air.fan_ratio).total - there.heat
    capacity = np.broadcast_to(heat_store(system, start), shape)
    rising = np.cumprod(surplus > 0.0, axis=0).astype(bool)
    steps_taken = np.where(rising[1:], _step_times(T, surplus, capacity), np.inf)
    times = np.concatenate([np.zeros((1, *shape)), np.cumsum(steps_taken, axis=0)])
    # Beyond the last point at which it still warms the top hose only nears the balance that lies ahead of it.
    last = np.maximum(rising.sum(0) - 1, 0)
    beyond = np.minimum(last + 1, GRID_POINTS - 1)

    def at(values: FloatArray, index: IntArray) -> FloatArray:
        return np.asarray(np.take_along_axis(values, index[None], 0)[0])

    T0, t0, s0 = at(T, last), at(times, last), at(surplus, last)
    falls = s0 - at(surplus, beyond)
    nears = rising[0] & (beyond > last) & (falls > 0.0)
    falls = np.where(nears, falls, 1.0)
    room, pace = (at(T, beyond) - T0) * s0 / falls, capacity * (at(T, beyond) - T0) / falls
    late = np.maximum(duration - t0, 0.0)
    tail = T0 + np.where(nears, room * -np.expm1(-late / np.where(nears, pace, 1.0)), 0.0)
    end = np.where(rising[0], np.where(duration > t0, tail, _across(duration, times, T)), start)
    early = _across(np.broadcast_to(limit, shape), T, times)
    part = np.where(nears, (limit - T0) / np.where(room > 0.0, room, 1.0), 2.0)
    slow = np.where(part < 1.0, t0 - pace * np.log1p(-np.minimum(part, 1.0 - 1e-12)), np.inf)
    to_limit = np.where(rising[0], np.where(limit <= T0, np.maximum(early, 0.0), slow), np.inf)
    return end, np.where(limit <= start, 0.0, to_limit)


def end_with(
    system: System, cases: Cases, limit: FloatArray, factor: FloatArray, by: str
) -> FloatArray:
    """End [K] of timed cases with ``factor`` (...) times more ``air``, ``core`` or ``coolant`` flow."""

    def changed(T: FloatArray, stage: IntArray, there: Shed) -> Shed:
        heat = full_demand(system, cases, stage).total
        velocity = there.air.velocity
        gains = None
        if by == "air":
            velocity = velocity * factor[..., None]
        else:
            gains = Gains(**{by: factor})
        return shed_with_air(system, cases, stage, T, there.coolant, heat, velocity, there.air.mean, gains)

    return _run(system, cases, limit, changed)[0]


def ambient_for(system: System, cases: Cases, limit: FloatArray) -> tuple[FloatArray, BoolArray]:
    """Ambient [K] at which timed cases end at ``limit`` (..., cases) [K], and whether there is one; where even the
    hottest air that is looked at (HOTTEST_AIR) does not do it, that; broadcasts."""

    def spare(ambient: FloatArray) -> FloatArray:
        return limit - _run(system, replace(cases, ambient=ambient), np.broadcast_to(limit, ambient.shape))[0]

    low = np.full(limit.shape, 213.15)
    high = np.minimum(HOTTEST_AIR, limit - 1.0)
    root = bracketed_root(spare, low, high, AIR_TOLERANCE, 1e-3)
    never_hot = ~root.bracketed & (spare(high) > 0.0)
    found = root.bracketed | never_hot
    return np.where(never_hot, high, np.where(found, root.x, low)), found
