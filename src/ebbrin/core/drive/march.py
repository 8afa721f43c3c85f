"""One drive step by step, compiled: engine metal and coolant, radiator coolant along the core, wax, fan, pressure.

Heat is conserved to rounding: what one store gives in a step is what the other gets. The core is marched
implicitly from inlet to outlet, metal and engine coolant are solved together, all else is explicit.
"""

from __future__ import annotations

import numba
import numpy as np

SEGMENTS = 12
CHANNELS = 12
STEAM = 461.5  # specific gas constant of water vapour, IAPWS-IF97, J/kg K
LEAST_FILL, EMPTY_FILL = (
    0.85,
    0.60,
)  # choices: shares of the fill at which the pump begins to draw air, and moves none
METAL, TOP, BOTTOM, LIFT, STAGE, FLOW, PRESSURE, MASS, SHED, HEATER, BOIL_MARGIN, HEAT = range(CHANNELS)
"""What is kept of each step: temperatures [K] of metal, top hose (engine out) and bottom hose; lift [-]; stage of
the fan (index); radiator flow [kg/s]; gauge pressure [Pa]; coolant in the system [kg]; heat shed by the core and by
the heater [W]; top hose below boiling [K]; heat from the engine [W]."""
ENERGY_IN, ENERGY_OUT, ENERGY_BLOCK, ENERGY_VAPOUR, STORED, BOTTLE, GROUND = range(7)
"""Sums over a drive: heat in, out through core and heater, lost by a standing block, carried off by vapour, and gained
by the stores [J]; coolant in the bottle and on the ground at the end [kg]."""


@numba.njit(cache=True, nogil=True)
def _at(table, i, u, j, v):  # type: ignore[no-untyped-def]
    """Between four nodes of a (T, L) table."""
    low = table[i, j] + (table[i, j + 1] - table[i, j]) * v
    high = table[i + 1, j] + (table[i + 1, j + 1] - table[i + 1, j]) * v
    return low + (high - low) * u


@numba.njit(cache=True, nogil=True)
def _place(nodes, x):  # type: ignore[no-untyped-def]
    """Node below ``x`` and how far beyond it, held at both ends."""
    i = 0
    while i < len(nodes) - 2 and x >= nodes[i + 1]:
        i += 1
    u = (x - nodes[i]) / (nodes[i + 1] - nodes[i])
    return i, min(max(u, 0.0), 1.0)


@numba.njit(cache=True, nogil=True)
def _line(values, first, step, x):  # type: ignore[no-untyped-def]
    """Linear on an even grid, held at both ends."""
    at = min(max((x - first) / step, 0.0), len(values) - 1.000001)
    i = int(at)
    return values[i] + (values[i + 1] - values[i]) * (at - i)


@numba.njit(cache=True, nogil=True)
def _saturation(vapour, first, step, pressure):  # type: ignore[no-untyped-def]
    """Boiling temperature [K] at an absolute pressure, from the tabled vapour pressure."""
    low, high = 0, len(vapour) - 1
    if pressure <= vapour[0]:
        return first
    if pressure >= vapour[high]:
        return first + step * high
    while high - low > 1:
        middle = (low + high) // 2
        if vapour[middle] <= pressure:
            low = middle
        else:
            high = middle
    return first + step * (low + (pressure - vapour[low]) / (vapour[high] - vapour[low]))


@numba.njit(cache=True, nogil=True)
def _pocket(pocket, dt, fed, back, housing, capacity, top, returned, outside):  # type: ignore[no-untyped-def]
    """Temperature of an inlet thermostat's pocket after a step: fed by bypass and return, losing heat to the air."""
    gain = fed * (top - pocket) + back * (returned - pocket) + housing * (outside - pocket)
    return pocket + dt * gain / (capacity + dt * (fed + back + housing))


@numba.njit(cache=True, nogil=True)
def _valve(valve, above, span, hysteresis, breakaway):  # type: ignore[no-untyped-def]
    """Lift of a valve whose wax stands ``above`` its opening: it plays between two lines, and once seated lets go only
    ``breakaway`` above its opening."""
    rising = min(max((above - 0.5 * hysteresis) / span, 0.0), 1.0)
    falling = min(max((above + 0.5 * hysteresis) / span, 0.0), 1.0)
    if valve <= 0.0 and above <= breakaway:
        return 0.0
    return min(max(valve, rising), falling)


