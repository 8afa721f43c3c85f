"""The balance with the fan held at a stage: the top hose at which radiator and heater shed what the engine sends."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.airpath.room import RATIO
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow, Flows
from ebbrin.core.circuit.thermostat import valve_lift, valve_opening
from ebbrin.core.compiled import Numbers, compiled, compiled_with_room, flat, over_cores
from ebbrin.core.engine.heat import Heat
from ebbrin.core.media import air
from ebbrin.core.records import either
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system.balance import (
    Gone,
    Shed,
    coolant_at,
    gone,
    inside_at,
    shed,
    shed_of,
    shed_room,
    stand_at,
    store,
)
from ebbrin.core.system.demand import demand_at, heat_of
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.together import (
    AFRESH,
    HEAT_RESIDUAL,
    OTHER_STAGE,
    SURE,
    glance_at,
    single,
    together_at,
)

CLOSES, PLACE_TOLERANCE = 9e-7, 1e-10
CLOSELY = 1e-7  # of the air's pressures, at most: what they leave open must not look like a jump of the heat
MOST_REFINEMENTS = 5  # after which a look's air is balanced as for an answer
LEAST_RISE = 1e-6  # K; what stands in for none over the ambient
QUICK = 0.05  # of the air's pressures where one goes on from at once
LOWER_LOOKS = 4  # between the thermostat's opening and the ambient
UPPER_STEP = 4.0  # K, between looks above the open thermostat
ROUGH, FINE = 1e-3, 0.05
"""A look's air is balanced to ROUGH at first, and on until its pressures lie no further apart than FINE times what is
looked for is away from nothing."""


@dataclass(frozen=True)
class Settled:
    """A balance with the fan held at a stage, (...) arrays: top hose [K] (the end of the tables where
    there is no balance); whether there is one; whether heat in and heat shed jump past each other there, so that
    nothing settles (``hunts``); the heat demand there, and what is shed there."""

    top_hose: FloatArray
    exists: BoolArray
    hunts: BoolArray
    heat: Heat
    shed: Shed


@compiled
def balanced_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    meets: airpath.Meets,
    total: float,
    flows: Flows,
    top_hose: float,
    s: FloatArray,
    near: bool,
    rough: float,
    fine: float,
) -> tuple[float, float, Gone]:
    """Logarithm of heat shed over heat demand [-] at a top hose [K] with a coolant flow, that demand with the fans as they
    turn [W], and what is shed; the air is left in ``s``, balanced to ``rough`` [-], and on until that is no more than ``fine`` times the answer, not at all where that is inf."""
    column = packed.columns[packed.column_of[c]]
    inside, Re, cp = inside_at(parts, column, case, top_hose, flows.mass_flow, total, 1.0)
    surface, block, front, fan = parts.surface, parts.block, parts.front, parts.fan
    curve = packed.curves[packed.curve_of[c]]
    tolerance = max(rough, CLOSELY)
    airpath.solve(surface, block, front, fan, curve, meets, inside, s, near, tolerance)
    for left in range(MOST_REFINEMENTS, -1, -1):
        there = gone(parts, case, inside, Re, cp, flows.heater_mass, s)
        wanted = total
        if fan.clutch > 0.5:
            sent = demand_at(parts, case, s[RATIO, 0], s[RATIO, 1])
            wanted = sent[0] + sent[1]
        share = np.log(max(there.heat, 1e-9) / wanted)
        if left == 0 or tolerance <= CLOSELY or np.isinf(fine) or tolerance <= fine * abs(share):
            break
        tolerance = CLOSELY if left == 1 else max(fine * abs(share), CLOSELY)
        airpath.solve(surface, block, front, fan, curve, meets, inside, s, True, tolerance)
    return share, wanted, there


@compiled
def share_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    meets: airpath.Meets,
    total: float,
    top_hose: float,
    flow: float,
    s: FloatArray,
    near: bool,
    rough: float,
    fine: float,
) -> tuple[float, float, Flows, Gone]:
    """As ``balanced_at`` with the coolant's flow found, from one nearby, 0 where none is known."""
    column = packed.columns[packed.column_of[c]]
    flows = circuit.solve_at(
        parts.loop, parts.tubes, column, top_hose, case.crank_speed, total, case.ambient, flow
    )
    share, wanted, there = balanced_at(
        parts, case, packed, c, meets, total, flows, top_hose, s, near, rough, fine
    )
    return share, wanted, flows, there


