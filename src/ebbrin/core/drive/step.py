"""What a step of a drive does to each of its stores, and how valve, fan and cap answer: compiled functions of numbers."""

from __future__ import annotations

from ebbrin.core.compiled import compiled
from ebbrin.core.drive.components import SEGMENTS


@compiled
def line(values, first, step, x):  # type: ignore[no-untyped-def]
    """Linear on an even grid, held at both ends."""
    at = min(max((x - first) / step, 0.0), len(values) - 1.000001)
    i = int(at)
    return values[i] + (values[i + 1] - values[i]) * (at - i)


@compiled
def saturation(vapour, first, step, pressure):  # type: ignore[no-untyped-def]
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


@compiled
def pocket_after(pocket, dt, fed, back, housing, capacity, top, returned, outside):  # type: ignore[no-untyped-def]
    """Temperature of an inlet thermostat's pocket after a step: fed by bypass and return, losing heat to the air."""
    gain = fed * (top - pocket) + back * (returned - pocket) + housing * (outside - pocket)
    return pocket + dt * gain / (capacity + dt * (fed + back + housing))


@compiled
def valve_after(valve, above, span, hysteresis, breakaway):  # type: ignore[no-untyped-def]
    """Lift of a valve whose wax stands ``above`` its opening: it plays between two lines, and once seated lets go only
    ``breakaway`` above its opening."""
    rising = min(max((above - 0.5 * hysteresis) / span, 0.0), 1.0)
    falling = min(max((above + 0.5 * hysteresis) / span, 0.0), 1.0)
    if valve <= 0.0 and above <= breakaway:
        return 0.0
    return min(max(valve, rising), falling)


@compiled
def switched_by(stage, outlet, stage_on, stage_off):  # type: ignore[no-untyped-def]
    """Stage that the fan's switches ask for, each by its own pair of temperatures."""
    for k in range(len(stage_on)):
        if stage == k and outlet >= stage_on[k]:
            stage = k + 1
    if stage > 0 and outlet <= stage_off[stage - 1]:
        stage -= 1
    return stage


@compiled
def fan_stage(switched, most, forced, lost, held, running):  # type: ignore[no-untyped-def]
    """Stage of the fan: what its switches or the air conditioning ask for, less stages lost to a fault, or held by
    one; none with the engine off."""
    if not running:
        return 0
    if held >= 0:
        return min(held, most)
    asked = max(switched, 1) if forced else switched
    return min(asked, most - lost)


@compiled
def engine_after(metal, top, metal_rate, coolant_rate, grip, given, push, follows, loss, outside):  # type: ignore[no-untyped-def]
    """Metal and coolant after a step, solved together; rates are capacities over the step [W/K]. ``push`` is what the coolant
    gains besides [W], less ``follows`` [W/K] times its temperature after the step."""
    a, b = metal_rate + grip + loss, coolant_rate + grip + follows
    left, right = metal_rate * metal + given + loss * outside, coolant_rate * top + push
    determinant = a * b - grip * grip
    return (left * b + grip * right) / determinant, (a * right + grip * left) / determinant


@compiled
def comes_back(core, hose, tank, dt, capacities, rates, T_air, outside, gearbox):  # type: ignore[no-untyped-def]
    """Cold tank after a step, as ``along`` will have it, by the coolant leaving the engine: at 0 K [K], and how it goes with
    that [-]."""
    hose_c, segment_c, tank_c = capacities
    flow, k_segment, k_hose, k_tank = rates
    whole = hose_c + dt * (flow + k_hose) + 1e-9
    inflow, follows = (hose_c * hose + dt * k_hose * outside) / whole, dt * flow / whole
    whole = segment_c + dt * (flow + k_segment)
    for q in range(SEGMENTS):
        inflow = (segment_c * core[q] + dt * (flow * inflow + k_segment * T_air)) / whole
        follows *= dt * flow / whole
    whole = tank_c + dt * (flow + k_tank)
    through = dt * (flow + k_tank) / whole
    return (tank_c * tank + dt * gearbox) / whole + through * inflow, through * follows


@compiled
def along(core, hose, tank, dt, capacities, rates, outlet, T_air, outside, gearbox):  # type: ignore[no-untyped-def]
    """Top hose, core (in place) and cold tank after a step, from inlet to outlet; returns hose, tank and the heat that
    core and hose give to the air [W]. ``capacities`` of hose, segment and tank [J/K]; ``rates`` of the flow, of a
    segment to the air, of the hose to the air, and between tank and core [W/K]."""
    hose_c, segment_c, tank_c = capacities
    flow, k_segment, k_hose, k_tank = rates
    hose = (hose_c * hose + dt * (flow * outlet + k_hose * outside)) / (hose_c + dt * (flow + k_hose) + 1e-9)
    given = k_hose * (hose - outside)
    inflow = hose
    for q in range(SEGMENTS):
        core[q] = (segment_c * core[q] + dt * (flow * inflow + k_segment * T_air)) / (
            segment_c + dt * (flow + k_segment)
        )
        given += k_segment * (core[q] - T_air)
        inflow = core[q]
    # The gearbox gives its heat behind the core, at the cold tank; where coolant stands it finds its way back.
    tank = (tank_c * tank + dt * (flow * inflow + gearbox + k_tank * core[SEGMENTS - 1])) / (
        tank_c + dt * (flow + k_tank)
    )
    core[SEGMENTS - 1] += dt * k_tank * (tank - core[SEGMENTS - 1]) / segment_c
    return hose, tank, given


@compiled
def cap_lets(mass, bottle, pressure, room, cap, back, stiffness):  # type: ignore[no-untyped-def]
    """Coolant in system and bottle, and gauge pressure, once the cap has let out or drawn back what it does; with
    nothing in the bottle it draws air. ``room`` is the mass that fills the system without pressure."""
    if pressure > cap:
        out = max(mass - room * (1.0 + cap / stiffness), 0.0)
        return mass - out, bottle + out, cap
    if pressure < -back:
        drawn = min(max(room * (1.0 - back / stiffness) - mass, 0.0), bottle)
        return mass + drawn, bottle - drawn, -back
    return mass, bottle, pressure
