"""What a system stores and how its controls move: all of a drive that is not the work of its components."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.engine import heat as engines
from ebbrin.core.media import boiling
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator.geometry import ALUMINIUM_CONDUCTIVITY, COPPER_BRASS_CONDUCTIVITY
from ebbrin.core.system.parts import System

ENGINE_SHARE = 0.405  # choice: share of the coolant that stands in the engine; the rest in radiator and hoses
BETWEEN = 0.5 * (ALUMINIUM_CONDUCTIVITY + COPPER_BRASS_CONDUCTIVITY)
METAL_LEAD = 50.0  # choice: how much hotter the metal is than the coolant at rated power, K
STILL_SHARE = 0.08  # choice: share of that conductance that is left when the coolant stands
FULL_FLOW_AT, ROOM = 363.15, 293.15  # K; coolant and air at which the full flow is found
FILLED_AT = 293.15  # choice: temperature at which the system is filled to the brim, K
BLOCK_LOSS = (
    8.0  # choice: heat that a standing engine loses to the air, W/K; running, it is in the school's figure
)
CORE_DENSITY = {"aluminium": 700.0, "copper_brass": 1200.0}  # choices: mass of a core over its volume, kg/m³
CORE_HEAT = {"aluminium": 900.0, "copper_brass": 385.0}  # from memory, J/kg K
HOSE_AIR = 10.0  # choice: still air and radiation around a hose, W/m² K; with the engine running it is in the school's figure
MOST_IN_HOSES = 0.5  # choice: what both hoses hold at most of the coolant outside the engine
BOTTLE_LOSS = 1.0  # choice: heat that the bottle loses to the air, W/K
TANK_EXCHANGE = 50.0  # choice: between the cold tank and the core's end, where coolant stands, W/K
WAX_LAG = 12.0  # choice: time constant of the thermostat's wax, s
HYSTERESIS = 3.0  # choice: between a thermostat's opening and its shutting line, K
BREAKAWAY = 5.5  # choice, 1 to 6: how far above its opening a seated valve at the inlet lets go, K
POCKET_CAPACITY = 1700.0  # choice, 300 to 3000: heat capacity of an inlet thermostat's pocket and bulb, J/K
HOSE_STIFFNESS = 5.0e6  # choice: pressure over the share by which hoses and tank give, Pa
RETURN_VALVE = 3000.0  # common practice: how far below the air's pressure a cap lets coolant back in, Pa
OVERFLOW = 0.08  # choice: coolant that an overflow hose takes while it boils, kg/s
VAPOUR_TEMPERATURES = np.arange(273.15, 480.0, 1.0)
"""Where the vapour pressure is tabled [K]."""


@dataclass(frozen=True)
class Plant:
    """Stores and controls of one system. Heat capacities of the engine's metal and the core's [J/K] and of the
    coolant [J/kg K]; shares of the coolant in engine and in each hose [-]; what the top hose loses to the air [W/K];
    conductance of metal to coolant at full flow [W/K], full flow [kg/s], that at rated speed with the thermostat wide
    open; temperatures [K]; volumes of the system and of its bottle [m³], density when filled [kg/m³]; pressures [Pa]; stage_on and stage_off are the
    temperatures at which each stage of the fan above off comes on and goes off."""

    metal: float
    core_metal: float
    coolant_heat: float
    in_engine: float
    in_hose: float
    hose_loss: float
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
    bottle: float


def plant_of(system: System) -> Plant:
    """Stores and controls of one system (fields of shape ())."""
    fluid = properties(system.coolant, np.asarray(FULL_FLOW_AT))
    core = system.core
    material = "copper_brass" if float(core.conductivity) > BETWEEN else "aluminium"
    core_volume = float(core.width * core.height * core.depth)
    bore, length = float(system.circuit.hose_bore), 0.5 * float(system.circuit.hose_length)
    hose = np.pi / 4.0 * bore**2 * length / float(system.coolant_volume)
    engine = system.engine
    schools = engines.schools(engine, engine.rated_power, engine.rated_speed)
    rated = float(schools.heat[int(engine.school)])
    flow = circuit.at_lift(
        system.circuit, system.tubes, system.coolant, FULL_FLOW_AT, 1.0, engine.rated_speed, rated, ROOM
    )
    switch, valve = system.fan_switch, system.circuit.thermostat
    # A driven fan has no switch: it turns whenever the engine does.
    driven = bool(system.air.fan.mechanical)
    ons, offs = ([-np.inf], [-np.inf]) if driven else ([float(switch.on)], [float(switch.off)])
    if bool(np.any(system.air.fan.fitted & system.air.fan.staged)):
        ons.append(float(switch.full_on))
        offs.append(float(switch.full_off))
    return Plant(
        metal=float(engine.heat_capacity),
        core_metal=core_volume * CORE_DENSITY[material] * CORE_HEAT[material],
        coolant_heat=float(fluid.heat_capacity),
        in_engine=ENGINE_SHARE,
        in_hose=min(hose, 0.5 * MOST_IN_HOSES * (1.0 - ENGINE_SHARE)),
        hose_loss=HOSE_AIR * np.pi * bore * length,
        metal_conductance=rated / METAL_LEAD,
        full_flow=float(flow.total_mass),
        opens=float(valve.opens),
        span=float(valve.span),
        hysteresis=HYSTERESIS,
        at_inlet=bool(valve.at_inlet),
        stage_on=np.array(ons),
        stage_off=np.array(offs),
        volume=float(system.coolant_volume),
        filled_density=float(properties(system.coolant, np.asarray(FILLED_AT)).density),
        vapour_pressure=np.asarray(boiling.vapour_pressure(VAPOUR_TEMPERATURES, system.coolant)),
        fan_fitted=bool(system.air.fan.fitted),
        bottle=float(system.cap.bottle),
    )
