"""Coolant flow: where the pump's curve meets engine, radiator branch, bypass and heater."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, FloatArray
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.parts import BYPASS_BLOCKED, BYPASS_SPRING, Circuit, hose_duct
from ebbrin.core.circuit.thermostat import pocket_temperature, valve_lift
from ebbrin.core.compiled import Numbers, compiled, flat, places, rows
from ebbrin.core.ducts import Duct, drop_and_growth
from ebbrin.core.media.coolants import (
    TABLE_LOW,
    Coolant,
    properties_at,
    within_tables,
)
from ebbrin.core.radiator import coolant_side
from ebbrin.core.radiator.coolant_side import Tubes
from ebbrin.core.records import lead_of
from ebbrin.core.roots import MAX_STEPS, first_share, next_share

FLOW_TOLERANCE, FREE_PASSES, MOST_PASSES = 3e-4, 12, 80
LIFTED_TOLERANCE = 1e-5  # where the slope of what drives is no more than near
FOOT_SHUTS = 0.98  # choice: how much of the bypass a fully open thermostat's foot closes
LEAST_BUOYANCY = 1e-9  # Pa
SPRING_LEAK = 0.003  # choice: share of the opening that a shut spring bypass lets through
LIFT_TOLERANCE = 1e-8
SHORT_STEP = 6e-3  # of the logarithm of the flow


@dataclass(frozen=True)
class CoolantFlow:
    """Coolant through the branches, (...) arrays: volume_flow [m³/s] and mass_flow [kg/s] through the
    radiator, bypass_mass and heater_mass [kg/s]; lift and valve opening [-]; pump_rise, branch_drop (from
    engine outlet to pump inlet), radiator_drop, hose_drop [Pa]."""

    volume_flow: FloatArray
    mass_flow: FloatArray
    bypass_mass: FloatArray
    heater_mass: FloatArray
    lift: FloatArray
    opening: FloatArray
    pump_rise: FloatArray
    branch_drop: FloatArray
    radiator_drop: FloatArray
    hose_drop: FloatArray

    @property
    def total_mass(self) -> FloatArray:
        """Through pump and engine [kg/s]."""
        return self.mass_flow + self.bypass_mass + self.heater_mass

    @classmethod
    def of(cls, columns: FloatArray, shape: tuple[int, ...]) -> CoolantFlow:
        """From the columns (elements, fields) of a compiled solve, over a ``shape``."""
        return cls(*(columns[:, k].reshape(shape) for k in range(columns.shape[1])))


class Flows(NamedTuple):
    """The fields of ``CoolantFlow``, numbers."""

    volume_flow: float
    mass_flow: float
    bypass_mass: float
    heater_mass: float
    lift: float
    opening: float
    pump_rise: float
    branch_drop: float
    radiator_drop: float
    hose_drop: float


class Buoyancy(NamedTuple):
    """What drives the coolant where there is no pump, numbers: height of the core's middle over the jacket's [m]; density
    [kg/m³] and temperature [K] of the hot leg; how far the cold leg falls below it, times the flow [K m³/s]; and the
    coldest that it can be, as cold as the air [K]."""

    height: float
    density: float
    hot: float
    falls: float
    coldest: float


@compiled
def buoyancy_at(
    loop: Numbers, fluid: Numbers, top_hose: float, heat: float, air_temperature: float
) -> Buoyancy:
    """What rises where there is no pump and the radiator takes out ``heat`` [W]; of no height where there is one."""
    falls = max(heat, 0.0) / (fluid.density * fluid.heat_capacity)
    coldest = max(min(air_temperature, top_hose), TABLE_LOW)
    return Buoyancy(loop.siphon, fluid.density, top_hose, falls, coldest)


@compiled
def lift_pressure(rises: Buoyancy, column: Numbers, flow: float) -> float:
    """(ρ_cold - ρ_hot) g H [Pa] at a ``flow`` [m³/s] above 0, never nothing so that its logarithm exists.

    References
    ----------
    white-fluid-mechanics, ch. 2 (hydrostatics).
    """
    cold = max(rises.hot - rises.falls / flow, rises.coldest)
    heavier = properties_at(column, cold).density - rises.density
    return max(heavier * GRAVITY * rises.height, LEAST_BUOYANCY)


@compiled
def _branches(
    loop: Numbers, gate: float, root_density: float, drop: float
) -> tuple[float, float, float, float]:
    """Volume flows of bypass and heater [m³/s] under a pressure ``drop`` [Pa] and how they grow with its logarithm
    [m³/s]; ``gate`` is what the thermostat's foot leaves open of the bypass [-]."""
    root = np.sqrt(drop) / root_density
    wide, heater = loop.bypass_conductance * root, loop.heater_conductance * root
    steep = 0.0
    if loop.bypass_kind == BYPASS_SPRING:
        past = drop / loop.cracking - 1.0
        gate = SPRING_LEAK + (1.0 - SPRING_LEAK) * min(max(past, 0.0), 1.0)
        if 0.0 < past < 1.0:
            steep = (1.0 - SPRING_LEAK) * drop / loop.cracking
    return wide * gate, heater, wide * (0.5 * gate + steep), 0.5 * heater


