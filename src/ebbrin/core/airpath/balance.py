"""Where ram, fan and resistance meet: the flow of air through each zone of the core, each warmed by its own heat.

Plain numbers for one candidate in one case; arrays of one entry for each zone of its face.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath import steps
from ebbrin.core.airpath.fan import CLUTCH_TAKEN, CLUTCH_TAKES, TURNS
from ebbrin.core.airpath.front_end import HOTTEST_AIR, AirPath, front_recirculation, ram_pressure, zones
from ebbrin.core.airpath.room import (
    AGAINST,
    AREA,
    CHARGE,
    CONDENSER,
    COOLANT_THEN,
    CORE,
    DRIVES,
    FALLS,
    FAN_OF,
    FRESH,
    GIVES,
    INLET,
    LEAVING,
    LOG_RE,
    MASS,
    MEAN,
    MIDDLE,
    OWN,
    PASSES,
    RATIO,
    RE,
    RESISTS,
    THEN,
    THROUGH,
    UA,
    Y,
)
from ebbrin.core.base import GRAVITY, FloatArray
from ebbrin.core.compiled import Numbers, compiled
from ebbrin.core.media import air
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator import block as blocks
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.records import OwnAxis

PRESSURE_RESIDUAL, MOST_PASSES = 1e-6, 60
COOLS = 0.6  # how the air's rise falls with the logarithm of the flow, over the rise, about
LATE, LATE_RESIDUAL = 40, 1e-5  # passes after which less is asked, and how much
CORE_GROWTH = 1.5  # how the core's own loss grows with the logarithm of the flow, about
_HEAT_CAPACITY = air.HEAT_CAPACITY


@dataclass(frozen=True)
class Airflow:
    """Air through the core; the last axis of (..., zones) arrays runs from the fans outwards.

    velocity [m/s] over the open face of a zone at ambient density; area [m²]; mass_flow [kg/s]; fresh [K] air ahead
    of the core but for what its own heat brings round the front; mean [K] in the core; leaving [K]; per_kelvin
    [W/K] heat for each kelvin between coolant and fresh air, what comes round included; resistance [Pa] what stands
    against the fans, less what ram and buoyancy give; fan_ratio (..., fans) speed over reference speed [-];
    fan_pressure (..., fans) what the fans add [Pa]; ambient_density [kg/m³] (...).
    """

    velocity: OwnAxis
    area: OwnAxis
    mass_flow: OwnAxis
    fresh: OwnAxis
    mean: OwnAxis
    leaving: OwnAxis
    per_kelvin: OwnAxis
    resistance: OwnAxis
    fan_ratio: OwnAxis
    fan_pressure: OwnAxis
    ambient_density: FloatArray

    @property
    def volume_flow(self) -> FloatArray:
        """Through the whole core at ambient density [m³/s]."""
        return np.asarray((self.velocity * self.area).sum(-1))

    @property
    def total_mass_flow(self) -> FloatArray:
        """Through the whole core [kg/s]."""
        return np.asarray(self.mass_flow.sum(-1))


def core_pressure_drop(surface: Surface, flow: Airflow, pressure: FloatArray) -> FloatArray:
    """(..., zones) pressure that the core takes in each zone [Pa]."""
    zoned = Surface(*(np.asarray(v)[..., None] for v in surface))
    G = flow.velocity * flow.ambient_density[..., None]
    density = air.density(flow.mean, pressure[..., None])
    return air_side.pressure_drop(zoned, G, flow.mean, density)


class Front(NamedTuple):
    """Front end and shroud, (...) arrays, numbers in compiled code: fields of ``AirPath``, and whether the air gets past
    fans that would resist it."""

    ram: Numbers
    front_loss: Numbers
    exit_loss: Numbers
    condenser_loss: Numbers
    charge_loss: Numbers
    recirculation_at_rest: Numbers
    free_of_stopped: Numbers
    blade_recirculation: Numbers


def front(path: AirPath) -> Front:
    """The front end of an air path."""
    return Front(
        path.ram,
        path.front_loss,
        path.exit_loss,
        path.condenser_loss,
        path.charge_loss,
        path.recirculation_at_rest,
        path.free_of_stopped,
        path.blade_recirculation,
    )


def face(path: AirPath, core: Core, shape: tuple[int, ...]) -> FloatArray:
    """(candidates, 4, zones) rows AREA to CHARGE for candidates of a ``shape``, flat; at least two zones."""
    cut = zones(path, core)
    count = cut.area.shape[-1]
    fan_of = np.where(cut.serves.any(-1), cut.serves.argmax(-1), -1)
    values = (cut.area, fan_of, cut.condenser, cut.charge)
    out = np.empty((int(np.prod(shape)), 4, count))
    for row, value in enumerate(values):
        out[:, row] = np.broadcast_to(value, (*shape, count)).reshape(-1, count)
    return out


class Meets(NamedTuple):
    """What the air meets in one case, numbers: ambient [K], pressure [Pa] and density [kg/m³] of the air outside, what
    comes round the front over what does not [-], ram pressure [Pa], heat of condenser and charge-air cooler [W], speed
    ratios of both fan zones with the clutch free and engaged, and the most that a clutch drives [-]."""

    ambient: float
    pressure: float
    density: float
    comes_round: float
    ram: float
    condenser: float
    charge: float
    free_first: float
    engaged_first: float
    free_second: float
    engaged_second: float
    most: float


@compiled
def met(front: Numbers, fan: Numbers, case: Numbers, stage: int, condenser: float, charge: float) -> Meets:
    """What the air meets in a ``case`` with the fans at a ``stage``."""
    density = air.density_at(case.ambient, case.pressure)
    r = front_recirculation(front.recirculation_at_rest, case.speed)
    first = fans.turns(fan, fan.low_first, stage, case.crank_speed)
    second = fans.turns(fan, fan.low_second, stage, case.crank_speed)
    return Meets(
        case.ambient,
        case.pressure,
        density,
        r / (1.0 - r),
        ram_pressure(front.ram, case.speed, case.headwind, density),
        condenser,
        charge,
        first[0],
        first[1],
        second[0],
        second[1],
        fans.clutch_slips(fan),
    )


@compiled
def heats(surface, block, meets, inside, s):  # type: ignore[no-untyped-def]
    """Flows, heat and temperatures of all zones."""
    s[THEN, 0], s[THEN, 1] = inside.hot, meets.ambient
    s[COOLANT_THEN, 0], s[COOLANT_THEN, 1] = inside.capacity, inside.resistance
    cooled, charged = 0.0, 0.0
    for z in range(s.shape[1]):
        s[MASS, z] = np.exp(s[Y, z]) * meets.density * s[AREA, z]
        cooled += s[MASS, z] * s[CONDENSER, z]
        charged += s[MASS, z] * s[CHARGE, z]
    by_condenser = meets.condenser / (max(cooled, 1e-9) * _HEAT_CAPACITY)
    by_charge = meets.charge / (max(charged, 1e-9) * _HEAT_CAPACITY)
    for z in range(s.shape[1]):
        ahead = (s[CONDENSER, z] * by_condenser + s[CHARGE, z] * by_charge) * (1.0 + meets.comes_round)
        fresh = min(meets.ambient + ahead, HOTTEST_AIR)
        s[FRESH, z] = fresh
        if s[AREA, z] <= 0.0:
            s[MIDDLE, z], s[INLET, z], s[LEAVING, z], s[PASSES, z], s[UA, z] = fresh, fresh, fresh, 0.0, 0.0
            continue
        G = s[MASS, z] / s[AREA, z]
        capacity = s[MASS, z] * _HEAT_CAPACITY
        share = s[AREA, z] / block.open_face
        Re = air_side.reynolds(surface, G, s[MEAN, z])
        log_Re = np.log(max(Re, 1e-9))
        conductance = blocks.conductance(surface, block, inside, G, share, log_Re)
        passes = blocks.heat_per_kelvin(block, inside, conductance, capacity, share)
        # What comes round warms the air ahead, so that less passes for each kelvin over the fresh air.
        passes /= 1.0 + passes * meets.comes_round / capacity
        rise = passes * (inside.hot - fresh) / capacity
        inlet = fresh + meets.comes_round * rise
        s[RE, z], s[LOG_RE, z], s[UA, z], s[PASSES, z] = Re, log_Re, conductance, passes
        s[INLET, z], s[MIDDLE, z], s[LEAVING, z] = inlet, inlet + 0.5 * rise, inlet + rise


@compiled
def _pressures(surface, block, front, meets, s):  # type: ignore[no-untyped-def]
    """What drives the air of all zones and what stands against it, without the fans."""
    lift = GRAVITY * block.height
    for z in range(s.shape[1]):
        if s[AREA, z] <= 0.0:
            s[DRIVES, z], s[AGAINST, z], s[OWN, z], s[CORE, z], s[RESISTS, z] = 1.0, 1.0, 1.0, 0.0, 0.0
            continue
        G = s[MASS, z] / s[AREA, z]
        density = air.density_at(s[MIDDLE, z], meets.pressure)
        core = air_side.loss_at(surface, G, s[RE, z], s[LOG_RE, z], density)
        losses = front.front_loss + front.exit_loss
        losses += front.condenser_loss * s[CONDENSER, z] + front.charge_loss * s[CHARGE, z]
        heads = 0.5 * losses * G * G / meets.density
        s[DRIVES, z] = meets.ram + (meets.density - air.density_at(s[LEAVING, z], meets.pressure)) * lift
        s[CORE, z], s[AGAINST, z] = core, core + heads
        s[OWN, z] = CORE_GROWTH * core + 2.0 * heads
        s[RESISTS, z] = s[AGAINST, z] - s[DRIVES, z]


@compiled
def _fans(front, fan, curve, meets, s):  # type: ignore[no-untyped-def]
    """What the fans add to all zones that they serve, at the flow that these have together."""
    s[RATIO, 0], s[RATIO, 1] = meets.free_first, meets.free_second
    for f in range(2):
        s[GIVES, f] = s[FALLS, f] = s[THROUGH, f] = 0.0
        number = fan.first if f == 0 else fan.second
        if fan.fitted < 0.5 or number <= 0.0:
            continue
        total, warm, cool = 0.0, 0.0, 0.0
        for z in range(s.shape[1]):
            if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                total += s[MASS, z]
                warm += s[MASS, z] * s[LEAVING, z]
                cool += s[MASS, z] * s[INLET, z]
        if total <= 0.0:
            continue
        s[THROUGH, f] = total
        behind, ahead = warm / total, cool / total
        free = meets.free_first if f == 0 else meets.free_second
        engaged = meets.engaged_first if f == 0 else meets.engaged_second
        ratio = fans.ratio_at(free, engaged, meets.most, behind) if free != engaged else free
        s[RATIO, f] = ratio
        blades = air.density_at(behind if fan.puller > 0.5 else ahead, meets.pressure)
        back = front.blade_recirculation if ratio > TURNS else 0.0
        each = total / blades / number / (1.0 - back)
        gives, still, falls = fans.rise_at(fan, curve, each, ratio, blades)
        if front.free_of_stopped > 0.5 and gives < 0.0:
            gives, falls = 0.0, 0.0
        if free != engaged and CLUTCH_TAKES < behind < CLUTCH_TAKEN and ratio < meets.most:
            # More air is cooler air, which lets the clutch go: a fan that falls all the faster.
            grows = (2.0 * gives + falls) / max(ratio, TURNS)
            per_kelvin = (engaged - free) / (CLUTCH_TAKEN - CLUTCH_TAKES)
            falls += max(grows * per_kelvin * COOLS * (behind - ahead), 0.0)
        s[GIVES, f], s[FALLS, f] = gives, falls
        for z in range(s.shape[1]):
            if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                s[DRIVES, z] += still
                s[AGAINST, z] += still - gives


@compiled
def look(surface, block, front, fan, curve, meets, inside, s):  # type: ignore[no-untyped-def]
    """One look at all zones at the velocities and mean temperatures that stand in ``s``: flow and heat that go with
    them, what drives each zone and what stands against it."""
    heats(surface, block, meets, inside, s)
    _pressures(surface, block, front, meets, s)
    _fans(front, fan, curve, meets, s)


@compiled
def solve(surface, block, front, fan, curve, meets, inside, s, near, tolerance):  # type: ignore[no-untyped-def]
    """Air through each zone and the heat that it takes there, left in ``s``; ``near`` where what stands in it is a
    neighbour's, to start from. Pressures meet to a ``tolerance`` [-], PRESSURE_RESIDUAL for an answer.

    Each zone balances on its own between the same front and rear pressure, with no backflow: ram + buoyancy + fan =
    front + exchangers ahead + core + exit; a fan over several zones has one plenum and their sum of flow. Newton's
    method on the logarithms of what drives and of what stands against it, which are all but straight in that of
    velocity; heat and temperatures follow in each pass.

    References
    ----------
    The balance and its coefficients are choices; its parts name their own sources.
    """
    if near:
        steps.foresee(block, fan, meets, inside, s)
    else:
        steps.begin(s, 0.5 * (meets.ambient + inside.hot))
    for passes in range(MOST_PASSES):
        look(surface, block, front, fan, curve, meets, inside, s)
        if steps.apart(s) <= (max(tolerance, LATE_RESIDUAL) if passes >= LATE else tolerance):
            break
        steps.newton(s, passes > 1, near)
        steps.move(s, steps.damping(passes))
