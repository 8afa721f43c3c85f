"""The one physics that every question asks: heat demand, and heat shed at a top-hose temperature."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.balance import Airflow
from ebbrin.core.airpath.front_end import AirDemand
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.engine.heat import Heat, heat_rejection
from ebbrin.core.engine.road_load import Motion, brake_power
from ebbrin.core.media import air, coolants
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.radiator import air_side, coolant_side, exchange
from ebbrin.core.system.parts import Cases, System

HEATER_AIR = 100.0  # choice: capacity rate of a heater's air, blower on high, some 300 m³/h, W/K
ROUGH_HEAT_CAPACITY = 3700.0  # J/kg K; only places the mean temperature for properties


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


def road_power(system: System, cases: Cases) -> FloatArray:
    """Brake power for the motion alone [W], stated or from the road; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    motion = Motion(cases.speed, cases.gradient, cases.acceleration, cases.headwind, cases.towing)
    return np.where(cases.power_is_given, cases.given_power, brake_power(system.vehicle, motion, density))


def demand(system: System, cases: Cases, fan_ratio: FloatArray) -> Heat:
    """Heat that each case sends into the coolant with the fans at a speed ratio (..., fans) [-]; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    electric, shaft = fans.drawn_power(system.air.fan, fan_ratio, density)
    pump = np.where(system.circuit.pump.belt, 0.0, system.circuit.pump.electric_power)
    works = system.ahead.works(cases.ambient, cases.crank_speed)
    compressor = np.where(cases.air_conditioning, works[1], 0.0)
    shafts = shaft + compressor + cases.shaft_power
    heat = heat_rejection(
        system.engine, road_power(system, cases), cases.crank_speed, density, shafts, electric + pump
    )
    return Heat(*np.broadcast_arrays(*(getattr(heat, f.name) for f in fields(heat))))


def full_demand(system: System, cases: Cases, stage: ArrayLike) -> Heat:
    """As ``demand`` with the fans at ``stage``, a clutch wholly engaged; broadcasts."""
    return demand(system, cases, fans.speeds(system.air.fan, stage, cases.crank_speed).engaged)


def air_demand(system: System, cases: Cases, stage: ArrayLike) -> AirDemand:
    """What the air meets in each case with the fans at ``stage``; broadcasts. A charge-air cooler's heat is that with
    a fan's clutch engaged."""
    turns = fans.speeds(system.air.fan, stage, cases.crank_speed)
    works = system.ahead.works(cases.ambient, cases.crank_speed)
    condenser = np.where(cases.air_conditioning, works[0], 0.0)
    charge = np.asarray(system.ahead.charge_cooler)
    if np.any(charge > 0.0):
        charge = charge * demand(system, cases, turns.engaged).brake_power
    return AirDemand(
        np.asarray(cases.ambient),
        air.standard_pressure(cases.altitude),
        np.asarray(cases.speed),
        np.asarray(cases.headwind),
        np.asarray(condenser),
        charge,
        turns,
    )


def outside_fit(system: System, top_hose: FloatArray, flow: Airflow) -> BoolArray:
    """True where any correlation is used outside what it was fitted to; broadcasts."""
    Re = air_side.reynolds(system.surface, flow.velocity * flow.ambient_density[..., None], flow.mean)
    air_left = (air_side.outside_fit(system.core.zoned, Re) & (flow.area > 0)).any(-1)
    return np.asarray(air_left | coolants.outside_fit(system.coolant, top_hose))


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


