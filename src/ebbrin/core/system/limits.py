"""Where the limit lies and how far each case is from it, found by solving again."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath.balance import core_pressure_drop
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray
from ebbrin.core.media import air, boiling
from ebbrin.core.media.coolants import TABLE_END, water_mole_fraction
from ebbrin.core.roots import bracketed_root
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

COLDEST_AMBIENT, AMBIENT_TOLERANCE = 213.15, 5e-3
SAFE_MARGIN = 6.0  # choice: a case holds with this much between top hose and limit, K
AIR_FACTOR_LOW, AIR_FACTOR_HIGH = 0.02, 30.0
PROBE = 1.2  # how much air, core or coolant is added to see which would help most
AIR, CORE, COOLANT = 0, 1, 2


def boiling_temperature(system: System, cases: Cases, gauge: ArrayLike) -> FloatArray:
    """Boiling temperature [K] in each case at ``gauge`` pressure [Pa] and the case's altitude."""
    pressure = air.standard_pressure(cases.altitude) + np.asarray(gauge)
    return boiling.boiling_temperature(pressure, water_mole_fraction(system.coolant))


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
    known = top_hose <= TABLE_END
    top_hose = np.minimum(top_hose, TABLE_END)
    coolant = coolant_at(system, cases, top_hose)
    air_now = on.air

    def spare(ambient: FloatArray) -> tuple[FloatArray, FloatArray]:
        nonlocal air_now
        hotter = replace(cases, ambient=ambient)
        wanted = demand(system, hotter, True).total
        # Several ambients may come in one call; an airflow of theirs is no neighbour for a single one.
        close = air_now if air_now.film.ndim <= ambient.ndim + 1 else on.air
        air_now = air_for(system, hotter, True, wanted, near=close)
        heat = shed(system, top_hose, coolant, air_now, wanted, ambient).heat
        # With this airflow heat is linear in ambient: the ambient at which it would be right.
        right = top_hose - (top_hose - ambient) * wanted / np.maximum(heat, 1.0)
        return heat - wanted, np.minimum(np.maximum(right, COLDEST_AMBIENT), top_hose)

    now = shed(system, top_hose, coolant, air_now, on.heat.total, cases.ambient).heat
    first = top_hose - (top_hose - cases.ambient) * on.heat.total / np.maximum(now, 1.0)
    first = np.minimum(np.maximum(first, COLDEST_AMBIENT), top_hose - 1.0)
    second = spare(first)[1]
    third = spare(second)[1]
    # Each step is about the same small share of the one before (Aitken).
    bend = (third - second) - (second - first)
    guess = third - np.where(
        np.abs(bend) > 1e-9, (third - second) ** 2 / np.where(bend == 0.0, 1.0, bend), 0.0
    )
    guess = np.minimum(np.maximum(guess, COLDEST_AMBIENT), top_hose)
    excess, right = spare(guess)
    inside = (guess > COLDEST_AMBIENT) & (guess < top_hose)
    if np.all((np.abs(right - guess) <= AMBIENT_TOLERANCE) & (inside | (excess < 0.0))):
        return AmbientLimit(np.where(known & inside, guess, COLDEST_AMBIENT), known & inside)
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
    wanted = air_demand(system, cases, True, on.heat.total)
    target = limit - SAFE_MARGIN
    coolant = coolant_at(system, cases, target)

    def spare(log_factor: FloatArray) -> FloatArray:
        side = air_side_of(system, scaled(system, wanted, on.air.flow, np.exp(log_factor)))
        return shed(system, target, coolant, side, on.heat.total, cases.ambient).heat - on.heat.total

    shape = on.top_hose.shape
    root = bracketed_root(
        spare, np.full(shape, np.log(AIR_FACTOR_LOW)), np.full(shape, np.log(AIR_FACTOR_HIGH)), 1e-5
    )
    flow = scaled(system, wanted, on.air.flow, np.exp(root.x))
    needed_drop = core_pressure_drop(system.core, flow, wanted.pressure)
    drop = core_pressure_drop(system.core, on.air.flow, wanted.pressure)
    # Where even the least factor suffices, that least is the honest upper bound of the need.
    enough = spare(np.full(shape, np.log(AIR_FACTOR_LOW))) >= 0.0
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
    heat, ambient = on.heat.total, cases.ambient
    coolant = coolant_at(system, cases, limit)
    wanted = air_demand(system, cases, True, heat)
    more = air_side_of(system, scaled(system, wanted, on.air.flow, PROBE))
    base = shed(system, limit, coolant, on.air, heat, ambient).heat
    probes = (
        shed(system, limit, coolant, more, heat, ambient),
        shed(system, limit, coolant, on.air, heat, ambient, Gains(core=PROBE)),
        shed(system, limit, coolant, on.air, heat, ambient, Gains(coolant=PROBE)),
    )
    gains = np.stack([probe.heat / base - 1.0 for probe in probes])
    return Bottleneck(gains, np.argmax(gains, axis=0))
