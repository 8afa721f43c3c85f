"""What each case needs to stay at its limit: how much air, and which single change would bring it there; found by shedding
again at the limit with more or less of one thing."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import IntEnum
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath.balance import PRESSURE_RESIDUAL, Airflow, core_pressure_drop
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.airpath.room import FRESH, MEAN, MIDDLE, RATIO, Y
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.compiled import compiled, compiled_with_room, flat, over_cores
from ebbrin.core.media.coolants import properties_at
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system import timed
from ebbrin.core.system.balance import gone, inside_at, stand_at
from ebbrin.core.system.control import stage_below_at
from ebbrin.core.system.demand import demand_at
from ebbrin.core.system.packed import case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.settle import Settled, balanced_at
from ebbrin.core.system.timed import WAY_POINTS

AIR_FACTORS = np.array([0.02, 0.2, 0.7, 1.3, 4.0])
"""Multiples of the air that a case gets, between which its need is looked for, and further up to FASTEST_FACE."""
FASTEST_FACE = 12.0  # choice: no fan pushes air through a core faster, m/s
MOST_CHANGE = 6.0  # how many times more of air, core or coolant flow is looked at
AIR_NEED, CHANGE = 1e-4, 1e-3  # logarithms to which a factor on the air, and on each of them, is looked for
AS_IT_STANDS = -1.0  # for a lift: where the bulb puts it


class Cause(IntEnum):
    """What holds a case back: the single change that would bring it to its limit with the least of it, or more than
    MOST_CHANGE times the air where that alone would; the air that enters the core being hotter than the limit already;
    a thermostat that is not wide open there, though wide open it would do, or that may not let the case settle there; a fan that does not run fully there, though
    running it would do; or none of these alone."""

    AIR = 0
    CORE = 1
    COOLANT = 2
    INLET_AIR = 3
    NO_SINGLE = 4
    THERMOSTAT = 5
    FAN_SWITCH = 6


class Laid(NamedTuple):
    """Balances to probe: the limit's own, then those of a timed case's way there. (points, 7): temperature [K], stage,
    mass flow of coolant and of the heater's [kg/s], heat demand with a clutch engaged and as the fans turn [W], lift; and
    (points, zones): logarithms of velocities and mean temperatures [K] of the air."""

    numbers: FloatArray
    ys: FloatArray
    means: FloatArray


@compiled
def _lay_base(parts, case, packed, c, stage, T, lift, point, laid, s, near):  # type: ignore[no-untyped-def]
    """Balance one temperature ``T`` [K] with the fan at a ``stage`` and the thermostat as it stands, or held at a
    ``lift``, and keep it as a ``point`` of what is ``laid``."""
    stand, loop = stand_at(parts, case, stage), parts.loop
    meets, total = stand.meets, stand.total
    column = packed.columns[packed.column_of[c]]
    if lift >= 0.0:
        fluid = properties_at(column, T)
        rises = circuit.buoyancy_at(loop, fluid, T, total, case.ambient)
        flows = circuit.at_lift_at(loop, parts.tubes, column, fluid, lift, case.crank_speed, 0.0, rises)
    else:
        flows = circuit.solve_at(loop, parts.tubes, column, T, case.crank_speed, total, case.ambient, 0.0)
    _, wanted, _ = balanced_at(
        parts, case, packed, c, meets, total, flows, T, s, near, PRESSURE_RESIDUAL, np.inf
    )
    row = laid.numbers[point]
    row[0], row[1], row[2], row[3], row[4], row[5] = (
        T,
        stage,
        flows.mass_flow,
        flows.heater_mass,
        total,
        wanted,
    )
    row[6] = flows.lift
    for z in range(s.shape[1]):
        laid.ys[point, z], laid.means[point, z] = s[Y, z], s[MEAN, z]


@compiled
def _with(parts, case, packed, c, laid, point, air, core, coolant, s):  # type: ignore[no-untyped-def]
    """Heat shed and heat sent [W] at a point with some times its air, core surface and coolant flow (the first by its
    logarithm)."""
    row, column = laid.numbers[point], packed.columns[packed.column_of[c]]
    inside, Re, cp = inside_at(parts, column, case, row[0], row[2] * coolant, row[4], core)
    meets, curve = stand_at(parts, case, int(row[1])).meets, packed.curves[packed.curve_of[c]]
    surface, block, front, fan = parts.surface, parts.block, parts.front, parts.fan
    for z in range(s.shape[1]):
        s[Y, z], s[MEAN, z] = laid.ys[point, z] + air, laid.means[point, z]
    for _ in range(2):  # the second with the mean temperatures that the first gave
        airpath.look(surface, block, front, fan, curve, meets, inside, s)
        for z in range(s.shape[1]):
            s[MEAN, z] = s[MIDDLE, z]
    there, sent = gone(parts, case, inside, Re, cp, row[3], s), row[5]
    if fan.clutch > 0.5 and np.isfinite(case.duration):
        found = demand_at(parts, case, s[RATIO, 0], s[RATIO, 1])
        sent = found[0] + found[1]
    return there.heat, sent


@compiled_with_room
def _spare(parts, case, packed, c, capacity, laid, kind, x, s):  # type: ignore[no-untyped-def]
    """What is spare at the limit with exp(x) times the air (``kind`` 0), the core surface (1) or the coolant flow (2):
    logarithm of heat shed over demand, for a timed case the room that is left at its end."""
    air = x if kind == 0 else 0.0
    core, coolant = np.exp(x) if kind == 1 else 1.0, np.exp(x) if kind == 2 else 1.0
    if not np.isfinite(case.duration):
        shed, sent = _with(parts, case, packed, c, laid, 0, air, core, coolant, s)
        return np.log(max(shed, 1e-6) / sent)
    T, sents, sheds = np.empty(WAY_POINTS), np.empty(WAY_POINTS), np.empty(WAY_POINTS)
    for i in range(WAY_POINTS):
        T[i] = laid.numbers[1 + i, 0]
        sheds[i], sents[i] = _with(parts, case, packed, c, laid, 1 + i, air, core, coolant, s)
    return timed.left_at(capacity, case.duration, T, sents, sheds)


@compiled
def _lay(parts, case, packed, c, limit, lift, laid, s):  # type: ignore[no-untyped-def]
    """Balance the limit with the fan at full and, for a timed case, its way there with the fan as its switch leaves it."""
    _lay_base(parts, case, packed, c, FULL, limit, lift, 0, laid, s, False)
    if np.isfinite(case.duration):
        start = timed.start_at(parts, case)
        for i in range(WAY_POINTS):
            T = timed.way_point(start, limit, limit, i)
            stage = stage_below_at(parts.fan, parts.marks, case, T)
            _lay_base(parts, case, packed, c, stage, T, lift, 1 + i, laid, s, True)


@compiled
def _factor(parts, case, packed, c, capacity, laid, kind, knots, wanted, tolerance, residual, s):  # type: ignore[no-untyped-def]
    """Logarithm of the factor with which a case is met, where what is spare crosses what is ``wanted`` between the first
    two of ``knots`` whose signs differ; whether there is one; and what is spare at the first knot over what is wanted."""
    a, fa = knots[0], 0.0
    first, b, fb = 0.0, knots[0], 0.0
    crossed = False
    for i in range(len(knots)):
        x = knots[i]
        fx = _spare(parts, case, packed, c, capacity, laid, kind, x, s) - wanted
        if i == 0:
            first = fx
        elif (fx > 0.0) != (fb > 0.0):
            a, fa, crossed = b, fb, True
            b, fb = x, fx
            break
        b, fb = x, fx
    if not crossed:
        return (knots[0] if abs(first) <= abs(fb) else b), False, first
    share = first_share(fa, fb)
    for _ in range(MAX_STEPS):
        x = a + share * (b - a)
        fx = _spare(parts, case, packed, c, capacity, laid, kind, x, s) - wanted
        if (fx > 0.0) == (fa > 0.0):
            z, fz = a, fa
        else:
            z, fz, b, fb = b, fb, a, fa
        a, fa = x, fx
        if abs(b - a) <= 2.0 * tolerance or abs(fa) <= residual:
            break
        share = next_share(a, fa, b, fb, z, fz, tolerance)
    return (a if abs(fa) < abs(fb) else b), True, first


@compiled_with_room
def _needs(packed, cases, which, case, limit, wanted, asked, out, first, last):  # type: ignore[no-untyped-def]
    """For each element, rows of ``out``: logarithm of the air's factor that meets what is ``wanted``, whether there is one,
    and whether the least is enough; then for air, core and coolant the factor that meets what is ``asked``, inf where none
    does; whether the air is no cooler than the limit in any zone; whether the valve stands below wide open, and would do
    wide open, with the fan at full and where its switch leaves it. The air with the fan at full is in ``zones`` (2,
    elements, zones): velocities and mean temperatures."""
    s = rooms.room_for(packed.faces)
    laid = Laid(
        np.empty((1 + WAY_POINTS, 7)),
        np.empty((1 + WAY_POINTS, s.shape[1])),
        np.empty((1 + WAY_POINTS, s.shape[1])),
    )
    knots, ends = np.empty(len(AIR_FACTORS) + 1), np.log(np.array([1.0 / MOST_CHANGE, 1.0, MOST_CHANGE]))
    knots[:-1] = np.log(AIR_FACTORS)
    for e in range(first, last):
        c, at, T = which[e], case_of(cases, case[e]), limit[e]
        parts = parts_of(packed, c)
        rooms.lay(s, packed.faces[c])
        capacity = timed.heat_store_at(parts, packed, c, timed.start_at(parts, at))
        _lay(parts, at, packed, c, T, AS_IT_STANDS, laid, s)
        now = _spare(parts, at, packed, c, capacity, laid, 0, 0.0, s)
        hot, fastest = True, 0.0
        for z in range(s.shape[1]):
            if s[rooms.AREA, z] > 0.0:
                fastest = max(fastest, np.exp(laid.ys[0, z]))
        # What a car at rest gets without a fan is next to nothing, and many times as much with one.
        knots[-1] = max(knots[-2], np.log(FASTEST_FACE / fastest))
        # The air that enters is that of the limit's own balance, which the spare of a timed case has not left behind.
        _with(parts, at, packed, c, laid, 0, 0.0, 1.0, 1.0, s)
        for z in range(s.shape[1]):
            if s[rooms.AREA, z] > 0.0 and s[FRESH, z] < T:
                hot = False
        # More air is looked for where a case is short, also where less of it would warm a bulb and open its valve.
        place, met, least = _factor(
            parts, at, packed, c, capacity, laid, 0,
            np.maximum(knots, 0.0) if now < wanted[e] else knots, wanted[e], AIR_NEED, 1e-5, s,
        )  # fmt: skip
        out[0, e], out[1, e], out[2, e] = place, met, not met and least >= 0.0
        for kind in range(3):
            place, met, least = _factor(
                parts, at, packed, c, capacity, laid, kind,
                np.maximum(ends, 0.0) if now < asked[e] else ends, asked[e], CHANGE, CHANGE, s,
            )  # fmt: skip
            out[3 + kind, e] = np.exp(place) if met else (1.0 / MOST_CHANGE if least >= 0.0 else np.inf)
        if out[3, e] * fastest > FASTEST_FACE:
            out[3, e] = np.inf
        out[6, e], out[7, e], out[8, e] = hot, False, False
        if laid.numbers[0, 6] < 1.0 and now < asked[e]:
            _lay(parts, at, packed, c, T, 1.0, laid, s)
            out[7, e] = _spare(parts, at, packed, c, capacity, laid, 0, 0.0, s) >= asked[e]
            out[8, e] = out[7, e]
            stage = stage_below_at(parts.fan, parts.marks, at, T)
            if stage < FULL and not np.isfinite(at.duration):
                _lay_base(parts, at, packed, c, stage, T, 1.0, 0, laid, s, True)
                out[8, e] = _spare(parts, at, packed, c, capacity, laid, 0, 0.0, s) >= asked[e]


@dataclass(frozen=True)
class AirNeed:
    """Airflow that a case needs, beside what it gets with the fan on.

    needed, available [m³/s] at ambient density; needed_pressure, available_pressure [Pa] that the core
    takes at those flows; ``found`` False where no airflow would do, or only one faster than FASTEST_FACE.
    """

    needed: FloatArray
    needed_pressure: FloatArray
    available: FloatArray
    available_pressure: FloatArray
    found: BoolArray


@dataclass(frozen=True)
class Bottleneck:
    """How many times more air, core surface or coolant flow alone would bring each case to its limit [-], along a
    leading axis in that order, inf where not even MOST_CHANGE does; the cause by that; ``fan_too`` where
    the thermostat is it, and a valve that is wide open at the limit would do only with the fan at full too."""

    factors: FloatArray
    cause: IntArray
    fan_too: BoolArray


def needs(
    system: System,
    cases: Cases,
    on: Settled,
    limit: FloatArray,
    pressure: FloatArray,
    wanted: ArrayLike,
    asked: ArrayLike,
) -> tuple[AirNeed, Bottleneck]:
    """The least air that keeps each case at its limit, by a factor on all air velocities, and what holds it back, by
    shedding again there with one thing at a time enlarged; broadcasts. A timed case is met where its end stays below
    the limit.

    Parameters
    ----------
    on : the cases with the fan at full, whose air is what there is.
    limit : (..., cases) float array, [K].
    pressure : (cases,) float array, of the air [Pa].
    wanted, asked : (cases,) float arrays, what must be spare for a case to be met [-], as ``chance.Estimate.wanted``
        says: for the air needed, and for what would bring it there.
    """
    shape, which, case = frame(system, cases, limit)
    at = np.minimum(limit, system.table_end)
    out = np.empty((9, which.size))
    over_cores(
        300,
        _needs,
        system.packed,
        cases.rows,
        which,
        case,
        *(flat(v, shape) for v in (at, wanted, asked)),
        out,
    )
    place, met, enough, *factors, hot, wide, switched = (row.reshape(shape) for row in out)
    have: Airflow = on.shed.air
    needed = replace(have, velocity=have.velocity * np.exp(place)[..., None])
    # The fastest zone says whether a fan could: it is the one that fans pull through.
    possible = needed.velocity.max(-1) <= FASTEST_FACE
    need = AirNeed(
        needed.volume_flow,
        core_pressure_drop(system.surface, needed, pressure).max(-1),
        have.volume_flow,
        core_pressure_drop(system.surface, have, pressure).max(-1),
        ((met > 0.5) | (enough > 0.5)) & possible,
    )
    found = np.stack(factors)
    # Of what a case has too much, the least goes furthest too: the one that may shrink least.
    cause = np.argmin(found, axis=0)
    holds = np.isfinite(found).all(0) & (found <= 1.0).all(0)
    cause = np.where(holds, np.argmax(found, axis=0), cause)
    # Air is looked for further than MOST_CHANGE: where that finds some, air alone would do.
    alone = np.where(need.found, Cause.AIR, Cause.NO_SINGLE)
    cause = np.where(np.isfinite(found).any(0), cause, alone)
    cause = np.where(hot > 0.5, Cause.INLET_AIR, cause)
    cause = np.where(wide > 0.5, Cause.THERMOSTAT, cause)
    return need, Bottleneck(found, cause, (wide > 0.5) & (switched < 0.5))
