"""The cap: what it holds, which one to choose, and what is left at the pump's inlet."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit.flow import CoolantFlow, Pump, pump_speed_ratio
from ebbrin.core.media import boiling

CANDIDATES = np.array([28.0, 48.0, 69.0, 90.0, 103.0, 110.0, 124.0, 138.0]) * 1000.0
WEAK_END = 7000.0  # common practice: how far below its mark a sound cap may open, Pa
INLET_MARGIN = 10_000.0  # choice: least pressure to spare at the pump inlet, Pa


@dataclass(frozen=True)
class Cap:
    """Gauge pressure [Pa]; whether it sits on the suction side of the pump (else on the tank where the
    top hose enters); and the rating of the weakest part in the system, gauge [Pa]."""

    pressure: FloatArray
    on_suction_side: BoolArray
    weakest_part: FloatArray


@dataclass(frozen=True)
class CapChoice:
    """For each candidate along the last axis: boiling margin at its weak end [K], margin at the pump
    inlet [Pa], each the least of all cases, and the three tests. ``chosen`` is an index, -1 for none;
    ``needed`` the gauge pressure mark [Pa] that would clear the margin."""

    boiling_margin: FloatArray
    inlet_margin: FloatArray
    clears: BoolArray
    inlet_holds: BoolArray
    within_rating: BoolArray
    chosen: int
    needed: float


def pump_inlet_margin(
    pump: Pump,
    cap: Cap,
    flow: CoolantFlow,
    crank_speed: ArrayLike,
    inlet_temperature: ArrayLike,
    gauge: ArrayLike,
    atmosphere: ArrayLike,
    density: ArrayLike,
    water_mole_fraction: ArrayLike,
) -> FloatArray:
    """Pressure at the pump inlet above what it needs to keep from boiling there [Pa]; broadcasts.

    Inlet pressure is atmosphere and cap pressure (``gauge``) less the drop from the cap to the pump:
    radiator and half of the hoses, or none with the cap on the suction side.

    References
    ----------
    white-fluid-mechanics, ch. 11 (net positive suction head; the requirement follows speed squared).
    """
    drop = np.where(cap.on_suction_side, 0.0, flow.radiator_drop + 0.5 * flow.hose_drop)
    required = pump.npsh_required * pump_speed_ratio(pump, crank_speed) ** 2 * density * GRAVITY
    vapour = boiling.vapour_pressure(inlet_temperature, water_mole_fraction)
    return np.asarray(atmosphere + np.asarray(gauge) - drop - vapour - required)


def choose(
    hottest: ArrayLike,
    atmosphere: ArrayLike,
    inlet_margin_without_cap: ArrayLike,
    water_mole_fraction: ArrayLike,
    margin: float,
    weakest_part: float,
) -> CapChoice:
    """The lowest candidate that clears every case.

    Parameters
    ----------
    hottest, atmosphere, inlet_margin_without_cap : (cases,) float arrays, top hose [K], absolute
        pressure [Pa], and pump inlet margin at zero gauge [Pa].
    margin : boiling margin to keep [K].
    weakest_part : rating of the weakest part, gauge [Pa].

    References
    ----------
    Rule: choice; candidates: common practice.
    """
    hottest, atmosphere = np.asarray(hottest), np.asarray(atmosphere)
    x = np.asarray(water_mole_fraction)
    weak = atmosphere[..., None] + CANDIDATES - WEAK_END
    boils = boiling.boiling_temperature(weak, x[..., None] if x.ndim else x)
    boiling_margin = (boils - hottest[..., None]).min(0)
    inlet = np.asarray(inlet_margin_without_cap).min() + CANDIDATES
    clears, holds = boiling_margin >= margin, inlet >= INLET_MARGIN
    rated = weakest_part + 1.0 >= CANDIDATES
    good = np.flatnonzero(clears & holds & rated)
    wanted = boiling.vapour_pressure(hottest + margin, x) - atmosphere + WEAK_END
    short_inlet = INLET_MARGIN - np.asarray(inlet_margin_without_cap).min()
    needed = max(float(wanted.max()), float(short_inlet), 0.0)
    return CapChoice(boiling_margin, inlet, clears, holds, rated, int(good[0]) if good.size else -1, needed)
