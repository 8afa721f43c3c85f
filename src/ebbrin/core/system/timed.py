"""Timed cases as an estimate: one heat store of metal and coolant between heat in and heat out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath.fan import OFF
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.compiled import compiled, compiled_with_room, flat, over_cores
from ebbrin.core.media.coolants import properties_at
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system.balance import Shed, Stand, coolant_at, shed, stand_at
from ebbrin.core.system.control import stage_below, stage_below_at
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts, case_of, in_air, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.together import AFRESH, OTHER_STAGE, SAME_STAGE, glance_at

WAY_POINTS = 10
BEYOND_POINTS = 22
"""Temperatures up to the limit, and from there to the end of the coolant's tables. Whatever is asked of a timed case
looks at the same ones up to its limit, so that no two answers contradict each other."""
COLDEST_AIR, HOTTEST_AIR, AIR_TOLERANCE, ROOM_RESIDUAL = 213.15, 353.15, 0.02, 1e-4
FIRST_STRIDE = 6.0  # K; how far one goes at first to find the other side of an ambient
WAY_RESIDUAL = 5e-4  # of the air's pressures along a way; what the last step still brings is counted in
TOO_LATE = -9.0  # stands for a case that begins beyond its limit
LEAST_SURPLUS, STRAIGHT = 1e-6, 1e-9  # W; share by which two surpluses may differ that count as the same


@dataclass(frozen=True)
class TimedRun:
    """Estimate for each case: top hose at its start and at the end of its duration [K]; time until the limit [s], inf
    where it is never reached; both meaningful only where ``timed``. ``beyond`` where the end is that of the coolant's tables:
    it would be hotter still."""

    start: FloatArray
    end: FloatArray
    time_to_limit: FloatArray
    timed: BoolArray
    beyond: BoolArray


@compiled
def start_at(parts: Parts, case: CaseNumbers) -> float:
    """As ``starts``, numbers."""
    return parts.loop.opens + parts.loop.span if np.isnan(case.start) else case.start


def starts(system: System, cases: Cases) -> FloatArray:
    """Top hose when a timed case begins [K]: what is stated, else where the thermostat stands wide open; broadcasts."""
    return np.where(np.isnan(cases.start), system.circuit.thermostat.fully_open, cases.start)


@compiled
def heat_store_at(parts: Parts, packed: Packed, c: int, temperature: float) -> float:
    """Heat capacity of metal and coolant together [J/K]."""
    fluid = properties_at(packed.columns[packed.column_of[c]], temperature)
    return parts.car.metal + parts.car.volume * fluid.density * fluid.heat_capacity


@compiled
def way_point(start: float, limit: float, end: float, i: int) -> float:
    """The ``i``-th temperature [K] of a way from ``start`` to ``limit``, and on to the ``end`` of the tables: even steps,
    none where it begins beyond."""
    if i < WAY_POINTS:
        return start + i / (WAY_POINTS - 1) * max(limit - start, 0.0)
    there = start + max(limit - start, 0.0)
    return there + (i - WAY_POINTS + 1) / BEYOND_POINTS * max(end - there, 0.0)


@compiled
def step_time(capacity: float, rise: float, first: float, last: float) -> float:
    """Time for a ``rise`` [K] when the surplus runs linearly from ``first`` to ``last`` [W]."""
    a, b = max(first, LEAST_SURPLUS), max(last, LEAST_SURPLUS)
    mean = a if abs(b - a) <= STRAIGHT * abs(b) else (b - a) / np.log(b / a)
    return capacity * rise / mean


class Point(NamedTuple):
    """A point of a way, numbers: top hose [K], how far it lies from the one before [K], 0 where that had another stage of
    the fan; that stage, and what the case stands in with it; the coolant's flow there and before it [m³/s]; heat sent and heat shed [W]."""

    T: float
    step: float
    stage: int
    stand: Stand
    flow: float
    flow_before: float
    sent: float
    shed: float


