"""The one physics that every question asks: heat demand, and heat shed at a top-hose temperature."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.airpath.front_end import AirDemand
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.engine.heat import Heat, heat_rejection
from ebbrin.core.engine.road_load import Motion, brake_power
from ebbrin.core.media import air, coolants
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator import air_side, coolant_side, exchange
from ebbrin.core.system.parts import Cases, System

HEATER_AIR = 100.0  # choice: capacity rate of a heater's air, blower on high, some 300 m³/h, W/K
ROUGH_HEAT_CAPACITY = 3700.0  # J/kg K; only places the mean temperature for properties


@dataclass(frozen=True)
class AirSide:
    """The air side once its flow is known, (..., zones): resistance 1/(eta·h·A) [K/W] and capacity rate
    [W/K] of the air that meets open tubes, share of the face [-]."""

    flow: Airflow
    resistance: FloatArray
    capacity: FloatArray
    share: FloatArray

    def elements(self, which: IntArray) -> AirSide:
        """Some elements by their indices in the flattened shape, as one axis."""
        shape = self.flow.velocity.shape[:-1]

        def few(values: FloatArray, trailing: int = 1) -> FloatArray:
            rest = values.shape[values.ndim - trailing :]
            return np.broadcast_to(values, (*shape, *rest)).reshape(-1, *rest)[which]

        names = [f.name for f in fields(Airflow) if f.name != "ambient_density"]
        flow = {name: few(getattr(self.flow, name)) for name in names}
        flow["ambient_density"] = few(self.flow.ambient_density, 0)
        return AirSide(Airflow(**flow), few(self.resistance), few(self.capacity), few(self.share))


@dataclass(frozen=True)
class Shed:
    """What is shed at a top-hose temperature: heat in all, by the radiator and by the heater [W],
    coolant flow, the radiator's coolant capacity rate [W/K], conductance UA [W/K], Reynolds number in the tubes."""

    heat: FloatArray
    radiator: FloatArray
    heater: FloatArray
    coolant: CoolantFlow
    coolant_capacity: FloatArray
    UA: FloatArray
    tube_reynolds: FloatArray


@dataclass(frozen=True)
class Gains:
    """Factors that a probe puts on core surface and coolant flow [-]."""

    core: ArrayLike = 1.0
    coolant: ArrayLike = 1.0


def road_power(system: System, cases: Cases) -> FloatArray:
    """Brake power for the motion alone [W], stated or from the road; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    motion = Motion(cases.speed, cases.gradient, cases.acceleration, cases.headwind, cases.towing)
    return np.where(cases.power_is_given, cases.given_power, brake_power(system.vehicle, motion, density))


def demand(system: System, cases: Cases, stage: ArrayLike) -> Heat:
    """Heat that each case sends into the coolant with the fan at ``stage``; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    electric, shaft = fans.drawn_power(system.air.fan, stage, cases.crank_speed, density)
    pump = np.where(system.circuit.pump.belt, 0.0, system.circuit.pump.electric_power)
    compressor = np.where(cases.air_conditioning, system.ahead.compressor_power, 0.0)
    shafts = shaft + compressor + cases.shaft_power
    heat = heat_rejection(
        system.engine, road_power(system, cases), cases.crank_speed, shafts, electric + pump
    )
    return Heat(*np.broadcast_arrays(*(getattr(heat, f.name) for f in fields(heat))))


def air_demand(
    system: System, cases: Cases, stage: ArrayLike, heat: FloatArray, brake: FloatArray
) -> AirDemand:
    """What the air meets in each case when it is to carry ``heat`` [W] at ``brake`` power [W]; broadcasts."""
    condenser = np.where(cases.air_conditioning, system.ahead.condenser_heat, 0.0)
    ratio = fans.speed_ratio(system.air.fan, stage, cases.crank_speed)
    place = (cases.ambient, air.standard_pressure(cases.altitude), cases.speed, cases.headwind)
    ahead = condenser + system.ahead.charge_cooler * brake
    *spread, first = np.broadcast_arrays(*place, heat, ahead, ratio[..., 0])
    ambient, pressure, speed, headwind, carried, from_ahead = spread
    ratios = np.broadcast_to(ratio, (*first.shape, ratio.shape[-1]))
    return AirDemand(ambient, pressure, speed, headwind, carried, from_ahead, ratios)


def air_side_of(system: System, flow: Airflow) -> AirSide:
    """Film resistance and capacity of the air for a solved airflow."""
    core, surface = system.core.zoned, system.surface
    G = np.maximum(flow.velocity * flow.ambient_density[..., None], 1e-9)
    share = flow.area / core.open_face
    Re = air_side.reynolds(surface, G, flow.mean)
    film = air_side.heat_transfer_coefficient(surface, G, Re)
    eta = air_side.surface_efficiency(air_side.fin_efficiency(surface, film), core.fin_share)
    open_tubes = 1.0 - core.blocked_tubes
    conductance = eta * film * (core.air_area * share * open_tubes)
    return AirSide(
        flow,
        1.0 / np.maximum(conductance, 1e-12),
        np.maximum(flow.mass_flow * (air.HEAT_CAPACITY * open_tubes), 1e-12),
        share,
    )


def air_for(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    heat: FloatArray,
    brake: FloatArray,
    near: AirSide | None = None,
) -> AirSide:
    """Airflow and air side when the air carries ``heat`` [W], looked for close to ``near``; broadcasts."""
    wanted = air_demand(system, cases, stage, heat, brake)
    start = None if near is None else near.flow.velocity
    return air_side_of(system, airpath.solve(system.air, system.core, system.surface, wanted, start))


