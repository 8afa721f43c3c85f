"""Steady state of every case: the top hose at which heat in equals heat out, with fan and thermostat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.thermostat import Thermostat, valve_lift, valve_opening
from ebbrin.core.engine.heat import Heat
from ebbrin.core.media.coolants import properties
from ebbrin.core.records import at_stage, candidates_at, elements, of_cases, pick, shape_of
from ebbrin.core.roots import Bracket, bracketed_root, root_between
from ebbrin.core.system.balance import Shed, air_demand, coolant_at, demand, full_demand, outside_fit, shed
from ebbrin.core.system.parts import Cases, System

HEAT_RESIDUAL, CLOSES = 2e-7, 9e-7
JUST_BESIDE = 1e-3  # K; how far beside a jump the valve is looked at


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

    def of_cases(self, which: IntArray) -> Settled:
        """Some of the cases, by their indices."""

        return of_cases(self, which)


def settle(system: System, cases: Cases, stage: ArrayLike) -> Settled:
    """Top hose at which radiator and heater shed what the engine sends, fan held at a stage; broadcasts.

    The top hose is bracketed between ambient, where nothing is shed, and the end of the property tables. What a
    cabin heater takes is not taken off the air's heat (the air is warmed by the core alone).
    """
    total = full_demand(system, cases, stage).total
    share = _Share(system, cases, stage, total)
    shape = share.shape
    low, high, opens, full = _landmarks(system, cases, shape)
    # Two looks say whether the answer lies beyond the open thermostat, within its opening or below.
    at_full = share(full)
    hot = at_full <= 0.0
    other = np.where(hot, high, opens)
    at_other = share(other)
    opening, exists = ~hot & (at_other <= 0.0), ~hot | (at_other >= 0.0)
    scale = _Scale(low, _spread(system, shape), opening, high)
    ends = scale.of(np.where(opening | hot, full, opens)), scale.of(np.where(opening | hot, other, low))
    # Below opening heat is all but proportional to the rise over ambient: so is what is not looked at.
    below = at_other + (ends[1] - ends[0])
    values = np.where(opening | hot, at_full, at_other), np.where(opening | hot, at_other, below)

    def narrowed(which: IntArray) -> Callable[[FloatArray], FloatArray]:
        there, share_there = scale.elements(which), share.elements(which)
        return lambda y: share_there(there.temperature(y))

    found = root_between(
        lambda y: share(scale.temperature(y)), Bracket(*ends, *values, exists), 1e-10, HEAT_RESIDUAL, narrowed
    )
    top_hose = np.where(exists, scale.temperature(found), high)
    off = share(top_hose)
    heat, there = share.heat, share.shed
    assert heat is not None
    assert there is not None
    heat = Heat(*(np.broadcast_to(getattr(heat, f.name), shape) for f in fields(Heat)))
    hunts = exists & (np.abs(off) > CLOSES)
    return Settled(top_hose, exists & ~hunts, hunts, heat, there)


class _Share:
    """Logarithm of heat shed over heat demand, as a function of the top hose [K]; it remembers its last look.

    ``shape`` is that of the elements where candidates have been laid out along one axis with their cases.
    """

    def __init__(
        self,
        system: System,
        cases: Cases,
        stage: ArrayLike,
        total: FloatArray,
        shape: tuple[int, ...] | None = None,
    ) -> None:
        self.system, self.cases, self.total = system, cases, total
        self.stage = np.asarray(stage)
        self.wanted = air_demand(system, cases, stage)
        self.clutched = self.wanted.fans.clutched
        self.shape = shape or np.broadcast_shapes(
            total.shape, self.wanted.fans.free.shape[:-1], shape_of(system), np.shape(cases.ambient)
        )
        self.heat: Heat | None = None if self.clutched else full_demand(system, cases, stage)
        self.shed: Shed | None = None
        self.near: Airflow | None = None
        self.flow: FloatArray | None = None

    def __call__(self, top_hose: FloatArray) -> FloatArray:
        coolant = coolant_at(self.system, self.cases, top_hose, self.total, near=self.flow)
        self.flow = coolant.volume_flow
        self.shed = shed(
            self.system,
            self.cases,
            self.stage,
            top_hose,
            coolant,
            self.total,
            self.near,
            demanded=self.wanted,
        )
        self.near = self.shed.air
        wanted = self.total
        if self.clutched:
            self.heat = demand(self.system, self.cases, self.near.fan_ratio)
            wanted = self.heat.total
        return np.asarray(np.log(np.maximum(self.shed.heat, 1e-9) / wanted))

    def elements(self, which: IntArray) -> _Share:
        """The same for some elements by their indices in the flattened shape, as one axis."""
        index = np.unravel_index(which, self.shape)
        few = candidates_at(self.system, index[-2]) if len(self.shape) > 2 else self.system
        stage = np.broadcast_to(self.stage, self.shape).reshape(-1)[which]
        total = np.broadcast_to(self.total, self.shape).reshape(-1)[which]
        share = _Share(few, self.cases.taken(index[-1]), stage, total, (len(which),))
        if self.near is not None:
            share.near = self.near.elements(which)
        return share


def _landmarks(system: System, cases: Cases, shape: tuple[int, ...]) -> tuple[FloatArray, ...]:
    """Ambient, end of the tables, where the thermostat opens and where it stands fully open [K]."""
    low, high = np.broadcast_to(cases.ambient, shape), np.broadcast_to(system.table_end, shape)
    valve = system.circuit.thermostat
    opens, full = (np.minimum(np.maximum(knee, low), high) for knee in (valve.opens, valve.fully_open))
    return low, high, opens, full


def _spread(system: System, shape: tuple[int, ...]) -> Thermostat:
    valve = system.circuit.thermostat
    opens, span = np.broadcast_to(valve.opens, shape), np.broadcast_to(valve.span, shape)
    leak, inlet = np.broadcast_to(valve.leak, shape), np.broadcast_to(valve.at_inlet, shape)
    return Thermostat(opens, span, leak, inlet)


@dataclass(frozen=True)
class _Scale:
    """The scale on which an answer is looked for, so that the logarithm of the heat is all but straight along
    it: logarithm of the valve's opening where ``opening``, else of the rise over ambient. It ends where the tables
    do [K]."""

    ambient: FloatArray
    valve: Thermostat
    opening: BoolArray
    end: FloatArray

    def of(self, temperature: FloatArray) -> FloatArray:
        """Place on the scale of a temperature [K]."""
        flow = valve_opening(self.valve, valve_lift(self.valve, temperature))
        return np.asarray(np.log(np.where(self.opening, flow, np.maximum(temperature - self.ambient, 1e-6))))

    def temperature(self, place: FloatArray) -> FloatArray:
        """Temperature [K] at a place on the scale."""
        grown = np.exp(place)
        lift = (grown - self.valve.leak) / (1.0 - self.valve.leak)
        found = np.where(self.opening, self.valve.opens + self.valve.span * lift, self.ambient + grown)
        return np.minimum(found, self.end)  # exp and log may round past it

    def elements(self, which: IntArray) -> _Scale:
        """Some elements by their indices in the flattened shape, as one axis."""
        return elements(self, self.opening.shape, which)


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
    engine_heat [W] is what the coolant takes up in the engine. pump_inlet [K] mixes the branches.
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
    shed: Shed
    outside_fit: BoolArray
    off: Settled
    on: Settled


def stage_axis(system: System, cases: Cases, stages: tuple[int, ...]) -> IntArray:
    """Fan stages along a leading axis ahead of candidates and cases."""
    dims = np.broadcast_shapes(shape_of(system), np.shape(cases.ambient))
    return np.array(stages).reshape(len(stages), *(1 for _ in dims))


def switch_points(system: System, stages: int) -> tuple[list[FloatArray], list[FloatArray]]:
    """On- and off-point [K] of each stage above resting, the least first; inf for one that a fan does not have."""
    switch, never = system.fan_switch, np.inf
    ons, offs = [np.asarray(switch.on)], [np.asarray(switch.off)]
    if stages == 3:
        ons.append(np.where(system.air.fan.staged, switch.full_on, never))
        offs.append(np.where(system.air.fan.staged, switch.full_off, never))
    return ons, offs


def least_stage(system: System, cases: Cases) -> tuple[BoolArray, BoolArray]:
    """Whether the fan is kept from resting, by the air conditioning (choice) or by having no switch, and whether it has
    none at all: a belt drives it, or there is no fan."""
    fan = system.air.fan
    driven = fan.fitted & fan.mechanical
    return np.asarray(driven | (fan.fitted & np.asarray(cases.air_conditioning))), np.asarray(driven)


def stage_below(system: System, cases: Cases, temperature: FloatArray) -> IntArray:
    """Stage at which the fan stands when the top hose has risen to a ``temperature`` [K]: one whose on-point lies
    above it still rests; broadcasts."""
    stages = fans.stages(system.air.fan)
    ons, _ = switch_points(system, len(stages))
    kept, driven = least_stage(system, cases)
    shape = np.broadcast_shapes(temperature.shape, shape_of(system), np.shape(cases.ambient))
    index = np.zeros(shape, np.int64)
    for k, on in enumerate(ons):
        index = np.where((index == k) & (on <= temperature), k + 1, index)
    index = np.where(kept, np.maximum(index, 1), index)
    index = np.where(driven, len(stages) - 1, np.where(system.air.fan.fitted, index, 0))
    return np.array(stages)[index]


@dataclass(frozen=True)
class _Control:
    """Which stage (an index into the stages) each case rests, runs or cycles at, on- and off-point of that stage [K]
    (-inf where none), whether it cycles with the one below, and whether a higher one would run on."""

    upper: IntArray
    on: FloatArray
    off: FloatArray
    cycles: BoolArray
    runs_on: BoolArray


def _fan_control(system: System, cases: Cases, settled: Settled, stages: tuple[int, ...]) -> _Control:
    """The lowest stage whose balance lies below the next stage's on-point; if that also lies below its own off-point,
    the fan alternates between it and the one beneath. Once started, it runs on down to its off-point."""
    fan, top = system.air.fan, settled.top_hose
    ons, offs = switch_points(system, len(stages))
    kept, driven = least_stage(system, cases)
    there = settled.exists | settled.hunts
    shape = top.shape[1:]
    upper = np.zeros(shape, np.int64)
    for k, on in enumerate(ons):
        stays = there[k] & (top[k] < on)
        if k == 0:
            stays = (stays & ~kept) | ~fan.fitted
        upper = np.where((upper == k) & ~stays, k + 1, upper)
    upper = np.where(driven, len(stages) - 1, upper)
    never = np.full(shape, -np.inf)

    def of_stage(points: list[FloatArray], index: IntArray) -> FloatArray:
        rows = np.stack([never, *(np.broadcast_to(p, shape) for p in points)])
        return np.asarray(np.take_along_axis(rows, index[None], 0)[0])

    def at(values: Any, index: IntArray) -> Any:
        return np.take_along_axis(values, index[None], 0)[0]

    off, on = of_stage(offs, upper), of_stage(ons, upper)
    by_itself = driven | (kept & (upper <= 1))
    off, on = (np.where(by_itself | (upper == 0), -np.inf, v) for v in (off, on))
    cycles = (upper > 0) & at(there, upper) & (at(top, upper) < off)
    above = np.minimum(upper + 1, len(stages) - 1)
    stop = of_stage(offs, above)
    runs_on = (above > upper) & np.isfinite(stop) & at(there, above) & (at(top, above) > stop)
    return _Control(upper, on, off, cycles, runs_on & ~by_itself & fan.fitted)


CYCLE_LOOKS = 3
"""Temperatures of the switch's band at which heat is looked at."""


