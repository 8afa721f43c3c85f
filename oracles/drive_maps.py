"""What the components do at a drive's operating points, tabled over temperatures and lifts from the core's public
functions of arrays: for the general-purpose solver, which reads between them with SciPy's interpolation.

It checks how a drive marches through time, not the components: these are the steady state's own, checked by the plain
solver; that a core in segments sheds what the whole does is checked by drives that settle on the steady state.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.system.balance import shed
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.parts import Cases, System

LIFTS = np.array(
    [0.0, 0.005, 0.01, 0.015, 0.02, 0.03, 0.04, 0.055, 0.075, 0.1, 0.14, 0.2, 0.28, 0.4, 0.55, 0.75, 1.0]
)
"""Closer where flow changes fastest [-]."""
TEMPERATURES = np.array(
    [TABLE_LOW, 253.15, 273.15, 303.15, 328.15, 343.15, 353.15, 363.15, 373.15, 383.15, 398.15, 413.15]
)
ABOVE_AIR = 5.0  # K
SEGMENTS = 12
HEATER_AIR = 100.0  # W/K


@dataclass(frozen=True)
class Maps:
    """Components at each operating point; T temperatures, L lifts, K stages of the fan, S points.

    flow : (T, L, S) through radiator, bypass and heater [kg/s]. heater : (T, L, S) heat per kelvin above ambient [W/K].
    capacity, segment : (T, L, K, S) of the coolant through the core, and conductance of each of SEGMENTS parts [W/K].
    rise : (T, L, K, S) of the air ahead of the core above ambient [K]. engine_heat, gearbox_heat : (T, L, K, S), the
    fan's clutch as the air behind the core lets it stand [W].
    ambient (S,) [K]. density : (T,) [kg/m³].
    """

    flow: FloatArray
    heater: FloatArray
    capacity: FloatArray
    segment: FloatArray
    rise: FloatArray
    engine_heat: FloatArray
    gearbox_heat: FloatArray
    ambient: FloatArray
    density: FloatArray


def maps(system: System, points: Cases, running: BoolArray) -> Maps:
    """Components of one system (fields of shape ()) at some operating points."""
    stage = np.array(fans.stages(system.air.fan))[:, None]
    heat = full_demand(system, points, stage)
    T, lifts = TEMPERATURES[:, None, None], LIFTS[None, :, None]
    fluid = properties(system.coolant, T)
    # Without a pump what rises is taken for the heat of the point, the fan at full.
    flow = circuit.at_lift(
        system.circuit,
        system.tubes,
        system.coolant,
        T,
        lifts,
        points.crank_speed,
        heat.total[-1],
        points.ambient,
    )
    top = np.maximum(TEMPERATURES[:, None, None, None], points.ambient + ABOVE_AIR)
    core = shed(system, points, stage, top, _staged(flow), heat.total)
    sent = demand(system, points, core.air.fan_ratio)
    each = core.air.per_kelvin
    conductance = each.sum(-1)
    kept = np.maximum(1.0 - conductance / core.coolant_capacity, 1e-12)
    flowing = core.coolant_capacity * (kept ** (-1.0 / SEGMENTS) - 1.0)
    shape = (len(TEMPERATURES), len(LIFTS), np.size(points.ambient))
    # The cabin heater: its effectiveness on the lesser of the coolant's capacity rate and its blower's.
    effectiveness = np.where(points.heater, system.circuit.heater.effectiveness, 0.0)
    heater = effectiveness * np.minimum(flow.heater_mass * fluid.heat_capacity, HEATER_AIR)
    return Maps(
        flow=np.broadcast_to(flow.total_mass, shape) * running,
        heater=np.broadcast_to(heater, shape) * running,
        capacity=core.coolant_capacity * running,
        segment=np.where(kept < 1e-2, np.maximum(flowing, core.UA / SEGMENTS), flowing),
        rise=(each * core.air.fresh).sum(-1) / conductance - points.ambient,
        engine_heat=sent.engine * running,
        gearbox_heat=sent.gearbox * running,
        ambient=np.asarray(points.ambient),
        density=properties(system.coolant, TEMPERATURES).density,
    )


def _staged(flow: CoolantFlow) -> CoolantFlow:
    """The flow with an axis for the fan's stages ahead of the points."""
    return replace(flow, **{f.name: np.asarray(getattr(flow, f.name))[:, :, None, :] for f in fields(flow)})