@numba.njit(cache=True, nogil=True)
def _fan(stage, top, stage_on, stage_off, forced, held, running):  # type: ignore[no-untyped-def]
    """Stage of the fan: each by its own pair, forced by air conditioning, held by a fault; none with the engine off."""
    for k in range(len(stage_on)):
        if stage == k and top >= stage_on[k]:
            stage = k + 1
    if stage > 0 and top <= stage_off[stage - 1]:
        stage -= 1
    if forced and stage < 1:
        stage = 1
    if held >= 0:
        stage = min(held, len(stage_on))
    return stage if running else 0


@numba.njit(cache=True, nogil=True)
def _engine(metal, top, metal_rate, coolant_rate, grip, given, push, loss, outside):  # type: ignore[no-untyped-def]
    """Metal and coolant after a step, solved together; rates are capacities over the step [W/K]."""
    a, b = metal_rate + grip + loss, coolant_rate + grip
    left, right = metal_rate * metal + given + loss * outside, coolant_rate * top + push
    determinant = a * b - grip * grip
    return (left * b + grip * right) / determinant, (a * right + grip * left) / determinant


@numba.njit(cache=True, nogil=True)
def _cap(mass, bottle, pressure, room, cap, back, stiffness):  # type: ignore[no-untyped-def]
    """Coolant in system and bottle, and gauge pressure, once the cap has let out or drawn back what it does; ``room``
    is the mass that fills the system without pressure."""
    if pressure > cap:
        out = max(mass - room * (1.0 + cap / stiffness), 0.0)
        return mass - out, bottle + out, cap
    if pressure < -back and bottle > 0.0:
        drawn = min(max(room * (1.0 - back / stiffness) - mass, 0.0), bottle)
        return mass + drawn, bottle - drawn, -back
    return mass, bottle, pressure