def _mean_of_cycles(
    system: System, cases: Cases, settled: Settled, control: _Control, stages: tuple[int, ...]
) -> FloatArray:
    """Mean top hose over time [K] where the fan cycles, with one heat store between its points: dt = C dT over what
    is in surplus, which runs straight between the looks."""
    mean = np.where(control.cycles, 0.0, settled.top_hose[0])
    which = np.flatnonzero(control.cycles)
    if not which.size:
        return mean
    shape = control.cycles.shape
    index = np.unravel_index(which, shape)
    few = candidates_at(system, index[-2]) if len(shape) > 1 else system
    some = cases.taken(index[-1])
    upper = control.upper.ravel()[which]
    pair = np.array(stages)[np.stack([upper - 1, upper])]  # (2, n)
    on, off = control.on.ravel()[which], control.off.ravel()[which]
    on = np.minimum(on, few.table_end)
    part = np.linspace(0.0, 1.0, CYCLE_LOOKS).reshape(-1, 1, 1)
    T = np.broadcast_to(off + part * (on - off), (CYCLE_LOOKS, 2, which.size))
    stage = np.broadcast_to(pair, T.shape)
    share = _Share(few, some, stage, full_demand(few, some, stage).total, T.shape)
    share(T)
    assert share.heat is not None
    assert share.shed is not None
    surplus = share.heat.total - share.shed.heat
    # Heating below, cooling above: each at least a trace, or it would not cycle.
    speed = np.maximum(surplus * np.array([1.0, -1.0])[:, None], 1e-6 * share.heat.total)
    s0, s1, dT = speed[:-1], speed[1:], np.diff(T, axis=0)
    same = np.isclose(s0, s1, rtol=1e-6)
    apart = np.where(same, 1.0, s1 - s0)
    time = np.where(same, 1.0 / s0, np.log(s1 / s0) / apart)
    place = np.where(same, 0.5, (1.0 - s0 * time) / apart / time)
    weight = time * dT
    there = (weight * (T[:-1] + place * dT)).sum((0, 1)) / weight.sum((0, 1))
    mean.ravel()[which] = there
    return mean


