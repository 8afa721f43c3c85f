"""What a system stores and how its controls move: everything of a drive that is not in the maps."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.engine import heat as engines
from ebbrin.core.media import boiling
from ebbrin.core.media.coolants import properties
from ebbrin.core.system.parts import System

ENGINE_SHARE = 0.405  # choice: share of the coolant that stands in the engine; the rest in radiator and hoses
METAL_LEAD = 50.0  # choice: how much hotter the metal is than the coolant at rated power, K
STILL_SHARE = 0.08  # choice: share of that conductance that is left when the coolant stands
BLOCK_LOSS = (
    8.0  # choice: heat that a standing engine loses to the air, W/K; running, it is in the school's figure
)
CORE_DENSITY = 700.0  # choice: mass of a core over its volume, aluminium, kg/m³
CORE_HEAT = 900.0  # aluminium, from memory, J/kg K
WAX_LAG = 12.0  # choice: time constant of the thermostat's wax, s
HYSTERESIS = 3.0  # choice: between a thermostat's opening and its shutting line, K
BREAKAWAY = 5.5  # choice, 1 to 6: how far above its opening a seated valve at the inlet lets go, K
POCKET_CAPACITY = 1300.0  # choice, 300 to 3000: heat capacity of an inlet thermostat's pocket and bulb, J/K
HOSE_STIFFNESS = 5.0e6  # choice: pressure over the share by which hoses and tank give, Pa
RETURN_VALVE = 3000.0  # common practice: how far below the air's pressure a cap lets coolant back in, Pa
OVERFLOW = 0.08  # choice: coolant that an overflow hose takes while it boils, kg/s
VAPOUR_TEMPERATURES = np.arange(273.15, 480.0, 1.0)
"""Where the vapour pressure is tabled [K]."""


@dataclass(frozen=True)
class Plant:
    """Stores and controls of one system. Heat capacities [J/K]; conductance of metal to coolant at full flow
    [W/K], full flow [kg/s], that at rated speed with the thermostat wide open; temperatures [K]; mass [kg]; volume [m³]; pressures [Pa]; stage_on and stage_off are the
    temperatures at which each stage of the fan above off comes on and goes off."""

    metal: float
    engine_coolant: float
    radiator_coolant: float
    metal_conductance: float
    full_flow: float
    opens: float
    span: float
    hysteresis: float
    at_inlet: bool
    stage_on: FloatArray
    stage_off: FloatArray
    volume: float
    filled_density: float
    vapour_pressure: FloatArray
    fan_fitted: bool


def plant_of(system: System) -> Plant:
    """Stores and controls of one system (fields of shape ())."""
    fluid = properties(system.coolant, np.asarray(363.15))
    capacity = float(system.coolant_volume * fluid.density * fluid.heat_capacity)
    core = system.core
    metal_core = float(core.width * core.height * core.depth) * CORE_DENSITY * CORE_HEAT
    engine = system.engine
    schools = engines.schools(engine, engine.rated_power, engine.rated_speed)
    rated = float(schools.heat[int(engine.school)])
    flow = circuit.at_lift(
        system.circuit, system.tubes, fluid, np.asarray(1.0), np.asarray(engine.rated_speed)
    )
    switch, valve = system.fan_switch, system.circuit.thermostat
    ons, offs = [float(switch.on)], [float(switch.off)]
    if bool(np.any(system.air.fan.fitted & system.air.fan.staged)):
        ons.append(float(switch.full_on))
        offs.append(float(switch.full_off))
    return Plant(
        metal=float(engine.heat_capacity),
        engine_coolant=ENGINE_SHARE * capacity,
        radiator_coolant=(1.0 - ENGINE_SHARE) * capacity + metal_core,
        metal_conductance=rated / METAL_LEAD,
        full_flow=float(flow.total_mass),
        opens=float(valve.opens),
        span=float(valve.span),
        hysteresis=HYSTERESIS,
        at_inlet=bool(valve.at_inlet),
        stage_on=np.array(ons),
        stage_off=np.array(offs),
        volume=float(system.coolant_volume),
        filled_density=float(properties(system.coolant, np.asarray(293.15)).density),
        vapour_pressure=np.asarray(boiling.vapour_pressure(VAPOUR_TEMPERATURES, system.coolant)),
        fan_fitted=bool(system.air.fan.fitted),
    )
