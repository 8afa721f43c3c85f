"""Coolant flow: where the pump's curve meets engine, radiator branch, bypass and heater."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, BoolArray, FloatArray, IntArray, require
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.pump import Pump
from ebbrin.core.circuit.thermostat import Thermostat, pocket_temperature, valve_lift, valve_opening
from ebbrin.core.ducts import Duct, drop_and_growth, side_by_side
from ebbrin.core.media.coolants import TABLE_LOW, Coolant, Properties, properties
from ebbrin.core.radiator import coolant_side
from ebbrin.core.radiator.coolant_side import Tubes
from ebbrin.core.roots import bracketed_root

BEND_LENGTHS = 20.0  # hose diameters that a moulded 90 degree bend counts for; crane-tp-410
FLOW_TOLERANCE, FREE_PASSES, MOST_PASSES = 1e-5, 12, 80
BYPASS_OPEN, BYPASS_SPRING, BYPASS_BLOCKED = 0, 1, 2
FOOT_SHUTS = 0.98  # choice: how much of the bypass a fully open thermostat's foot closes
SIPHON_FALL, LEAST_BUOYANCY = 25.0, 1e-9  # K, common practice: 20 to 35 through the engine; Pa m³/s
SPRING_LEAK = 0.003  # choice: share of the opening that a shut spring bypass lets through


@dataclass(frozen=True)
class Bypass:
    """Passage from engine outlet to pump inlet, (...) arrays: kind, int (BYPASS_OPEN; BYPASS_SPRING, which
    opens between the cracking pressure and twice that; BYPASS_BLOCKED by the thermostat's foot);
    conductance, volume flow over the root of pressure on coolant of 1000 kg/m³ [m³/s Pa^-½], 0 for none;
    cracking pressure [Pa]."""

    kind: IntArray
    conductance: FloatArray
    cracking: FloatArray


@dataclass(frozen=True)
class Heater:
    """Cabin heater between engine outlet and pump inlet, (...) arrays: conductance as in Bypass, 0 for
    none; effectiveness [-] of its core while the heater is on."""

    conductance: FloatArray
    effectiveness: FloatArray


@dataclass(frozen=True)
class Circuit:
    """Pump, thermostat and resistances, (...) arrays: jacket and thermostat (wide open) as pressure over
    volume flow squared on coolant of 1000 kg/m³ [Pa s²/m⁶]; hose bore and length of top and bottom hose
    together [m]; bends."""

    pump: Pump
    thermostat: Thermostat
    bypass: Bypass
    heater: Heater
    jacket_resistance: FloatArray
    thermostat_resistance: FloatArray
    hose_bore: FloatArray
    hose_length: FloatArray
    hose_bends: FloatArray

    def checked(self) -> Circuit:
        """This circuit, once its numbers are possible.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        self.pump.checked()
        require("jacket resistance", self.jacket_resistance, 0.0, 1e14, "Pa s²/m⁶")
        require("thermostat resistance", self.thermostat_resistance, 1.0, 1e14, "Pa s²/m⁶")
        require("thermostat opening temperature", self.thermostat.opens, 273.15, 400.0, "K")
        require("thermostat opening span", self.thermostat.span, 0.5, 60.0, "K")
        require("thermostat leak", self.thermostat.leak, 1e-5, 1.0, "-")
        require("hose bore", self.hose_bore, 1e-3, 0.5, "m")
        require("heater effectiveness", self.heater.effectiveness, 0.0, 1.0, "-")
        return self


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


def hose_velocity(circuit: Circuit, volume_flow: ArrayLike) -> FloatArray:
    """Mean velocity in the hoses [m/s] for a ``volume_flow`` [m³/s]; broadcasts."""
    return np.asarray(np.asarray(volume_flow) / (np.pi / 4.0 * circuit.hose_bore**2))


@dataclass(frozen=True)
class CoolantFlow:
    """Coolant through the branches, (...) arrays: volume_flow [m³/s] and mass_flow [kg/s] through the
    radiator, bypass_mass and heater_mass [kg/s]; lift and valve opening [-]; pump_rise, branch_drop (from
    engine outlet to pump inlet), radiator_drop, hose_drop [Pa]."""

    volume_flow: FloatArray
    mass_flow: FloatArray
    bypass_mass: FloatArray
    heater_mass: FloatArray
    lift: FloatArray
    opening: FloatArray
    pump_rise: FloatArray
    branch_drop: FloatArray
    radiator_drop: FloatArray
    hose_drop: FloatArray

    @property
    def total_mass(self) -> FloatArray:
        """Through pump and engine [kg/s]."""
        return self.mass_flow + self.bypass_mass + self.heater_mass


@dataclass(frozen=True)
class _Network:
    """What stays the same while the flow is looked for: driving pressure [Pa], without a pump (siphon, bool)
    times the flow [Pa m³/s] and no more than ``most`` [Pa]; resistance of pump and
    jacket, and of the thermostat [Pa s²/m⁶]; ducts of the radiator branch; the other branches."""

    driving: FloatArray
    siphon: BoolArray
    most: FloatArray
    shared: FloatArray
    valve: FloatArray
    ducts: Duct
    bypass: Bypass
    bypass_gate: FloatArray
    heater: FloatArray
    root_density: FloatArray
    spring: bool
    branched: bool

    def branches(self, drop: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray, FloatArray]:
        """Volume flows of bypass and heater [m³/s] under a pressure ``drop`` [Pa] and how they grow with
        its logarithm [m³/s]."""
        root = np.sqrt(drop)
        gate: FloatArray = self.bypass_gate
        steep: FloatArray | float = 0.0
        if self.spring:
            is_spring, crack = self.bypass.kind == BYPASS_SPRING, self.bypass.cracking
            past = drop / crack - 1.0
            open_share = SPRING_LEAK + (1.0 - SPRING_LEAK) * np.minimum(np.maximum(past, 0.0), 1.0)
            moving = is_spring & (past > 0.0) & (past < 1.0)
            steep = np.where(moving, (1.0 - SPRING_LEAK) * drop / crack, 0.0)
            gate = np.where(is_spring, open_share, gate)
        wide = self.bypass.conductance / self.root_density * root
        heater = self.heater / self.root_density * root
        return wide * gate, heater, wide * (0.5 * gate + steep), 0.5 * heater


def _search(net: _Network, near: FloatArray | None) -> FloatArray:
    """Radiator flow [m³/s] at which the branches take what the pump gives.

    Newton's method on the logarithms of flow and of all that is lost, which is near to straight with a slope
    of 1 to 2.6. Where a spring opens, and should it not settle soon, it is kept inside a bracket, of which every
    third pass takes the middle: lost pressure rises with flow, so that converges.
    """
    drives = np.log(net.driving)
    siphons, ceiling = bool(np.any(net.siphon)), np.log(net.most)
    most = 0.5 * (np.where(net.siphon, ceiling, drives) - np.log(net.shared + net.valve))
    power: FloatArray | float = 0.0
    high, low = most + 1e-9, most - 40.0
    y = most if near is None else np.log(near)
    for passes in range(MOST_PASSES):
        bracketed = net.spring or passes >= FREE_PASSES
        if bracketed:
            y = np.minimum(np.maximum(y, low), high)
        flow = np.exp(y)
        drops, growths = drop_and_growth(net.ducts, flow)
        fixed = net.valve * flow * flow
        drop = fixed + drops[0] + drops[1]
        steep = (2.0 * fixed + drops[0] * growths[0] + drops[1] * growths[1]) / drop
        total, grows = flow, flow
        if net.branched:
            bypass, heater, more_bypass, more_heater = net.branches(drop)
            total = flow + bypass + heater
            grows = flow + (more_bypass + more_heater) * steep
        shared = net.shared * total * total
        lost = shared + drop
        driven = drives
        if siphons:
            power = np.where(net.siphon & (drives - y < ceiling), 1.0, 0.0)
            driven = np.where(net.siphon, np.minimum(drives - y, ceiling), drives)
        off = np.log(lost) - driven
        slope = (2.0 * shared * grows / total + drop * steep) / lost + power
        step = y - off / slope
        if bracketed:
            high, low = np.where(off > 0.0, y, high), np.where(off > 0.0, low, y)
            astray = (step <= low) | (step >= high) | (passes % 3 == 2)
            step = np.where(astray & (np.abs(off) > FLOW_TOLERANCE), 0.5 * (low + high), step)
        y = step
        if np.all(np.abs(off) <= FLOW_TOLERANCE):
            break
    # The last step has squared the error that was left.
    return np.exp(y)


class Buoyancy(NamedTuple):
    """What drives the coolant where there is no pump, (...) arrays: pressure times flow [Pa m³/s], and the most that
    the pressure can be, with the cold leg as cold as the air [Pa]."""

    by_flow: FloatArray
    most: FloatArray


def buoyant(
    circuit: Circuit, coolant: Coolant, top_hose: ArrayLike, heat: ArrayLike, air_temperature: ArrayLike
) -> Buoyancy | None:
    """(ρ_cold - ρ_hot) g H, the cold leg being as much colder as ``heat`` [W] makes the flow; None where every system
    has a pump; broadcasts.

    References
    ----------
    white-fluid-mechanics, ch. 2 (hydrostatics); density taken as straight over SIPHON_FALL below the top hose [K].
    """
    height = circuit.pump.siphon
    if not np.any(height > 0.0):
        return None
    hot = np.asarray(top_hose)
    cold = np.maximum(hot - SIPHON_FALL, TABLE_LOW)
    fluid, below = properties(coolant, hot), properties(coolant, cold)
    lighter = (
        np.maximum((below.density - fluid.density) / np.maximum(hot - cold, 1e-6), 0.0) * GRAVITY * height
    )
    per_flow = np.asarray(heat) / (fluid.density * fluid.heat_capacity)
    return Buoyancy(lighter * per_flow, lighter * np.maximum(hot - np.asarray(air_temperature), 0.0))


def at_lift(
    circuit: Circuit,
    tubes: Tubes,
    fluid: Properties,
    lift: FloatArray,
    crank_speed: ArrayLike,
    near: FloatArray | None = None,
    buoyancy: Buoyancy | None = None,
) -> CoolantFlow:
    """Flow with the thermostat at ``lift`` [-]; broadcasts. ``near`` is a radiator flow to start from; ``buoyancy``
    drives it where there is no pump."""
    opening = valve_opening(circuit.thermostat, lift)
    pump, bypass = circuit.pump, circuit.bypass
    ratio = pumps.speed_ratio(pump, crank_speed)
    density = fluid.density / 1000.0
    axes = max(lift.ndim, ratio.ndim, density.ndim)
    gate = np.where(bypass.kind == BYPASS_BLOCKED, 1.0 - FOOT_SHUTS * lift, 1.0)
    siphon = pump.siphon > 0.0
    pumped = np.where(siphon, 0.0, pump.shut_off)
    rises = buoyancy or Buoyancy(np.asarray(0.0), np.asarray(0.0))
    net = _Network(
        driving=np.where(
            siphon, np.maximum(rises.by_flow, LEAST_BUOYANCY), pump.shut_off * density * ratio**2
        ),
        siphon=siphon,
        most=np.where(siphon, np.maximum(rises.most, LEAST_BUOYANCY), np.inf),
        # Shut-off pressure over run-out flow squared is the pump's own fall; it joins the resistances.
        shared=density * (circuit.jacket_resistance + pumped / pump.run_out**2),
        valve=density * circuit.thermostat_resistance / opening**2,
        ducts=side_by_side(axes, coolant_side.tube_duct(tubes, fluid), hose_duct(circuit, fluid)),
        bypass=bypass,
        bypass_gate=gate,
        heater=circuit.heater.conductance,
        root_density=np.sqrt(density),
        spring=bool(np.any(bypass.kind == BYPASS_SPRING)),
        branched=bool(np.any(bypass.conductance > 0.0) or np.any(circuit.heater.conductance > 0.0)),
    )
    flow = _search(net, near)
    tubes_drop, hoses_drop = drop_and_growth(net.ducts, flow)[0]
    drop = net.valve * flow * flow + tubes_drop + hoses_drop
    side, heater = net.branches(drop)[:2]
    total = flow + side + heater
    return CoolantFlow(
        flow,
        flow * fluid.density,
        side * fluid.density,
        heater * fluid.density,
        np.broadcast_to(lift, flow.shape),
        np.broadcast_to(opening, flow.shape),
        np.where(
            siphon,
            np.minimum(net.driving / np.maximum(flow, 1e-12), net.most),
            pumps.pressure_rise(pump, total, ratio, fluid.density),
        ),
        drop,
        tubes_drop,
        hoses_drop,
    )


def solve(
    circuit: Circuit,
    tubes: Tubes,
    coolant: Coolant,
    top_hose: ArrayLike,
    crank_speed: ArrayLike,
    heat: ArrayLike,
    air_temperature: ArrayLike,
    near: FloatArray | None = None,
) -> CoolantFlow:
    """Flow where pump and resistances meet, with the thermostat where its bulb puts it; broadcasts.

    Parameters
    ----------
    top_hose : (...) float array, coolant temperature at the engine's outlet, which sets the properties [K].
    crank_speed : (...) float array, [rev/s], above 0.
    heat, air_temperature : (...) float arrays, heat that the radiator takes out [W] and air around the
        housing [K]; they matter for a thermostat at the pump's inlet, whose bulb feels the return.
    near : a radiator flow to start from [m³/s], above 0.
    """
    fluid = properties(coolant, top_hose)
    thermostat = circuit.thermostat
    lift = valve_lift(thermostat, top_hose)
    rises = buoyant(circuit, coolant, top_hose, heat, air_temperature)
    if np.any(thermostat.at_inlet):
        shape = np.broadcast_shapes(lift.shape, np.shape(crank_speed), np.shape(heat))

        last: FloatArray | None = near

        def gap(at: FloatArray) -> FloatArray:
            nonlocal last
            flow = at_lift(circuit, tubes, fluid, at, crank_speed, last, rises)
            last = flow.volume_flow if flow.volume_flow.ndim == len(shape) else flow.volume_flow[-1]
            cp = fluid.heat_capacity
            back = np.asarray(top_hose) - np.asarray(heat) / (flow.mass_flow * cp)
            back = np.maximum(back, np.minimum(air_temperature, top_hose))
            bulb = pocket_temperature(
                flow.bypass_mass * cp, flow.mass_flow * cp, top_hose, back, air_temperature
            )
            return valve_lift(thermostat, np.where(thermostat.at_inlet, bulb, top_hose)) - at

        # A valve that stays shut or stands fully open has no crossing inside and is left at that end.
        found = bracketed_root(gap, np.zeros(shape), 1.0, 1e-8, 1e-8)
        lift = np.where(thermostat.at_inlet, found.x, lift)
        near = last
    return at_lift(circuit, tubes, fluid, lift, crank_speed, near, rises)
