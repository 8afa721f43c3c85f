"""Where ram, fan and resistance meet: the flow of air through each zone of the core, each warmed by its own heat.

Plain numbers for one candidate in one case; arrays of one entry for each zone of its face.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.airpath.fan import CLUTCH_TAKEN, CLUTCH_TAKES, TURNS
from ebbrin.core.airpath.front_end import HOTTEST_AIR, AirPath, front_recirculation, ram_pressure, zones
from ebbrin.core.base import GRAVITY, FloatArray
from ebbrin.core.compiled import Numbers, compiled, compiled_with_room
from ebbrin.core.media import air
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator import block as blocks
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.block import Inside
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.records import OwnAxis

LEAST_VELOCITY, FASTEST = 1e-6, 200.0  # m/s
LEAST_DRIVE = 1e-9  # Pa; what stands in for nothing, so that its logarithm exists
PRESSURE_RESIDUAL, MOST_PASSES = 1e-6, 60
DRIFT = 200.0  # K; how far mean temperatures may still move, over how far pressures may be apart
FIRST_GUESS = 2.0  # m/s
LONGEST = 4.0  # step of the logarithm of a velocity
SHORT = 1e-5  # of the logarithm of a velocity; what a shorter step brings is noise
COOLS = 0.6  # how the air's rise falls with the logarithm of the flow, over the rise, about
PATIENCE, LATE = (
    12,
    40,
)  # passes after which steps are halved, in case they only swing, and after which less is asked
LATE_RESIDUAL = 1e-5
FILM_GROWTH = 0.35  # how the conductance grows with the logarithm of the flow, about
CORE_GROWTH = 1.5  # how the core's own loss grows with the logarithm of the flow, about
VISCOUS = 0.4  # and by its viscosity with that of the air's temperature, about
LEAST_LEFT, LEAST_LIFT = 0.2, 1.0  # of a resistance that shrinks; K between coolant and air
_LOWEST, _HIGHEST, _FIRST = (float(np.log(v)) for v in (LEAST_VELOCITY, FASTEST, FIRST_GUESS))
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


ROWS = 30
(
    AREA, FAN_OF, CONDENSER, CHARGE, Y, MEAN, MASS, FRESH, INLET, MIDDLE, LEAVING, PASSES, UA, DRIVES, AGAINST, OWN, CORE,
    OFF, RESISTS, SLOPE, LAST_Y, LAST_OFF, RATIO, GIVES, FALLS, THROUGH, RE, LOG_RE, THEN, COOLANT_THEN,
) = range(ROWS)  # fmt: skip
"""Rows of what is worked on, one column for each zone, those beyond the zones of no area. Of the face: area [m²]; which
fan, or pair of fans, pulls through it, -1 for none; 1 where the condenser, and where the charge-air cooler stands ahead,
else 0. Logarithm of the velocity and mean temperature that are looked at [K]. What comes out of a look: mass flow [kg/s];
temperatures of the air ahead, going in, half way and leaving [K]; heat per kelvin over the air ahead, and conductance
[W/K]; what drives the air, what stands against it, how that grows with the logarithm of the velocity, and the core's own part of
it [Pa]; logarithm of the second over the first; what stands against the fans, less ram and buoyancy [Pa]. Slopes learnt,
and the last pass. Then, a column for each fan: ratio of speed, what it adds, how that falls with the logarithm of the flow
[Pa], and its whole flow [kg/s]. The Reynolds number of each zone with its logarithm [-]. And what the last look was at, two
columns: coolant going in, nothing where there was no look, and ambient [K]; the coolant's capacity rate [W/K], and the
resistance from it to the tubes' outside [K/W]."""


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


@compiled_with_room
def room_for(faces: FloatArray) -> FloatArray:
    """Room to work on one of some faces (candidates, 4, zones)."""
    return np.zeros((ROWS, max(faces.shape[2], 2)))