def _hunt(
    system: System,
    cases: Cases,
    settled: Settled,
    control: _Control,
    hunts: BoolArray,
    stages: tuple[int, ...],
) -> tuple[FloatArray, FloatArray]:
    """What each hunting case would settle at with the thermostat held as it stands just past the jump, and just before
    it [K], no hotter than the tables go."""
    top = np.take_along_axis(settled.top_hose, control.upper[None], 0)[0]
    found = [top.copy(), top.copy()]
    which = np.flatnonzero(hunts)
    if not which.size:
        return top, top
    index = np.unravel_index(which, hunts.shape)
    few = candidates_at(system, index[-2]) if hunts.ndim > 1 else system
    some, stage = cases.taken(index[-1]), np.array(stages)[control.upper.ravel()[which]]
    heat = full_demand(few, some, stage).total
    at = top.ravel()[which]
    for beside, into in zip((JUST_BESIDE, -JUST_BESIDE), found, strict=True):
        lift = coolant_at(few, some, at + beside, heat).lift

        def spare(top_hose: FloatArray, lift: FloatArray = lift) -> FloatArray:
            fluid, held = properties(few.coolant, top_hose), np.broadcast_to(lift, top_hose.shape)
            rises = circuit.buoyant(few.circuit, few.coolant, top_hose, heat, some.ambient)
            coolant = circuit.at_lift(few.circuit, few.tubes, fluid, held, some.crank_speed, buoyancy=rises)
            return np.asarray(
                np.log(np.maximum(shed(few, some, stage, top_hose, coolant, heat).heat, 1e-9) / heat)
            )

        low = some.ambient + 0.1
        into.ravel()[which] = bracketed_root(
            spare, low, np.broadcast_to(few.table_end, low.shape), 1e-3, 1e-5
        ).x
    return np.minimum(*found), np.maximum(*found)


