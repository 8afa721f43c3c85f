"""What the components do at each of a drive's operating points, for every stage of the fan, lift and temperature.

The steady state's own functions, called once on arrays: the drive only interpolates between their results.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.circuit.thermostat import valve_opening
from ebbrin.core.drive.places import Places
from ebbrin.core.media import air
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.system.balance import full_demand, heater_heat, shed, shed_with_air
from ebbrin.core.system.parts import Cases, System

LIFTS = np.array(
    [0.0, 0.005, 0.01, 0.015, 0.02, 0.03, 0.04, 0.055, 0.075, 0.1, 0.14, 0.2, 0.28, 0.4, 0.55, 0.75, 1.0]
)
"""Lifts of the thermostat at which components are worked out [-]; closer where flow changes fastest."""
TEMPERATURES = np.array(
    [TABLE_LOW, 253.15, 273.15, 303.15, 328.15, 343.15, 353.15, 363.15, 373.15, 383.15, 398.15, 413.15]
)
"""Coolant temperatures at which components are worked out [K]."""
AIR_LIFTS = np.array([0.0, 0.01, 0.03, 0.1, 0.28, 1.0])
"""Lifts at which the air is balanced [-]; between them its flow follows the logarithm of the valve's opening."""
ABOVE_AIR = 5.0  # K
RESIDUAL = 1e-4  # of the air's pressures
SEGMENTS = 12
"""Parts of the core along its coolant."""
ALL_BUT_STANDING = 1e-2
"""Share of its heat that coolant keeps on its way through the core, below which it counts as standing there."""


@dataclass(frozen=True)
class Maps:
    """Components at each place of a drive, and what differs from point to point; T temperatures, L lifts, K stages of
    the fan, P places, S operating points.

    place : (S,) where each point's components stand; several points may share one.
    radiator_flow, bypass_flow, heater_flow : (T, L, P) [kg/s], none with the engine off. heater : (T, L, P)
    heat per kelvin above ambient [W/K]. capacity : (T, L, K, P) of the coolant through the core [W/K].
    segment : (T, L, K, P) conductance of each of SEGMENTS parts of the core, one behind the other along the coolant, that
    together shed what the core does [W/K].
    rise : (T, L, K, P) of that air above ambient [K]. engine_heat, gearbox_heat : (K, S) [W]. ambient [K],
    pressure [Pa], running and air_conditioning (S,). stages : fan stages, the least first. heat_capacity
    [J/kg K] and density [kg/m³] of the coolant : (T,). air : as it was balanced, from which that of a system like
    this one is looked for.
    """

    place: IntArray
    radiator_flow: FloatArray
    bypass_flow: FloatArray
    heater_flow: FloatArray
    heater: FloatArray
    capacity: FloatArray
    segment: FloatArray
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
    air: Airflow