@compiled
def lay(s: FloatArray, face: FloatArray) -> None:
    """Lay a face (4, zones) into the room."""
    for row in range(4):
        for z in range(face.shape[1]):
            s[row, z] = face[row, z]
    s[THEN, 0] = 0.0


@compiled
def copy(s: FloatArray, other: FloatArray) -> None:
    """Lay all that stands in ``s`` into ``other``, room for as many zones."""
    for row in range(s.shape[0]):
        for z in range(s.shape[1]):
            other[row, z] = s[row, z]


@compiled
def begin(s: FloatArray, mean: float) -> None:
    """Stand at where a balance is looked for from nothing, the air in the core at a ``mean`` temperature [K]."""
    for z in range(s.shape[1]):
        s[Y, z] = _FIRST if s[AREA, z] > 0.0 else _LOWEST
        s[MEAN, z] = mean


@compiled
def foresee(block, fan, meets, inside, s):  # type: ignore[no-untyped-def]
    """Move on from the balance that stands in ``s`` to where the air is likely to stand with another coolant or ambient, as
    long as its velocities are much the same: what resists the heat changes by the coolant's share alone, the core stands
    more against warmer air, and a fan gives less to it. It only says where to look."""
    if s[THEN, 0] <= 0.0:
        return
    now, was = inside.hot - meets.ambient, s[THEN, 0] - s[THEN, 1]
    ambient = meets.ambient / s[THEN, 1]
    coolant = inside.resistance + 0.5 / inside.capacity - (s[COOLANT_THEN, 1] + 0.5 / s[COOLANT_THEN, 0])
    for z in range(s.shape[1]):
        if s[AREA, z] <= 0.0:
            continue
        share = s[AREA, z] / block.open_face
        less = 1.0 / max(1.0 + s[PASSES, z] * coolant / share, LEAST_LEFT)
        ahead = s[FRESH, z] - s[THEN, 1]
        if abs(was - ahead) < LEAST_LIFT:
            continue
        grows = less * (now - ahead) / (was - ahead)
        fresh = meets.ambient + ahead
        coldest, hottest = min(fresh, inside.hot), max(fresh, inside.hot)
        mean = min(max(fresh + (s[MIDDLE, z] - s[FRESH, z]) * grows, coldest), hottest)
        behind = min(max(fresh + (s[LEAVING, z] - s[FRESH, z]) * grows, coldest), hottest)
        # At one density the air's flow would stay: what counts is how much warmer it gets than the air outside.
        thinner, thicker = mean / (s[MEAN, z] * ambient) - 1.0, VISCOUS * (mean / s[MEAN, z] - 1.0)
        more, stands = s[CORE, z] * (thinner + thicker), s[OWN, z]
        f = int(s[FAN_OF, z])
        if f >= 0:
            stands += s[FALLS, f]
            if fan.puller > 0.5:
                more += (s[GIVES, f] + s[FALLS, f]) * (behind / (s[LEAVING, z] * ambient) - 1.0)
        s[Y, z] = min(max(s[Y, z] - more / max(stands, LEAST_DRIVE), _LOWEST), _HIGHEST)
        s[MEAN, z] = mean


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
def apart(s: FloatArray) -> float:
    """How far pressures are apart at most after a look, by logarithms [-], each into ``s.off``, or how far mean
    temperatures may still move over DRIFT."""
    most = 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] <= 0.0:
            continue
        s[OFF, z] = np.log(max(s[AGAINST, z], LEAST_DRIVE) / max(s[DRIVES, z], LEAST_DRIVE))
        if s[Y, z] > _LOWEST or s[OFF, z] <= 0.0:
            most = max(most, abs(s[OFF, z]), abs(s[MIDDLE, z] - s[MEAN, z]) / DRIFT)
    return most


@compiled
def damping(passes: int) -> float:
    """What part of a step is taken after so many passes, in case they only swing."""
    return 1.0 if passes < PATIENCE else (0.5 if passes < 2 * PATIENCE else 0.2)