def steady_state(system: System, cases: Cases, limit: FloatArray) -> SteadyState:
    """Steady state with thermostat and fan switch at work; broadcasts. ``limit`` [K] is where a case without steady
    state is looked at.

    The fan rests if the balance without it stays below its on-point; once started it never stops if even the balance
    with it lies above its off-point; else it cycles between them. A staged fan does so between each two stages.
    Air conditioning forces it on (choice); a belt drives it always.
    """
    if limit.ndim == 2 and not shape_of(system):
        # Candidates that share every part are still as many as their limits.
        volume = np.broadcast_to(system.coolant_volume, (limit.shape[0], 1))
        system = replace(system, coolant_volume=volume)
    stages = fans.stages(system.air.fan)
    axis = stage_axis(system, cases, stages)
    every = settle(system, cases, axis)
    control = _fan_control(system, cases, every, stages)
    upper, lower = control.upper, np.maximum(control.upper - 1, 0)

    def at(values: Any, index: IntArray) -> Any:
        return np.take_along_axis(values, index[None], 0)[0]

    exists: BoolArray = at(every.exists, upper)
    hunts: BoolArray = at(every.hunts, upper) & ~control.cycles
    exists = exists | (at(every.hunts, upper) & control.cycles)
    mean = _mean_of_cycles(system, cases, every, control, stages)
    settled = np.where(control.cycles, mean, at(every.top_hose, upper))
    top_hose = np.where(exists | hunts, settled, np.minimum(limit, system.table_end))
    # A stage that plays no part is left where it settled.
    plays = np.stack([(upper == k) | (control.cycles & (lower == k)) for k in range(len(stages))])
    where = np.where(plays, top_hose, every.top_hose)
    heat, there = every.heat, every.shed
    if np.any(where != every.top_hose):
        share = _Share(system, cases, axis, full_demand(system, cases, axis).total)
        share.near, share.flow = every.shed.air, every.shed.coolant.volume_flow
        share(where)
        assert share.heat is not None
        assert share.shed is not None
        heat, there = share.heat, share.shed
    total = np.broadcast_to(heat.total, where.shape)
    spare = there.heat - total
    short, over = -at(spare, lower), at(spare, upper)
    duty = np.where(control.cycles, short / np.where(control.cycles, short + over, 1.0), 1.0)
    duty = np.where((upper == 0), 0.0, np.minimum(np.maximum(duty, 0.0), 1.0))

    def average(value: FloatArray) -> FloatArray:
        value = np.broadcast_to(value, where.shape)
        low, high = at(value, lower), at(value, upper)
        return np.asarray(low + np.where(upper == 0, 1.0, duty) * (high - low))

    heat_in, heat_shed = average(total), average(there.heat)
    now = at_stage(there, upper)
    gearbox = at(np.broadcast_to(heat.gearbox, where.shape), upper)
    bottom = top_hose - (average(there.radiator) - gearbox) / now.coolant_capacity
    engine_heat = average(heat.engine)
    cp = properties(system.coolant, top_hose).heat_capacity
    sent = np.where(exists, engine_heat, heat_shed - gearbox)
    judged = np.where(control.cycles, control.on, top_hose)
    judged = np.where(
        control.runs_on,
        np.maximum(judged, at(every.top_hose, np.minimum(upper + 1, len(stages) - 1))),
        judged,
    )
    # A fan that starts only above the limit has let the top hose pass it.
    late = (upper > 0) & (control.on > limit)
    judged = np.where(late, np.maximum(judged, control.on), judged)
    by_switch = late & (at(every.top_hose, upper) < limit)
    coldest, hottest = _hunt(system, cases, every, control, hunts, stages)
    return SteadyState(
        top_hose=top_hose,
        bottom_hose=bottom,
        pump_inlet=top_hose - sent / (now.coolant.total_mass * cp),
        exists=exists,
        hunts=hunts,
        coldest=np.where(hunts, coldest, top_hose),
        hottest=np.where(hunts, hottest, top_hose),
        stage=np.array(stages)[upper],
        duty=duty,
        cycles=control.cycles,
        runs_on=control.runs_on & exists,
        judged=np.where(hunts, np.maximum(hottest, judged), judged),
        by_switch=by_switch & exists,
        heat_in=heat_in,
        heat_shed=heat_shed,
        engine_heat=engine_heat,
        shortfall=np.where(exists | hunts, 0.0, heat_in - heat_shed),
        air_flow=average(there.air.volume_flow),
        shed=now,
        outside_fit=outside_fit(system, top_hose, now.air),
        off=pick(every, 0),
        on=pick(every, len(stages) - 1),
    )