def maps(
    system: System,
    points: Cases,
    running: BoolArray,
    places: Places | None = None,
    coldest: float = TABLE_LOW,
    like: Airflow | None = None,
) -> Maps:
    """Components of one system (fields of shape ()) at a drive's operating points.

    Parameters
    ----------
    points : one case for each operating point; a point with the engine off keeps its idle speed here, and
        moves and heats nothing.
    running : (S,) whether the engine runs.
    places : how the points share places; each its own if left out. Heat, air temperature and pressure are those
        of the point even so.
    coldest : below this temperature [K] nothing is asked; what stands there is what holds at it or just below.
    like : the air of a system like this one at the same points.

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
    stage = np.array(stages)[:, None]
    heat = full_demand(system, at, stage)
    below = max(int(np.searchsorted(TEMPERATURES, coldest, side="right")) - 1, 0)
    temperatures = TEMPERATURES[below:]
    T, lifts = temperatures[:, None, None], LIFTS[None, :, None]
    fluid = properties(system.coolant, T)
    shape = (len(temperatures), len(LIFTS), np.size(at.ambient))
    # Without a pump what rises is taken for the heat of the place, the fan at full.
    flow = circuit.at_lift(
        system.circuit, system.tubes, system.coolant, T, lifts, at.crank_speed, heat.total[-1], at.ambient
    )
    heater = heater_heat(system, at, at.ambient + 1.0, flow, fluid.heat_capacity)
    # Where the coolant is colder than the air, the core's films are taken as just above it.
    top = np.maximum(temperatures[:, None, None, None], at.ambient + ABOVE_AIR)
    few = _spread(flow, [int(np.argmin(np.abs(LIFTS - lift))) for lift in AIR_LIFTS])
    laid = np.broadcast_shapes(np.shape(top), np.shape(few.mass_flow), np.shape(heat.total))
    if like is None or like.velocity.shape[:-1] != laid:
        # One lift after another: the air of one is near to that of the next.
        wide = _spread(flow, [len(LIFTS) - 1])
        like = shed(system, at, stage, top, wide, heat.total, residual=RESIDUAL).air
    balanced = shed(system, at, stage, top, few, heat.total, like, residual=RESIDUAL).air
    openings = np.log(valve_opening(system.circuit.thermostat, AIR_LIFTS))
    wanted = np.log(valve_opening(system.circuit.thermostat, LIFTS))
    velocity = np.exp(_along_lifts(openings, wanted, np.log(balanced.velocity)))
    mean = _along_lifts(openings, wanted, balanced.mean)
    core = shed_with_air(system, at, stage, top, _spread(flow), heat.total, velocity, mean, wholly=True)
    each = core.air.per_kelvin
    conductance = each.sum(-1)
    fresh = (each * core.air.fresh).sum(-1) / conductance
    whole = (*shape[:2], len(stages), shape[2])

    def laid_out(values: FloatArray, over: tuple[int, ...]) -> FloatArray:
        """Over all temperatures, the coldest for those below as well."""
        here = np.broadcast_to(values, over)
        return np.concatenate([np.repeat(here[:1], below, axis=0), here]) if below else here

    plain = properties(system.coolant, TEMPERATURES)
    if places is not None:
        heat = full_demand(system, points, np.array(stages)[:, None])
    return Maps(
        place=shared.of,
        radiator_flow=laid_out(flow.mass_flow, shape) * on,
        bypass_flow=laid_out(flow.bypass_mass, shape) * on,
        heater_flow=laid_out(flow.heater_mass, shape) * on,
        heater=laid_out(heater, shape) * on,
        capacity=laid_out(core.coolant_capacity, whole) * on,
        segment=laid_out(_segment(core.coolant_capacity, conductance, core.UA), whole),
        rise=laid_out(fresh - at.ambient, whole),
        engine_heat=heat.engine * running,
        gearbox_heat=heat.gearbox * running,
        ambient=np.asarray(points.ambient),
        pressure=air.standard_pressure(points.altitude),
        running=running,
        air_conditioning=np.asarray(points.air_conditioning, bool) & running,
        stages=stages,
        heat_capacity=plain.heat_capacity,
        density=plain.density,
        air=balanced,
    )


def _spread(flow: CoolantFlow, lifts: list[int] | None = None) -> CoolantFlow:
    """The flow with an axis for the fan's stages ahead of the points, at some of the lifts."""
    chosen = slice(None) if lifts is None else lifts
    return replace(
        flow, **{f.name: np.asarray(getattr(flow, f.name))[:, chosen, None, :] for f in fields(flow)}
    )


def _segment(capacity: FloatArray, conductance: FloatArray, UA: FloatArray) -> FloatArray:
    """Conductance of each segment [W/K], from the coolant's capacity rate, what the whole sheds per kelvin between its
    inlets, and its UA [W/K]. Coolant that all but stands takes on the air's warmth by the UA alone."""
    kept = np.maximum(1.0 - conductance / np.maximum(capacity, 1e-12), 1e-12)
    flowing = capacity * (kept ** (-1.0 / SEGMENTS) - 1.0)
    return np.where(kept < ALL_BUT_STANDING, np.maximum(flowing, UA / SEGMENTS), flowing)


def _along_lifts(at: FloatArray, wanted: FloatArray, values: FloatArray) -> FloatArray:
    """``values`` (T, lifts, ...) given ``at`` some places, straight between them, at the ``wanted`` ones."""
    i = np.minimum(np.maximum(np.searchsorted(at, wanted, side="right") - 1, 0), len(at) - 2)
    share = ((wanted - at[i]) / (at[i + 1] - at[i])).reshape(-1, *(1 for _ in values.shape[2:]))
    return np.asarray(values[:, i] + share * (values[:, i + 1] - values[:, i]))
