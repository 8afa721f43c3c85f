"""Where the limit lies and how far each case is from it, found by solving again."""

from __future__ import annotations

from copy import copy
from dataclasses import dataclass, replace
from enum import IntEnum

import numpy as np

from ebbrin.core.airpath.balance import Airflow, core_pressure_drop
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.media import air, boiling
from ebbrin.core.records import changed
from ebbrin.core.roots import bracketed_root, root_among
from ebbrin.core.system import timed
from ebbrin.core.system.balance import Gains, Shed, coolant_at, demand, full_demand, shed, shed_with_air
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import Settled, stage_below

COLDEST_AMBIENT, AMBIENT_TOLERANCE, SECANT_STEPS = 213.15, 5e-3, 8
SAFE_MARGIN = 6.0  # choice: below what counts as room to spare where a margin is asked for, K
AIR_FACTORS = np.array([0.02, 0.2, 0.7, 1.3, 4.0, 30.0])
"""Multiples of the air that a case gets, between which its need is looked for."""
FASTEST_FACE = 12.0  # choice: no fan pushes air through a core faster, m/s


def boiling_temperature(system: System, cases: Cases, gauge: ArrayLike) -> FloatArray:
    """Boiling temperature [K] in each case at ``gauge`` pressure [Pa] and the case's altitude."""
    pressure = air.standard_pressure(cases.altitude) + np.asarray(gauge)
    return boiling.boiling_temperature(pressure, system.coolant)


def limit_temperature(system: System, boils: FloatArray) -> FloatArray:
    """Highest allowed top hose [K]: the stated limit, or boiling under the cap less the margin."""
    return np.minimum(system.limits.top_hose, boils - system.limits.boiling_margin)


@dataclass(frozen=True)
class AmbientLimit:
    """Air temperature [K] at which the top hose reaches a temperature; ``found`` is False where not even
    -60 °C would do, or the temperature lies beyond the property tables; the value is then that floor."""

    ambient: FloatArray
    found: BoolArray


def ambient_for(system: System, cases: Cases, near: Settled, top_hose: FloatArray) -> AmbientLimit:
    """Lowest ambient [K] at which each case's top hose reaches ``top_hose`` [K]; broadcasts, so that several
    temperatures go through at once.

    The fan stands as its switch leaves it at that temperature: one whose on-point lies above it rests. ``near`` is
    where the search begins. With an airflow held the heat shed is linear in ambient, which says where to look.

    References
    ----------
    sae-j819 tests the same question (air-to-boil); here it is solved again, not extrapolated.
    """
    known = top_hose <= system.table_end
    top_hose = np.minimum(top_hose, system.table_end)
    stage = stage_below(system, cases, top_hose)
    air_now = near.shed.air
    coolant = coolant_at(system, cases, top_hose, near.heat.total, near.shed.coolant.volume_flow)
    # A bulb in its pocket feels the air, and coolant that rises by itself the heat.
    feels_air = bool(np.any(system.circuit.thermostat.at_inlet | (system.circuit.pump.siphon > 0.0)))

    def spare(ambient: FloatArray) -> tuple[FloatArray, FloatArray]:
        nonlocal air_now
        hotter = replace(cases, ambient=ambient)
        # Several ambients may come in one call; an airflow of theirs is no neighbour for a single one.
        close = air_now if air_now.velocity.ndim <= ambient.ndim + 1 else near.shed.air
        wanted = full_demand(system, hotter, stage).total
        flow = coolant_at(system, hotter, top_hose, wanted, coolant.volume_flow) if feels_air else coolant
        there = shed(system, hotter, stage, top_hose, flow, wanted, close)
        air_now = there.air
        wanted = demand(system, hotter, air_now.fan_ratio).total
        # With this airflow heat is linear in ambient: the ambient at which it would be right.
        right = top_hose - (top_hose - ambient) * wanted / np.maximum(there.heat, 1.0)
        return there.heat - wanted, np.minimum(np.maximum(right, COLDEST_AMBIENT), top_hose)

    at = np.broadcast_to(np.minimum(cases.ambient, top_hose - 1.0), top_hose.shape)
    previous: tuple[FloatArray, FloatArray] | None = None
    for _ in range(SECANT_STEPS):
        excess, right = spare(at)
        off = right - at
        inside = (at > COLDEST_AMBIENT) & (at < top_hose)
        if np.all(~known | ((np.abs(off) <= AMBIENT_TOLERANCE) & (inside | (excess < 0.0)))):
            return AmbientLimit(np.where(known & inside, at, COLDEST_AMBIENT), known & inside)
        step = off
        if previous is not None:
            # What is right moves less than where one looks, so the secant is safe.
            bend = (off - previous[1]) / np.where(at == previous[0], 1.0, at - previous[0])
            step = off / np.minimum(np.maximum(-bend, 0.3), 3.0)
        previous = at, off
        at = np.minimum(np.maximum(at + step, COLDEST_AMBIENT), top_hose)
    low = np.full(top_hose.shape, COLDEST_AMBIENT)
    root = bracketed_root(lambda ambient: spare(ambient)[0], low, top_hose, AMBIENT_TOLERANCE)
    found = root.bracketed & known
    return AmbientLimit(np.where(found, root.x, COLDEST_AMBIENT), found)


