"""All that one system's cases say at once: state, margins, limits, needs, causes and choices."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit.cap import CapChoice
from ebbrin.core.media import air
from ebbrin.core.media.coolants import freezing_temperature, properties, water_mole_fraction
from ebbrin.core.radiator import coolant_side
from ebbrin.core.system import limits, timed
from ebbrin.core.system.balance import coolant_at
from ebbrin.core.system.limits import SAFE_MARGIN, AirNeed, AmbientLimit, Bottleneck
from ebbrin.core.system.parts import Cases, System, pick
from ebbrin.core.system.steady import Settled, SteadyState, steady_state
from ebbrin.core.system.thermostat_choice import ThermostatChoice, thermostat_choice
from ebbrin.core.system.timed import TimedRun

BELOW_OPENING, THERMOSTAT_CONTROLLED, CAPACITY_LIMITED, NO_STEADY_STATE = 0, 1, 2, 3
HOLDS, TIGHT, FAILS = 0, 1, 2


@dataclass(frozen=True)
class Assessment:
    """Everything about one system, arrays (cases,) unless a member says otherwise."""

    state: SteadyState
    control: IntArray
    limit: FloatArray
    boils: FloatArray
    boils_without_cap: FloatArray
    freezes: float
    full_flow_rise: FloatArray
    tube_velocity: FloatArray
    inlet_margin: FloatArray
    inlet_margin_without_cap: FloatArray
    limiting_ambient: AmbientLimit
    air_to_boil: AmbientLimit
    air_need: AirNeed
    bottleneck: Bottleneck
    run: TimedRun
    verdict: IntArray
    margin: FloatArray
    cap: CapChoice
    thermostat: ThermostatChoice
    fan_never_stops: BoolArray


def _control(system: System, state: SteadyState) -> IntArray:
    """Who is in control of each case."""
    lift = state.shed.coolant.lift
    cold = state.top_hose < system.circuit.thermostat.opens
    return np.select(
        [~state.exists, cold, lift < 1.0],
        [NO_STEADY_STATE, BELOW_OPENING, THERMOSTAT_CONTROLLED],
        CAPACITY_LIMITED,
    )


def _reached(state: SteadyState, run: TimedRun, otherwise: FloatArray | float) -> FloatArray:
    """Temperature [K] that counts: a timed run's end, the steady state, or ``otherwise`` without one."""
    return np.where(run.timed, run.end, np.where(state.exists, state.margin_temperature, otherwise))


def assess(system: System, cases: Cases) -> Assessment:
    """Solve one system (fields of shape ()) for all its cases.

    Raises
    ------
    DomainError
        If a case lies outside what is possible.
    """
    cases = cases.checked()
    gauge = np.array([[float(system.cap.pressure)], [0.0]])
    boils, boils_without_cap = limits.boiling_temperature(system, cases, gauge)
    limit = limits.limit_temperature(system, boils)
    state = steady_state(system, cases, limit)
    on = state.on
    run = timed.estimate(system, cases, on, limit)
    margin = limit - _reached(state, run, np.inf)
    atmosphere = air.standard_pressure(cases.altitude)
    fall = state.top_hose - state.bottom_hose
    pump_inlet = np.where(run.timed, run.end - fall, state.bottom_hose)
    inlet = _inlet_margin(system, cases, state, pump_inlet, atmosphere)
    ambients = limits.ambient_for(system, cases, on, np.stack([limit, boils]))
    control = _control(system, state)
    return Assessment(
        state=state,
        control=control,
        limit=limit,
        boils=boils,
        boils_without_cap=boils_without_cap,
        freezes=float(freezing_temperature(system.coolant)),
        full_flow_rise=_full_flow_rise(system, cases, on, limit),
        tube_velocity=coolant_side.tube_velocity(system.core, state.shed.coolant.volume_flow),
        inlet_margin=inlet + system.cap.pressure,
        inlet_margin_without_cap=inlet,
        limiting_ambient=pick(ambients, 0),
        air_to_boil=pick(ambients, 1),
        air_need=limits.air_need(system, cases, on, limit),
        bottleneck=limits.bottleneck(system, cases, on, limit),
        run=run,
        verdict=np.select([margin >= SAFE_MARGIN, margin >= 0.0], [HOLDS, TIGHT], FAILS),
        margin=margin,
        cap=caps.choose(
            _reached(state, run, limit),
            atmosphere,
            inlet,
            water_mole_fraction(system.coolant),
            float(system.limits.boiling_margin),
            float(system.cap.weakest_part),
        ),
        thermostat=thermostat_choice(system, limit),
        fan_never_stops=_fan_never_stops(system, state, control),
    )


def _inlet_margin(
    system: System, cases: Cases, state: SteadyState, temperature: FloatArray, atmosphere: FloatArray
) -> FloatArray:
    """Margin at the pump inlet, at its ``temperature`` [K], with no pressure under the cap [Pa]."""
    fluid = properties(system.coolant, temperature)
    return caps.pump_inlet_margin(
        system.circuit.pump,
        system.cap,
        state.shed.coolant,
        cases.crank_speed,
        temperature,
        0.0,
        atmosphere,
        fluid.density,
        water_mole_fraction(system.coolant),
    )


def _full_flow_rise(system: System, cases: Cases, on: Settled, limit: FloatArray) -> FloatArray:
    """Temperature rise through the engine with the thermostat fully open [K]."""
    wide_open = np.maximum(limit, system.circuit.thermostat.fully_open)
    coolant = coolant_at(system, cases, wide_open)
    heat_capacity = properties(system.coolant, wide_open).heat_capacity
    return np.asarray(on.heat.engine / (coolant.mass_flow * heat_capacity))


def _fan_never_stops(system: System, state: SteadyState, control: IntArray) -> BoolArray:
    """True where the thermostat still has room, yet holds the coolant above the fan's off-point."""
    within = (control == THERMOSTAT_CONTROLLED) & (system.fan_switch.off <= state.top_hose)
    return np.asarray(system.air.fan.fitted & within)
