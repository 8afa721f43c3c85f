"""The room that hot coolant needs: a recovery bottle, or air in a pressurised tank."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.media import boiling
from ebbrin.core.media.coolants import Coolant, expansion

BOTTLE_RESERVE = 1.5  # choice: free room of a bottle over the expansion that it must take


@dataclass(frozen=True)
class TankSize:
    """Growth of the fill [m³]; free room for it in a recovery bottle with reserve [m³]; air space in a
    pressurised tank, cold, that keeps the hot system just under its cap [m³], inf where no air could."""

    growth: FloatArray
    bottle: FloatArray
    air_space: FloatArray


def tank_size(
    coolant: Coolant,
    volume: ArrayLike,
    filled: ArrayLike,
    hottest: ArrayLike,
    atmosphere: ArrayLike,
    cap: ArrayLike,
) -> TankSize:
    """Room for a fill that warms from ``filled`` to ``hottest`` [K]; broadcasts.

    Parameters
    ----------
    volume : (...) float array, coolant in the system when cold [m³].
    atmosphere, cap : (...) float arrays, absolute pressure and gauge mark [Pa].

    Notes
    -----
    Air shut in at filling is compressed by what the coolant grows and warmed with it; its pressure and the
    coolant's vapour together must not lift the cap (ideal gas, Dalton).

    References
    ----------
    melinder-2010 (density), raoult-1887 (vapour).
    """
    volume = require("coolant volume", volume, 0.0, 10.0, "m³")
    growth = volume * np.maximum(expansion(coolant, filled, hottest), 0.0)
    vapour = boiling.vapour_pressure(hottest, coolant)
    allowed = np.asarray(atmosphere) + np.asarray(cap) - vapour
    # p0·V0/T0 = p·(V0 - growth)/T, so V0 = growth / (1 - p0·T/(T0·p)).
    squeezed = np.asarray(atmosphere) * np.asarray(hottest) / np.asarray(filled)
    possible = allowed > squeezed
    space = growth / np.where(possible, 1.0 - squeezed / np.where(possible, allowed, 1.0), 1.0)
    return TankSize(growth, BOTTLE_RESERVE * growth, np.where(possible, space, np.inf))