class Cause(IntEnum):
    """What holds a case back: the single change that would bring it to its limit with the least of it; the air
    that enters the core being hotter than the limit already; a thermostat that is not wide open there, though wide
    open it would do; a fan that does not run fully there, though running it would do; or none of these alone."""

    AIR = 0
    CORE = 1
    COOLANT = 2
    INLET_AIR = 3
    NO_SINGLE = 4
    THERMOSTAT = 5
    FAN_SWITCH = 6


OPEN_BY_THEN = 150.0  # by how much sooner a thermostat opens that is taken to be wide open, K
MOST_CHANGE = 6.0  # how many times more of air, core or coolant flow is looked at


@dataclass(frozen=True)
class AirNeed:
    """Airflow that a case needs, beside what it gets with the fan on.

    needed, available [m³/s] at ambient density; needed_pressure, available_pressure [Pa] that the core
    takes at those flows; ``found`` False where no airflow would do, or only one faster than FASTEST_FACE.
    """

    needed: FloatArray
    needed_pressure: FloatArray
    available: FloatArray
    available_pressure: FloatArray
    found: BoolArray


class Limited:
    """Cases at their limit: how much of what they are asked is met there, for any air, core and coolant flow. A timed
    case is met where its end stays below the limit.

    Parameters
    ----------
    wanted : (cases,) float array, what must be spare for a case to be met [-], as ``chance.Estimate.wanted`` says.
    """

    def __init__(
        self, system: System, cases: Cases, near: Settled, limit: FloatArray, wanted: ArrayLike = 0.0
    ) -> None:
        self.system, self.near, self.limit = system, near, np.minimum(limit, system.table_end)
        self.cases, self.wanted = cases, np.asarray(wanted)
        self.heat = full_demand(system, self.cases, FULL).total
        self.coolant = coolant_at(system, self.cases, self.limit, self.heat, near.shed.coolant.volume_flow)
        self.there: Shed = shed(system, self.cases, FULL, self.limit, self.coolant, self.heat, near.shed.air)
        self.sent = demand(system, self.cases, self.there.air.fan_ratio).total
        self.timed = np.flatnonzero(np.isfinite(cases.duration))
        self.way = None
        if self.timed.size:
            few, limit = self.cases.taken(self.timed), self.limit[..., self.timed]
            self.way = timed.way(system, few, limit)

    def wanting(self, wanted: ArrayLike) -> Limited:
        """The same where so much must be spare."""
        other = copy(self)
        other.wanted = np.asarray(wanted)
        return other

    @property
    def air(self) -> Airflow:
        """The air with the fan at full."""
        return self.there.air

    def shed(self, air: ArrayLike = 1.0, core: ArrayLike = 1.0, coolant: ArrayLike = 1.0) -> Shed:
        """What is shed at the limit with some times the air, core surface or coolant flow."""
        velocity = self.air.velocity * np.asarray(air)[..., None]
        gains = Gains(core, coolant)
        return shed_with_air(
            self.system, self.cases, FULL, self.limit, self.coolant, self.heat, velocity, self.air.mean, gains
        )

    def spare(self, **factors: FloatArray) -> FloatArray:
        """Below nothing where a case is short with some times the ``air``, ``core`` or ``coolant``: logarithm of heat
        shed over demand at the limit, for a timed case the room that is left at its end, less what is wanted."""
        there = self.shed(**factors)
        out = np.log(np.maximum(there.heat, 1e-6) / self.sent)
        if self.way is None:
            return np.asarray(out - self.wanted)
        way, shape = self.way, np.broadcast_shapes(out.shape, *(np.shape(f) for f in factors.values()))
        out = np.array(np.broadcast_to(out, shape))
        # The way's points come behind the axes of the factors, ahead of those of the system.
        ahead = len(shape) - (way.T.ndim - 1)
        some = {
            name: np.expand_dims(np.broadcast_to(f, shape)[..., self.timed], ahead)
            for name, f in factors.items()
        }
        velocity = way.there.air.velocity * np.asarray(some.get("air", 1.0))[..., None]
        gains = Gains(some.get("core", 1.0), some.get("coolant", 1.0))
        probe = shed_with_air(
            self.system,
            way.cases,
            way.stage,
            way.T,
            way.there.coolant,
            way.heat,
            velocity,
            way.there.air.mean,
            gains,
        )
        out[..., self.timed] = timed.room(way, probe)
        return np.asarray(out - self.wanted)


