"""Steady state of every case: the top hose at which heat in equals heat out, with fan and thermostat."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath.balance import PRESSURE_RESIDUAL
from ebbrin.core.airpath.room import MASS
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow, Flows
from ebbrin.core.compiled import Numbers, compiled, compiled_with_room, flat, over_cores
from ebbrin.core.media import air
from ebbrin.core.media.coolants import properties_at
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system.balance import Gone, Shed, ShedRoom, outside_fit, shed_of, shed_room, stand_at, store
from ebbrin.core.system.control import stage_of, starts_at
from ebbrin.core.system.demand import demand_at
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.settle import CLOSES, balanced_at, settle_at, share_at
from ebbrin.core.system.standing import fan_at
from ebbrin.core.system.together import single

JUST_BESIDE = 1e-3  # K; how far beside a jump the valve is looked at
CYCLE_LOOKS = 3
"""Temperatures of the switch's band at which heat is looked at."""
STRAIGHT = 1e-6  # share by which two rates may differ that count as the same
HUNT_TOLERANCE, HUNT_RESIDUAL = 1e-3, 1e-5  # K, -
SIGN_ROUGH, SIGN_FINE = 0.01, 0.1  # as settle.ROUGH and FINE, where little more than the sign is asked


@dataclass(frozen=True)
class SteadyState:
    """What each case settles to, (...) arrays. Temperatures [K].

    Where ``exists`` is False and it does not hunt, the state is that at the limit temperature and ``shortfall`` [W]
    says what is missing there. Where it ``hunts`` there is no steady state though the heat could be shed: coldest and
    hottest are what it would settle at with the thermostat held as it stands just past the jump and just before it, and
    the state is that at the jump. duty [-] is the share of time that the fan is on, or for a staged fan that ``stage``
    is on rather than the one below; with a cycling fan the top hose is its mean over time. ``runs_on`` where the fan
    rests but, once started, would not stop. ``judged`` [K] is what margins are taken from: a cycling fan's on-point,
    the hotter of two possible states, the hottest of a hunt, the on-point of a fan that starts only above the limit
    (``by_switch`` where that alone puts it there).
    heat_in and heat_shed [W] and air_flow [m³/s, ambient density] are averages over the duty.
    engine_heat [W] is what the coolant takes up in the engine, gearbox_heat [W] in the cold tank. pump_inlet [K] mixes the branches.
    """

    top_hose: FloatArray
    bottom_hose: FloatArray
    pump_inlet: FloatArray
    exists: BoolArray
    hunts: BoolArray
    coldest: FloatArray
    hottest: FloatArray
    stage: IntArray
    duty: FloatArray
    cycles: BoolArray
    runs_on: BoolArray
    judged: FloatArray
    by_switch: BoolArray
    heat_in: FloatArray
    heat_shed: FloatArray
    engine_heat: FloatArray
    shortfall: FloatArray
    air_flow: FloatArray
    gearbox_heat: FloatArray
    shed: Shed
    outside_fit: BoolArray


class Steady(NamedTuple):
    """The fields of ``SteadyState`` that are numbers, in its order."""

    top_hose: Numbers
    bottom_hose: Numbers
    pump_inlet: Numbers
    exists: Numbers
    hunts: Numbers
    coldest: Numbers
    hottest: Numbers
    stage: Numbers
    duty: Numbers
    cycles: Numbers
    runs_on: Numbers
    judged: Numbers
    by_switch: Numbers
    heat_in: Numbers
    heat_shed: Numbers
    engine_heat: Numbers
    shortfall: Numbers
    air_flow: Numbers
    gearbox_heat: Numbers


class Held(NamedTuple):
    """What is shed and sent with the top hose held at a temperature and the fan at a stage, numbers: heat from the engine
    and from the gearbox [W], coolant flow, what is shed, air at ambient density [m³/s]."""

    engine: float
    gearbox: float
    flows: Flows
    there: Gone
    air_flow: float


@compiled
def _volume_flow(s: FloatArray, density: float) -> float:
    """Of the air through all zones, at ambient density [m³/s]."""
    total = 0.0
    for z in range(s.shape[1]):
        if s[rooms.AREA, z] > 0.0:
            total += s[MASS, z]
    return total / density


