"""Steady state of every case: the top hose at which heat in equals heat out, with fan and thermostat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.circuit.thermostat import LEAK, Thermostat, valve_lift, valve_opening
from ebbrin.core.engine.heat import Heat
from ebbrin.core.media.coolants import properties
from ebbrin.core.roots import Bracket, root_between
from ebbrin.core.system.balance import AirSide, Shed, air_for, coolant_at, demand, outside_fit, shed
from ebbrin.core.system.parts import Cases, System, candidates_at, choose, pick

HEAT_RESIDUAL = 4e-7


@dataclass(frozen=True)
class Settled:
    """A balance with the fan held at a stage, (...) arrays: top hose [K] (the end of the tables where
    there is no steady state), whether there is one, heat demand, the air, and the coolant flow there."""

    top_hose: FloatArray
    exists: BoolArray
    heat: Heat
    air: AirSide
    coolant: CoolantFlow

    def of_cases(self, which: IntArray) -> Settled:
        """Some of the cases, by their indices."""

        def cut(record: Any, zoned: bool) -> Any:
            if not is_dataclass(record):
                return np.take(record, which, -2 if zoned else -1)
            of_air = isinstance(record, AirSide | Airflow)
            values = {
                f.name: cut(getattr(record, f.name), of_air and f.name != "ambient_density")
                for f in fields(record)
            }
            return replace(record, **values)  # type: ignore[type-var]

        return cut(self, False)  # type: ignore[no-any-return]


def settle(system: System, cases: Cases, stage: ArrayLike) -> Settled:
    """Top hose at which radiator and heater shed what the engine sends, fan held at a stage; broadcasts.

    At the solution the air carries the demand, so the airflow is solved once with that heat (what a cabin
    heater takes off it is left in, a choice on the safe side) and the top hose is bracketed between ambient, where nothing is shed, and the end of the property tables.
    """
    heat = demand(system, cases, stage)
    total = heat.total
    air_now = air_for(system, cases, stage, total, heat.brake_power)
    shape = np.broadcast_shapes(total.shape, air_now.resistance.shape[:-1])
    share = _share(system, cases, total, air_now)
    low, high, opens, full = _landmarks(system, cases, shape)
    # Two looks say whether the answer lies beyond the open thermostat, within its opening or below.
    at_full = share(full)
    hot = at_full <= 0.0
    other = np.where(hot, high, opens)
    at_other = share(other)
    opening, exists = ~hot & (at_other <= 0.0), ~hot | (at_other >= 0.0)
    scale = _Scale(np.broadcast_to(cases.ambient, shape), _spread(system, shape), opening)
    ends = scale.of(np.where(opening | hot, full, opens)), scale.of(np.where(opening | hot, other, low))
    # Below opening heat is all but proportional to the rise over ambient: so is what is not looked at.
    below = at_other + (ends[1] - ends[0])
    values = np.where(opening | hot, at_full, at_other), np.where(opening | hot, at_other, below)

    def narrowed(which: IntArray) -> Callable[[FloatArray], FloatArray]:
        index = np.unravel_index(which, shape)
        few = (candidates_at(system, index[-2]) if len(shape) > 2 else system, cases.taken(index[-1]))
        heat_there = np.broadcast_to(total, shape).reshape(-1)[which]
        there, share_there = scale.elements(which), _share(*few, heat_there, air_now.elements(which))
        return lambda y: share_there(there.temperature(y))

    found = root_between(
        lambda y: share(scale.temperature(y)), Bracket(*ends, *values, exists), 1e-9, HEAT_RESIDUAL, narrowed
    )
    top_hose = np.where(exists, scale.temperature(found), high)
    coolant = coolant_at(system, cases, top_hose, total)
    return Settled(top_hose, exists, heat, air_now, coolant)


def _landmarks(system: System, cases: Cases, shape: tuple[int, ...]) -> tuple[FloatArray, ...]:
    """Ambient, end of the tables, where the thermostat opens and where it stands fully open [K]."""
    low, high = np.broadcast_to(cases.ambient, shape), np.broadcast_to(system.table_end, shape)
    valve = system.circuit.thermostat
    opens, full = (np.minimum(np.maximum(knee, low), high) for knee in (valve.opens, valve.fully_open))
    return low, high, opens, full


def _spread(system: System, shape: tuple[int, ...]) -> Thermostat:
    valve = system.circuit.thermostat
    opens, span = np.broadcast_to(valve.opens, shape), np.broadcast_to(valve.span, shape)
    return Thermostat(opens, span, np.broadcast_to(valve.at_inlet, shape))


@dataclass(frozen=True)
class _Scale:
    """The scale on which an answer is looked for, so that the logarithm of the heat is all but straight along
    it: logarithm of the valve's opening where ``opening``, else of the rise over ambient."""

    ambient: FloatArray
    valve: Thermostat
    opening: BoolArray

    def of(self, temperature: FloatArray) -> FloatArray:
        """Place on the scale of a temperature [K]."""
        flow = valve_opening(valve_lift(self.valve, temperature))
        return np.asarray(np.log(np.where(self.opening, flow, np.maximum(temperature - self.ambient, 1e-6))))

    def temperature(self, place: FloatArray) -> FloatArray:
        """Temperature [K] at a place on the scale."""
        grown = np.exp(place)
        lift = (grown - LEAK) * (1.0 / (1.0 - LEAK))
        return np.where(self.opening, self.valve.opens + self.valve.span * lift, self.ambient + grown)

    def elements(self, which: IntArray) -> _Scale:
        """Some elements by their indices in the flattened shape, as one axis."""
        valve = Thermostat(*(getattr(self.valve, f.name).reshape(-1)[which] for f in fields(Thermostat)))
        return _Scale(self.ambient.reshape(-1)[which], valve, self.opening.reshape(-1)[which])