class CoreLaw:
    """How much heat passes in the core for each kelvin between the coolant going in and the air, once the coolant's
    side is known: capacity rate [W/K], Reynolds number in the tubes, heat capacity [J/kg K], (...) arrays.

    References
    ----------
    kays-london-1984 (effectiveness and NTU); coolant splits by face share between the air zones (choice).
    """

    def __init__(
        self,
        system: System,
        cases: Cases,
        top_hose: FloatArray,
        coolant: CoolantFlow,
        heat: FloatArray,
        gains: Gains | None = None,
    ) -> None:
        gains = gains or Gains()
        self.core, self.surface = system.core.zoned, system.surface
        self.UA: FloatArray = np.asarray(0.0)  # W/K, (...), of the last look
        mass_flow = np.asarray(coolant.mass_flow * gains.coolant)
        # The coolant cannot leave below the air that meets it, so its mean lies at least half way between.
        mean = np.maximum(
            top_hose - 0.5 * heat / (mass_flow * ROUGH_HEAT_CAPACITY), 0.5 * (top_hose + cases.ambient)
        )
        mean = np.maximum(mean, TABLE_LOW)  # air that a limit is looked for in may be colder than any coolant
        fluid = properties(system.coolant, mean)
        self.heat_capacity = fluid.heat_capacity
        self.capacity = np.asarray(mass_flow * fluid.heat_capacity)
        self.tube_reynolds = coolant_side.tube_reynolds(system.tubes, mass_flow / fluid.density, fluid)
        self.inside = coolant_side.inner_resistance(system.tubes, self.tube_reynolds, fluid)[..., None]
        self.factor = np.asarray(gains.core * system.core.UA_factor)[..., None]
        self.face = system.core.open_face[..., None]

    def __call__(self, mass_velocity: FloatArray, area: FloatArray, mean: FloatArray) -> FloatArray:
        """Heat for each kelvin between the inlets [W/K] of each zone (..., zones), from the mass velocity of the air
        over the open face [kg/m² s], the zone's area [m²] and the mean temperature of its air [K]."""
        core = self.core
        G, share = np.maximum(mass_velocity, 1e-9), np.maximum(area / self.face, 1e-12)
        Re = air_side.reynolds(self.surface, G, mean)
        film = air_side.heat_transfer_coefficient(self.surface, G, Re)
        eta = air_side.surface_efficiency(air_side.fin_efficiency(self.surface, film), core.fin_share)
        open_tubes = 1.0 - core.blocked_tubes
        outside = eta * film * (core.air_area * share * open_tubes)
        UA = self.factor / (1.0 / outside + self.inside / share)
        self.UA = UA.sum(-1)
        warmed = G * area * (air.HEAT_CAPACITY * open_tubes)
        return exchange.passes_heat_per_kelvin(
            core, UA, np.maximum(warmed, 1e-12), self.capacity[..., None] * share
        )


def shed(
    system: System,
    cases: Cases,
    stage: ArrayLike,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    heat: FloatArray,
    near: Airflow | None = None,
    gains: Gains | None = None,
    demanded: AirDemand | None = None,
) -> Shed:
    """Heat that radiator and heater shed with the engine's outlet at ``top_hose`` [K] and the fans at ``stage``,
    the air found with it; broadcasts.

    Parameters
    ----------
    heat : (...) float array, [W]. It only places the mean coolant temperature at which properties are
        taken; at the solution it is the heat shed.
    near : an airflow to start from.
    gains : factors on core surface and coolant flow, for probes.
    demanded : what ``air_demand`` gives for these, if it is known already.
    """
    wanted = demanded or air_demand(system, cases, stage)
    law = CoreLaw(system, cases, top_hose, coolant, heat, gains)
    # Several coolant flows may go with one top hose: each has air of its own.
    hot = np.broadcast_to(top_hose, np.broadcast_shapes(np.shape(top_hose), law.capacity.shape))
    flow = airpath.solve(system.air, system.core, system.surface, wanted, hot, law, near)
    return _shed(system, cases, top_hose, coolant, law, flow)


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
    wanted = air_demand(system, cases, stage)
    law = CoreLaw(system, cases, top_hose, coolant, heat, gains)
    hot = np.broadcast_to(top_hose, np.broadcast_shapes(np.shape(top_hose), law.capacity.shape))
    flow = airpath.at_velocity(system.air, system.core, system.surface, wanted, hot, law, velocity, mean)
    return _shed(system, cases, top_hose, coolant, law, flow)


def _shed(
    system: System,
    cases: Cases,
    top_hose: FloatArray,
    coolant: CoolantFlow,
    law: CoreLaw,
    flow: Airflow,
) -> Shed:
    radiator = (flow.per_kelvin * (top_hose[..., None] - flow.fresh)).sum(-1)
    heater = heater_heat(system, cases, top_hose, coolant, law.heat_capacity)
    return Shed(radiator + heater, radiator, heater, coolant, law.capacity, law.UA, law.tube_reynolds, flow)


def heater_heat(
    system: System, cases: Cases, top_hose: FloatArray, coolant: CoolantFlow, heat_capacity: FloatArray
) -> FloatArray:
    """Heat [W] that the cabin heater takes where it is on: its effectiveness on the lesser capacity rate of
    coolant and of what its blower moves, the air coming from outside (choice)."""
    effectiveness = np.where(cases.heater, system.circuit.heater.effectiveness, 0.0)
    least = np.minimum(coolant.heater_mass * heat_capacity, HEATER_AIR)
    return np.asarray(effectiveness * least * (top_hose - cases.ambient))
