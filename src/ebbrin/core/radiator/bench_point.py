"""One test of a core, by its maker or on a bench, as a factor on the computed conductance."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import DomainError, FloatArray
from ebbrin.core.media import air
from ebbrin.core.media.coolants import Coolant, properties
from ebbrin.core.radiator import air_side, coolant_side
from ebbrin.core.radiator.exchange import passes_heat_per_kelvin
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.roots import bracketed_root

LEAST_FACTOR, MOST_FACTOR = 0.3, 3.0
_ROUNDS = 8  # the mean temperatures settle by a factor of ten each


@dataclass(frozen=True)
class BenchPoint:
    """What was measured: heat [W] at a face velocity [m/s], coolant flow [m³/s], inlet difference [K]
    between coolant and air, air inlet [K] and its pressure [Pa]; and with which coolant."""

    heat: FloatArray
    face_velocity: FloatArray
    coolant_flow: FloatArray
    inlet_difference: FloatArray
    air_inlet: FloatArray
    pressure: FloatArray
    coolant: Coolant


def heat_at(core: Core, point: BenchPoint, factor: FloatArray) -> FloatArray:
    """Heat [W] that the core sheds under the conditions of a test with ``factor`` on its conductance."""
    density = air.density(point.air_inlet, point.pressure)
    G, hot = density * point.face_velocity, point.air_inlet + point.inlet_difference
    surface, tubes = air_side.surface(core), coolant_side.tubes(core)
    C_air = G * core.open_face * air.HEAT_CAPACITY * (1.0 - core.blocked_tubes)
    heat = np.zeros(np.broadcast_shapes(np.shape(factor), np.shape(hot), np.shape(core.open_face)))
    for _ in range(_ROUNDS):
        mean = point.air_inlet + 0.5 * heat / C_air
        entering = properties(point.coolant, hot)
        mass_flow = point.coolant_flow * entering.density
        fluid = properties(point.coolant, hot - 0.5 * heat / (mass_flow * entering.heat_capacity))
        Re_air = air_side.reynolds(surface, G, mean)
        h = air_side.heat_transfer_coefficient(surface, G, Re_air)
        eta = air_side.surface_efficiency(air_side.fin_efficiency(surface, h), core.fin_share)
        outer = 1.0 / (eta * h * core.air_area * (1.0 - core.blocked_tubes))
        Re = coolant_side.tube_reynolds(tubes, mass_flow / fluid.density, fluid)
        UA = factor / (outer + coolant_side.inner_resistance(tubes, Re, fluid))
        rate = passes_heat_per_kelvin(core, UA, C_air, mass_flow * fluid.heat_capacity)
        heat = rate * point.inlet_difference
    return np.asarray(heat)


def conductance_factor(core: Core, point: BenchPoint) -> FloatArray:
    """Factor [-] on the core's conductance with which it sheds what was measured.

    Raises
    ------
    DomainError
        If no factor between LEAST_FACTOR and MOST_FACTOR does: the test and the geometry do not belong
        together; the message gives the heat that such a core can shed.
    """
    plain = replace(core, UA_factor=np.ones_like(core.UA_factor))
    found = bracketed_root(
        lambda log: heat_at(plain, point, np.exp(log)) / point.heat - 1.0,
        np.asarray(np.log(LEAST_FACTOR)),
        np.log(MOST_FACTOR),
        1e-9,
    )
    if not found.bracketed.all():
        low, high = (float(np.min(heat_at(plain, point, np.asarray(f)))) for f in (LEAST_FACTOR, MOST_FACTOR))
        raise DomainError("heat of the radiator's test", float(np.max(point.heat)), low, high, "W")
    return np.asarray(np.exp(found.x))
