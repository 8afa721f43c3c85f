"""The one physics that every question asks: heat demand, and heat shed at a top-hose temperature.

Each question is a compiled function of plain numbers for one candidate in one case, ``..._at``, and a function of
records of arrays that asks it for every element.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath import steps
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.airpath.room import (
    AREA,
    FRESH,
    GIVES,
    LEAVING,
    MASS,
    MEAN,
    MIDDLE,
    PASSES,
    RATIO,
    RESISTS,
    SLOPE,
    UA,
    Y,
)
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow, Flows
from ebbrin.core.compiled import Numbers, compiled, compiled_with_room, flat, over_cores
from ebbrin.core.media import coolants
from ebbrin.core.media.coolants import TABLE_LOW, properties_at, within_tables
from ebbrin.core.radiator import air_side, coolant_side
from ebbrin.core.radiator.block import Inside
from ebbrin.core.system.demand import full_demand_at
from ebbrin.core.system.packed import CaseNumbers, Parts, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame, works

HEATER_AIR = 100.0  # choice: capacity rate of a heater's air, blower on high, some 300 m³/h, W/K
ROUGH_HEAT_CAPACITY = 3700.0  # J/kg K; only places the mean temperature for properties
AFRESH, NEAR, GIVEN = 0, 1, 2
"""How the air is found: from nothing, from a neighbour's, or it is given, its mean temperatures nearly."""


@dataclass(frozen=True)
class Shed:
    """What is shed at a top-hose temperature: heat in all, by the radiator and by the heater [W], coolant flow, the
    radiator's coolant capacity rate [W/K], conductance UA [W/K], Reynolds number in the tubes, and the air."""

    heat: FloatArray
    radiator: FloatArray
    heater: FloatArray
    coolant: CoolantFlow
    coolant_capacity: FloatArray
    UA: FloatArray
    tube_reynolds: FloatArray
    air: Airflow


@dataclass(frozen=True)
class Gains:
    """Factors that a probe puts on core surface and coolant flow [-]."""

    core: ArrayLike = 1.0
    coolant: ArrayLike = 1.0


# Coolant


@compiled
def _coolants(packed, cases, which, case, top_hose, heat, near, out, first, last):  # type: ignore[no-untyped-def]
    for e in range(first, last):
        parts, at, c = parts_of(packed, which[e]), case_of(cases, case[e]), which[e]
        column = packed.columns[packed.column_of[c]]
        found = circuit.solve_at(
            parts.loop, parts.tubes, column, top_hose[e], at.crank_speed, heat[e], at.ambient, near[e]
        )
        for k in range(len(found)):
            out[e, k] = found[k]


def coolant_at(
    system: System,
    cases: Cases,
    top_hose: ArrayLike,
    heat: ArrayLike,
    near: FloatArray | None = None,
) -> CoolantFlow:
    """Coolant flow with the top hose at ``top_hose`` [K] while the radiator takes out ``heat`` [W], starting
    from the radiator flow ``near`` [m³/s] if given; broadcasts.

    Raises
    ------
    DomainError
        If a temperature lies outside the coolant's tables.
    """
    within_tables(system.coolant, np.asarray(top_hose))
    start = np.asarray(0.0) if near is None else near
    shape, which, case = frame(system, cases, top_hose, heat, start)
    out = np.empty((which.size, len(Flows._fields)))
    over_cores(
        0.7,
        _coolants,
        system.packed,
        cases.rows,
        which,
        case,
        *(flat(v, shape) for v in (top_hose, heat, start)),
        out,
    )
    return CoolantFlow.of(out, shape)


# Heat shed


@compiled
def inside_at(
    parts: Parts,
    column: Numbers,
    case: CaseNumbers,
    top_hose: float,
    mass_flow: float,
    heat: float,
    gain: float,
) -> tuple[Inside, float, float]:
    """The coolant's side of the core with a ``mass_flow`` [kg/s], Reynolds number in the tubes [-] and heat capacity
    [J/kg K]. ``heat`` [W] only places the mean temperature at which properties are taken."""
    # The coolant cannot leave below the air that meets it, so its mean lies at least half way between.
    mean = max(top_hose - 0.5 * heat / (mass_flow * ROUGH_HEAT_CAPACITY), 0.5 * (top_hose + case.ambient))
    mean = max(mean, TABLE_LOW)  # air that a limit is looked for in may be colder than any coolant
    fluid = properties_at(column, mean)
    Re = coolant_side.tube_reynolds(parts.tubes, mass_flow / fluid.density, fluid)
    resistance = coolant_side.inner_resistance_at(parts.tubes, Re, fluid)
    return Inside(top_hose, mass_flow * fluid.heat_capacity, resistance, gain), Re, fluid.heat_capacity


