"""The one physics that every question asks: heat demand, and heat shed at a top-hose temperature."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import AirDemand, Airflow
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.engine.heat import Heat, heat_rejection
from ebbrin.core.engine.road_load import Motion, brake_power
from ebbrin.core.media import air
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator import air_side, coolant_side, exchange
from ebbrin.core.system.parts import Cases, System

ROUGH_HEAT_CAPACITY = 3700.0  # J/kg K; only places the mean temperature for properties


@dataclass(frozen=True)
class AirSide:
    """The air side once its flow is known, (..., 2) by zone: film conductance eta·h·A [W/K] and capacity
    rate [W/K] of the air that meets open tubes, inlet [K], share of the face [-]."""

    flow: Airflow
    film: FloatArray
    capacity: FloatArray
    share: FloatArray
    outside_fit: BoolArray


@dataclass(frozen=True)
class Shed:
    """What the radiator sheds at a top-hose temperature: heat [W], coolant flow, coolant capacity rate
    [W/K], conductance UA [W/K], and whether any correlation was left."""

    heat: FloatArray
    coolant: CoolantFlow
    coolant_capacity: FloatArray
    UA: FloatArray
    tube_reynolds: FloatArray
    outside_fit: BoolArray


@dataclass(frozen=True)
class Gains:
    """Factors that a probe puts on core surface and coolant flow [-]."""

    core: float = 1.0
    coolant: float = 1.0


def demand(system: System, cases: Cases, fan_on: ArrayLike) -> Heat:
    """Heat that each case sends into the coolant, with the fan on or off; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    motion = Motion(cases.speed, cases.gradient, cases.acceleration, cases.headwind)
    road = np.where(cases.power_is_given, cases.given_power, brake_power(system.vehicle, motion, density))
    electric, shaft = fans.drawn_power(system.air.fan, fan_on, cases.crank_speed, density)
    pump = np.where(system.circuit.pump.belt, 0.0, system.circuit.pump.electric_power)
    compressor = np.where(cases.air_conditioning, system.condenser.compressor_power, 0.0)
    heat = heat_rejection(system.engine, road, cases.crank_speed, shaft + compressor, electric + pump)
    return Heat(*np.broadcast_arrays(*(getattr(heat, f.name) for f in fields(heat))))


def air_demand(system: System, cases: Cases, fan_on: ArrayLike, heat: FloatArray) -> AirDemand:
    """What the air meets in each case when it is to carry ``heat`` [W]; broadcasts."""
    condenser = np.where(cases.air_conditioning, system.condenser.heat, 0.0)
    ratio = fans.speed_ratio(system.air.fan, fan_on, cases.crank_speed)
    place = (cases.ambient, air.standard_pressure(cases.altitude), cases.speed, cases.headwind)
    return AirDemand(*np.broadcast_arrays(*place, heat, condenser, ratio))


def air_side_of(system: System, flow: Airflow) -> AirSide:
    """Film conductance and capacity of the air for a solved airflow."""
    core = system.core.with_trailing_axis()
    G = np.maximum(flow.velocity * flow.ambient_density[..., None], 1e-9)
    share = flow.area / core.open_face
    film = air_side.heat_transfer_coefficient(core, G, flow.mean)
    eta = air_side.surface_efficiency(air_side.fin_efficiency(film, core), core.fin_share)
    open_tubes = 1.0 - core.blocked_tubes
    Re = air_side.louvre_reynolds(core, G, flow.mean)
    outside = np.asarray((air_side.outside_fit(core, Re) & (share > 0)).any(-1))
    return AirSide(
        flow,
        eta * film * core.air_area * share * open_tubes,
        flow.mass_flow * air.HEAT_CAPACITY * open_tubes,
        share,
        outside,
    )


def air_for(
    system: System, cases: Cases, fan_on: ArrayLike, heat: FloatArray, near: AirSide | None = None
) -> AirSide:
    """Airflow and air side when the air carries ``heat`` [W], looked for close to ``near``; broadcasts."""
    wanted = air_demand(system, cases, fan_on, heat)
    start = None if near is None else near.flow.velocity
    return air_side_of(system, airpath.solve(system.air, system.core, wanted, start))


def scaled(system: System, wanted: AirDemand, flow: Airflow, factor: ArrayLike) -> Airflow:
    """``flow`` with its velocities times ``factor`` [-], temperatures following."""
    velocity = flow.velocity * np.asarray(factor)[..., None]
    shape = velocity.shape[:-1]
    grown = AirDemand(*(np.broadcast_to(getattr(wanted, n), shape) for n in wanted.__dataclass_fields__))
    return airpath.flow_at(system.air, system.core, grown, velocity)


def coolant_at(
    system: System, cases: Cases, top_hose: ArrayLike, near: CoolantFlow | None = None
) -> CoolantFlow:
    """Coolant flow with the top hose at ``top_hose`` [K], starting from ``near`` if given; broadcasts."""
    start = None if near is None else near.volume_flow
    return circuit.solve(system.circuit, system.core, system.coolant, top_hose, cases.crank_speed, start)


def shed(
    system: System,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    air_now: AirSide,
    heat: FloatArray,
    ambient: FloatArray,
    gains: Gains | None = None,
) -> Shed:
    """Heat that the radiator sheds with its inlet at ``top_hose`` [K]; broadcasts.

    Parameters
    ----------
    heat : (...) float array, [W]. It only places the mean coolant temperature at which properties are
        taken; at the solution it is the heat shed.
    ambient : (...) float array, [K].
    gains : factors on core surface and coolant flow, for probes.

    References
    ----------
    kays-london-1984 (effectiveness and NTU); coolant splits by face share between the air zones.
    """
    gains, core = gains or Gains(), system.core
    mass_flow = coolant.mass_flow * gains.coolant
    # The coolant cannot leave below the air that meets it, so its mean lies at least half way between.
    mean = np.maximum(top_hose - 0.5 * heat / (mass_flow * ROUGH_HEAT_CAPACITY), 0.5 * (top_hose + ambient))
    fluid = properties(system.coolant, mean)
    capacity = mass_flow * fluid.heat_capacity
    core_flow = mass_flow / fluid.density
    film = coolant_side.heat_transfer_coefficient(core, core_flow, fluid)
    area = core.coolant_area * (1.0 - core.blocked_tubes) * gains.core
    share = np.maximum(air_now.share, 1e-12)
    inside = (1.0 / (film * area) + core.tube_wall / (exchange.WALL_CONDUCTIVITY * area))[..., None] / share
    UA = 1.0 / (1.0 / np.maximum(air_now.film * gains.core, 1e-12) + inside)
    flow = air_now.flow
    rate = exchange.heat_per_kelvin(UA, np.maximum(air_now.capacity, 1e-12), capacity[..., None] * share)
    # Heat that comes round the front warms the inlet in proportion to itself.
    warming = flow.comes_round / np.maximum(flow.mass_flow * air.HEAT_CAPACITY, 1e-12)
    zone = rate * (top_hose[..., None] - flow.fresh) / (1.0 + rate * warming)
    Re = coolant_side.tube_reynolds(core, core_flow, fluid)
    outside = coolant.outside_fit | fluid.outside_fit | air_now.outside_fit
    return Shed(zone.sum(-1), coolant, capacity, UA.sum(-1), Re, outside)
