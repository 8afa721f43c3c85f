"""What the components do at each of a drive's operating points, for every stage of the fan, lift and temperature.

The steady state's own functions, called once on arrays: the drive only interpolates between their results.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.drive.places import Places
from ebbrin.core.media import air
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.system.balance import air_for, core_rate, demand, heater_heat
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import stage_axis

LIFTS = np.array(
    [0.0, 0.005, 0.01, 0.015, 0.02, 0.03, 0.04, 0.055, 0.075, 0.1, 0.14, 0.2, 0.28, 0.4, 0.55, 0.75, 1.0]
)
"""Lifts of the thermostat at which components are worked out [-]; closer where flow changes fastest."""
TEMPERATURES = np.array(
    [TABLE_LOW, 253.15, 273.15, 303.15, 328.15, 343.15, 353.15, 363.15, 373.15, 383.15, 398.15, 413.15]
)
"""Coolant temperatures at which components are worked out [K]."""
ABOVE_AIR = 5.0  # K


@dataclass(frozen=True)
class Maps:
    """Components at each place of a drive, and what differs from point to point; T temperatures, L lifts, K stages of
    the fan, P places, S operating points.

    place : (S,) where each point's components stand; several points may share one.
    radiator_flow, bypass_flow, heater_flow : (T, L, P) [kg/s], none with the engine off. heater : (T, L, P)
    heat per kelvin above ambient [W/K]. capacity : (T, L, K, P) of the coolant through the core [W/K].
    conductance : (T, L, K, P) heat that the core sheds per kelvin between the coolant going in and its air [W/K].
    rise : (T, L, K, P) of that air above ambient [K]. engine_heat, gearbox_heat : (K, S) [W]. ambient [K],
    pressure [Pa], running and air_conditioning (S,). stages : fan stages, the least first. heat_capacity
    [J/kg K] and density [kg/m³] of the coolant : (T,).
    """

    place: IntArray
    radiator_flow: FloatArray
    bypass_flow: FloatArray
    heater_flow: FloatArray
    heater: FloatArray
    capacity: FloatArray
    conductance: FloatArray
    rise: FloatArray
    engine_heat: FloatArray
    gearbox_heat: FloatArray
    ambient: FloatArray
    pressure: FloatArray
    running: BoolArray
    air_conditioning: BoolArray
    stages: tuple[int, ...]
    heat_capacity: FloatArray
    density: FloatArray


def maps(system: System, points: Cases, running: BoolArray, places: Places | None = None) -> Maps:
    """Components of one system (fields of shape ()) at a drive's operating points.

    Parameters
    ----------
    points : one case for each operating point; a point with the engine off keeps its idle speed here, and
        moves and heats nothing.
    running : (S,) whether the engine runs.
    places : how the points share places; each its own if left out. Heat, air temperature and pressure are those
        of the point even so.

    Raises
    ------
    DomainError
        If a part or a point lies outside what is possible.
    """
    system, points = system.checked(), points.checked()
    running = np.asarray(running, bool)
    stages = fans.stages(system.air.fan)
    count = np.size(points.ambient)
    shared = places or Places(np.arange(count), points, running)
    at, on = shared.points, shared.running.astype(float)
    heat = demand(system, at, stage_axis(system, at, stages))
    air_now = air_for(system, at, stage_axis(system, at, stages), heat.total, heat.brake_power)
    T, lifts = TEMPERATURES[:, None, None], LIFTS[None, :, None]
    fluid = properties(system.coolant, T)
    shape = (len(TEMPERATURES), len(LIFTS), np.size(at.ambient))
    flow = circuit.at_lift(system.circuit, system.tubes, fluid, np.broadcast_to(lifts, shape), at.crank_speed)
    heater = heater_heat(system, at, at.ambient + 1.0, flow, fluid.heat_capacity)
    # Where the coolant is colder than the air, the core's films are taken as just above it.
    top = np.maximum(TEMPERATURES[:, None, None, None], at.ambient + ABOVE_AIR)
    core = core_rate(system, at, top, _spread(flow), air_now, heat.total)
    each = core.per_kelvin
    conductance = each.sum(-1)
    fresh = (each * air_now.flow.fresh).sum(-1) / conductance
    whole = (*shape[:2], len(stages), shape[2])
    plain = properties(system.coolant, TEMPERATURES)
    if places is not None:
        heat = demand(system, points, stage_axis(system, points, stages))
    return Maps(
        place=shared.of,
        radiator_flow=np.broadcast_to(flow.mass_flow, shape) * on,
        bypass_flow=np.broadcast_to(flow.bypass_mass, shape) * on,
        heater_flow=np.broadcast_to(flow.heater_mass, shape) * on,
        heater=np.broadcast_to(heater, shape) * on,
        capacity=np.broadcast_to(core.capacity, whole) * on,
        conductance=np.broadcast_to(conductance, whole),
        rise=np.broadcast_to(fresh - at.ambient, whole),
        engine_heat=heat.engine * running,
        gearbox_heat=heat.gearbox * running,
        ambient=np.asarray(points.ambient),
        pressure=air.standard_pressure(points.altitude),
        running=running,
        air_conditioning=np.asarray(points.air_conditioning, bool) & running,
        stages=stages,
        heat_capacity=plain.heat_capacity,
        density=plain.density,
    )


def _spread(flow: CoolantFlow) -> CoolantFlow:
    """The flow with an axis for the fan's stages ahead of the points."""
    return replace(flow, **{f.name: np.asarray(getattr(flow, f.name))[..., None, :] for f in fields(flow)})