@compiled
def _lost(duct: Duct, flow: float) -> tuple[float, float]:
    """Pressure lost in a duct [Pa] and its growth, as ``drop_and_growth``."""
    return drop_and_growth(duct.reynolds, duct.laminar, duct.length, duct.fixed, duct.head, flow)


@compiled
def _grown(lost: float, growth: float, step: float) -> float:
    """Pressure lost [Pa] after a ``step`` of the logarithm of the flow so short that its cube is nothing."""
    more = growth * step
    return lost * (1.0 + more * (1.0 + 0.5 * more))


@compiled
def at_lift_at(
    loop: Numbers,
    tubes: Numbers,
    column: Numbers,
    fluid: Numbers,
    lift: float,
    crank_speed: float,
    near: float,
    rises: Buoyancy,
    enough: float = FLOW_TOLERANCE,
) -> Flows:
    """Flow with the thermostat at ``lift`` [-], as ``at_lift``, numbers; ``near`` is 0 where none is known. The last step is
    taken from where pressures are apart by ``enough`` [-], which squares it.

    Newton's method on the logarithms of flow and of all that is lost, which is near to straight with a slope
    of 1 to 2.6. Where a spring opens, and should it not settle soon, it is kept inside a bracket, of which every
    third pass takes the middle: lost pressure rises with flow, so that converges.
    """
    opening = loop.leak + (1.0 - loop.leak) * lift
    ratio = pumps.speed_ratio(loop, crank_speed)
    density = fluid.density / 1000.0
    root_density = np.sqrt(density)
    gate = 1.0 - FOOT_SHUTS * lift if loop.bypass_kind == BYPASS_BLOCKED else 1.0
    siphon = loop.siphon > 0.0
    if siphon:
        enough = min(enough, LIFTED_TOLERANCE)
    # Shut-off pressure over run-out flow squared is the pump's own fall; it joins the resistances.
    fall = 0.0 if siphon else loop.shut_off / (loop.run_out * loop.run_out)
    shared = density * (loop.jacket_resistance + fall)
    valve = density * loop.thermostat_resistance / (opening * opening)
    # At next to no flow the cold leg is as cold as the air, and nothing drives more.
    driven = lift_pressure(rises, column, 1e-300) if siphon else loop.shut_off * density * ratio * ratio
    most = 0.5 * np.log(driven / (shared + valve))
    spring = loop.bypass_kind == BYPASS_SPRING
    high, low = most + 1e-9, most - 40.0
    y = np.log(near) if near > 0.0 else most
    flow, last_y = near if near > 0.0 else np.exp(most), y
    in_tubes, in_hoses, tubes_grow, hoses_grow = 0.0, 0.0, 0.0, 0.0
    tube, hose = coolant_side.tube_duct(tubes, fluid), hose_duct(loop, fluid)
    for passes in range(MOST_PASSES):
        bracketed = spring or passes >= FREE_PASSES
        if bracketed:
            y = min(max(y, low), high)
            flow = np.exp(y)
        in_tubes, tubes_grow = _lost(tube, flow)
        in_hoses, hoses_grow = _lost(hose, flow)
        fixed = valve * flow * flow
        drop = fixed + in_tubes + in_hoses
        steep = (2.0 * fixed + in_tubes * tubes_grow + in_hoses * hoses_grow) / drop
        bypass, heater, more_bypass, more_heater = _branches(loop, gate, root_density, drop)
        total = flow + bypass + heater
        grows = flow + (more_bypass + more_heater) * steep
        pumped = shared * total * total
        lost = pumped + drop
        slope = (2.0 * pumped * grows / total + drop * steep) / lost
        if siphon:
            driven = lift_pressure(rises, column, flow)
            if rises.hot - rises.falls / flow > rises.coldest:
                slope += 1.0  # as if density were straight in temperature; that it is not costs a pass or two
        off = np.log(lost / driven)
        step = y - off / slope
        if bracketed:
            if off > 0.0:
                high = y
            else:
                low = y
            astray = step <= low or step >= high or passes % 3 == 2
            if astray and abs(off) > enough:
                step = 0.5 * (low + high)
        last_y, y = y, step
        flow = np.exp(y)
        if abs(off) <= enough:
            break
    # The last step has squared the error that was left.
    if abs(y - last_y) <= SHORT_STEP:
        in_tubes, in_hoses = (
            _grown(in_tubes, tubes_grow, y - last_y),
            _grown(in_hoses, hoses_grow, y - last_y),
        )
    else:
        in_tubes, in_hoses = _lost(tube, flow)[0], _lost(hose, flow)[0]
    drop = valve * flow * flow + in_tubes + in_hoses
    bypass, heater, _, _ = _branches(loop, gate, root_density, drop)
    total = flow + bypass + heater
    if siphon:
        rise = lift_pressure(rises, column, flow)
    else:
        rise = pumps.pressure_rise(loop, total, ratio, fluid.density)
    rho = fluid.density
    return Flows(flow, flow * rho, bypass * rho, heater * rho, lift, opening, rise, drop, in_tubes, in_hoses)