@numba.njit(cache=True, nogil=True)
def march(  # type: ignore[no-untyped-def]
    point,
    dt,
    temperatures,
    lifts,
    radiator_flow,
    bypass_flow,
    heater_flow,
    heater,
    capacity,
    conductance,
    air,
    engine_heat,
    gearbox_heat,
    ambient,
    atmosphere,
    running,
    forced,
    heat_capacity,
    density,
    held_lift,
    least_lift,
    late,
    held_stage,
    cap,
    back,
    leak,
    gas,
    stores,
    controls,
    stage_on,
    stage_off,
    vapour,
    vapour_first,
    vapour_step,
    start,
    latent,
    out,
    totals,
):
    """March through ``point`` (steps,) operating points of ``dt`` [s] each; fills ``out`` (steps, CHANNELS) and
    ``totals``. See run.py for what the packed parameters hold."""
    (
        metal_c,
        engine_c,
        radiator_c,
        metal_g,
        full_flow,
        still,
        block,
        volume,
        filled,
        stiffness,
        in_engine,
        overflow,
    ) = stores
    opens, span, hysteresis, at_inlet, wax_lag, breakaway, pocket_c, pocket_share, housing, fitted = controls
    segment_c = radiator_c / SEGMENTS
    metal = start
    top = start
    core = np.full(SEGMENTS, start)
    wax = start
    pocket = start
    valve = min(max((wax - opens) / span, 0.0), 1.0)
    lift = valve
    stage = 0
    mass = filled * volume
    bottle = 0.0
    ground = 0.0
    energy_in = energy_out = energy_block = energy_vapour = 0.0
    stored_before = metal_c * metal + engine_c * top + radiator_c * start
    for n in range(len(point)):
        s = point[n]
        # Thermostat: wax follows its bulb, the valve plays between its two lines.
        i, u = _place(temperatures, top)
        j, v = _place(lifts, lift)
        cp = heat_capacity[i] + (heat_capacity[i + 1] - heat_capacity[i]) * u
        m_radiator = _at(radiator_flow[:, :, s], i, u, j, v)
        m_bypass = _at(bypass_flow[:, :, s], i, u, j, v)
        bulb = top
        if at_inlet > 0.0:
            returned = pocket_share * m_radiator * cp
            pocket = _pocket(
                pocket, dt, m_bypass * cp, returned, housing, pocket_c, top, core[SEGMENTS - 1], ambient[s]
            )
            bulb = pocket
        wax += (bulb - wax) * (1.0 - np.exp(-dt / wax_lag))
        sticks = breakaway if at_inlet > 0.0 else -1e9
        valve = _valve(valve, wax - opens - late[s], span, hysteresis, sticks)
        lift = held_lift[s] if held_lift[s] >= 0.0 else max(valve, least_lift[s])
        if fitted > 0.0:
            stage = _fan(stage, top, stage_on, stage_off, forced[s], held_stage[s], running[s])
        # What the components do now; a pump that draws air moves less.
        j, v = _place(lifts, lift)
        drawn_full = min(max((mass / (filled * volume) - EMPTY_FILL) / (LEAST_FILL - EMPTY_FILL), 1e-3), 1.0)
        m_radiator = drawn_full * _at(radiator_flow[:, :, s], i, u, j, v)
        m_total = m_radiator + drawn_full * (
            _at(bypass_flow[:, :, s], i, u, j, v) + _at(heater_flow[:, :, s], i, u, j, v)
        )
        flow_c = drawn_full * _at(capacity[:, :, stage, s], i, u, j, v)
        T_air = _at(air[:, :, stage, s], i, u, j, v)
        if running[s]:
            K = min(_at(conductance[:, :, stage, s], i, u, j, v), flow_c * (1.0 - 1e-9))
            ratio = 1.0 - K / flow_c
            k_segment = flow_c * (ratio ** (-1.0 / SEGMENTS) - 1.0)
        else:
            k_segment = _at(conductance[:, :, stage, s], i, u, len(lifts) - 2, 1.0) / SEGMENTS
        # The core from inlet to outlet.
        shed = 0.0
        inflow = top
        for q in range(SEGMENTS):
            core[q] = (segment_c * core[q] + dt * (flow_c * inflow + k_segment * T_air)) / (
                segment_c + dt * (flow_c + k_segment)
            )
            shed += k_segment * (core[q] - T_air)
            inflow = core[q]
        gearbox = gearbox_heat[stage, s]
        # The gearbox gives its heat behind the core, at the cold tank.
        bottom = inflow + gearbox / flow_c if flow_c > 1e-6 else inflow
        # Engine: what the core took is what the engine gives; metal and coolant together.
        taken = _at(heater[:, :, s], i, u, j, v) * (top - ambient[s])
        grip = metal_g * max(still, (m_total / full_flow) ** 0.7)
        loss = 0.0 if running[s] else block
        given = engine_heat[stage, s]
        push = flow_c * (inflow - top) + gearbox - taken
        new_metal, new_top = _engine(
            metal, top, metal_c / dt, engine_c / dt, grip, given, push, loss, ambient[s]
        )
        energy_block += dt * loss * (new_metal - ambient[s])
        metal, top = new_metal, new_top
        energy_in += dt * (given + gearbox)
        energy_out += dt * (shed + taken)
        # Pressure: the fill grows against hoses and tank, the cap lets out what is too much; vapour holds it up.
        mean = 0.0
        for q in range(SEGMENTS):
            mean += core[q]
        mean = in_engine * top + (1.0 - in_engine) * mean / SEGMENTS
        i, u = _place(temperatures, mean)
        rho = density[i] + (density[i + 1] - density[i]) * u
        lost = min(leak[s] * dt, mass)
        mass -= lost
        ground += lost
        pressure = stiffness * (mass / (rho * volume) - 1.0)
        if gas[s] > 0.0 and running[s]:
            # Gas in the coolant takes the room of liquid, which leaves through the cap.
            pushed = min(gas[s] * dt * rho, mass)
            mass -= pushed
            bottle += pushed
            pressure = cap[s]
        boils_at = _saturation(vapour, vapour_first, vapour_step, atmosphere[s] + cap[s])
        if top > boils_at:
            excess = engine_c * (top - boils_at)
            top = boils_at
            energy_vapour += excess
            steam = excess / latent
            # The vapour pushes liquid out ahead of it, as fast as it goes through the overflow.
            displaced = min(steam * STEAM * boils_at / (atmosphere[s] + cap[s]) * rho, overflow * dt, mass)
            mass -= displaced
            bottle += displaced
            pressure = cap[s]
        held = _line(vapour, vapour_first, vapour_step, top) - atmosphere[s]
        pressure = max(pressure, min(held, cap[s]))
        mass, bottle, pressure = _cap(mass, bottle, pressure, rho * volume, cap[s], back[s], stiffness)
        row = out[n]
        row[METAL], row[TOP], row[BOTTOM], row[LIFT], row[STAGE] = metal, top, bottom, lift, stage
        row[FLOW], row[PRESSURE], row[MASS], row[SHED], row[HEATER] = m_radiator, pressure, mass, shed, taken
        row[BOIL_MARGIN] = (
            _saturation(vapour, vapour_first, vapour_step, atmosphere[s] + max(pressure, 0.0)) - top
        )
        row[HEAT] = given
    stored = metal_c * metal + engine_c * top
    for q in range(SEGMENTS):
        stored += segment_c * core[q]
    totals[ENERGY_IN], totals[ENERGY_OUT], totals[ENERGY_BLOCK] = energy_in, energy_out, energy_block
    totals[ENERGY_VAPOUR], totals[STORED] = energy_vapour, stored - stored_before
    totals[BOTTLE], totals[GROUND] = bottle, ground
