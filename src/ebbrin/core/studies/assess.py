"""All that one system's cases say at once: state, margins, limits, needs, causes, levers and choices."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath.fan import FULL
from ebbrin.core.airpath.front_end import zones
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.cap import CapChoice
from ebbrin.core.circuit.parts import hose_velocity
from ebbrin.core.circuit.tank import TankSize, tank_size
from ebbrin.core.engine import fuel as fuels
from ebbrin.core.engine import heat as engines
from ebbrin.core.engine.heat import Schools
from ebbrin.core.media import air
from ebbrin.core.media.coolants import freezing_temperature, properties
from ebbrin.core.radiator import coolant_side
from ebbrin.core.records import candidate, pick, stack
from ebbrin.core.studies.chance import (
    HOLDS_FROM,
    Estimate,
    Unknown,
    estimate,
    scatter,
    verdict_of,
)
from ebbrin.core.studies.control_choice import (
    SwitchChoice,
    ThermostatChoice,
    switch_choice,
    thermostat_choice,
)
from ebbrin.core.studies.levers import Levers, applicable
from ebbrin.core.system import inlet, limits, timed
from ebbrin.core.system.balance import coolant_at
from ebbrin.core.system.control import stage_below
from ebbrin.core.system.demand import road_power
from ebbrin.core.system.limits import AmbientLimit
from ebbrin.core.system.needs import AirNeed, Bottleneck, Cause, needs
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import Settled, with_fan_on
from ebbrin.core.system.steady import SteadyState, steady_state
from ebbrin.core.system.timed import TimedRun

BELOW_OPENING, THERMOSTAT_CONTROLLED, CAPACITY_LIMITED, NO_STEADY_STATE, HUNTS = 0, 1, 2, 3, 4
ROOM = 293.15


@dataclass(frozen=True)
class Assessment:
    """Everything about one system, arrays (cases,) unless a member says otherwise; fan_share [-] of the
    face that fans serve, fuel_flow [kg/s] with the fan on, full_power [W],
    road_power [W] asked for motion and shafts, freezes [K]; cap_limit [K], what ``limit`` would be with the cap that was
    chosen; ``unsettled``, whose cause is a thermostat that may keep it from settling at a
    limit that could be kept; ``on`` is the balance with the fan at full, at the limit where there is none."""

    state: SteadyState
    on: Settled
    schools: Schools
    full_power: FloatArray
    road_power: FloatArray
    fuel_flow: FloatArray
    fan_share: float
    control: IntArray
    limit: FloatArray
    boils: FloatArray
    boils_without_cap: FloatArray
    freezes: float
    full_flow_rise: FloatArray
    tube_velocity: FloatArray
    hose_velocity: FloatArray
    inlet_margin: FloatArray
    inlet_margin_without_cap: FloatArray
    cavitation_speed: FloatArray
    limiting_ambient: AmbientLimit
    air_to_boil: AmbientLimit
    air_need: AirNeed
    bottleneck: Bottleneck
    unsettled: BoolArray
    run: TimedRun
    verdict: IntArray
    chance: Estimate
    margin: FloatArray
    cap: CapChoice
    cap_limit: FloatArray
    thermostat: ThermostatChoice
    switch: SwitchChoice
    tank: TankSize
    levers: Levers


@dataclass(frozen=True)
class _Solved:
    """Base and changed systems solved together, arrays (systems, cases)."""

    state: SteadyState
    limit: FloatArray
    boils: FloatArray
    limiting_ambient: AmbientLimit
    air_to_boil: AmbientLimit
    run: TimedRun


def control_of(state: SteadyState) -> IntArray:
    """Who is in control of each case; broadcasts."""
    lift = state.shed.coolant.lift
    return np.select(
        [state.hunts, ~state.exists, lift <= 0.0, lift < 1.0],
        [HUNTS, NO_STEADY_STATE, BELOW_OPENING, THERMOSTAT_CONTROLLED],
        CAPACITY_LIMITED,
    )


def reached(state: SteadyState, run: TimedRun, otherwise: FloatArray | float) -> FloatArray:
    """Temperature [K] that counts: a timed run's end, what the steady state is judged by, or ``otherwise`` where
    nothing settles."""
    return np.where(run.timed, run.end, np.where(state.exists | state.hunts, state.judged, otherwise))


def _solve(systems: System, cases: Cases, shape: tuple[int, ...]) -> _Solved:
    boils = limits.boiling_temperature(systems, cases, systems.cap.holds)
    boils = np.broadcast_to(boils, shape)
    limit = np.broadcast_to(limits.limit_temperature(systems, boils), shape)
    state = steady_state(systems, cases, limit)
    run = timed.estimate(systems, cases, limit)
    both = limits.ambient_for(systems, cases, np.stack([limit, boils]))
    limiting = pick(both, 0)
    which = np.flatnonzero(np.isfinite(cases.duration))
    if which.size:
        ambient, found = np.array(limiting.ambient), np.array(limiting.found)
        ambient[..., which], found[..., which] = timed.ambient_for(
            systems, cases.taken(which), limit[..., which]
        )
        limiting = AmbientLimit(ambient, found)
    # What settles above a limit that it could keep (a fan that has started) has no air from which on it is passed.
    hot = np.where(state.exists | state.hunts, state.judged, np.inf)
    past = ~np.isfinite(cases.duration) & ~state.hunts & (hot > limit) & (limiting.ambient > cases.ambient)
    limiting = replace(limiting, found=limiting.found & ~past)
    return _Solved(state, limit, boils, limiting, pick(both, 1), run)


def assess(
    system: System,
    cases: Cases,
    with_levers: bool = True,
    unknowns: Sequence[Unknown] | None = None,
) -> Assessment:
    """Solve one system (fields of shape ()) and its levers for all its cases, all stacked in one solve.

    Parameters
    ----------
    unknowns : what is not known of it; what scatters in any system if None.
    with_levers : without them the answer comes in less than half of the time.

    Raises
    ------
    DomainError
        If a part or a case lies outside what is possible.
    """
    system, cases = system.checked(), cases.checked()
    names, others = applicable(system) if with_levers else ((), [])
    shape = (len(others) + 1, np.size(cases.ambient)) if others else (np.size(cases.ambient),)
    solved = _solve(stack([system, *others]), cases, shape)
    base = candidate(solved, 0) if others else solved
    limit, boils, state, run = base.limit, base.boils, base.state, base.run
    on = with_fan_on(system, cases, limit)
    margin = limit - reached(state, run, np.inf)
    atmosphere = air.standard_pressure(cases.altitude)
    fall = state.top_hose - state.pump_inlet
    pump_inlet = np.where(run.timed, run.end - fall, state.pump_inlet)
    inlet_margin = inlet.margin(system, cases, state.shed.coolant, pump_inlet)
    # A cap is chosen for a build that holds: what is over its limit counts at the top hose's own.
    hot = reached(state, run, np.inf)
    counted = np.minimum(hot, system.limits.top_hose)
    cooler = np.where(np.isfinite(hot), hot - counted, 0.0)
    inlet_then = inlet.margin(system, cases, state.shed.coolant, pump_inlet - cooler)
    flow = state.shed.coolant.volume_flow
    chance = estimate(system, cases, scatter(system) if unknowns is None else unknowns, state=state)
    # What fails is asked what would bring it to its limit, what is tight what would give the chance.
    asked = np.where(chance.middle < 0.0, 0.0, chance.wanted)
    need, found = needs(system, cases, on, limit, atmosphere, chance.wanted, asked)
    unsettled = _unsettled(system, cases, chance)
    # Enough air with the fan at full, where the switch does not run it fully at the limit.
    enough = need.found & (need.needed <= need.available) & (chance.below < HOLDS_FROM)
    late = state.by_switch | (enough & ~run.timed & (stage_below(system, cases, limit) < FULL))
    # Less of an air that is hotter than the limit is no help that a fan could give; more of it is warmed less.
    more = need.needed > need.available
    need = replace(need, found=need.found & (more | (found.cause != Cause.INLET_AIR)))
    cause = np.where(unsettled, Cause.THERMOSTAT, np.where(late, Cause.FAN_SWITCH, found.cause))
    found = replace(found, cause=cause)
    cap = caps.choose(
        counted,
        atmosphere,
        inlet_then,
        system.coolant,
        float(system.limits.boiling_margin),
        float(system.cap.weakest_part),
        pumped(system, cases),
    )
    return Assessment(
        state=state,
        on=on,
        schools=engines.schools(system.engine, on.heat.brake_power, cases.crank_speed, _density(cases)),
        full_power=fuels.full_power(system.engine, cases.crank_speed, _density(cases)),
        road_power=road_power(system, cases) + cases.shaft_power,
        fuel_flow=fuels.fuel_mass_flow(system.engine, on.heat.fuel_power),
        fan_share=_fan_share(system),
        control=control_of(state),
        limit=limit,
        boils=boils,
        boils_without_cap=limits.boiling_temperature(system, cases, 0.0),
        freezes=float(freezing_temperature(system.coolant)),
        full_flow_rise=_full_flow_rise(system, cases, on, limit),
        tube_velocity=coolant_side.tube_velocity(system.tubes, flow),
        hose_velocity=hose_velocity(system.circuit, flow),
        inlet_margin=inlet_margin + system.cap.holds,
        inlet_margin_without_cap=inlet_margin,
        cavitation_speed=inlet.cavitation_speed(system, cases, state, pump_inlet),
        limiting_ambient=base.limiting_ambient,
        air_to_boil=base.air_to_boil,
        air_need=need,
        bottleneck=found,
        unsettled=unsettled,
        run=run,
        verdict=verdict_of(chance.below),
        chance=chance,
        margin=margin,
        cap=cap,
        cap_limit=_limit_under(system, cases, cap, limit),
        thermostat=thermostat_choice(system, limit),
        switch=switch_choice(system, limit),
        tank=_tank(system, reached(state, run, limit), atmosphere),
        levers=_levers(names, [system, *others], cases, solved)
        if others
        else Levers.none(np.size(cases.ambient)),
    )


def _unsettled(system: System, cases: Cases, chance: Estimate) -> BoolArray:
    """(cases,) which steady cases have the chance asked for by the balance at their limit, and yet not for where a bulb at
    the pump's inlet lets them come to stand, or hunt."""
    steady = ~np.isfinite(cases.duration) & bool(system.circuit.thermostat.at_inlet)
    found = steady & (chance.middle >= 0.0) & (chance.below < HOLDS_FROM)
    for k in np.flatnonzero(found):
        found[k] = chance.at_limit(int(k)) >= HOLDS_FROM
    return np.asarray(found)


