"""One drive step by step, compiled: engine metal and coolant, hoses, coolant along the core, wax, fan, pressure.

Heat is conserved to rounding: what one store gives in a step is what the other gets, and coolant that leaves takes
its heat with it. Hoses and core are marched implicitly along the flow, metal and engine coolant are solved together,
all else is explicit, but for flows so quick that the round is solved at once.
"""

from __future__ import annotations

from collections import namedtuple
from dataclasses import fields
from typing import Any, NamedTuple

import numpy as np

from ebbrin.core.airpath import room as rooms
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.compiled import compiled_with_room
from ebbrin.core.drive.components import SEGMENTS, components_at, flows_at, within
from ebbrin.core.drive.controls import Controls
from ebbrin.core.drive.step import (
    along,
    cap_lets,
    comes_back,
    engine_after,
    fan_stage,
    line,
    pocket_after,
    saturation,
    switched_by,
    valve_after,
)
from ebbrin.core.media.coolants import properties_at
from ebbrin.core.system.balance import stand_at
from ebbrin.core.system.packed import Packed, case_of, parts_of

CHANNELS = 14
STEAM = 461.5  # specific gas constant of water vapour, IAPWS-IF97, J/kg K
LEAST_FILL, EMPTY_FILL, DRY_FILL = 0.85, 0.60, 0.35
"""Shares of the fill (choices): at which the pump begins to draw air, at which it moves none, and below which the head
of a running engine stands dry. No more is known then: what is left does not cool the metal, and it seizes."""
QUICK = 0.5
"""Share of the engine's coolant that the radiator's flow turns over in a step, above which the round is solved at once."""
STEAM_ALONE = 0.5
"""Share of the engine's coolant (physics page, section 9) up to which steam pushes coolant out ahead of it; with more
gone it finds its way out alone."""
METAL, ENGINE, TOP, BOTTOM, LIFT, STAGE, FLOW, PRESSURE, MASS, SHED, HEATER, BOIL_MARGIN, HEAT, PUMPED = (
    range(CHANNELS)
)
"""What is kept of each step: temperatures [K] of metal, coolant leaving the engine, top hose and bottom hose; lift
[-]; stage of the fan (index); radiator flow [kg/s]; gauge pressure [Pa]; coolant in the system [kg]; heat shed by the
core and by the heater [W]; the hottest coolant below boiling [K]; heat from the engine [W]; flow through core,
bypass and heater together [kg/s]."""
TOTALS = 8
ENERGY_IN, ENERGY_OUT, ENERGY_BLOCK, ENERGY_VAPOUR, ENERGY_GROUND, STORED, BOTTLE, GROUND = range(TOTALS)
"""Sums over a drive: heat in, out through core, heater, hose and bottle, lost by a standing block, carried off by
vapour and by coolant that is lost, and gained by the stores, the bottle's among them [J]; coolant in the bottle and
on the ground at the end [kg]."""


_named: Any = namedtuple  # the type checker wants the fields written out once more
Held = _named("Held", tuple(f.name for f in fields(Controls)))
"""What holds thermostat, fan and cap in each state: the fields of ``Controls``, by name."""


class Met(NamedTuple):
    """What a drive meets: its parts in each of some states; rows of cases (points, fields of ``CaseNumbers``) and whether
    the engine runs (points,); stages of the fan, the least first."""

    states: Packed
    cases: FloatArray
    running: BoolArray
    stages: IntArray


class Stores(NamedTuple):
    """What one system stores and loses: fields of plant.py's ``Plant`` and its constants, all SI."""

    metal: float
    coolant_heat: float
    core_metal: float
    in_engine: float
    in_hose: float
    metal_conductance: float
    full_flow: float
    still_share: float
    block_loss: float
    hose_loss: float
    bottle_loss: float
    tank_exchange: float
    volume: float
    filled_density: float
    stiffness: float
    overflow: float
    bottle: float


