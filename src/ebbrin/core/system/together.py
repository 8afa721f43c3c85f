"""A balance looked for with top hose, coolant flow and air all on their way, where there can be but one.

A search within a search asks for each top hose what coolant and air settle at; here they are looked at once, each takes
its step, and what the heat will change with them is counted in ahead. It takes a third of the looks.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath import steps
from ebbrin.core.airpath.balance import MOST_PASSES, PRESSURE_RESIDUAL
from ebbrin.core.airpath.room import RATIO
from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.flow import Flows
from ebbrin.core.circuit.thermostat import valve_lift, valve_opening
from ebbrin.core.compiled import Numbers, compiled
from ebbrin.core.media.coolants import properties_at
from ebbrin.core.roots import MAX_STEPS
from ebbrin.core.system.balance import Gone, Stand, gone, inside_at
from ebbrin.core.system.demand import demand_at
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts

AFRESH, OTHER_STAGE, SAME_STAGE = 0, 1, 2
HEAT_RESIDUAL = 4e-7  # of the logarithm of heat shed over heat sent
MOST_TOGETHER = 16
ON_THE_WAY = (
    1e-2  # of the coolant's pressures, before its last step; the way's end is near, so that it is far less
)
AT_A_GLANCE = 2e-3  # the same at a glance: some 1e-6 of the flow
STEEPEST_DOWN, STEEPEST_UP = (
    -1.5,
    0.3,
)  # growth of what resists the heat with the rise, over its own, the thermostat open
APART_BY_TOP = 5e-3  # 1/K
NEAR = 0.5  # of the logarithms of pressures
NOISE = 0.25  # what a look's heat is wrong by, over how far pressures were apart, at most
SURE = 0.5  # of what the heat is away, that pressures may be apart and still not make up for it
APART = 1.0  # K; nearer to the ambient or to the tables' end no thermostat may open


@compiled
def single(parts: Parts, case: CaseNumbers) -> bool:
    """Whether heat shed over heat sent only rises with the top hose, so that there is one balance wherever it is looked for
    from: without a clutch, a bulb at the inlet or buoyancy, whose own feedback may make several."""
    loop = parts.loop
    opens, full = loop.opens, loop.opens + loop.span
    within = case.ambient + APART < opens and full < parts.marks.table_end - APART
    return within and parts.fan.clutch < 0.5 and loop.at_inlet < 0.5 and loop.siphon <= 0.0


class Glance(NamedTuple):
    """What a glance tells, numbers: about the logarithm of heat shed over heat sent [-]; how far the air's pressures were
    apart [-]; heat shed and heat sent [W]; the coolant's flow [m³/s]."""

    share: float
    off: float
    shed: float
    sent: float
    flow: float


@compiled
def glance_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    stand: Stand,
    T: float,
    flow: float,
    s: FloatArray,
    near: int,
    enough: float,
    sure: float,
) -> Glance:
    """Heat shed and heat sent at a top hose ``T`` [K] where a case stands, the coolant's flow looked for from
    ``flow`` [m³/s], 0 where none is known, and the air AFRESH, or from what stands in ``s``: a balance of the candidate at
    the SAME_STAGE or at an OTHER_STAGE of its fans. What its last step still brings is counted in, not looked at: pressures are apart by no more than ``enough``, or by ``sure`` times
    what heat shed and heat sent are."""
    meets, sent = stand.meets, stand.total
    surface, block, front, fan = parts.surface, parts.block, parts.front, parts.fan
    column, curve = packed.columns[packed.column_of[c]], packed.curves[packed.curve_of[c]]
    flows = circuit.solve_at(
        parts.loop, parts.tubes, column, T, case.crank_speed, sent, case.ambient, flow, AT_A_GLANCE
    )
    inside, Re, cp = inside_at(parts, column, case, T, flows.mass_flow, sent, 1.0)
    if near == AFRESH:
        steps.begin(s, 0.5 * (meets.ambient + T))
    else:
        steps.foresee(block, fan, meets, inside, s)
    share, off, heat = 0.0, np.inf, 0.0
    for n in range(MOST_PASSES):
        airpath.look(surface, block, front, fan, curve, meets, inside, s)
        there = gone(parts, case, inside, Re, cp, flows.heater_mass, s)
        off = steps.apart(s)
        if fan.clutch > 0.5:
            turning = demand_at(parts, case, s[RATIO, 0], s[RATIO, 1])
            sent = turning[0] + turning[1]
        steps.newton(s, n > 1, near == SAME_STAGE)
        heat = there.heat
        if off < NEAR:  # further away, or where it does not settle, a step tells nothing
            heat += steps.to_come(s, block.open_face, inside)
        steps.move(s, steps.damping(n))
        share = np.log(max(heat, 1e-9) / sent)
        if off <= enough or off < sure * min(abs(share), 1.0):
            break
    return Glance(share, off, heat, sent, flows.volume_flow)


@compiled
def _slowness(loop: Numbers, valve: float, T: float) -> tuple[float, float]:
    """About the inverse of the coolant's flow at a temperature [K], over that with the thermostat open [-], where the valve
    then takes the share ``valve`` of all that is lost; and how it grows with the temperature [1/K]."""
    opening = valve_opening(loop, valve_lift(loop, T))
    slowness = np.sqrt(1.0 - valve + valve / (opening * opening))
    return slowness, -valve / (slowness * opening**3) * (1.0 - loop.leak) / loop.span


