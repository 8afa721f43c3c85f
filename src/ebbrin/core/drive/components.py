"""What the components do at a step of a drive: the steady state's own functions, asked for the coolant, the lift and the
fan of that step. Coolant and air are looked for from where they stood at the step before.
"""

from __future__ import annotations

from typing import NamedTuple

from ebbrin.core.airpath import balance as airpath
from ebbrin.core.airpath.room import AREA, FRESH, PASSES, RATIO, UA
from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit.flow import Flows
from ebbrin.core.compiled import Numbers, compiled
from ebbrin.core.media.coolants import TABLE_LOW, properties_at
from ebbrin.core.system.balance import Stand, heater_at, inside_at
from ebbrin.core.system.demand import demand_at
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts

ABOVE_AIR = 5.0  # K
RESIDUAL = 1e-4  # of the air's pressures
SEGMENTS = 12
"""Parts of the core along its coolant."""
ALL_BUT_STANDING = 1e-2
"""Share of its heat that coolant keeps on its way through the core, below which it counts as standing there."""


class Components(NamedTuple):
    """What the components do, numbers: flow through radiator, bypass and heater [kg/s], and through the radiator [m³/s];
    capacity rate of the coolant through the core; conductance of each of SEGMENTS parts of the core, one behind the other
    along the coolant, that together shed what the core does [W/K]; the air ahead of the core [K]; heat that the heater
    takes for each kelvin of the coolant above the air [W/K]; heat from the engine and from the gearbox with a fan's clutch
    as that air lets it stand [W]."""

    radiator_flow: float
    bypass_flow: float
    heater_flow: float
    volume_flow: float
    capacity: float
    segment: float
    air: float
    heater: float
    engine: float
    gearbox: float


@compiled
def within(parts: Parts, temperature: float) -> float:
    """A temperature [K] no further than the coolant's tables go: what holds at their end holds beyond."""
    return min(max(temperature, TABLE_LOW), parts.marks.table_end)


@compiled
def flows_at(
    parts: Parts, case: CaseNumbers, column: Numbers, most: float, coolant: float, lift: float, near: float
) -> Flows:
    """Flow of a ``coolant`` [K] with the thermostat at a ``lift`` [-], looked for from ``near`` [m³/s], 0 where none is
    known. Without a pump what rises is taken for the heat ``most`` [W]."""
    fluid = properties_at(column, coolant)
    rises = circuit.buoyancy_at(parts.loop, fluid, coolant, most, case.ambient)
    return circuit.at_lift_at(parts.loop, parts.tubes, column, fluid, lift, case.crank_speed, near, rises)


@compiled
def components_at(
    parts: Parts,
    case: CaseNumbers,
    packed: Packed,
    c: int,
    stand: Stand,
    most: float,
    coolant: float,
    lift: float,
    flow: float,
    s: FloatArray,
    near: bool,
) -> Components:
    """What the components do where a step stands, ``most`` being the heat sent with the fan at its fastest [W], with the
    ``coolant`` [K] leaving the engine and the thermostat at a ``lift`` [-]; the air from what stands in ``s`` where that is
    ``near``."""
    column, curve = packed.columns[packed.column_of[c]], packed.curves[packed.curve_of[c]]
    block, meets = parts.block, stand.meets
    flows = flows_at(parts, case, column, most, coolant, lift, flow)
    # Where the coolant is colder than the air, the core's films are taken as just above it.
    hot = max(coolant, case.ambient + ABOVE_AIR)
    inside, _, _ = inside_at(parts, column, case, hot, flows.mass_flow, stand.total, 1.0)
    airpath.solve(parts.surface, block, parts.front, parts.fan, curve, meets, inside, s, near, RESIDUAL)
    passes, warmed, conductance = 0.0, 0.0, 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            passes += s[PASSES, z]
            warmed += s[PASSES, z] * s[FRESH, z]
            conductance += s[UA, z]
    heat_capacity = properties_at(column, coolant).heat_capacity
    sent = stand.sent
    if parts.fan.clutch > 0.5:
        sent = demand_at(parts, case, s[RATIO, 0], s[RATIO, 1])
    return Components(
        flows.mass_flow,
        flows.bypass_mass,
        flows.heater_mass,
        flows.volume_flow,
        inside.capacity,
        _segment(inside.capacity, passes, conductance),
        warmed / passes,
        heater_at(parts.loop, case, case.ambient + 1.0, flows.heater_mass, heat_capacity),
        sent[0],
        sent[1],
    )


@compiled
def _segment(capacity: float, passes: float, conductance: float) -> float:
    """Conductance of each segment [W/K], from the coolant's capacity rate, what the whole sheds per kelvin between its
    inlets, and its UA [W/K]. Coolant that all but stands takes on the air's warmth by the UA alone."""
    kept = max(1.0 - passes / max(capacity, 1e-12), 1e-12)
    flowing = capacity * (kept ** (-1.0 / SEGMENTS) - 1.0)
    return max(flowing, conductance / SEGMENTS) if kept < ALL_BUT_STANDING else flowing