class Moving(NamedTuple):
    """How thermostat and fan move: fields of plant.py's ``Plant`` and its constants, all SI."""

    opens: float
    span: float
    hysteresis: float
    at_inlet: bool
    wax_lag: float
    breakaway: float
    pocket_capacity: float
    pocket_share: float
    housing_loss: float
    fan_fitted: bool
    stage_on: FloatArray
    stage_off: FloatArray


class Vapour(NamedTuple):
    """Vapour pressure [Pa] on an even grid from ``first`` on [K], and the latent heat [J/kg]."""

    pressure: FloatArray
    first: float
    step: float
    latent: float


@compiled_with_room
def march(  # type: ignore[no-untyped-def]
    point, state, dt, met: Met, held, stores: Stores, moving: Moving, vapour: Vapour, start, out, totals
):
    """March through ``point`` (steps,) operating points in ``state`` (steps,) of the parts, ``dt`` [s] each, from a
    temperature ``start`` [K]; fills ``out`` (steps, CHANNELS) and ``totals`` (TOTALS,). Returns how many steps were made:
    fewer than were asked for where a running engine stands dry."""
    in_engine, in_hose, per_kg = stores.in_engine, stores.in_hose, stores.coolant_heat
    volume, bottle_room = stores.volume, stores.bottle * stores.filled_density
    in_core = 1.0 - in_engine - 2.0 * in_hose
    full = stores.filled_density * volume
    metal = start
    top = start  # leaving the engine
    hose = start
    core = np.full(SEGMENTS, start)
    tank = start
    wax = start
    pocket = start
    valve = min(max((wax - moving.opens) / moving.span, 0.0), 1.0)
    lift = valve
    switched = 0
    stage = 0
    # What a step stands in, and what the components did at the step before.
    air = rooms.room_for(met.states.faces)
    k_before, s_before, stage_before = -1, -1, -1
    parts, case = parts_of(met.states, state[0]), case_of(met.cases, point[0])
    column = met.states.columns[met.states.column_of[state[0]]]
    stand, most = stand_at(parts, case, met.stages[0]), 0.0
    flow = 0.0
    # A system that is warm already has let out what its cold fill has grown by.
    warm = properties_at(column, within(parts, start)).density * volume
    brim = held.fill * full  # what stays in the system in each state
    poured = min(brim[state[0]], full)
    mass = min(poured, warm)
    bottle = min(poured - mass, bottle_room)
    ground = 0.0
    bottle_energy = per_kg * bottle * start
    energy_in = energy_out = energy_block = energy_vapour = energy_ground = 0.0
    stored_before = (stores.metal + per_kg * mass + stores.core_metal) * start + bottle_energy
    made = 0
    for n in range(len(point)):
        s, k = point[n], state[n]
        running = met.running[s]
        if k != k_before or s != s_before:
            parts, case = parts_of(met.states, k), case_of(met.cases, s)
            column = met.states.columns[met.states.column_of[k]]
            stand = stand_at(parts, case, met.stages[stage])
            most = stand_at(parts, case, met.stages[-1]).total
        coolant_c = per_kg * mass
        engine_c = in_engine * coolant_c
        segment_c = (in_core * coolant_c + stores.core_metal) / SEGMENTS
        # Thermostat: wax follows its bulb, the valve plays between its two lines.
        coolant = within(parts, top)
        bulb = top
        if moving.at_inlet:
            fed, returned = 0.0, 0.0
            if running:
                flows = flows_at(parts, case, column, most, coolant, lift, flow)
                heat_capacity = properties_at(column, coolant).heat_capacity
                fed = heat_capacity * flows.bypass_mass
                returned = moving.pocket_share * heat_capacity * flows.mass_flow
            pocket = pocket_after(
                pocket,
                dt,
                fed,
                returned,
                moving.housing_loss,
                moving.pocket_capacity,
                top,
                tank,
                case.ambient,
            )
            bulb = pocket
        wax += (bulb - wax) * (1.0 - np.exp(-dt / moving.wax_lag))
        sticks = moving.breakaway if moving.at_inlet else -1e9
        valve = valve_after(valve, wax - moving.opens - held.late[k], moving.span, moving.hysteresis, sticks)
        lift = held.held_lift[k] if held.held_lift[k] >= 0.0 else max(valve, held.least_lift[k])
        if moving.fan_fitted:
            if not held.deaf[k]:
                switched = switched_by(switched, top, moving.stage_on, moving.stage_off)
            stage = fan_stage(
                switched,
                len(moving.stage_on),
                running and case.air_conditioning > 0.5,
                held.lost_stages[k],
                held.held_stage[k],
                running,
            )
        if stage != stage_before:
            stand = stand_at(parts, case, met.stages[stage])
        if k != k_before:
            rooms.lay(air, met.states.faces[k])
        # With the engine off nothing is moved or heated, and the core stands as if the valve were open.
        does = components_at(
            parts,
            case,
            met.states,
            k,
            stand,
            most,
            coolant,
            lift if running else 1.0,
            flow,
            air,
            k == k_before,
        )
        k_before, s_before, stage_before, flow = k, s, stage, does.volume_flow
        # A pump that draws air moves less.
        drawn_full = min(max((mass / full - EMPTY_FILL) / (LEAST_FILL - EMPTY_FILL), 1e-3), 1.0)
        moved = drawn_full if running else 0.0
        m_radiator, m_heater = moved * does.radiator_flow, moved * does.heater_flow
        m_total = m_radiator + m_heater + moved * does.bypass_flow
        flow_c = moved * does.capacity
        # Without coolant around it a gearbox cooler keeps its heat.
        gearbox = moved * does.gearbox
        capacities = in_hose * coolant_c, segment_c, in_hose * coolant_c
        rates = flow_c, does.segment, 0.0 if running else stores.hose_loss, stores.tank_exchange
        # Engine: what the core took is what the engine gives; metal and coolant together. A heater that draws air gives
        # less, as its pump does. Where a step turns over much of the engine's coolant, what comes back in the same step
        # is solved with it: else it would swing without end. Slower flows are truer without.
        heater = moved * does.heater
        grip = stores.metal_conductance * max(stores.still_share, (m_total / stores.full_flow) ** 0.7)
        loss = 0.0 if running else stores.block_loss
        given = does.engine if running else 0.0
        outlet = top
        if dt * flow_c > QUICK * engine_c:
            cold, back = comes_back(core, hose, tank, dt, capacities, rates, does.air, case.ambient, gearbox)
            push, follows = flow_c * cold + heater * case.ambient, flow_c * (1.0 - back) + heater
            metal, top = engine_after(
                metal,
                top,
                stores.metal / dt,
                engine_c / dt,
                grip,
                given,
                push,
                follows,
                loss,
                case.ambient,
            )
            outlet = top
        hose, tank, shed = along(
            core, hose, tank, dt, capacities, rates, outlet, does.air, case.ambient, gearbox
        )
        taken = heater * (outlet - case.ambient)
        if dt * flow_c <= QUICK * engine_c:
            push = flow_c * (tank - top) - taken
            metal, top = engine_after(
                metal, top, stores.metal / dt, engine_c / dt, grip, given, push, 0.0, loss, case.ambient
            )
        energy_block += dt * loss * (metal - case.ambient)
        energy_in += dt * (given + gearbox)
        energy_out += dt * (shed + taken)
        # Pressure: the fill grows against hoses and tank, the cap lets out what is too much; vapour holds it up.
        middle = 0.0
        for q in range(SEGMENTS):
            middle += core[q] / SEGMENTS
        mean = in_engine * top + in_hose * (hose + tank) + in_core * middle
        rho = properties_at(column, within(parts, mean)).density
        before, bottle_before = mass, bottle
        lost = min(held.leak[k] * dt + max(mass - brim[k], 0.0), mass)
        mass -= lost
        ground += lost
        pressure = stores.stiffness * (mass / (rho * volume) - 1.0)
        if held.gas[k] > 0.0 and running:
            # Gas in the coolant takes the room of liquid, which leaves through the cap.
            pushed = min(held.gas[k] * dt * rho, mass)
            mass -= pushed
            bottle += pushed
            pressure = held.cap[k]
        boils_at = saturation(vapour.pressure, vapour.first, vapour.step, case.pressure + held.cap[k])
        # A gearbox may bring the coolant of its tank to the boil before the engine does its own.
        if max(top, hose, tank) > boils_at:
            excess = (
                engine_c * max(top - boils_at, 0.0)
                + capacities[0] * max(hose - boils_at, 0.0)
                + capacities[2] * max(tank - boils_at, 0.0)
            )
            top, hose, tank = min(top, boils_at), min(hose, boils_at), min(tank, boils_at)
            energy_vapour += excess
            steam = min(excess / vapour.latent, mass)
            if mass > (1.0 - STEAM_ALONE * in_engine) * rho * volume:
                # The vapour pushes liquid out ahead of it, as fast as it goes through the overflow.
                grows = STEAM * boils_at / (case.pressure + held.cap[k]) * rho
                displaced = min(steam * grows, stores.overflow * dt, mass)
                mass -= displaced
                bottle += displaced
            else:
                # It leaves alone, and blows off into the air.
                mass -= steam
                lost += steam
                ground += steam
            pressure = held.cap[k]
        hottest = max(top, hose, tank)
        holds = line(vapour.pressure, vapour.first, vapour.step, hottest) - case.pressure
        pressure = max(pressure, min(holds, held.cap[k]))
        mass, bottle, pressure = cap_lets(
            mass, bottle, pressure, rho * volume, held.cap[k], held.back[k], stores.stiffness
        )
        over = max(bottle - bottle_room, 0.0)
        bottle -= over
        lost += over
        ground += over
        # Coolant that leaves takes its heat along, a part of every store; what comes back brings the bottle's.
        mean = in_engine * top + in_hose * (hose + tank) + in_core * middle
        if bottle >= bottle_before:
            bottle_energy += per_kg * (bottle - bottle_before) * mean
            energy_ground += per_kg * lost * mean
        else:
            # It leaves to the ground first, and is drawn back after.
            energy_ground += per_kg * lost * mean
            back_c = per_kg * (bottle_before - bottle)
            kept_c = per_kg * (before - lost)
            cold = bottle_energy / (per_kg * bottle_before)
            bottle_energy -= back_c * cold
            share = back_c / (kept_c + back_c)
            top += share * (cold - top)
            hose += share * (cold - hose)
            tank += share * (cold - tank)
            kept_c = in_core * kept_c + stores.core_metal
            share = in_core * back_c / (kept_c + in_core * back_c)
            for q in range(SEGMENTS):
                core[q] += share * (cold - core[q])
        if bottle > 0.0:
            cooled = min(dt * stores.bottle_loss / (per_kg * bottle), 1.0)
            given_off = cooled * (bottle_energy - per_kg * bottle * case.ambient)
            bottle_energy -= given_off
            energy_out += given_off
        row = out[n]
        row[METAL], row[ENGINE], row[TOP], row[BOTTOM], row[LIFT] = metal, top, hose, tank, lift
        row[STAGE], row[FLOW], row[PRESSURE], row[MASS] = stage, m_radiator, pressure, mass
        row[SHED], row[HEATER], row[HEAT], row[PUMPED] = shed, taken, given, m_total
        boils_so = saturation(vapour.pressure, vapour.first, vapour.step, case.pressure + max(pressure, 0.0))
        row[BOIL_MARGIN] = boils_so - max(top, hose, tank)
        made = n + 1
        if running and mass < DRY_FILL * full:
            break
    coolant_c = per_kg * mass
    stored = stores.metal * metal + coolant_c * (in_engine * top + in_hose * (hose + tank)) + bottle_energy
    for q in range(SEGMENTS):
        stored += (in_core * coolant_c + stores.core_metal) / SEGMENTS * core[q]
    totals[ENERGY_IN], totals[ENERGY_OUT], totals[ENERGY_BLOCK] = energy_in, energy_out, energy_block
    totals[ENERGY_VAPOUR], totals[ENERGY_GROUND] = energy_vapour, energy_ground
    totals[STORED], totals[BOTTLE], totals[GROUND] = stored - stored_before, bottle, ground
    return made