def _share(
    system: System, cases: Cases, total: FloatArray, air_now: AirSide
) -> Callable[[FloatArray], FloatArray]:
    """Logarithm of heat shed over heat demand, as a function of the top hose [K]."""
    flow: FloatArray | None = None

    def share(top_hose: FloatArray) -> FloatArray:
        nonlocal flow
        coolant = coolant_at(system, cases, top_hose, total, near=flow)
        flow = coolant.volume_flow
        heat = shed(system, cases, top_hose, coolant, air_now, total).heat
        return np.asarray(np.log(np.maximum(heat, 1e-9) / total))

    return share


def shed_at(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    top_hose: FloatArray,
    settled: Settled,
) -> tuple[Shed, AirSide]:
    """What is shed at a given top hose [K] when that need not be what the engine sends; broadcasts.

    Airflow depends a little on the heat that it carries, by density alone. ``settled`` holds the airflow
    for the demand; where another heat is shed, one correction leaves less than 0.1 % of it.
    """
    heat, near = settled.heat.total, settled.air
    coolant = coolant_at(system, cases, top_hose, heat, settled.coolant.volume_flow)
    result = shed(system, cases, top_hose, coolant, near, heat)
    settled_there = np.abs(result.heat - heat) <= 2.0 * HEAT_RESIDUAL * heat
    if settled_there.all():
        return result, near
    carried = np.where(settled_there, heat, np.maximum(result.heat, 1.0))
    air_now = air_for(system, cases, stage, carried, settled.heat.brake_power, near)
    return shed(system, cases, top_hose, coolant, air_now, carried), air_now


@dataclass(frozen=True)
class SteadyState:
    """What each case settles to, (...) arrays. Temperatures [K].

    Where ``exists`` is False the state is that at the limit temperature and ``shortfall`` [W] says what
    is missing there. duty [-] is the share of time that the fan is on, or for a staged fan that ``stage``
    is on rather than the one below; a cycling fan holds the middle of the switch's band.
    margin_temperature [K] is what margins are taken from: a fan that runs overshoots to its on-point.
    heat_in and heat_shed [W] and air_flow [m³/s, ambient density] are averages over the duty.
    engine_heat [W] is what the coolant takes up in the engine. pump_inlet [K] mixes the branches.
    """

    top_hose: FloatArray
    bottom_hose: FloatArray
    pump_inlet: FloatArray
    exists: BoolArray
    stage: IntArray
    duty: FloatArray
    cycles: BoolArray
    margin_temperature: FloatArray
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


def shape_of(system: System) -> tuple[int, ...]:
    """Shape of a system's candidates, () or (candidates, 1), whichever of its fields vary."""
    records: list[Any] = [system]
    shapes: list[tuple[int, ...]] = []
    while records:
        record = records.pop()
        values = getattr(record, "__dataclass_fields__", None)
        if values is not None:
            records += [getattr(record, name) for name in values]
        elif np.ndim(record) >= 2:
            shapes.append(np.shape(record)[:2])
    return np.broadcast_shapes(*shapes) if shapes else ()


@dataclass(frozen=True)
class _Control:
    """Which stage (an index into the stages) each case rests or cycles at, with the temperatures that go
    with it; below holds the stage that it alternates with."""

    upper: IntArray
    cycles: BoolArray
    middle: FloatArray
    on_point: FloatArray


