"""What is left at the pump's inlet before the coolant boils there, and the engine speed that uses it up."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.media import air
from ebbrin.core.media.coolants import TABLE_LOW, properties
from ebbrin.core.roots import bracketed_root
from ebbrin.core.system.balance import coolant_at
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import SteadyState

FASTEST = 300.0  # rev/s; where even this speed leaves a margin, none ends it


def margin(system: System, cases: Cases, coolant: CoolantFlow, temperature: FloatArray) -> FloatArray:
    """Margin at the pump inlet, at its ``temperature`` [K], with no pressure under the cap [Pa]; broadcasts.

    Where heat that enters behind the core leaves the inlet hotter than the tables go, the margin is that at their end:
    it is far below nothing by then, and less still in truth.
    """
    temperature = np.minimum(np.maximum(temperature, TABLE_LOW), system.table_end)
    return caps.pump_inlet_margin(
        system.circuit.pump,
        system.cap,
        coolant,
        cases.crank_speed,
        temperature,
        0.0,
        air.standard_pressure(cases.altitude),
        properties(system.coolant, temperature).density,
        system.coolant,
    )


def cavitation_speed(system: System, cases: Cases, state: SteadyState, temperature: FloatArray) -> FloatArray:
    """Crank speed [rev/s] at which the margin under the cap ends, inlet and top hose as hot as they are; inf
    for an electric pump or where it lasts to FASTEST, 0 where it is gone already at a standstill; (cases,)."""
    slow, fast = np.full(temperature.shape, 1.0), np.full(temperature.shape, FASTEST)

    flow = state.shed.coolant.volume_flow

    def left(squared: FloatArray) -> FloatArray:  # what is lost goes all but straight with speed squared
        turning = replace(cases, crank_speed=np.sqrt(squared))
        coolant = coolant_at(
            system, turning, state.top_hose, state.heat_in, flow * turning.crank_speed / cases.crank_speed
        )
        return (margin(system, turning, coolant, temperature) + system.cap.holds) / 1e4

    found = bracketed_root(left, slow**2, fast**2, 1e-2, 1e-3)
    # The margin falls with speed: without a crossing the end that lies nearer to one says which side it is on.
    never = np.where(found.x > slow**2, np.inf, 0.0)
    ends = np.where(found.bracketed, np.sqrt(found.x), never)
    return np.where(system.circuit.pump.belt, ends, np.inf)