def outside_fit(system: System, top_hose: FloatArray, air_now: AirSide) -> BoolArray:
    """True where any correlation is used outside what it was fitted to; broadcasts."""
    flow = air_now.flow
    Re = air_side.reynolds(system.surface, flow.velocity * flow.ambient_density[..., None], flow.mean)
    air_left = (air_side.outside_fit(system.core.zoned, Re) & (air_now.share > 0)).any(-1)
    return np.asarray(air_left | coolants.outside_fit(system.coolant, top_hose))


def scaled(system: System, wanted: AirDemand, flow: Airflow, factor: ArrayLike) -> Airflow:
    """``flow`` with its velocities times ``factor`` [-], temperatures following."""
    velocity = flow.velocity * np.asarray(factor)[..., None]
    shape = velocity.shape[:-1]
    names = [f.name for f in fields(AirDemand) if f.name != "fan_ratio"]
    grown = replace(wanted, **{n: np.broadcast_to(getattr(wanted, n), shape) for n in names})
    return airpath.flow_at(system.air, system.core, grown, velocity)


def coolant_at(
    system: System,
    cases: Cases,
    top_hose: ArrayLike,
    heat: ArrayLike,
    near: FloatArray | None = None,
) -> CoolantFlow:
    """Coolant flow with the top hose at ``top_hose`` [K] while the radiator takes out ``heat`` [W], starting
    from the radiator flow ``near`` [m³/s] if given; broadcasts."""
    return circuit.solve(
        system.circuit, system.tubes, system.coolant, top_hose, cases.crank_speed, heat, cases.ambient, near
    )


@dataclass(frozen=True)
class CoreRate:
    """What the core sheds in each zone for each kelvin between the coolant going in and the fresh air, warm air
    that comes round included, (..., zones) [W/K]; coolant capacity rate, conductance UA [W/K], Reynolds number
    in the tubes and heat capacity of the coolant [J/kg K], (...)."""

    per_kelvin: FloatArray
    capacity: FloatArray
    UA: FloatArray
    tube_reynolds: FloatArray
    heat_capacity: FloatArray


def core_rate(
    system: System,
    cases: Cases,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    air_now: AirSide,
    heat: FloatArray,
    gains: Gains | None = None,
) -> CoreRate:
    """Heat for each kelvin with the engine's outlet at ``top_hose`` [K]; broadcasts. Parameters as of ``shed``.

    References
    ----------
    kays-london-1984 (effectiveness and NTU); coolant splits by face share between the air zones (choice).
    """
    gains, core = gains or Gains(), system.core
    mass_flow = np.asarray(coolant.mass_flow * gains.coolant)
    # The coolant cannot leave below the air that meets it, so its mean lies at least half way between.
    mean = np.maximum(
        top_hose - 0.5 * heat / (mass_flow * ROUGH_HEAT_CAPACITY), 0.5 * (top_hose + cases.ambient)
    )
    fluid = properties(system.coolant, mean)
    capacity = mass_flow * fluid.heat_capacity
    Re = coolant_side.tube_reynolds(system.tubes, mass_flow / fluid.density, fluid)
    inside = coolant_side.inner_resistance(system.tubes, Re, fluid)[..., None]
    share = np.maximum(air_now.share, 1e-12)
    UA = np.asarray(gains.core) * core.UA_factor[..., None] / (air_now.resistance + inside / share)
    flow = air_now.flow
    rate = exchange.passes_heat_per_kelvin(core.zoned, UA, air_now.capacity, capacity[..., None] * share)
    # Heat that comes round the front warms the inlet in proportion to itself.
    warming = flow.comes_round / np.maximum(flow.mass_flow * air.HEAT_CAPACITY, 1e-12)
    return CoreRate(rate / (1.0 + rate * warming), capacity, UA.sum(-1), Re, fluid.heat_capacity)


def shed(
    system: System,
    cases: Cases,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    air_now: AirSide,
    heat: FloatArray,
    gains: Gains | None = None,
) -> Shed:
    """Heat that radiator and heater shed with the engine's outlet at ``top_hose`` [K]; broadcasts.

    Parameters
    ----------
    heat : (...) float array, [W]. It only places the mean coolant temperature at which properties are
        taken; at the solution it is the heat shed.
    gains : factors on core surface and coolant flow, for probes.
    """
    core = core_rate(system, cases, top_hose, coolant, air_now, heat, gains)
    radiator = (core.per_kelvin * (top_hose[..., None] - air_now.flow.fresh)).sum(-1)
    heater = heater_heat(system, cases, top_hose, coolant, core.heat_capacity)
    return Shed(radiator + heater, radiator, heater, coolant, core.capacity, core.UA, core.tube_reynolds)


def heater_heat(
    system: System, cases: Cases, top_hose: FloatArray, coolant: CoolantFlow, heat_capacity: FloatArray
) -> FloatArray:
    """Heat [W] that the cabin heater takes where it is on: its effectiveness on the lesser capacity rate of
    coolant and of what its blower moves, the air coming from outside (choice)."""
    effectiveness = np.where(cases.heater, system.circuit.heater.effectiveness, 0.0)
    least = np.minimum(coolant.heater_mass * heat_capacity, HEATER_AIR)
    return np.asarray(effectiveness * least * (top_hose - cases.ambient))