@compiled
def _gap(lift, flows, loop, cp, top_hose, heat, air_temperature):  # type: ignore[no-untyped-def]
    """By how much the bulb at the pump's inlet would open the valve further than it stands [-]."""
    back = top_hose - heat / (flows.mass_flow * cp)
    back = max(back, min(air_temperature, top_hose))
    bulb = pocket_temperature(flows.bypass_mass * cp, flows.mass_flow * cp, top_hose, back, air_temperature)
    return valve_lift(loop, bulb) - lift


@compiled
def solve_at(
    loop: Numbers,
    tubes: Numbers,
    column: Numbers,
    top_hose: float,
    crank_speed: float,
    heat: float,
    air_temperature: float,
    near: float,
    enough: float = FLOW_TOLERANCE,
) -> Flows:
    """Flow with the thermostat where its bulb puts it, as ``solve``, numbers; ``near`` is 0 where none is known."""
    fluid = properties_at(column, top_hose)
    rises = buoyancy_at(loop, fluid, top_hose, heat, air_temperature)
    if loop.at_inlet < 0.5:
        lift = valve_lift(loop, top_hose)
        return at_lift_at(loop, tubes, column, fluid, lift, crank_speed, near, rises, enough)
    cp = fluid.heat_capacity
    a, b = 0.0, 1.0
    at_a = at_lift_at(loop, tubes, column, fluid, a, crank_speed, near, rises)
    at_b = at_lift_at(loop, tubes, column, fluid, b, crank_speed, near, rises)
    fa = _gap(a, at_a, loop, cp, top_hose, heat, air_temperature)
    fb = _gap(b, at_b, loop, cp, top_hose, heat, air_temperature)
    if (fa > 0.0) == (fb > 0.0):
        # A valve that stays shut or stands fully open has no crossing inside and is left at that end.
        return at_a if abs(fa) <= abs(fb) else at_b
    share = first_share(fa, fb)
    for _ in range(MAX_STEPS):
        x = a + share * (b - a)
        at_x = at_lift_at(loop, tubes, column, fluid, x, crank_speed, at_a.volume_flow, rises)
        fx = _gap(x, at_x, loop, cp, top_hose, heat, air_temperature)
        if (fx > 0.0) == (fa > 0.0):
            c, fc = a, fa
        else:
            c, fc = b, fb
            b, fb, at_b = a, fa, at_a
        a, fa, at_a = x, fx, at_x
        if abs(b - a) <= 2.0 * LIFT_TOLERANCE or abs(fa) <= LIFT_TOLERANCE:
            break
        share = next_share(a, fa, b, fb, c, fc, LIFT_TOLERANCE)
    return at_a if abs(fa) < abs(fb) else at_b