@compiled
def _opening_at(loop: Numbers, temperature: float) -> float:
    """Logarithm of the valve's opening at a temperature [K]."""
    return np.log(valve_opening(loop, valve_lift(loop, temperature)))


@compiled
def _temperature(loop: Numbers, ambient: float, end: float, opening: bool, place: float) -> float:
    """Temperature [K] at a place on the scale, no further than the tables go: exp and log may round past them."""
    grown = np.exp(place)
    if opening:
        lift = (grown - loop.leak) / (1.0 - loop.leak)
        return min(loop.opens + loop.span * lift, end)
    return min(ambient + grown, end)


@compiled
def settle_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    stage: int,
    s: FloatArray,
    near: bool,
    above: float,
    at_above: float,
    under: float,
) -> tuple[float, float, tuple[float, float, float, float], Flows, Gone]:
    """Top hose [K] at which what is shed is what is sent with the fan held at a ``stage``; by how much they differ there
    (by logarithms [-], inf where nothing balances below the end of the tables); heat demand, coolant flow and what is
    shed; the air is left in ``s``, ``near`` where another balance of the candidate stands there to begin with.
    ``at_above`` is about that difference at a temperature ``above`` [K], 0 where none is known. ``under``, where
    it is not 0, is a temperature at which more is shed than sent: the balance beneath it is looked for."""
    stand = stand_at(parts, case, stage)
    meets, sent, total = stand.meets, stand.sent, stand.total
    low, high, loop = case.ambient, parts.marks.table_end, parts.loop
    opens = min(max(loop.opens, low), high)
    full = min(max(loop.opens + loop.span, low), high)
    if under <= 0.0 and single(parts, case):
        T, share, off = above, at_above, 1e-2
        if above <= full:
            T = full
            seen = glance_at(
                parts, case, packed, c, stand, full, 0.0, s, OTHER_STAGE if near else AFRESH, QUICK, SURE
            )
            share, off = seen.share, seen.off
        T, left, flows, there = together_at(parts, case, packed, c, meets, total, T, share, off, s)
        if high <= T:
            left, _, flows, there = share_at(
                parts, case, packed, c, meets, total, high, 0.0, s, True, 0.0, np.inf
            )
            if left < 0.0:
                return high, np.inf, sent, flows, there
        elif np.isfinite(left):
            return T, left, sent, flows, there
        near = True
    # Two looks say whether the answer lies beyond the open thermostat, within its opening or below.
    T = under if under > 0.0 else full
    at_full, _, flows, there = share_at(parts, case, packed, c, meets, total, T, 0.0, s, near, ROUGH, FINE)
    T_before, flow_before = T, flows.volume_flow
    hot, fx = under <= 0.0 and at_full <= 0.0, at_full
    known = hot and full < above and at_above > 0.0
    if known:
        T, fx = above, at_above
    elif under <= 0.0:
        T = high if hot else opens
        fx, _, flows, there = share_at(
            parts, case, packed, c, meets, total, T, flows.volume_flow, s, True, ROUGH, FINE
        )
    exists = not hot or fx >= 0.0
    if not exists and parts.fan.clutch > 0.5:
        # A clutch's fan may ask for more heat than it carries off. A warming engine is then held below where it takes hold.
        for n in range(LOWER_LOOKS):
            T = opens - n / LOWER_LOOKS * (opens - low)
            fx, _, flows, there = share_at(
                parts, case, packed, c, meets, total, T, flows.volume_flow, s, True, ROUGH, FINE
            )
            if fx > 0.0:
                hot, exists = False, True
                break
        if not exists:
            # Or with the thermostat open, where it takes hold further up: it begins to by the air behind the core.
            T = full
            while not exists and high - T > UPPER_STEP:
                T += UPPER_STEP
                fx, _, flows, there = share_at(
                    parts, case, packed, c, meets, total, T, flows.volume_flow, s, True, ROUGH, FINE
                )
                exists = fx > 0.0
        if not exists:
            T = high
    opening = not hot and fx <= 0.0
    # The scale on which the logarithm of the heat is all but straight: that of the valve's opening, or of the rise.
    if opening:
        a, b, fa, fb = _opening_at(loop, full), _opening_at(loop, T), at_full, fx
    elif hot:
        a, b, fa, fb = np.log(max(full - low, LEAST_RISE)), np.log(max(T - low, LEAST_RISE)), at_full, fx
    else:
        # Below opening heat is all but proportional to the rise over ambient: so is what is not looked at.
        a, b = np.log(max(T - low, LEAST_RISE)), np.log(LEAST_RISE)
        fa, fb = fx, fx + (b - a)
    last = fx
    if known:
        T = full  # what stands in s
    if exists:
        best = a if abs(fa) < abs(fb) else b
        share = first_share(fa, fb) if fa != fb else 0.5
        for _ in range(MAX_STEPS):
            x = a + share * (b - a)
            T_next = _temperature(loop, low, high, opening, x)
            along = min(max((T_next - T) / (T - T_before), -1.0), 1.0) if T_before != T else 0.0
            flow = flows.volume_flow
            flow_next = max(flow + along * (flow - flow_before), 0.2 * flow)
            T_before, T, flow_before = T, T_next, flow
            rough = min(ROUGH, FINE * min(abs(fa), abs(fb)))
            fx, _, flows, there = share_at(
                parts, case, packed, c, meets, total, T, flow_next, s, True, rough, FINE
            )
            if (fx > 0.0) == (fa > 0.0):
                z, fz = a, fa
            else:
                z, fz, b, fb = b, fb, a, fa
            a, fa = x, fx
            best = a if abs(fa) < abs(fb) else b
            if abs(b - a) <= 2.0 * PLACE_TOLERANCE or abs(fa) <= HEAT_RESIDUAL:
                break
            share = next_share(a, fa, b, fb, z, fz, PLACE_TOLERANCE)
        last = fa if best == a else np.inf
        T = _temperature(loop, low, high, opening, best)
    if not exists or abs(last) > HEAT_RESIDUAL:
        last, _, flows, there = share_at(
            parts, case, packed, c, meets, total, T, flows.volume_flow, s, True, 0.0, np.inf
        )
    if parts.fan.clutch > 0.5:
        sent = demand_at(parts, case, s[RATIO, 0], s[RATIO, 1])
    return T, last if exists else np.inf, sent, flows, there


