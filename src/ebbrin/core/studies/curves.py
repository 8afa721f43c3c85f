"""How the heat that is shed answers to coolant flow, to air and to the core's condition, all else held, and
the lines whose crossings are the working points of fan and pump. The belief that coolant must be slowed
down "so that it has time to cool" is settled by looking."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath.fan import FULL
from ebbrin.core.base import GRAVITY, ArrayLike, FloatArray, require
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.records import changed
from ebbrin.core.system.balance import Gains, coolant_at, shed, shed_with_air
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import Settled

LEAST_FALL = 10.0  # choice: where the line of what buoyancy gives ends, K


def _factors(factors: ArrayLike, on: Settled) -> FloatArray:
    f = require("flow factor", factors, 0.01, 100.0, "-")
    return f.reshape(-1, *(1 for _ in on.top_hose.shape))


def heat_by_coolant_flow(
    system: System, cases: Cases, on: Settled, top_hose: FloatArray, factors: ArrayLike
) -> FloatArray:
    """(n, cases) heat shed [W] at a ``top_hose`` [K] with ``factors`` (n,) times the coolant flow.

    Raises
    ------
    DomainError
        If a factor lies outside 0.01 to 100.
    """
    gains = Gains(coolant=_factors(factors, on))
    heat, flow = on.heat.total, on.shed.air
    coolant = coolant_at(system, cases, top_hose, heat)
    return shed_with_air(system, cases, FULL, top_hose, coolant, heat, flow.velocity, flow.mean, gains).heat


def heat_by_air(
    system: System, cases: Cases, on: Settled, top_hose: FloatArray, factors: ArrayLike
) -> FloatArray:
    """(n, cases) heat shed [W] at a ``top_hose`` [K] with ``factors`` (n,) times the air of the fan at full.

    Raises
    ------
    DomainError
        If a factor lies outside 0.01 to 100.
    """
    heat, flow = on.heat.total, on.shed.air
    coolant = coolant_at(system, cases, top_hose, heat)
    velocity = flow.velocity * _factors(factors, on)[..., None]
    return shed_with_air(system, cases, FULL, top_hose, coolant, heat, velocity, flow.mean).heat


def heat_by_condition(
    system: System, cases: Cases, on: Settled, top_hose: FloatArray, path: str, values: ArrayLike
) -> FloatArray:
    """(n, cases) heat shed [W] at a ``top_hose`` [K] with the part at a dotted ``path``, such as
    core.scale, at each of ``values`` (n,): what its condition costs, air and coolant flow following.

    Raises
    ------
    DomainError
        If a value lies outside what the part can be.
    """
    spread = np.asarray(values, np.float64).reshape(-1, 1)
    changed_system = changed(system, path, spread).checked()
    heat = np.broadcast_to(on.heat.total, (spread.size, *on.top_hose.shape))
    coolant = coolant_at(changed_system, cases, top_hose, heat)
    return shed(changed_system, cases, FULL, top_hose, coolant, heat).heat


def zone_lines(
    system: System, cases: Cases, on: Settled, factors: ArrayLike
) -> tuple[FloatArray, FloatArray]:
    """What stands against the fans, less what ram and buoyancy give (n, cases, zones), and what the fans at full add (n,
    cases, fan zones) [Pa], with ``factors`` (n,) times the air that passes each zone: both lines of the usual fan chart.
    Where they cross, or the former is nothing in a zone without a fan, lies the working point.

    Raises
    ------
    DomainError
        If a factor lies outside 0.01 to 100.
    """
    flow, heat = on.shed.air, on.heat.total
    velocity = flow.velocity * _factors(factors, on)[..., None]
    there = shed_with_air(system, cases, FULL, on.top_hose, on.shed.coolant, heat, velocity, flow.mean).air
    return there.resistance, there.fan_pressure


@dataclass(frozen=True)
class Line:
    """Points of a line, arrays (n, cases): total coolant flow through pump and engine [m³/s], pressure
    [Pa]."""

    flow: FloatArray
    pressure: FloatArray


def pump_line(
    system: System,
    cases: Cases,
    top_hose: FloatArray,
    heat: FloatArray,
    found: CoolantFlow,
    shares: ArrayLike,
) -> Line:
    """Pressure that drives the coolant at ``shares`` (n,) [-] of a largest flow: by the pump at the cases' engine speed, up
    to what it gives against nothing; without one by the buoyancy of what ``heat`` [W] brings, up to the flow that it warms
    by LEAST_FALL, bypass and heater taking the part that they take of the flow as it was ``found``."""
    pump, fluid = system.circuit.pump, properties(system.coolant, top_hose)
    share = np.asarray(shares, np.float64).reshape(-1, *(1 for _ in top_hose.shape))
    if float(pump.siphon) > 0.0:
        per_kelvin = heat / (fluid.density * fluid.heat_capacity)
        cooled = np.asarray(share * per_kelvin / LEAST_FALL)
        fall = np.divide(per_kelvin, cooled, out=np.full(cooled.shape, np.inf), where=cooled > 0.0)
        cold = np.maximum(np.maximum(top_hose - fall, np.minimum(cases.ambient, top_hose)), TABLE_LOW)
        heavier = properties(system.coolant, cold).density - fluid.density
        whole = cooled * found.total_mass / found.mass_flow
        return Line(np.asarray(whole), np.asarray(heavier * GRAVITY * pump.siphon))
    ratio = pumps.speed_ratio(pump, cases.crank_speed)
    flow = np.asarray(share * pump.run_out * ratio)
    return Line(flow, pumps.pressure_rise(pump, flow, ratio, fluid.density))


def at_crank_speed(cases: Cases, speed: float) -> Cases:
    """The cases with the engine at ``speed`` [rev/s]."""
    return replace(cases, crank_speed=np.full(cases.crank_speed.shape, speed))


def resistance_line(
    system: System, cases: Cases, top_hose: FloatArray, heat: FloatArray, lift: float, factors: ArrayLike
) -> Line:
    """Pressure that engine, radiator, bypass and heater take with the thermostat at ``lift`` [-]: where it
    meets the pump at ``factors`` (n,) times the cases' engine speed; an electric pump's own speed; without a pump where
    it meets the buoyancy of ``heat`` [W] times their third power, which goes as the flow's."""
    factor = np.asarray(factors, np.float64).reshape(-1, *(1 for _ in top_hose.shape))
    fluid = properties(system.coolant, top_hose)
    pump = system.circuit.pump
    turning = replace(system.circuit, pump=replace(pump, electric_speed=pump.electric_speed * factor))
    found = circuit.at_lift(
        turning,
        system.tubes,
        system.coolant,
        top_hose,
        lift,
        cases.crank_speed * factor,
        heat * factor**3,
        cases.ambient,
    )
    return Line(found.total_mass / fluid.density, found.pump_rise)