class Stand(NamedTuple):
    """What a case stands in with the fans at a stage, numbers: what the air meets; heat from engine and gearbox, brake
    power and fuel power with a clutch wholly engaged, and the first two together [W]."""

    meets: airpath.Meets
    sent: tuple[float, float, float, float]
    total: float


@compiled
def stand_at(parts: Parts, case: CaseNumbers, stage: int) -> Stand:
    """Where a case stands with the fans at a ``stage``; a charge-air cooler's heat is that with a clutch engaged."""
    sent = full_demand_at(parts, case, stage)
    condenser = works(parts.car, case.ambient, case.crank_speed)[0] if case.air_conditioning > 0.5 else 0.0
    charge = parts.car.charge_cooler * sent[2]
    meets = airpath.met(parts.front, parts.fan, case, stage, condenser, charge)
    return Stand(meets, sent, sent[0] + sent[1])


@compiled
def heater_at(
    loop: Numbers, case: CaseNumbers, top_hose: float, heater_mass: float, heat_capacity: float
) -> float:
    """Heat that the cabin heater takes where it is on [W]: its effectiveness on the lesser capacity rate of coolant and of
    what its blower moves, the air coming from outside (choice)."""
    if case.heater < 0.5:
        return 0.0
    least = min(heater_mass * heat_capacity, HEATER_AIR)
    return loop.heater_effectiveness * least * (top_hose - case.ambient)


class Gone(NamedTuple):
    """Numbers of ``Shed``: heat in all, by the radiator and by the heater [W], the coolant's capacity rate and the
    conductance UA [W/K], Reynolds number in the tubes."""

    heat: float
    radiator: float
    heater: float
    coolant_capacity: float
    UA: float
    tube_reynolds: float


@compiled
def gone(parts, case, inside, Re, heat_capacity, heater_mass, s):  # type: ignore[no-untyped-def]
    """What is shed with the air as it was found in ``s``."""
    radiator, conductance = 0.0, 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            radiator += s[PASSES, z] * (inside.hot - s[FRESH, z])
            conductance += s[UA, z]
    heater = heater_at(parts.loop, case, inside.hot, heater_mass, heat_capacity)
    return Gone(radiator + heater, radiator, heater, inside.capacity, conductance, Re)


class ShedRoom(NamedTuple):
    """Room for what elements shed: (elements, fields of ``Gone``), (8, elements, zones), (2, elements, 2) and density of
    the air outside [kg/m³] (elements,)."""

    gone: FloatArray
    zones: FloatArray
    fans: FloatArray
    density: FloatArray


def shed_room(elements: int, zones: int) -> ShedRoom:
    """Room for so many elements of so many zones."""
    return ShedRoom(
        np.empty((elements, len(Gone._fields))),
        np.empty((8, elements, zones)),
        np.empty((2, elements, 2)),
        np.empty(elements),
    )


_KEPT = np.array([Y, AREA, MASS, FRESH, MIDDLE, LEAVING, PASSES, RESISTS])


@compiled
def store(room: ShedRoom, e: int, found: Gone, density: float, s: FloatArray) -> None:
    """Put away what an element sheds and its air."""
    for k in range(len(found)):
        room.gone[e, k] = found[k]
    room.density[e] = density
    for k in range(8):
        for z in range(room.zones.shape[2]):
            room.zones[k, e, z] = np.exp(s[Y, z]) if k == 0 else s[_KEPT[k], z]
    for f in range(2):
        room.fans[0, e, f] = s[RATIO, f]
        room.fans[1, e, f] = s[GIVES, f]


def shed_of(system: System, room: ShedRoom, coolant: CoolantFlow, shape: tuple[int, ...]) -> Shed:
    """The record of what was put away, over a ``shape``."""
    number = system.air.fan.in_zone.shape[-1]
    zones = [room.zones[k].reshape(*shape, -1) for k in range(8)]
    turning = [room.fans[k, :, :number].reshape(*shape, number) for k in range(2)]
    heat, radiator, heater, capacity, UA, Re = (room.gone[:, k].reshape(shape) for k in range(6))
    flow = Airflow(*[*zones, *turning, room.density.reshape(shape)])
    return Shed(heat, radiator, heater, coolant, capacity, UA, Re, flow)