def _fan_control(system: System, cases: Cases, settled: Settled, stages: tuple[int, ...]) -> _Control:
    """The lowest stage whose balance lies below the middle of the next stage's band; if it also lies below
    the middle of its own, the fan alternates between it and the one beneath."""
    switch, fan = system.fan_switch, system.air.fan
    never = np.inf
    ons, offs = [switch.on], [switch.off]
    if len(stages) == 3:
        ons.append(np.where(fan.staged, switch.full_on, never))
        offs.append(np.where(fan.staged, switch.full_off, never))
    middles = [0.5 * (on + off) for on, off in zip(ons, offs, strict=True)]
    top = settled.top_hose
    forced = fan.fitted & np.asarray(cases.air_conditioning)
    shape = top.shape[1:]
    upper = np.zeros(shape, np.int64)
    for k, middle in enumerate(middles):
        calm = settled.exists[k] & (top[k] <= middle)
        if k == 0:
            calm = (calm & ~forced) | ~fan.fitted
        upper = np.where((upper == k) & ~calm, k + 1, upper)
    band = [np.full(shape, never), *(np.broadcast_to(m, shape) for m in middles)]
    own = np.take_along_axis(np.stack(band), upper[None], 0)[0]
    there = np.take_along_axis(top, upper[None], 0)[0]
    exists = np.take_along_axis(settled.exists, upper[None], 0)[0]
    cycles = (upper > 0) & exists & (there < own) & ~(forced & (upper == 1))
    on_points = np.stack([np.full(shape, -never), *(np.broadcast_to(on, shape) for on in ons)])
    return _Control(upper, cycles, own, np.take_along_axis(on_points, upper[None], 0)[0])


def steady_state(system: System, cases: Cases, limit: FloatArray) -> SteadyState:
    """Steady state with thermostat and fan switch at work; broadcasts.

    The fan rests if the balance without it stays below the middle of the switch's band; runs always if
    even the balance with it lies above; else it cycles about the middle. A staged fan does so between each
    two stages. Air conditioning forces it on (choice). ``limit`` [K] is where a case without steady state is
    looked at.
    """
    stages = fans.stages(system.air.fan)
    axis = stage_axis(system, cases, stages)
    every = settle(system, cases, axis)
    control = _fan_control(system, cases, every, stages)
    upper, lower = control.upper, np.maximum(control.upper - 1, 0)

    def at(values: FloatArray, index: IntArray) -> FloatArray:
        return np.asarray(np.take_along_axis(values, index[None], 0)[0])

    exists: BoolArray = np.take_along_axis(every.exists, upper[None], 0)[0]
    settled = np.where(control.cycles, control.middle, at(every.top_hose, upper))
    top_hose = np.where(exists, settled, limit)
    # A stage that plays no part is left where it settled.
    plays = np.stack([(upper == k) | (control.cycles & (lower == k)) for k in range(len(stages))])
    where = np.where(plays | ~every.exists, top_hose, every.top_hose)
    there, air_now = shed_at(system, cases, axis, where, every)
    total = every.heat.total
    spare = there.heat - total
    short, over = -at(spare, lower), at(spare, upper)
    duty = np.where(control.cycles, short / np.where(control.cycles, short + over, 1.0), 1.0)
    duty = np.where(upper == 0, 0.0, duty)

    def average(value: FloatArray) -> FloatArray:
        low, high = at(value, lower), at(value, upper)
        return np.asarray(low + np.where(upper == 0, 1.0, duty) * (high - low))

    heat_in, heat_shed = average(total), average(there.heat)
    now = pick(there, 0)
    for k in range(1, len(stages)):
        now = choose(upper == k, pick(there, k), now)
    runs = exists & (duty > 0.0)
    gearbox = at(every.heat.gearbox, upper)
    radiator = average(there.radiator)
    bottom = top_hose - (radiator - gearbox) / now.coolant_capacity
    engine_heat = average(every.heat.engine)
    cp = properties(system.coolant, top_hose).heat_capacity
    sent = np.where(exists, engine_heat, heat_shed - gearbox)
    return SteadyState(
        top_hose=top_hose,
        bottom_hose=bottom,
        pump_inlet=top_hose - sent / (now.coolant.total_mass * cp),
        exists=exists,
        stage=np.array(stages)[upper],
        duty=duty,
        cycles=control.cycles,
        margin_temperature=np.where(runs, np.maximum(top_hose, control.on_point), top_hose),
        heat_in=heat_in,
        heat_shed=heat_shed,
        engine_heat=engine_heat,
        shortfall=np.where(exists, 0.0, heat_in - heat_shed),
        air_flow=average(air_now.flow.volume_flow),
        shed=now,
        outside_fit=outside_fit(system, top_hose, pick(air_now, -1)),
        off=pick(every, 0),
        on=pick(every, len(stages) - 1),
    )
