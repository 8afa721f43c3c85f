"""Where the limit lies and how far each case is from it, found by solving again."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.airpath import room as rooms
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.compiled import compiled, compiled_with_room, flat, over_cores
from ebbrin.core.media import air, boiling
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system import timed
from ebbrin.core.system.balance import stand_at
from ebbrin.core.system.control import stage_below_at
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts, case_of, in_air, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.together import AFRESH, SAME_STAGE, glance_at

COLDEST_AMBIENT, AMBIENT_TOLERANCE, SECANT_STEPS = 213.15, 5e-3, 8
ALL_BUT_THERE = 0.05  # K; from where a last step by the secant is not looked at
FAR = 0.03  # of what the heat is away, that pressures may be apart
LEAST_SPARE = float(np.log(1e-3))
AIR_RESIDUAL, SPARE_RESIDUAL = (
    1e-4,
    1e-5,
)  # of the air's pressures at a glance: for an ambient, for what is spare
SAFE_MARGIN = 6.0  # choice: below what counts as room to spare where a margin is asked for, K


def boiling_temperature(system: System, cases: Cases, gauge: ArrayLike) -> FloatArray:
    """Boiling temperature [K] in each case at ``gauge`` pressure [Pa] and the case's altitude."""
    pressure = air.standard_pressure(cases.altitude) + np.asarray(gauge)
    return boiling.boiling_temperature(pressure, system.coolant)


def limit_temperature(system: System, boils: FloatArray) -> FloatArray:
    """Highest allowed top hose [K]: the stated limit, or boiling under the cap less the margin."""
    return np.minimum(system.limits.top_hose, boils - system.limits.boiling_margin)


@dataclass(frozen=True)
class AmbientLimit:
    """Air temperature [K] at which the top hose reaches a temperature; ``found`` is False where not even
    -60 °C would do, or the temperature lies beyond the property tables; the value is then that floor."""

    ambient: FloatArray
    found: BoolArray


@compiled
def _excess_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    stage: int,
    top_hose: float,
    flow: float,
    s: FloatArray,
) -> tuple[float, float, float]:
    """Logarithm of heat shed over heat sent [-] at a top hose [K] with the fans at a ``stage`` in the case's air; the air's
    temperature [K] at which both would be the same with the airflow held, heat being linear in it; and the coolant's flow
    [m³/s]. It is looked for from a ``flow`` near it, and the air from what stands in ``s``, afresh where that is 0."""
    stand, how = stand_at(parts, case, stage), SAME_STAGE if flow > 0.0 else AFRESH
    seen = glance_at(parts, case, packed, c, stand, top_hose, flow, s, how, AIR_RESIDUAL, FAR)
    right = top_hose - (top_hose - case.ambient) * seen.sent / max(seen.shed, 1.0)
    return seen.share, min(max(right, COLDEST_AMBIENT), top_hose), seen.flow


@compiled
def _strays(start: float, holds: bool, at: float) -> bool:
    """Whether an air ``at`` [K] lies on the other side of the case's own than it must: a clutch that takes hold in hotter
    air may bring several."""
    return at < start - AMBIENT_TOLERANCE if holds else at > start + AMBIENT_TOLERANCE


