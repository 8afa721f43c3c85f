"""Mixing arithmetic: what to pour for a strength, and what a drain and refill leaves.

Masses add, volumes do not quite: a mix of glycol and water takes up to 1 % less room than its parts.
Concentrate counts as pure glycol; what is sold holds a few per cent of additives and water.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.media.coolants import (
    DENSITY_20C,
    DENSITY_WATER_20C,
    FITTED_FRACTION,
    STRONGEST_MIX,
    WATERLESS,
    Coolant,
    freezing_temperature,
    mass_fraction_from_volume,
    properties,
    volume_from_mass_fraction,
)

ROOM = 293.15
CLOSE = 1e-13  # of a share; what a further round would change


@dataclass(frozen=True)
class Parts:
    """What to pour, each measured on its own at 20 °C [m³]."""

    concentrate: FloatArray
    water: FloatArray


def _mix(kind: int, mass_fraction: ArrayLike) -> Coolant:
    return Coolant(np.asarray(kind), np.asarray(mass_fraction)).checked()


def parts_for(kind: int, volume: ArrayLike, volume_share: ArrayLike) -> Parts:
    """Concentrate and water that make a ``volume`` [m³] of a mix of ``volume_share`` glycol [m³/m³].

    Parameters
    ----------
    kind : ETHYLENE_GLYCOL or PROPYLENE_GLYCOL.
    volume : (...) float array, of the mix at 20 °C [m³], 0 or more.
    volume_share : (...) float array, glycol over glycol and water measured apart [m³/m³], 0 to 0.72.

    Raises
    ------
    DomainError
        If the volume or the share lies outside.

    References
    ----------
    melinder-2010 (density of the mix).
    """
    volume = require("volume", volume, 0.0, 1e3, "m³")
    x = mass_fraction_from_volume(volume_share, kind)
    mass = volume * properties(_mix(kind, x), ROOM).density
    return Parts(mass * x / DENSITY_20C[kind], mass * (1.0 - x) / DENSITY_WATER_20C)


def _pour(kind: int, volume_share: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Mass fraction [kg/kg] and density [kg/m³] at 20 °C of what is poured, water to concentrate."""
    share = require("glycol share by volume", volume_share, 0.0, 1.0, "m³/m³")
    glycol, water = share * DENSITY_20C[kind], (1.0 - share) * DENSITY_WATER_20C
    x = glycol / (glycol + water)
    mixed = properties(_mix(kind, np.minimum(x, STRONGEST_MIX)), ROOM).density
    return x, np.where(x <= STRONGEST_MIX, mixed, glycol + water)


def strength_after_refill(
    kind: int, volume: ArrayLike, volume_share: ArrayLike, drained: ArrayLike, refill_share: ArrayLike
) -> FloatArray:
    """Glycol share by volume [m³/m³] after draining part of a fill and filling up with another strength.

    Parameters
    ----------
    volume, drained : (...) float arrays, the fill and what is taken out of it [m³].
    volume_share, refill_share : (...) float arrays, glycol in the fill and in what goes in [m³/m³], 0 to 1.

    Raises
    ------
    DomainError
        If more is drained than there is, or a share lies outside 0 to 1.

    References
    ----------
    melinder-2010 (density of the mixes).

    Examples
    --------
    >>> from ebbrin.core.media.coolants import ETHYLENE_GLYCOL
    >>> round(float(strength_after_refill(ETHYLENE_GLYCOL, 9.5e-3, 0.33, 6.0e-3, 1.0)), 2)  # 6 of 9.5 L drained
    0.75
    """
    volume = require("volume", volume, 1e-6, 1e3, "m³")
    drained = require("drained volume", drained, 0.0, volume, "m³")
    (x, density), (added, heavy) = _pour(kind, volume_share), _pour(kind, refill_share)
    old, new = (volume - drained) * density, drained * heavy
    return volume_from_mass_fraction((old * x + new * added) / (old + new), kind)


def drain_for(
    kind: int, volume: ArrayLike, volume_share: ArrayLike, wanted: ArrayLike, refill_share: ArrayLike = 1.0
) -> FloatArray:
    """Volume to drain and replace [m³] so that a fill reaches a ``wanted`` glycol share [m³/m³].

    Raises
    ------
    DomainError
        If the wanted share does not lie between that of the fill and that of the refill.
    """
    volume = require("volume", volume, 1e-6, 1e3, "m³")
    (x, density), (added, heavy) = _pour(kind, volume_share), _pour(kind, refill_share)
    ends = volume_share, refill_share
    require("wanted glycol share by volume", wanted, np.minimum(*ends), np.maximum(*ends), "m³/m³")
    goal, _ = _pour(kind, wanted)
    lacking, bringing = density * (goal - x), heavy * (added - goal)
    return np.asarray(volume * np.where(lacking == 0.0, 0.0, lacking / (lacking + bringing)))


