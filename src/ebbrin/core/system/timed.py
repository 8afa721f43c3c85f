"""Timed cases as an estimate: one heat store of metal and coolant between heat in and heat out."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.media.coolants import properties
from ebbrin.core.records import shape_of
from ebbrin.core.roots import bracketed_root
from ebbrin.core.system.balance import Shed, coolant_at, demand, full_demand, shed
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import stage_below

WAY_POINTS = 10
BEYOND_POINTS = 22
"""Temperatures up to the limit, and from there to the end of the coolant's tables. Whatever is asked of a timed case
looks at the same ones up to its limit, so that no two answers contradict each other."""
COLDEST_AIR, HOTTEST_AIR, AIR_TOLERANCE = 213.15, 353.15, 0.02
TOO_LATE = -9.0  # stands for a case that begins beyond its limit


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


@dataclass(frozen=True)
class Way:
    """Timed cases on their way up: top hoses (points, ..., cases) [K], the fan's stage there as its switch leaves it,
    heat that the fan's clutch wholly engaged would make of the demand [W], and what is shed there."""

    system: System
    cases: Cases
    T: FloatArray
    stage: IntArray
    heat: FloatArray
    there: Shed

    def heats(self, there: Shed | None = None) -> tuple[FloatArray, FloatArray]:
        """Heat in, and heat shed or what a probe says is shed [W]."""
        there = there or self.there
        sent = demand(self.system, self.cases, there.air.fan_ratio).total
        return np.broadcast_arrays(sent, there.heat)  # type: ignore[return-value]

    def surplus(self) -> FloatArray:
        """Heat in less heat shed [W]."""
        sent, gone = self.heats()
        return np.asarray(sent - gone)


def steps_up(start: FloatArray, end: FloatArray, points: int) -> FloatArray:
    """(points, ...) temperatures from ``start`` to ``end`` [K], evenly; all at the start where that is the hotter."""
    shares = np.linspace(0.0, 1.0, points).reshape(
        -1, *(1 for _ in np.broadcast_shapes(start.shape, end.shape))
    )
    return np.asarray(start + shares * np.maximum(end - start, 0.0))


def way(system: System, cases: Cases, limit: FloatArray, beyond: bool = False) -> Way:
    """From each timed case's start up to its ``limit`` (..., cases) [K], and ``beyond`` it to the end of the
    coolant's tables."""
    shape = np.broadcast_shapes(limit.shape, shape_of(system), np.shape(cases.start), np.shape(cases.ambient))
    start, limit = np.broadcast_to(cases.start, shape), np.broadcast_to(limit, shape)
    T = steps_up(start, limit, WAY_POINTS)
    if beyond:
        further = steps_up(T[-1], np.broadcast_to(system.table_end, shape), BEYOND_POINTS + 1)
        T = np.concatenate([T, further[1:]])
    stage = stage_below(system, cases, T)
    heat = np.broadcast_to(full_demand(system, cases, stage).total, T.shape)
    return Way(
        system, cases, T, stage, heat, shed(system, cases, stage, T, coolant_at(system, cases, T, heat), heat)
    )


def _run(system: System, cases: Cases, limit: FloatArray) -> tuple[FloatArray, FloatArray]:
    """End [K] and time to the limit [s] of timed cases alone."""
    shape = np.broadcast_shapes(limit.shape, shape_of(system), np.shape(cases.start))
    start, duration = (np.broadcast_to(v, shape) for v in (cases.start, cases.duration))
    up = way(system, cases, np.minimum(limit, system.table_end), beyond=True)
    T, surplus, capacity = up.T, up.surplus(), np.broadcast_to(heat_store(system, start), shape)
    rising = np.cumprod(surplus > 0.0, axis=0).astype(bool)
    steps_taken = np.where(rising[1:], _step_times(T, surplus, capacity), np.inf)
    times = np.concatenate([np.zeros((1, *shape)), np.cumsum(steps_taken, axis=0)])
    # Beyond the last point at which it still warms the top hose only nears the balance that lies ahead of it.
    last = np.maximum(rising.sum(0) - 1, 0)
    beyond = np.minimum(last + 1, len(T) - 1)

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


def room(to_limit: Way, there: Shed | None = None) -> FloatArray:
    """Share of the way from a timed case's start to its limit that is left at its end [-], below nothing where it is
    there too soon (1 - duration over time to the limit). Where it never gets there, 1 and the logarithm of heat shed
    over heat sent where that is the most.

    Parameters
    ----------
    to_limit : the way to the limit.
    there : what is shed on it, where a probe changes that.
    """
    cases, T = to_limit.cases, to_limit.T
    sent, gone = to_limit.heats(there)
    more = sent.ndim - T.ndim  # axes that a probe has put ahead of the points
    sent, gone = np.moveaxis(sent, more, 0), np.moveaxis(gone, more, 0)
    surplus = sent - gone
    T = T.reshape(len(T), *(1 for _ in range(more)), *T.shape[1:])
    capacity = heat_store(to_limit.system, np.asarray(cases.start))
    # Slower and slower towards a balance: where there is none left the time has no end.
    times = _step_times(T, np.maximum(surplus, 1e-9), capacity).sum(0)
    pace = cases.duration / np.maximum(times, 1e-9)
    most = np.log(np.maximum(gone, 1e-6 * sent) / sent).max(0)
    left = np.where((surplus > 0.0).all(0), np.maximum(1.0 - pace, TOO_LATE), 1.0 + np.maximum(most, 0.0))
    return np.where(T[0] >= T[-1], TOO_LATE, left)


def ambient_for(system: System, cases: Cases, limit: FloatArray) -> tuple[FloatArray, BoolArray]:
    """Ambient [K] at which timed cases end at ``limit`` (..., cases) [K], on the side of the case's own on which it
    must lie, and whether there is one; where even the hottest air that is looked at (HOTTEST_AIR) does not do it,
    that; broadcasts."""

    def spare(ambient: FloatArray) -> FloatArray:
        return room(way(system, replace(cases, ambient=ambient), limit))

    shape = np.broadcast_shapes(limit.shape, shape_of(system), np.shape(cases.start), np.shape(cases.ambient))
    hottest = np.broadcast_to(np.minimum(HOTTEST_AIR, limit - 1.0), shape)
    own = np.minimum(cases.ambient, hottest)
    # An engine that throttles less in thin air can have more room in hotter air: upwards from a case that holds, and
    # downwards from one that does not.
    holds = spare(own) > 0.0
    low, high = np.where(holds, own, COLDEST_AIR), np.where(holds, hottest, own)
    root = bracketed_root(spare, low, high, AIR_TOLERANCE, 1e-4)
    at = np.where(root.bracketed, root.x, np.where(holds, high, low))
    return at, root.bracketed | holds


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