@compiled
def _opens_to(
    loop: Numbers,
    valve: float,
    low: float,
    total: float,
    resists: float,
    slope: float,
    slowness: float,
    T: float,
) -> float:
    """Temperature [K] within the thermostat's opening, looked for from ``T``, at which a heat ``total`` [W] passes from the
    coolant to the air at ``low`` [K], where that resists it by ``resists`` [K/W] at a ``slowness`` [-] and by ``slope`` more
    for each more of it: an end of the opening where it lies beyond."""
    a, b = loop.opens, loop.opens + loop.span
    for _ in range(MAX_STEPS):
        here, grows = _slowness(loop, valve, T)
        short = total * (resists + slope * (here - slowness)) - (T - low)
        if short > 0.0:
            a = T
        else:
            b = T
        step = short / (1.0 - total * slope * grows)
        if abs(step) <= 1e-9:
            break
        T = T + step if a < T + step < b else 0.5 * (a + b)
    return T


@compiled
def together_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    meets: airpath.Meets,
    total: float,
    start: float,
    share: float,
    off: float,
    s: FloatArray,
) -> tuple[float, float, Flows, Gone]:
    """As ``settle_at`` for a ``single`` balance, from air in ``s`` that all but balances at the temperature ``start`` [K],
    the thermostat open, at which the logarithm of heat shed over heat sent is ``share``, good to ``off`` [-]: top hose,
    coolant flow and air move together, with a look at all three in each pass. Inf in place of what is left where
    they do not meet within MOST_TOGETHER passes; the end of the tables where it lies beyond.

    What changes slowly is what resists the heat on its way from the coolant to the outside [K/W]: with the thermostat
    open next to nothing, and within its opening along the slowness of the coolant.
    """
    loop, low = parts.loop, case.ambient
    full = loop.opens + loop.span
    surface, block, front, fan = parts.surface, parts.block, parts.front, parts.fan
    column, curve = packed.columns[packed.column_of[c]], packed.curves[packed.curve_of[c]]
    flows = circuit.solve_at(loop, parts.tubes, column, full, case.crank_speed, total, low, 0.0)
    there = Gone(0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    resists = (start - low) / (total * np.exp(share))
    opens = total * resists < full - low
    bottom, top = (loop.opens, full) if opens else (full, parts.marks.table_end)
    valve, slope, along_before, guess = 0.0, 0.0, start, low + total * resists
    if opens:
        ratio = pumps.speed_ratio(loop, case.crank_speed)
        valve = loop.thermostat_resistance * flows.volume_flow**2 / (loop.shut_off * ratio * ratio)
        valve = min(max(valve, 1e-6), 1.0)
        # Half of what the coolant falls by is lost to the heat.
        slope = 0.5 / (properties_at(column, full).heat_capacity * flows.mass_flow)
        along_before = 1.0
        guess = _opens_to(loop, valve, low, total, resists, slope, 1.0, 0.5 * (bottom + top))
    T_before, T = start, min(max(guess, bottom), top)
    if parts.marks.table_end <= T:
        return T, np.inf, flows, there
    flow, flow_before, off_before = flows.volume_flow, 0.0, off
    outside = 0
    for n in range(MOST_TOGETHER):
        flows = circuit.solve_at(loop, parts.tubes, column, T, case.crank_speed, total, low, flow, ON_THE_WAY)
        inside, Re, cp = inside_at(parts, column, case, T, flows.mass_flow, total, 1.0)
        steps.foresee(block, fan, meets, inside, s)
        airpath.look(surface, block, front, fan, curve, meets, inside, s)
        there = gone(parts, case, inside, Re, cp, flows.heater_mass, s)
        off, left = steps.apart(s), np.log(max(there.heat, 1e-9) / total)
        if n > 0 and off <= PRESSURE_RESIDUAL and abs(left) <= HEAT_RESIDUAL:
            return T, left, flows, there
        # A slope is learnt where the pressures changed by the air's own step, not by the top hose's.
        steps.newton(s, n > 1 and off_before > APART_BY_TOP * abs(T - T_before), True)
        heat = there.heat
        if off < NEAR:
            heat += steps.to_come(s, block.open_face, inside)
        steps.move(s, 1.0)
        if heat <= 0.0:
            break
        seen = (T - low) / heat
        along = _slowness(loop, valve, T)[0] if opens else T
        # What is seen of a slope, or of a side, is no better than the looks at its ends.
        if abs(seen - resists) > NOISE * max(off, off_before) * seen and along != along_before:
            found = (seen - resists) / (along - along_before)
            slope = (
                min(max(found, 0.1 * slope), 10.0 * slope)
                if opens
                else min(max(found * total, STEEPEST_DOWN), STEEPEST_UP) / total
            )
        resists, along_before, off_before = seen, along, off
        short = total * resists - (T - low)
        if abs(short) > 3.0 * off * (T - low):
            bottom, top = (T, top) if short > 0.0 else (bottom, T)
        if opens:
            T_next = _opens_to(loop, valve, low, total, resists, slope, along, T)
        else:
            T_next = T + short / (1.0 - total * slope)
        if not bottom < T_next < top:
            outside += 1
            if outside > 2:
                break
            T_next = 0.5 * (bottom + top)
        moved = min(max((T_next - T) / (T - T_before), -1.0), 1.0) if T_before != T else 0.0
        flow = flows.volume_flow
        if n > 0:
            flow = max(flow + moved * (flow - flow_before), 0.2 * flow)
        flow_before = flows.volume_flow
        T_before, T = T, T_next
    return T, np.inf, flows, there