@compiled
def held_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    stage: int,
    top_hose: float,
    s: FloatArray,
    near: bool,
) -> Held:
    """What is shed and sent at a top hose [K] with the fans at a ``stage``; the air is left in ``s``, where ``near`` says
    that another balance of the candidate stands to begin with."""
    stand = stand_at(parts, case, stage)
    meets, sent = stand.meets, stand.sent
    _, _, flows, there = share_at(
        parts, case, packed, c, meets, stand.total, top_hose, 0.0, s, near, 0.0, np.inf
    )
    if parts.fan.clutch > 0.5:
        sent = demand_at(parts, case, s[rooms.RATIO, 0], s[rooms.RATIO, 1])
    return Held(sent[0], sent[1], flows, there, _volume_flow(s, meets.density))


@compiled
def _mean_of_cycle(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, k: int, on: float, off: float, s: FloatArray
) -> float:
    """Mean top hose over time [K] where the fan cycles between its ``k``-th stage and the one below, with one heat store
    between its points: dt = C dT over what is in surplus, which runs straight between the looks."""
    weights, weighted = 0.0, 0.0
    for above in range(2):
        stage = stage_of(parts.fan, k - 1 + above)
        last_T, last = 0.0, 0.0
        for n in range(CYCLE_LOOKS):
            T = off + n / (CYCLE_LOOKS - 1) * (on - off)
            held = held_at(parts, case, packed, c, stage, T, s, True)
            sent = held.engine + held.gearbox
            surplus = sent - held.there.heat
            # Heating below, cooling above: each at least a trace, or it would not cycle.
            speed = max(-surplus if above else surplus, 1e-6 * sent)
            if n > 0:
                if abs(speed - last) <= STRAIGHT * speed:
                    time, place = 1.0 / last, 0.5
                else:
                    time = np.log(speed / last) / (speed - last)
                    place = (1.0 - last * time) / (speed - last) / time
                weights += time * (T - last_T)
                weighted += time * (T - last_T) * (last_T + place * (T - last_T))
            last_T, last = T, speed
    return weighted / weights


@compiled
def _with_lift(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, stage: int, lift: float, s: FloatArray
) -> float:
    """Top hose [K] that would settle with the thermostat held at a ``lift``, no hotter than the tables go."""
    stand, loop = stand_at(parts, case, stage), parts.loop
    meets, total = stand.meets, stand.total
    column = packed.columns[packed.column_of[c]]
    a, b = case.ambient + 0.1, parts.marks.table_end
    fa, fb, x, fx, z, fz, share = 0.0, 0.0, a, 0.0, a, 0.0, 0.5
    for n in range(MAX_STEPS + 2):
        x = a if n == 0 else (b if n == 1 else a + share * (b - a))
        fluid = properties_at(column, x)
        rises = circuit.buoyancy_at(loop, fluid, x, total, case.ambient)
        flows = circuit.at_lift_at(loop, parts.tubes, column, fluid, lift, case.crank_speed, 0.0, rises)
        fx, _, _ = balanced_at(
            parts, case, packed, c, meets, total, flows, x, s, n > 0, PRESSURE_RESIDUAL, np.inf
        )
        if n == 0:
            fa = fx
            continue
        if n == 1:
            fb = fx
            if (fa > 0.0) == (fb > 0.0):
                return a if abs(fa) <= abs(fb) else b
            share = first_share(fa, fb)
            continue
        if (fx > 0.0) == (fa > 0.0):
            z, fz = a, fa
        else:
            z, fz, b, fb = b, fb, a, fa
        a, fa = x, fx
        if abs(b - a) <= 2.0 * HUNT_TOLERANCE or abs(fa) <= HUNT_RESIDUAL:
            break
        share = next_share(a, fa, b, fb, z, fz, HUNT_TOLERANCE)
    return a if abs(fa) < abs(fb) else b