def air_need(at: Limited, on: Settled, pressure: FloatArray) -> AirNeed:
    """The least air that keeps each case at its limit, by a factor on all air velocities; broadcasts.

    Parameters
    ----------
    on : the cases with the fan at full, whose air is what there is.
    pressure : (cases,) float array, of the air [Pa].
    """
    shape = at.limit.shape
    log_factors = np.log(AIR_FACTORS).reshape(-1, *(1 for _ in shape))
    # More air is looked for where a case is short, also where less of it would warm a bulb and open its valve.
    knots = np.where(at.spare() < 0.0, np.maximum(log_factors, 0.0), log_factors)
    root = root_among(lambda log_factor: at.spare(air=np.exp(log_factor)), knots, 1e-4, 1e-5)
    have, factor = on.shed.air, np.exp(root.x)
    needed = replace(have, velocity=have.velocity * factor[..., None])
    # Where even the least factor suffices, that least is the honest upper bound of the need.
    enough = ~root.bracketed & (at.spare(air=np.exp(knots[0])) >= 0.0)
    # The fastest zone says whether a fan could: it is the one that fans pull through.
    possible = needed.velocity.max(-1) <= FASTEST_FACE
    surface = at.system.surface
    return AirNeed(
        needed.volume_flow,
        core_pressure_drop(surface, needed, pressure).max(-1),
        have.volume_flow,
        core_pressure_drop(surface, have, pressure).max(-1),
        (root.bracketed | enough) & possible,
    )


@dataclass(frozen=True)
class Bottleneck:
    """How many times more air, core surface or coolant flow alone would bring each case to its limit [-], along a
    leading axis in that order, inf where not even MOST_CHANGE does; and the cause by that."""

    factors: FloatArray
    cause: IntArray


def bottleneck(at: Limited) -> Bottleneck:
    """What holds each case back, by shedding again at the limit with one thing at a time enlarged; no air faster
    than FASTEST_FACE."""
    shape = at.limit.shape
    ends = np.log(np.array([1.0 / MOST_CHANGE, 1.0, MOST_CHANGE])).reshape(
        -1, *(1 for _ in range(len(shape) + 1))
    )
    ends = np.where(at.spare() < 0.0, np.maximum(ends, 0.0), ends)

    def spare(y: FloatArray) -> FloatArray:
        one = np.eye(3).reshape(3, 3, *(1 for _ in shape))  # each kind enlarged alone
        air, core, coolant = (np.exp(y * one[k]) for k in range(3))
        return at.spare(air=air, core=core, coolant=coolant)

    ends = np.broadcast_to(ends, (3, 3, *shape))
    root = root_among(spare, ends, 1e-3, 1e-3)
    too_much = ~root.bracketed & (spare(ends[0]) >= 0.0)
    factors = np.where(root.bracketed, np.exp(root.x), np.where(too_much, 1.0 / MOST_CHANGE, np.inf))
    with np.errstate(invalid="ignore"):
        too_fast = factors[Cause.AIR] * at.air.velocity.max(-1) > FASTEST_FACE
    factors[Cause.AIR] = np.where(too_fast, np.inf, factors[Cause.AIR])
    # Of what a case has too much, the least goes furthest too: the one that may shrink least.
    cause = np.argmin(factors, axis=0)
    holds = np.isfinite(factors).all(0) & (factors <= 1.0).all(0)
    cause = np.where(holds, np.argmax(factors, axis=0), cause)
    cause = np.where(np.isfinite(factors).any(0), cause, Cause.NO_SINGLE)
    hot = (at.air.fresh >= at.limit[..., None]).all(-1)
    cause = np.where(hot, Cause.INLET_AIR, cause)
    shut = (at.coolant.lift < 1.0) & (at.spare() < 0.0)
    if np.any(shut):
        valve = at.system.circuit.thermostat
        open_ = changed(at.system, "circuit.thermostat.opens", valve.opens - OPEN_BY_THEN)
        wide = Limited(open_, at.cases, at.near, at.limit, at.wanted)
        cause = np.where(shut & (wide.spare() >= 0.0), Cause.THERMOSTAT, cause)
    return Bottleneck(factors, cause)