@compiled
def _begin_at(parts: Parts, case: CaseNumbers) -> Point:
    """What lies before the first."""
    return Point(0.0, 0.0, -1, stand_at(parts, case, OFF), 0.0, 0.0, 0.0, 0.0)


@compiled
def _point_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, T: float, last: Point, s: FloatArray
) -> Point:
    """The next point, with the top hose at ``T`` [K] and the fan as its switch leaves it on the way up. The ``last`` ones,
    whose air stands in ``s``, say where to look."""
    stage = stage_below_at(parts.fan, parts.marks, case, T)
    step = T - last.T if stage == last.stage else 0.0
    along = step / last.step if last.step > 0.0 else 0.0
    flow = max(last.flow + along * (last.flow - last.flow_before), 0.2 * last.flow)
    how = AFRESH if last.flow == 0.0 else (SAME_STAGE if stage == last.stage else OTHER_STAGE)
    stand = last.stand if stage == last.stage else stand_at(parts, case, stage)
    seen = glance_at(parts, case, packed, c, stand, T, flow, s, how, WAY_RESIDUAL, 0.0)
    return Point(T, step, stage, stand, seen.flow, last.flow, seen.sent, seen.shed)


@compiled
def run_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray, wholly: bool
) -> tuple[float, float]:
    """Top hose at the end of a timed case [K] and time until the ``limit`` [s], as ``estimate``, numbers; the latter only
    where it is asked ``wholly``."""
    start, duration, end = start_at(parts, case), case.duration, parts.marks.table_end
    capacity = heat_store_at(parts, packed, c, start)
    near = min(limit, end)
    point = _point_at(parts, case, packed, c, start, _begin_at(parts, case), s)
    T, surplus, time = start, point.sent - point.shed, 0.0
    if surplus <= 0.0:
        return start, 0.0 if limit <= start else np.inf
    at_end, to_limit = np.nan, 0.0 if limit <= start or not wholly else np.nan
    for i in range(1, WAY_POINTS + BEYOND_POINTS):
        next_T = way_point(start, near, end, i)
        point = _point_at(parts, case, packed, c, next_T, point, s)
        next_surplus = point.sent - point.shed
        if next_surplus <= 0.0:
            # Beyond the last point at which it still warms the top hose only nears the balance that lies ahead of it.
            falls = surplus - next_surplus
            room, pace = (next_T - T) * surplus / falls, capacity * (next_T - T) / falls
            if np.isnan(at_end):
                at_end = T + room * -np.expm1(-max(duration - time, 0.0) / max(pace, 1e-300))
            if np.isnan(to_limit):
                part = (limit - T) / max(room, 1e-300)
                to_limit = time - pace * np.log1p(-min(part, 1.0 - 1e-12)) if part < 1.0 else np.inf
            return at_end, to_limit
        step = step_time(capacity, next_T - T, surplus, next_surplus)
        if np.isnan(at_end) and duration <= time + step:
            at_end = T + (duration - time) / max(step, 1e-300) * (next_T - T)
        if np.isnan(to_limit) and limit <= next_T:
            to_limit = time + (limit - T) / max(next_T - T, 1e-300) * step
        T, surplus, time = next_T, next_surplus, time + step
        if not (np.isnan(at_end) or np.isnan(to_limit)):
            return at_end, to_limit
    return T if np.isnan(at_end) else at_end, np.inf if np.isnan(to_limit) else to_limit


@compiled
def left_at(capacity: float, duration: float, T: FloatArray, sent: FloatArray, gone: FloatArray) -> float:
    """As ``room``, from the temperatures [K] of a way and heat sent and shed there [W]."""
    last = len(T) - 1
    if T[0] >= T[last]:
        return TOO_LATE
    time, most, rises = 0.0, -np.inf, True
    for i in range(last + 1):
        rises = rises and sent[i] - gone[i] > 0.0
        most = max(most, np.log(max(gone[i], 1e-6 * sent[i]) / sent[i]))
        if i > 0:
            # Slower and slower towards a balance: where there is none left the time has no end.
            time += step_time(capacity, T[i] - T[i - 1], sent[i - 1] - gone[i - 1], sent[i] - gone[i])
    return max(1.0 - duration / max(time, 1e-9), TOO_LATE) if rises else 1.0 + max(most, 0.0)


