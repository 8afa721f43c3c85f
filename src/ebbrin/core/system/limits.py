"""Where the limit lies and how far each case is from it, found by solving again."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath.balance import core_pressure_drop
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.media import air, boiling
from ebbrin.core.roots import bracketed_root, root_among
from ebbrin.core.system.balance import (
    Gains,
    air_demand,
    air_for,
    air_side_of,
    coolant_at,
    demand,
    scaled,
    shed,
)
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import Settled

COLDEST_AMBIENT, AMBIENT_TOLERANCE, SECANT_STEPS = 213.15, 5e-3, 8
SAFE_MARGIN = 6.0  # choice: a case holds with this much between top hose and limit, K
AIR_FACTORS = np.array([0.02, 0.2, 0.7, 1.3, 4.0, 30.0])
"""Multiples of the air that a case gets, between which its need is looked for."""
PROBE = 1.2  # how much air, core or coolant is added to see which would help most
AIR, CORE, COOLANT = 0, 1, 2


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


def ambient_for(system: System, cases: Cases, on: Settled, top_hose: FloatArray) -> AmbientLimit:
    """Ambient [K] at which each case's top hose settles at ``top_hose`` [K], fan on; broadcasts, so that
    several temperatures go through at once.

    With the airflow of ``on`` the heat shed is linear in ambient, which says where to look first.

    References
    ----------
    sae-j819 tests the same question (air-to-boil); here it is solved again, not extrapolated.
    """
    known = top_hose <= system.table_end
    top_hose = np.minimum(top_hose, system.table_end)
    coolant = coolant_at(system, cases, top_hose, on.heat.total, on.coolant.volume_flow)
    air_now = on.air

    def spare(ambient: FloatArray) -> tuple[FloatArray, FloatArray]:
        nonlocal air_now
        hotter = replace(cases, ambient=ambient)
        asked = demand(system, hotter, FULL)
        wanted = asked.total
        # Several ambients may come in one call; an airflow of theirs is no neighbour for a single one.
        close = air_now if air_now.resistance.ndim <= ambient.ndim + 1 else on.air
        air_now = air_for(system, hotter, FULL, wanted, asked.brake_power, near=close)
        heat = shed(system, hotter, top_hose, coolant, air_now, wanted).heat
        # With this airflow heat is linear in ambient: the ambient at which it would be right.
        right = top_hose - (top_hose - ambient) * wanted / np.maximum(heat, 1.0)
        return heat - wanted, np.minimum(np.maximum(right, COLDEST_AMBIENT), top_hose)

    now = shed(system, cases, top_hose, coolant, air_now, on.heat.total).heat
    first = top_hose - (top_hose - cases.ambient) * on.heat.total / np.maximum(now, 1.0)
    at = np.minimum(np.maximum(first, COLDEST_AMBIENT), top_hose - 1.0)
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


@dataclass(frozen=True)
class AirNeed:
    """Airflow that a case needs to stay SAFE_MARGIN under its limit, beside what it gets with the fan on.

    needed, available [m³/s] at ambient density; needed_pressure, available_pressure [Pa] that the core
    takes at those flows; ``found`` False where no amount of air would do.
    """

    needed: FloatArray
    needed_pressure: FloatArray
    available: FloatArray
    available_pressure: FloatArray
    found: BoolArray


def air_need(system: System, cases: Cases, on: Settled, limit: FloatArray) -> AirNeed:
    """Search over a factor on all air velocities; broadcasts."""
    heat, brake = on.heat.total, on.heat.brake_power
    wanted = air_demand(system, cases, FULL, heat, brake)
    target = limit - SAFE_MARGIN
    coolant = coolant_at(system, cases, target, heat, on.coolant.volume_flow)

    def spare(log_factor: FloatArray) -> FloatArray:
        side = air_side_of(system, scaled(system, wanted, on.air.flow, np.exp(log_factor)))
        return shed(system, cases, target, coolant, side, heat).heat / heat - 1.0

    shape = np.broadcast_shapes(on.top_hose.shape, target.shape)
    knots = np.log(AIR_FACTORS).reshape(-1, *(1 for _ in shape))
    root = root_among(spare, np.broadcast_to(knots, (len(AIR_FACTORS), *shape)), 1e-5, 1e-5)
    flow = scaled(system, wanted, on.air.flow, np.exp(root.x))
    needed_drop = core_pressure_drop(system.surface, flow, wanted.pressure)
    drop = core_pressure_drop(system.surface, on.air.flow, wanted.pressure)
    # Where even the least factor suffices, that least is the honest upper bound of the need.
    enough = ~root.bracketed & (root.x <= knots[0])
    return AirNeed(
        flow.volume_flow,
        needed_drop.max(-1),
        on.air.flow.volume_flow,
        drop.max(-1),
        root.bracketed | enough,
    )


@dataclass(frozen=True)
class Bottleneck:
    """Share of extra heat that PROBE times more air, core or coolant flow would shed at the limit
    temperature [-], along a leading axis in that order, and the greatest of them."""

    gains: FloatArray
    cause: IntArray


def bottleneck(system: System, cases: Cases, on: Settled, limit: FloatArray) -> Bottleneck:
    """What holds each case back, by shedding again at the limit with one thing at a time enlarged."""
    heat = on.heat.total
    coolant = coolant_at(system, cases, limit, heat, on.coolant.volume_flow)
    wanted = air_demand(system, cases, FULL, heat, on.heat.brake_power)
    more = air_side_of(system, scaled(system, wanted, on.air.flow, PROBE))
    base = shed(system, cases, limit, coolant, on.air, heat).heat
    probes = (
        shed(system, cases, limit, coolant, more, heat),
        shed(system, cases, limit, coolant, on.air, heat, Gains(core=PROBE)),
        shed(system, cases, limit, coolant, on.air, heat, Gains(coolant=PROBE)),
    )
    gains = np.stack([probe.heat / base - 1.0 for probe in probes])
    return Bottleneck(gains, np.argmax(gains, axis=0))