def _limit_under(system: System, cases: Cases, cap: CapChoice, limit: FloatArray) -> FloatArray:
    """(cases,) limit temperature [K] with the cap that was chosen; as it is where none was."""
    if cap.chosen < 0:
        return limit
    chosen = replace(system.cap, pressure=caps.CANDIDATES[cap.chosen])
    boils = limits.boiling_temperature(system, cases, chosen.holds)
    return np.broadcast_to(limits.limit_temperature(system, boils), limit.shape)


def _density(cases: Cases) -> FloatArray:
    return air.density(cases.ambient, air.standard_pressure(cases.altitude))


def pumped(system: System, cases: Cases) -> float:
    """What the pump adds to the cap's pressure on parts between them [Pa]: its rise at working flow with the
    thermostat open, at the highest engine speed of the cases, less the jacket's drop; nothing with the cap on the hot
    tank."""
    if not bool(system.cap.on_suction_side):
        return 0.0
    circuit_, T = system.circuit, system.circuit.thermostat.fully_open
    fluid, fastest = properties(system.coolant, T), np.max(cases.crank_speed)
    found = circuit.at_lift(circuit_, system.tubes, system.coolant, T, 1.0, fastest)
    total = found.total_mass / fluid.density
    jacket = circuit_.jacket_resistance * fluid.density / 1000.0 * total**2
    return max(float(found.pump_rise - jacket), 0.0)