@compiled
def ambient_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, top_hose: float, s: FloatArray
) -> tuple[float, bool]:
    """As ``ambient_for``, numbers."""
    if not top_hose <= parts.marks.table_end:
        return COLDEST_AMBIENT, False
    stage = stage_below_at(parts.fan, parts.marks, case, top_hose)
    start = min(case.ambient, top_hose - 1.0)
    at, last_at, last_off, flow, holds = start, 0.0, 0.0, 0.0, False
    for n in range(SECANT_STEPS):
        share, right, flow = _excess_at(parts, in_air(case, at), packed, c, stage, top_hose, flow, s)
        off = right - at
        if n == 0:
            holds = share > 0.0
        inside = COLDEST_AMBIENT < at < top_hose
        if abs(off) <= AMBIENT_TOLERANCE and (inside or share < 0.0):
            if inside and _strays(start, holds, at):
                break
            return (at, True) if inside else (COLDEST_AMBIENT, False)
        step = off
        if n > 0 and at != last_at:
            # What is right moves less than where one looks, so the secant is safe.
            step = off / min(max((last_off - off) / (at - last_at), 0.3), 3.0)
            if abs(off) <= ALL_BUT_THERE and COLDEST_AMBIENT < at + step < top_hose:
                if _strays(start, holds, at + step):
                    break
                return at + step, True
        last_at, last_off = at, off
        at = min(max(at + step, COLDEST_AMBIENT), top_hose)
    a, b = (start, top_hose) if holds else (COLDEST_AMBIENT, start)
    fa, _, _ = _excess_at(parts, in_air(case, a), packed, c, stage, top_hose, 0.0, s)
    fb, _, flow = _excess_at(parts, in_air(case, b), packed, c, stage, top_hose, 0.0, s)
    if (fa > 0.0) == (fb > 0.0):
        return COLDEST_AMBIENT, False
    share = first_share(fa, fb)
    for _ in range(MAX_STEPS):
        x = a + share * (b - a)
        fx, _, flow = _excess_at(parts, in_air(case, x), packed, c, stage, top_hose, flow, s)
        if (fx > 0.0) == (fa > 0.0):
            z, fz = a, fa
        else:
            z, fz, b, fb = b, fb, a, fa
        a, fa = x, fx
        if abs(b - a) <= 2.0 * AMBIENT_TOLERANCE or fa == 0.0:
            break
        share = next_share(a, fa, b, fb, z, fz, AMBIENT_TOLERANCE)
    return (a if abs(fa) < abs(fb) else b), True


@compiled_with_room
def _ambients(packed, cases, which, case, top_hose, ambient, found, first, last):  # type: ignore[no-untyped-def]
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c = which[e]
        rooms.lay(s, packed.faces[c])
        at = case_of(cases, case[e])
        ambient[e], found[e] = ambient_at(parts_of(packed, c), at, packed, c, top_hose[e], s)


def ambient_for(system: System, cases: Cases, top_hose: FloatArray) -> AmbientLimit:
    """Lowest ambient [K] at which each case's top hose reaches ``top_hose`` [K]; broadcasts, so that several
    temperatures go through at once.

    The fan stands as its switch leaves it at that temperature: one whose on-point lies above it rests. With an airflow
    held the heat shed is linear in ambient, which says where to look.

    References
    ----------
    sae-j819 tests the same question (air-to-boil); here it is solved again, not extrapolated.
    """
    shape, which, case = frame(system, cases, top_hose)
    ambient, found = np.empty(which.size), np.empty(which.size, np.bool_)
    over_cores(15, _ambients, system.packed, cases.rows, which, case, flat(top_hose, shape), ambient, found)
    return AmbientLimit(ambient.reshape(shape), found.reshape(shape))


@compiled_with_room
def _spares(packed, cases, which, case, limit, out, first, last):  # type: ignore[no-untyped-def]
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c, at = which[e], case_of(cases, case[e])
        parts = parts_of(packed, c)
        rooms.lay(s, packed.faces[c])
        if np.isfinite(at.duration):
            out[e] = timed.room_at(parts, at, packed, c, limit[e], s)
            continue
        stand = stand_at(parts, at, stage_below_at(parts.fan, parts.marks, at, limit[e]))
        seen = glance_at(parts, at, packed, c, stand, limit[e], 0.0, s, AFRESH, SPARE_RESIDUAL, 0.0)
        out[e] = max(seen.share, LEAST_SPARE)


def spare_at_limit(system: System, cases: Cases, limit: FloatArray) -> FloatArray:
    """What is left of each case at a ``limit`` temperature [K], above nothing where it stays below: logarithm of heat
    shed over heat sent, the fan as its switch leaves it there; for a timed case the room left at its end; broadcasts."""
    shape, which, case = frame(system, cases, limit)
    out = np.empty(which.size)
    over_cores(10, _spares, system.packed, cases.rows, which, case, flat(limit, shape), out)
    return out.reshape(shape)
