"""The cap: what it holds, which one to choose and why not the others, and what is left at the pump's inlet."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray, require
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.circuit.pump import Pump
from ebbrin.core.media import boiling
from ebbrin.core.media.coolants import Coolant

CANDIDATES = np.array([28.0, 48.0, 69.0, 90.0, 103.0, 110.0, 124.0, 138.0]) * 1000.0
WEAK_END = 7000.0  # common practice: how far below its mark a sound cap may open, Pa
LIKELY_SAG = 3000.0  # choice: how far below its mark half of all caps open, Pa
INLET_MARGIN = 10_000.0  # choice: least pressure to spare at the pump inlet, Pa


class CapReason(IntEnum):
    """Why a candidate is chosen or not; of several reasons the first that applies."""

    CHOSEN = 0
    ABOVE_RATING = 1
    BOILS = 2
    PUMP_INLET = 3
    MORE_THAN_NEEDED = 4


@dataclass(frozen=True)
class Cap:
    """Gauge pressure on its mark, and how far below that it opens [Pa]; whether it sits on the suction side of the pump (else on the tank where the
    top hose enters); the rating of the weakest part in the system, gauge [Pa]; and what the overflow bottle
    takes before it runs over, 0 without one [m³]."""

    pressure: FloatArray
    sag: FloatArray
    on_suction_side: BoolArray
    weakest_part: FloatArray
    bottle: FloatArray

    @property
    def holds(self) -> FloatArray:
        """Gauge pressure that it really holds [Pa]."""
        return np.maximum(np.asarray(self.pressure) - self.sag, 0.0)

    def checked(self) -> Cap:
        """This cap, once its pressures are possible.

        Raises
        ------
        DomainError
            Naming the pressure and its range.
        """
        require("cap pressure", self.pressure, 0.0, 5e5, "Pa")
        require("rating of the weakest part", self.weakest_part, 0.0, 1e6, "Pa")
        return self


@dataclass(frozen=True)
class CapChoice:
    """For each candidate along the last axis: boiling margin at its weak end [K], margin at the pump
    inlet with what it likely holds [Pa], each the least of all cases, the three tests, and the reason for or against it (CapReason).
    ``chosen`` is an index, -1 for none; ``needed`` the gauge pressure mark [Pa] that would do, whatever the
    parts stand; ``needed_by_inlet`` whether the pump's inlet asks for it rather than boiling; ``pumped`` what the pump adds to the cap's pressure on
    the weakest part [Pa]."""

    boiling_margin: FloatArray
    inlet_margin: FloatArray
    clears: BoolArray
    inlet_holds: BoolArray
    within_rating: BoolArray
    reason: IntArray
    chosen: int
    needed: float
    needed_by_inlet: bool
    pumped: float


def pump_inlet_margin(
    pump: Pump,
    cap: Cap,
    flow: CoolantFlow,
    crank_speed: ArrayLike,
    inlet_temperature: ArrayLike,
    gauge: ArrayLike,
    atmosphere: ArrayLike,
    density: ArrayLike,
    coolant: Coolant,
) -> FloatArray:
    """Pressure at the pump inlet above what it needs to keep from boiling there [Pa]; broadcasts.

    Inlet pressure is atmosphere and cap pressure (``gauge``) less the drop from the cap to the pump:
    radiator and half of the hoses, or none with the cap on the suction side.

    References
    ----------
    white-fluid-mechanics, ch. 11 (net positive suction head; the requirement follows speed squared).
    """
    drop = np.where(cap.on_suction_side, 0.0, flow.radiator_drop + 0.5 * flow.hose_drop)
    required = pumps.required_pressure(pump, crank_speed, density)
    vapour = boiling.vapour_pressure(inlet_temperature, coolant)
    return np.asarray(atmosphere + np.asarray(gauge) - drop - vapour - required)


def choose(
    hottest: ArrayLike,
    atmosphere: ArrayLike,
    inlet_margin_without_cap: ArrayLike,
    coolant: Coolant,
    margin: float,
    weakest_part: float,
    pumped: float = 0.0,
) -> CapChoice:
    """The lowest candidate that clears every case.

    Parameters
    ----------
    hottest, atmosphere, inlet_margin_without_cap : (cases,) float arrays, top hose [K], absolute
        pressure [Pa], and pump inlet margin at zero gauge [Pa].
    coolant : of shape ().
    margin : boiling margin to keep [K].
    weakest_part : rating of the weakest part, gauge [Pa].
    pumped : what the pump adds between itself and the cap [Pa], which parts there bear on top of the cap's pressure.

    References
    ----------
    Rule: choice; candidates: common practice.
    """
    hottest, atmosphere = np.asarray(hottest), np.asarray(atmosphere)
    boils = boiling.boiling_temperature(atmosphere[..., None] + CANDIDATES - WEAK_END, coolant)
    boiling_margin = (boils - hottest[..., None]).min(0)
    inlet = np.asarray(inlet_margin_without_cap).min() + CANDIDATES - LIKELY_SAG
    clears, holds = boiling_margin >= margin, inlet >= INLET_MARGIN
    rated = weakest_part + 1.0 >= CANDIDATES + pumped
    good = np.flatnonzero(clears & holds & rated)
    chosen = int(good[0]) if good.size else -1
    reason = np.select(
        [np.arange(len(CANDIDATES)) == chosen, ~rated, ~clears, ~holds],
        [CapReason.CHOSEN, CapReason.ABOVE_RATING, CapReason.BOILS, CapReason.PUMP_INLET],
        CapReason.MORE_THAN_NEEDED,
    )
    wanted = boiling.vapour_pressure(hottest + margin, coolant) - atmosphere + WEAK_END
    by_boiling = max(float(wanted.max()), 0.0)
    by_inlet = float(INLET_MARGIN + LIKELY_SAG - np.asarray(inlet_margin_without_cap).min())
    needed = max(by_boiling, by_inlet)
    return CapChoice(
        boiling_margin, inlet, clears, holds, rated, reason, chosen, needed, by_inlet > by_boiling, pumped
    )
