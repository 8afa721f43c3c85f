"""Coolant flow: where the pump's curve meets the resistance of engine, thermostat, hoses and core."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit.thermostat import Thermostat, valve_lift, valve_opening
from ebbrin.core.ducts import Duct, pressure_drop, side_by_side
from ebbrin.core.media.coolants import Coolant, Properties, properties
from ebbrin.core.radiator import coolant_side
from ebbrin.core.radiator.geometry import Core

BEND_LENGTHS = 20.0  # hose diameters that a moulded 90 degree bend counts for; crane-tp-410
FLOW_TOLERANCE, MOST_PASSES = 1e-10, 60


@dataclass(frozen=True)
class Pump:
    """A centrifugal pump, (...) arrays: belt driven or not (bool); shut_off pressure [Pa] and run_out
    flow [m³/s] at reference_speed [rev/s], tested on coolant of 1000 kg/m³; belt_ratio pump over crank
    [-]; electric_speed [rev/s]; npsh_required [m] at reference speed; electric_power [W]."""

    belt: BoolArray
    shut_off: FloatArray
    run_out: FloatArray
    reference_speed: FloatArray
    belt_ratio: FloatArray
    electric_speed: FloatArray
    npsh_required: FloatArray
    electric_power: FloatArray


@dataclass(frozen=True)
class Circuit:
    """Pump, thermostat and resistances, (...) arrays: jacket and thermostat (wide open) as pressure over
    volume flow squared [Pa s²/m⁶]; hose bore and length of top and bottom hose together [m]; bends."""

    pump: Pump
    thermostat: Thermostat
    jacket_resistance: FloatArray
    thermostat_resistance: FloatArray
    hose_bore: FloatArray
    hose_length: FloatArray
    hose_bends: FloatArray


def pump_speed_ratio(pump: Pump, crank_speed: ArrayLike) -> FloatArray:
    """Pump speed over reference speed [-]; broadcasts. ``crank_speed`` in rev/s."""
    speed = np.where(pump.belt, np.asarray(crank_speed) * pump.belt_ratio, pump.electric_speed)
    return np.asarray(speed / pump.reference_speed)


def pump_pressure(pump: Pump, flow: ArrayLike, ratio: ArrayLike, density: ArrayLike) -> FloatArray:
    """Pressure rise [Pa] at volume ``flow`` [m³/s], speed ``ratio`` [-]; broadcasts.

    A parabola through shut-off and run-out (choice) under the affinity laws: pressure follows speed
    squared and density, flow follows speed.

    References
    ----------
    white-fluid-mechanics, ch. 11 (affinity laws).
    """
    ratio = np.asarray(ratio)
    bend = (np.asarray(flow) / pump.run_out) ** 2
    return np.asarray(pump.shut_off * np.asarray(density) / 1000.0 * (ratio**2 - bend))


def hose_duct(circuit: Circuit, coolant: Properties) -> Duct:
    """Both hoses with their bends as one duct.

    References
    ----------
    crane-tp-410 (equivalent lengths of bends).
    """
    bore = circuit.hose_bore
    area = np.pi / 4.0 * bore**2
    return Duct(
        reynolds=coolant.density * bore / (area * coolant.viscosity),
        laminar=np.asarray(64.0),
        length=circuit.hose_length / bore + circuit.hose_bends * BEND_LENGTHS,
        fixed=np.asarray(0.0),
        head=0.5 * coolant.density / area**2,
    )


@dataclass(frozen=True)
class CoolantFlow:
    """Coolant through engine and radiator, (...) arrays: volume_flow [m³/s] at the top hose, mass_flow
    [kg/s], lift and valve opening [-], pump_rise, radiator_drop and hose_drop [Pa], and a flag where the
    coolant's properties leave their fit."""

    volume_flow: FloatArray
    mass_flow: FloatArray
    lift: FloatArray
    opening: FloatArray
    pump_rise: FloatArray
    radiator_drop: FloatArray
    hose_drop: FloatArray
    outside_fit: BoolArray


def circuit_flow(driving: FloatArray, fall: FloatArray, ducts: Duct, near: FloatArray | None) -> FloatArray:
    """Flow [m³/s] at which ``driving`` [Pa] equals fall·Q² and the drops of ``ducts`` (leading axis);
    broadcasts. ``near`` is a flow to start from, if one is known.

    Each pass takes every drop as proportional to Q². Drops grow as Q to a power between 1 and 2.5, so a
    pass at least halves the error of the logarithm of the flow: it always converges. MOST_PASSES would
    bring the worst case to 1e-18.
    """
    flow = np.sqrt(driving / fall) if near is None else near
    for _ in range(MOST_PASSES):
        lost = pressure_drop(ducts, flow).sum(0)
        better = np.sqrt(driving / (fall + lost / flow**2))
        settled = np.abs(better - flow) <= FLOW_TOLERANCE * flow
        flow = better
        if settled.all():
            break
    return np.asarray(flow)


def solve(
    circuit: Circuit,
    core: Core,
    coolant: Coolant,
    top_hose: ArrayLike,
    crank_speed: ArrayLike,
    near: FloatArray | None = None,
) -> CoolantFlow:
    """Flow where pump and resistances meet; broadcasts.

    Parameters
    ----------
    top_hose : (...) float array, coolant temperature that sets its properties and the lift [K].
    crank_speed : (...) float array, [rev/s], above 0.
    near : a volume flow to start from [m³/s], above 0.
    """
    fluid = properties(coolant, top_hose)
    ratio = pump_speed_ratio(circuit.pump, crank_speed)
    lift = valve_lift(circuit.thermostat, top_hose)
    opening = valve_opening(lift)
    quadratic = circuit.jacket_resistance + circuit.thermostat_resistance / opening**2
    density = fluid.density / 1000.0
    ducts = side_by_side(coolant_side.tube_duct(core, fluid), hose_duct(circuit, fluid))
    # Shut-off pressure over run-out flow squared is the pump's own fall; it joins the resistances.
    driving = circuit.pump.shut_off * density * ratio**2
    fall = density * (quadratic + circuit.pump.shut_off / circuit.pump.run_out**2)

    flow = circuit_flow(driving, fall, ducts, near)
    pump_rise = pump_pressure(circuit.pump, flow, ratio, fluid.density)
    mass_flow = flow * fluid.density
    tubes, hoses = pressure_drop(ducts, flow)
    return CoolantFlow(flow, mass_flow, lift, opening, pump_rise, tubes, hoses, fluid.outside_fit)