def refill_for(
    kind: int, volume: ArrayLike, volume_share: ArrayLike, drained: ArrayLike, wanted: ArrayLike
) -> FloatArray:
    """Glycol share by volume [m³/m³] of what must go in for what is ``drained`` [m³], so that a fill reaches a
    ``wanted`` share; below nothing or above one where no pouring can.

    References
    ----------
    melinder-2010 (density of the mixes).
    """
    volume = require("coolant volume", volume, 1e-6, 1e3, "m³")
    drained = require("drained volume", drained, 1e-9, volume, "m³")
    (x, density), (goal, _) = _pour(kind, volume_share), _pour(kind, wanted)
    kept = (volume - drained) * density
    # What goes in has the volume of what came out; its mass hangs a little on its own strength.
    share = np.asarray(goal, np.float64)
    for _ in range(20):
        heavy = _pour(kind, np.clip(_volume(share, kind), 0.0, 1.0))[1]
        before, share = share, goal + kept * (goal - x) / (drained * heavy)
        if np.all(np.abs(share - before) <= CLOSE):
            break
    return _volume(share, kind)


def _volume(mass_fraction: FloatArray, kind: int) -> FloatArray:
    """Share by volume of any share by mass, also of ones that cannot be, which stay so."""
    water = (1.0 - mass_fraction) / DENSITY_WATER_20C
    glycol = mass_fraction / DENSITY_20C[kind]
    within = glycol / np.where(np.abs(glycol + water) > 0.0, glycol + water, 1.0)
    return np.where(mass_fraction > 1.0, mass_fraction, np.where(mass_fraction < 0.0, mass_fraction, within))


def series(
    kind: int, volume: float, volume_share: float, drained: float, refill_share: float, rounds: int
) -> FloatArray:
    """(rounds,) glycol share by volume [m³/m³] after each round of draining so much [m³] and filling up.

    >>> from ebbrin.core.media.coolants import ETHYLENE_GLYCOL
    >>> [round(float(s), 2) for s in series(ETHYLENE_GLYCOL, 10e-3, 0.0, 5e-3, 0.5, 3)]
    [0.25, 0.38, 0.44]
    """
    require("rounds", float(rounds), 1, 50, "")
    found, share = [], volume_share
    for _ in range(rounds):
        share = float(strength_after_refill(kind, volume, share, drained, refill_share))
        found.append(share)
    return np.array(found)


def new_share(remainder: ArrayLike, rounds: ArrayLike) -> FloatArray:
    """Share of new coolant after so many rounds that each leave a ``remainder`` [-] behind: 1 - r^n.

    >>> round(float(new_share(0.25, 2)), 4)
    0.9375
    """
    left = require("share left behind", remainder, 0.0, 1.0, "")
    return np.asarray(1.0 - left**rounds)


def rounds_until(remainder: float, left: float) -> int:
    """Rounds after which at most a share ``left`` of the old coolant is still there, each leaving a ``remainder``.

    >>> rounds_until(0.25, 0.03)
    3
    """
    require("share left behind", remainder, 1e-6, 0.99, "")
    require("share that may stay", left, 1e-6, 0.99, "")
    return max(1, int(np.ceil(np.log(left) / np.log(remainder) - 1e-9)))


def strength_at_freezing(kind: int, freezing: ArrayLike) -> FloatArray:
    """Glycol share by volume [m³/m³] of a mix that freezes at a temperature [K]: what a refractometer's scale says.

    Raises
    ------
    DomainError
        If no mix of 0 to 0.6 by mass, over which the source was fitted, freezes there.

    References
    ----------
    melinder-2010 through the CoolProp library.

    Examples
    --------
    >>> from ebbrin.core.media.coolants import ETHYLENE_GLYCOL
    >>> round(float(strength_at_freezing(ETHYLENE_GLYCOL, 273.15 - 20.0)), 2)
    0.34
    """
    x = np.linspace(0.0, FITTED_FRACTION.high, 601)
    points = freezing_temperature(Coolant(np.asarray(kind), x))
    value = require("freezing point", freezing, float(points[-1]), float(points[0]), "K")
    return volume_from_mass_fraction(np.interp(-value, -points, x), kind)


def strongest_fitted(kind: int) -> float:
    """The strongest mix by volume [m³/m³] over which freezing points were fitted: 0.6 by mass."""
    return float(volume_from_mass_fraction(FITTED_FRACTION.high, kind))


def water_by_mass(volume_share: ArrayLike) -> FloatArray:
    """Water by mass [kg/kg] in waterless coolant that holds so much by volume at 20 °C [m³/m³], 0 to 1.

    >>> round(float(water_by_mass(0.0625)), 3)
    0.056
    """
    share = require("water share by volume", volume_share, 0.0, 1.0, "m³/m³")
    water = share * DENSITY_WATER_20C
    return np.asarray(water / (water + (1.0 - share) * DENSITY_20C[WATERLESS]))