@compiled_with_room
def room_at(parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray) -> float:
    """As ``room`` of the way to a ``limit`` [K], numbers."""
    T, sent, gone = np.empty(WAY_POINTS), np.empty(WAY_POINTS), np.empty(WAY_POINTS)
    start = start_at(parts, case)
    if start >= limit:
        return TOO_LATE
    point = _begin_at(parts, case)
    for i in range(WAY_POINTS):
        T[i] = way_point(start, limit, limit, i)
        point = _point_at(parts, case, packed, c, T[i], point, s)
        sent[i], gone[i] = point.sent, point.shed
    return left_at(heat_store_at(parts, packed, c, start), case.duration, T, sent, gone)


@compiled
def ambient_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray
) -> tuple[float, bool]:
    """As ``ambient_for``, numbers."""
    hottest = min(HOTTEST_AIR, limit - 1.0)
    own = min(case.ambient, hottest)
    # An engine that throttles less in thin air can have more room in hotter air: upwards from a case that holds, and
    # downwards from one that does not.
    f_own = room_at(parts, in_air(case, own), packed, c, limit, s)
    holds = f_own > 0.0
    a, fa, far = own, f_own, hottest if holds else COLDEST_AIR
    b, fb, stride = a, fa, FIRST_STRIDE
    while (fb > 0.0) == holds:
        if b == far:
            return far, holds
        a, fa = b, fb
        b = min(b + stride, far) if holds else max(b - stride, far)
        fb = room_at(parts, in_air(case, b), packed, c, limit, s)
        stride *= 2.0
    share = first_share(fa, fb)
    for _ in range(MAX_STEPS):
        x = a + share * (b - a)
        fx = room_at(parts, in_air(case, x), packed, c, limit, s)
        if (fx > 0.0) == (fa > 0.0):
            z, fz = a, fa
        else:
            z, fz, b, fb = b, fb, a, fa
        a, fa = x, fx
        if abs(b - a) <= 2.0 * AIR_TOLERANCE or abs(fa) <= ROOM_RESIDUAL:
            break
        share = next_share(a, fa, b, fb, z, fz, AIR_TOLERANCE)
    return (a if abs(fa) < abs(fb) else b), True


@compiled_with_room
def _runs(packed, cases, which, case, limit, wholly, end, to_limit, first, last):  # type: ignore[no-untyped-def]
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c, at = which[e], case_of(cases, case[e])
        rooms.lay(s, packed.faces[c])
        if np.isfinite(at.duration):
            end[e], to_limit[e] = run_at(parts_of(packed, c), at, packed, c, limit[e], s, wholly)
        else:
            end[e], to_limit[e] = start_at(parts_of(packed, c), at), np.inf


def estimate(system: System, cases: Cases, limit: FloatArray) -> TimedRun:
    """Integrate dt = C dT / (heat in - heat out) from each case's start; broadcasts.

    The fan stands as its switch leaves it on the way up. The surplus is taken as linear between temperatures of a
    grid, which gives each step's time exactly. An estimate: the drive over time has more stores than one.
    """
    end, to_limit = _run(system, cases, limit, True)
    timed = np.broadcast_to(np.isfinite(cases.duration), end.shape)
    start = np.broadcast_to(starts(system, cases), end.shape)
    return TimedRun(start, end, to_limit, timed, timed & (end >= system.table_end - 1e-6))


def end_of(system: System, cases: Cases, limit: FloatArray) -> FloatArray:
    """Top hose at the end of timed cases [K], as ``estimate``; broadcasts."""
    return _run(system, cases, limit, False)[0]