@compiled
def steady_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray, other: FloatArray
) -> tuple[Steady, Flows, Gone]:
    """As ``steady_state``, numbers, with the coolant flow and what is shed at the stage that it settles at; the air is
    left in ``s``; ``other`` is room of the same kind.

    The fan stands at the lowest stage whose balance lies below the next one's on-point; if that also lies below its
    own off-point, the fan alternates between it and the one beneath, unless that one holds by itself. Once started, it
    runs on down to its off-point.
    """
    fan, marks = parts.fan, parts.marks
    density = air.density_at(case.ambient, case.pressure)
    stands = fan_at(parts, case, packed, c, limit, s, other)
    k, on, off, cycles, runs_on, hotter = (
        stands.k,
        stands.on,
        stands.off,
        stands.cycles,
        stands.runs_on,
        stands.hotter,
    )
    top, left, sent, flows, there = stands.top, stands.left, stands.sent, stands.flows, stands.there
    stage = stage_of(fan, k)
    now = Held(sent[0], sent[1], flows, there, _volume_flow(s, density))
    settles = np.isfinite(left)
    hunts = settles and abs(left) > CLOSES and not cycles
    exists = settles and not hunts
    settled = top
    duty = 0.0 if k == 0 else 1.0
    if cycles:
        settled = _mean_of_cycle(parts, case, packed, c, k, min(on, marks.table_end), off, s)
    elif not settles:
        settled = min(limit, marks.table_end)
    resting = now
    if cycles:
        resting = held_at(parts, case, packed, c, stage_of(fan, k - 1), settled, s, True)
    if cycles and resting.there.heat > resting.engine + resting.gearbox:
        # There is a balance at rest beneath, beside the one above the on-point: once there, the fan does not start again.
        k, cycles = k - 1, False
        stage, duty = stage_of(fan, k), 0.0 if k == 0 else 1.0
        on = starts_at(marks, k - 1) if k > 0 else -np.inf
        top, left, sent, flows, there = settle_at(parts, case, packed, c, stage, s, True, 0.0, 0.0, settled)
        now = Held(sent[0], sent[1], flows, there, _volume_flow(s, density))
        hunts = abs(left) > CLOSES
        exists, settled, hotter = not hunts, top, max(top, hotter)
    if cycles or not settles:
        now = held_at(parts, case, packed, c, stage, settled, s, True)
    engine, gearbox, gone, air_flow = now.engine, now.gearbox, now.there.heat, now.air_flow
    radiator = now.there.radiator
    if cycles:
        short = resting.engine + resting.gearbox - resting.there.heat
        over = gone - engine - gearbox
        duty = min(max(short / (short + over), 0.0), 1.0)
        engine = resting.engine + duty * (engine - resting.engine)
        gearbox = resting.gearbox + duty * (gearbox - resting.gearbox)
        gone = resting.there.heat + duty * (gone - resting.there.heat)
        radiator = resting.there.radiator + duty * (radiator - resting.there.radiator)
        air_flow = resting.air_flow + duty * (air_flow - resting.air_flow)
    cp = properties_at(packed.columns[packed.column_of[c]], settled).heat_capacity
    taken_up = engine if exists else gone - now.gearbox
    total_mass = now.flows.mass_flow + now.flows.bypass_mass + now.flows.heater_mass
    judged = on if cycles else settled
    if runs_on:
        judged = max(judged, hotter)
    late = k > 0 and on > limit
    if late:
        # A fan that starts only above the limit has let the top hose pass it.
        judged = max(judged, on)
    coldest, hottest = settled, settled
    if hunts:
        total = stand_at(parts, case, stage).total
        for beside in (JUST_BESIDE, -JUST_BESIDE):
            column = packed.columns[packed.column_of[c]]
            lift = circuit.solve_at(
                parts.loop, parts.tubes, column, top + beside, case.crank_speed, total, case.ambient, 0.0
            ).lift
            there_top = _with_lift(parts, case, packed, c, stage, lift, s)
            coldest, hottest = (
                (there_top, there_top) if beside > 0.0 else (min(coldest, there_top), max(hottest, there_top))
            )
        judged = max(hottest, judged)
        held_at(parts, case, packed, c, stage, settled, s, True)
    steady = Steady(
        settled,
        settled - (radiator - now.gearbox) / now.there.coolant_capacity,
        settled - taken_up / (total_mass * cp),
        1.0 if exists else 0.0,
        1.0 if hunts else 0.0,
        coldest,
        hottest,
        float(stage),
        duty,
        1.0 if cycles else 0.0,
        1.0 if runs_on and exists else 0.0,
        judged,
        1.0 if late and exists and top < limit else 0.0,
        engine + gearbox,
        gone,
        engine,
        0.0 if exists or hunts else engine + gearbox - gone,
        air_flow,
        gearbox,
    )
    return steady, now.flows, now.there