@compiled
def _at_lifts(loops, tubes, columns, column_of, which, temperature, lift, crank_speed, heat, air, out):  # type: ignore[no-untyped-def]
    """``at_lift_at`` for every element, whose candidate is ``which``."""
    for e in range(len(which)):
        c = which[e]
        column = columns[column_of[c]]
        fluid = properties_at(column, temperature[e])
        rises = buoyancy_at(loops[c], fluid, temperature[e], heat[e], air[e])
        found = at_lift_at(loops[c], tubes[c], column, fluid, lift[e], crank_speed[e], 0.0, rises)
        for k in range(len(found)):
            out[e, k] = found[k]


def _over(
    kernel: Any, circuit: Circuit, tubes: Tubes, coolant: Coolant, values: tuple[Any, ...]
) -> CoolantFlow:
    """Ask a ``kernel`` for every element of the ``values``, the first of which are temperatures [K]."""
    within_tables(coolant, np.asarray(values[0]))
    lead = np.broadcast_shapes(lead_of(circuit), lead_of(coolant), *(np.shape(v) for v in tubes))
    shape = np.broadcast_shapes(lead, *(np.shape(v) for v in values))
    spread = [flat(v, shape) for v in values]
    out = np.empty((spread[0].size, len(Flows._fields)))
    columns, column_of = coolant.columns
    # Of its own: a view cannot be written to, which is another kind to compiled code.
    column_of = np.array(np.broadcast_to(column_of.reshape(lead_of(coolant)), lead)).reshape(-1)
    candidates = rows(lead, circuit.numbers), rows(lead, tubes), columns, column_of
    kernel(*candidates, places(lead, shape), *spread, out)
    return CoolantFlow.of(out, shape)


def at_lift(
    circuit: Circuit,
    tubes: Tubes,
    coolant: Coolant,
    temperature: ArrayLike,
    lift: ArrayLike,
    crank_speed: ArrayLike,
    heat: ArrayLike = 0.0,
    air_temperature: ArrayLike = 0.0,
) -> CoolantFlow:
    """Flow of coolant of a ``temperature`` [K] with the thermostat at ``lift`` [-]; broadcasts.

    Parameters
    ----------
    heat, air_temperature : heat that the radiator takes out [W] and air around it [K]: what drives the coolant where
        there is no pump, next to nothing without heat.

    Raises
    ------
    DomainError
        If a temperature lies outside the coolant's tables.
    """
    values = temperature, lift, crank_speed, heat, air_temperature
    return _over(_at_lifts, circuit, tubes, coolant, values)


@compiled
def _solve_all(loops, tubes, columns, column_of, which, top_hose, crank_speed, heat, air, near, out):  # type: ignore[no-untyped-def]
    """``solve_at`` for every element, whose candidate is ``which``."""
    for e in range(len(which)):
        c = which[e]
        column = columns[column_of[c]]
        found = solve_at(loops[c], tubes[c], column, top_hose[e], crank_speed[e], heat[e], air[e], near[e])
        for k in range(len(found)):
            out[e, k] = found[k]


def solve(
    circuit: Circuit,
    tubes: Tubes,
    coolant: Coolant,
    top_hose: ArrayLike,
    crank_speed: ArrayLike,
    heat: ArrayLike,
    air_temperature: ArrayLike,
    near: FloatArray | None = None,
) -> CoolantFlow:
    """Flow where pump and resistances meet, with the thermostat where its bulb puts it; broadcasts.

    Parameters
    ----------
    top_hose : (...) float array, coolant temperature at the engine's outlet, which sets the properties [K].
    crank_speed : (...) float array, [rev/s], above 0.
    heat, air_temperature : (...) float arrays, heat that the radiator takes out [W] and air around the
        housing [K]; they matter for a thermostat at the pump's inlet, whose bulb feels the return.
    near : a radiator flow to start from [m³/s], above 0.

    Raises
    ------
    DomainError
        If a temperature lies outside the coolant's tables.
    """
    start = np.asarray(0.0) if near is None else near
    values = top_hose, crank_speed, heat, air_temperature, start
    return _over(_solve_all, circuit, tubes, coolant, values)