def _run(system: System, cases: Cases, limit: FloatArray, wholly: bool) -> tuple[FloatArray, FloatArray]:
    shape, which, case = frame(system, cases, limit)
    end, to_limit = np.empty(which.size), np.empty(which.size)
    over_cores(40, _runs, system.packed, cases.rows, which, case, flat(limit, shape), wholly, end, to_limit)
    return end.reshape(shape), to_limit.reshape(shape)


@compiled_with_room
def _ambients(packed, cases, which, case, limit, ambient, found, first, last):  # type: ignore[no-untyped-def]
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c, at = which[e], case_of(cases, case[e])
        rooms.lay(s, packed.faces[c])
        ambient[e], found[e] = ambient_at(parts_of(packed, c), at, packed, c, limit[e], s)


def ambient_for(system: System, cases: Cases, limit: FloatArray) -> tuple[FloatArray, BoolArray]:
    """Ambient [K] at which timed cases end at ``limit`` (..., cases) [K], on the side of the case's own on which it
    must lie, and whether there is one; where even the hottest air that is looked at (HOTTEST_AIR) does not do it,
    that; broadcasts."""
    shape, which, case = frame(system, cases, limit)
    ambient, found = np.empty(which.size), np.empty(which.size, np.bool_)
    over_cores(150, _ambients, system.packed, cases.rows, which, case, flat(limit, shape), ambient, found)
    return ambient.reshape(shape), found.reshape(shape)


@dataclass(frozen=True)
class Way:
    """Timed cases on their way up to a limit, for probes of what is shed there: top hoses (points, ..., cases) [K], the
    fan's stage there as its switch leaves it, heat that the fan's clutch wholly engaged would make of the demand [W],
    and what is shed there."""

    system: System
    cases: Cases
    T: FloatArray
    stage: IntArray
    heat: FloatArray
    there: Shed


def way(system: System, cases: Cases, limit: FloatArray) -> Way:
    """From each timed case's start up to its ``limit`` (..., cases) [K]."""
    shape, _, _ = frame(system, cases, limit)
    start, limit = np.broadcast_to(starts(system, cases), shape), np.broadcast_to(limit, shape)
    share = np.linspace(0.0, 1.0, WAY_POINTS).reshape(-1, *(1 for _ in shape))
    T = np.asarray(start + share * np.maximum(limit - start, 0.0))
    stage = stage_below(system, cases, T)
    heat = np.broadcast_to(full_demand(system, cases, stage).total, T.shape)
    there = shed(system, cases, stage, T, coolant_at(system, cases, T, heat), heat)
    return Way(system, cases, T, stage, heat, there)


@compiled
def _lefts(packed, cases, which, case, T, sent, gone, out, first, last):  # type: ignore[no-untyped-def]
    for e in range(first, last):
        at, parts = case_of(cases, case[e]), parts_of(packed, which[e])
        capacity = heat_store_at(parts, packed, which[e], start_at(parts, at))
        out[e] = left_at(capacity, at.duration, T[:, e], sent[:, e], gone[:, e])


def room(to_limit: Way, there: Shed) -> FloatArray:
    """Share of the way from a timed case's start to its limit that is left at its end [-], below nothing where it is
    there too soon (1 - duration over time to the limit). Where it never gets there, 1 and the logarithm of heat shed
    over heat sent where that is the most.

    Parameters
    ----------
    there : what is shed on the way, as a probe changes it; its axes come ahead of the points.
    """
    system, cases, T = to_limit.system, to_limit.cases, to_limit.T
    sent, gone = np.broadcast_arrays(demand(system, cases, there.air.fan_ratio).total, there.heat)
    more = sent.ndim - T.ndim  # axes that a probe has put ahead of the points
    sent, gone = np.moveaxis(sent, more, 0), np.moveaxis(gone, more, 0)
    shape, which, case = frame(system, cases, sent[0])
    along = T.reshape(len(T), *(1 for _ in range(more)), *T.shape[1:])
    laid = (np.stack([flat(row, shape) for row in values]) for values in (along, sent, gone))
    out = np.empty(which.size)
    over_cores(0.1, _lefts, system.packed, cases.rows, which, case, *laid, out)
    return out.reshape(shape)