@compiled
def judged_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray, other: FloatArray
) -> float:
    """As ``Steady.judged``, inf where nothing settles, without what hangs on how long a fan of a ``single`` balance is on."""
    if single(parts, case):
        stands = fan_at(parts, case, packed, c, limit, s, other)
        if stands.cycles or not np.isfinite(stands.left) or abs(stands.left) <= CLOSES:
            if not np.isfinite(stands.left):
                return np.inf
            judged = stands.on if stands.cycles else stands.top
            if stands.runs_on:
                judged = max(judged, stands.hotter)
            return max(judged, stands.on) if stands.k > 0 and stands.on > limit else judged
    found, _, _ = steady_at(parts, case, packed, c, limit, s, other)
    return found.judged if found.exists + found.hunts > 0.5 else np.inf


@compiled_with_room
def _judges(packed, cases, which, case, limit, out, first, last):  # type: ignore[no-untyped-def]
    s, other = rooms.room_for(packed.faces), rooms.room_for(packed.faces)
    for e in range(first, last):
        c = which[e]
        parts, at = parts_of(packed, c), case_of(cases, case[e])
        rooms.lay(s, packed.faces[c])
        out[e] = judged_at(parts, at, packed, c, limit[e], s, other)


@compiled_with_room
def _steadies(packed, cases, which, case, limit, out, coolant, room, first, last):  # type: ignore[no-untyped-def]
    s, other = rooms.room_for(packed.faces), rooms.room_for(packed.faces)
    for e in range(first, last):
        c = which[e]
        parts, at = parts_of(packed, c), case_of(cases, case[e])
        rooms.lay(s, packed.faces[c])
        found, flows, there = steady_at(parts, at, packed, c, limit[e], s, other)
        for n in range(len(found)):
            out[n, e] = found[n]
        for n in range(len(flows)):
            coolant[e, n] = flows[n]
        store(room, e, there, air.density_at(at.ambient, at.pressure), s)


def steady_state(system: System, cases: Cases, limit: FloatArray) -> SteadyState:
    """Steady state with thermostat and fan switch at work; broadcasts. ``limit`` [K] is where a case without steady
    state is looked at.

    The fan rests if the balance without it stays below its on-point; once started it never stops if even the balance
    with it lies above its off-point; else it cycles between them. A staged fan does so between each two stages.
    Air conditioning forces it on (choice); a belt drives it always.
    """
    shape, found, coolant, room = _settled(system, cases, limit)
    there = shed_of(system, room, CoolantFlow.of(coolant, shape), shape)
    yes = {name: getattr(found, name) > 0.5 for name in ("exists", "hunts", "cycles", "runs_on", "by_switch")}
    numbers = found._asdict() | yes | {"stage": found.stage.astype(np.int64)}
    return SteadyState(**numbers, shed=there, outside_fit=outside_fit(system, found.top_hose, there.air))


def judged_by(system: System, cases: Cases, limit: FloatArray) -> FloatArray:
    """What margins are taken from in a steady state [K], inf where nothing settles, as ``steady_state``; broadcasts."""
    shape, which, case = frame(system, cases, limit)
    out = np.empty(which.size)
    over_cores(20, _judges, system.packed, cases.rows, which, case, flat(limit, shape), out)
    return out.reshape(shape)


def _settled(
    system: System, cases: Cases, limit: FloatArray
) -> tuple[tuple[int, ...], Steady, FloatArray, ShedRoom]:
    shape, which, case = frame(system, cases, limit)
    out, coolant = np.empty((len(Steady._fields), which.size)), np.empty((which.size, len(Flows._fields)))
    room = shed_room(which.size, system.packed.faces.shape[2])
    over_cores(40, _steadies, system.packed, cases.rows, which, case, flat(limit, shape), out, coolant, room)
    return shape, Steady(*(row.reshape(shape) for row in out)), coolant, room