@compiled
def step_of(s: FloatArray, z: int) -> float:
    """What is taken off the logarithm of a zone's velocity by the step that Newton's method has left in ``s.off``."""
    step = min(max(s[OFF, z], -LONGEST), LONGEST)
    return s[Y, z] - min(max(s[Y, z] - step, _LOWEST), _HIGHEST)


@compiled
def move(s: FloatArray, damped: float) -> None:
    """Take the step that Newton's method has left in ``s.off``, or a part of it."""
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            s[Y, z] -= damped * step_of(s, z)
        s[MEAN, z] = s[MIDDLE, z]


@compiled
def to_come(s: FloatArray, open_face: float, inside: Inside) -> float:
    """By about how much the heat to the air [W] will change with the step that Newton's method has left in ``s.off``. How
    what passes grows with the flow comes from the mean difference in temperature; it only says where to look next."""
    gained = 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            passes = s[PASSES, z]
            by_air = 1.0 - passes * open_face / (2.0 * inside.capacity * s[AREA, z])
            grows = max(by_air - (1.0 - FILM_GROWTH) * passes / s[UA, z], 0.0)
            gained += passes * (inside.hot - s[FRESH, z]) * np.expm1(-grows * step_of(s, z))
    return gained


@compiled
def newton(s, learn, known):  # type: ignore[no-untyped-def]
    """Newton's step, into ``s.off``, on the logarithms of all velocities; how density and heat follow the flow is left
    out, which costs a pass or two. A zone with a fan of its own, or none, learns its slope from what the last step
    brought."""
    for f in range(-1, 2):
        served, weighted, pulls = 0, 0.0, 0.0
        for z in range(s.shape[1]):
            if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                served += 1
        if served == 0:
            continue
        if f >= 0 and served > 1:
            # One plenum: (own + falls weight) step = off against, by the formula for a matrix of rank one.
            for z in range(s.shape[1]):
                if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                    weight = s[MASS, z] / s[THROUGH, f]
                    weighted += weight * s[OFF, z] * s[AGAINST, z] / s[OWN, z]
                    pulls += weight / s[OWN, z]
            whole = weighted / (1.0 + s[FALLS, f] * pulls)
            for z in range(s.shape[1]):
                if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                    s[LAST_Y, z], s[LAST_OFF, z] = s[Y, z], s[OFF, z]
                    s[OFF, z] = (s[OFF, z] * s[AGAINST, z] - s[FALLS, f] * whole) / s[OWN, z]
            continue
        for z in range(s.shape[1]):
            if s[FAN_OF, z] != f or s[AREA, z] <= 0.0:
                continue
            own = s[OWN, z] + (s[FALLS, f] if f >= 0 else 0.0)
            assumed = max(own, 1e-300) / s[AGAINST, z]
            if learn:
                moved = s[Y, z] - s[LAST_Y, z]
                if abs(moved) > SHORT:
                    s[SLOPE, z] = (s[OFF, z] - s[LAST_OFF, z]) / moved
            slope = s[SLOPE, z] if (learn or known) and s[SLOPE, z] > 0.0 else assumed
            s[LAST_Y, z], s[LAST_OFF, z] = s[Y, z], s[OFF, z]
            s[SLOPE, z] = min(max(slope, 0.5 * assumed), 3.0 * assumed)
            s[OFF, z] /= s[SLOPE, z]


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
        foresee(block, fan, meets, inside, s)
    else:
        begin(s, 0.5 * (meets.ambient + inside.hot))
    for passes in range(MOST_PASSES):
        look(surface, block, front, fan, curve, meets, inside, s)
        if apart(s) <= (max(tolerance, LATE_RESIDUAL) if passes >= LATE else tolerance):
            break
        newton(s, passes > 1, near)
        move(s, damping(passes))