@compiled_with_room
def _sheds(packed, cases, which, case, values, velocity, mean, how, room, first, last):  # type: ignore[no-untyped-def]
    """``values`` (7, elements): stage, top hose, heat, mass flow through radiator and heater, gains of core and of
    coolant flow."""
    s = rooms.room_for(packed.faces)
    for e in range(first, last):
        c = which[e]
        parts, at = parts_of(packed, c), case_of(cases, case[e])
        stage, top_hose, heat, mass_flow, heater_mass, core_gain, coolant_gain = values[:, e]
        column = packed.columns[packed.column_of[c]]
        inside, Re, cp = inside_at(parts, column, at, top_hose, mass_flow * coolant_gain, heat, core_gain)
        meets = stand_at(parts, at, int(stage)).meets
        curve = packed.curves[packed.curve_of[c]]
        rooms.lay(s, packed.faces[c])
        if how != AFRESH:
            for z in range(velocity.shape[1]):
                s[Y, z], s[MEAN, z], s[SLOPE, z] = np.log(velocity[e, z]), mean[e, z], 0.0
        surface, block, front, fan = parts.surface, parts.block, parts.front, parts.fan
        if how == GIVEN:
            airpath.look(surface, block, front, fan, curve, meets, inside, s)
            for z in range(velocity.shape[1]):
                s[MEAN, z] = s[MIDDLE, z]
            airpath.look(surface, block, front, fan, curve, meets, inside, s)
        else:
            tolerance = airpath.PRESSURE_RESIDUAL
            airpath.solve(surface, block, front, fan, curve, meets, inside, s, how == NEAR, tolerance)
        store(room, e, gone(parts, at, inside, Re, cp, heater_mass, s), meets.density, s)


def _shed(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    heat: FloatArray,
    gains: Gains,
    velocity: FloatArray | None,
    mean: FloatArray | None,
    how: int,
) -> Shed:
    values = (stage, top_hose, heat, coolant.mass_flow, coolant.heater_mass, gains.core, gains.coolant)
    zones = system.packed.faces.shape[2]
    ahead = () if velocity is None or mean is None else (velocity[..., 0], mean[..., 0])
    shape, which, case = frame(system, cases, *values, *ahead)
    spread = np.stack([flat(v, shape) for v in values])
    if velocity is None or mean is None:
        laid = np.empty((1, zones)), np.empty((1, zones))
    else:
        laid = (
            flat(velocity, (*shape, zones)).reshape(-1, zones),
            flat(mean, (*shape, zones)).reshape(-1, zones),
        )
    room = shed_room(which.size, zones)
    over_cores(4, _sheds, system.packed, cases.rows, which, case, spread, *laid, how, room)
    return shed_of(system, room, coolant, shape)


def shed(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    heat: FloatArray,
    near: Airflow | None = None,
    gains: Gains | None = None,
) -> Shed:
    """Heat that radiator and heater shed with the engine's outlet at ``top_hose`` [K] and the fans at ``stage``,
    the air found with it; broadcasts.

    Parameters
    ----------
    heat : (...) float array, [W]. It only places the mean coolant temperature at which properties are
        taken; at the solution it is the heat shed.
    near : an airflow to start from.
    gains : factors on core surface and coolant flow, for probes.
    """
    asked = system, cases, stage, top_hose, coolant, heat, gains or Gains()
    if near is not None and near.velocity.shape[-1] == system.packed.faces.shape[2]:
        start = np.maximum(near.velocity, steps.LEAST_VELOCITY)
        return _shed(*asked, start, near.mean, NEAR)
    return _shed(*asked, None, None, AFRESH)


def shed_with_air(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    heat: FloatArray,
    velocity: FloatArray,
    mean: FloatArray,
    gains: Gains | None = None,
) -> Shed:
    """As ``shed`` for given velocities of the air (..., zones) [m/s], whatever drives them; ``mean`` near to its
    mean temperatures [K]."""
    return _shed(system, cases, stage, top_hose, coolant, heat, gains or Gains(), velocity, mean, GIVEN)


def outside_fit(system: System, top_hose: FloatArray, flow: Airflow) -> BoolArray:
    """True where any correlation is used outside what it was fitted to; broadcasts."""
    surface = air_side.Surface(*(np.asarray(v)[..., None] for v in system.surface))
    Re = air_side.reynolds(surface, flow.velocity * flow.ambient_density[..., None], flow.mean)
    air_left = (air_side.outside_fit(system.core.zoned, Re) & (flow.area > 0)).any(-1)
    return np.asarray(air_left | coolants.outside_fit(system.coolant, top_hose))