@compiled_with_room
def _settles(packed, cases, which, case, stage, top, off, heat, coolant, room, first, last):  # type: ignore[no-untyped-def]
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c = which[e]
        parts, at, k = parts_of(packed, c), case_of(cases, case[e]), int(stage[e])
        rooms.lay(s, packed.faces[c])
        top[e], off[e], heat[e], flows, there = settle_at(parts, at, packed, c, k, s, False, 0.0, 0.0, 0.0)
        for n in range(len(flows)):
            coolant[e, n] = flows[n]
        store(room, e, there, air.density_at(at.ambient, at.pressure), s)


def settle(system: System, cases: Cases, stage: ArrayLike) -> Settled:
    """Top hose at which radiator and heater shed what the engine sends, fan held at a stage; broadcasts.

    The top hose is bracketed between ambient, where nothing is shed, and the end of the property tables. What a
    cabin heater takes is not taken off the air's heat (the air is warmed by the core alone).
    """
    shape, which, case = frame(system, cases, stage)
    top, off = np.empty(which.size), np.empty(which.size)
    heat, coolant = np.empty((which.size, 4)), np.empty((which.size, len(Flows._fields)))
    room = shed_room(which.size, system.packed.faces.shape[2])
    over_cores(
        25,
        _settles,
        system.packed,
        cases.rows,
        which,
        case,
        flat(stage, shape),
        top,
        off,
        heat,
        coolant,
        room,
    )
    top, off = top.reshape(shape), off.reshape(shape)
    there = shed_of(system, room, CoolantFlow.of(coolant, shape), shape)
    exists = np.isfinite(off)
    hunts = exists & (np.abs(off) > CLOSES)
    return Settled(top, exists & ~hunts, hunts, heat_of(heat, shape), there)


def with_fan_on(system: System, cases: Cases, limit: FloatArray) -> Settled:
    """As ``settle`` with the fans at full; where nothing settles, what is shed at the ``limit`` temperature [K], as a
    steady state is looked at there; broadcasts."""
    on = settle(system, cases, FULL)
    never = ~(on.exists | on.hunts)
    if not never.any():
        return on
    T = np.where(never, np.minimum(limit, system.table_end), on.top_hose)
    heat = on.heat.total
    there = shed(system, cases, FULL, T, coolant_at(system, cases, T, heat), heat)
    return replace(on, top_hose=T, shed=either(never, there, on.shed))