def _pumps_alike(one: System, other: System) -> bool:
    """Whether nothing that the coolant's flow hangs on was changed from one to the other."""
    return one.circuit is other.circuit and one.core is other.core and one.coolant is other.coolant


def _fan_share(system: System) -> float:
    """Share of the face that fans serve [-]."""
    if not system.air.fan.fitted:
        return 0.0
    parts = zones(system.air, system.core)
    return float((parts.area * parts.serves.any(-1)).sum() / system.core.open_face)


def _levers(names: tuple[str, ...], systems: list[System], cases: Cases, solved: _Solved) -> Levers:
    """Differences of the changed systems from the base, which comes first."""
    base, others = systems[0], systems[1:]
    adds = pumped(base, cases)
    state, run = solved.state, solved.run
    settles = run.timed | state.exists | state.hunts
    heat = np.where(settles, reached(state, run, 0.0), 0.0)
    both = settles[1:] & settles[:1]
    ambient = solved.limiting_ambient
    found = ambient.found[1:] & ambient.found[:1]
    margin = np.where(settles, solved.limit - heat, 0.0)
    return Levers(
        names,
        np.where(both, heat[:1] - heat[1:], 0.0),
        np.where(both, margin[1:] - margin[:1], 0.0),
        both,
        np.where(found, ambient.ambient[1:] - ambient.ambient[:1], 0.0),
        found,
        settles[1:] & ~settles[:1],
        np.array([freezing_temperature(other.coolant) for other in others]),
        np.array([adds if _pumps_alike(base, other) else pumped(other, cases) for other in others]),
    )


def _full_flow_rise(system: System, cases: Cases, on: Settled, limit: FloatArray) -> FloatArray:
    """Temperature rise through the engine with the thermostat fully open [K]."""
    wide_open = np.minimum(np.maximum(limit, system.circuit.thermostat.fully_open), system.table_end)
    coolant = coolant_at(system, cases, wide_open, on.heat.total, on.shed.coolant.volume_flow)
    heat_capacity = properties(system.coolant, wide_open).heat_capacity
    return np.asarray(on.heat.engine / (coolant.total_mass * heat_capacity))


def _tank(system: System, hottest: FloatArray, atmosphere: FloatArray) -> TankSize:
    """Room for the hottest case, filled at room temperature, at the cap's mark where the air is thinnest."""
    hot = np.minimum(hottest, system.table_end).max()
    return tank_size(system.coolant, system.coolant_volume, ROOM, hot, atmosphere.min(), system.cap.pressure)
