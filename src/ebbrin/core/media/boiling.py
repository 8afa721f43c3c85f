"""Boiling of water, glycol mixes and waterless coolant by Raoult's law. Pressures are absolute."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.media.coolants import Coolant, water_mole_fraction
from ebbrin.core.roots import bracketed_root

# Region 4 of iapws-if97, table 34.
_N = (
    0.11670521452767e4,
    -0.72421316703206e6,
    -0.17073846940092e2,
    0.12020824702470e5,
    -0.32325550322333e7,
    0.14915108613530e2,
    -0.48232657361591e4,
    0.40511340542057e6,
    -0.23855557567849,
    0.65017534844798e3,
)
_MMHG = 133.322387415
# Antoine constants by kind of coolant (mmHg, °C); from memory, see glycol_vapour_pressure.
_ANTOINE = np.array(
    [
        [8.0908, 2088.936, 203.454],  # water: never weighs, its share of glycol is none
        [8.0908, 2088.936, 203.454],
        [8.2082, 2085.90, 203.540],
        [8.0908, 2088.936, 203.454],
    ]
)
TEMPERATURE_LOW, TEMPERATURE_HIGH = 230.0, 560.0
_NEAR, _TOLERANCE = 1.0 / 275.0, 1e-12  # bracket and half width in 1/K; 1e-12 is 1e-7 K


def water_vapour_pressure(temperature: ArrayLike) -> FloatArray:
    """Saturation pressure [Pa] of water at ``temperature`` [K], 273.15 to 647.096; broadcasts.

    Raises
    ------
    DomainError
        Outside the range of the equation.

    References
    ----------
    iapws-if97, eq. 30.

    Examples
    --------
    >>> round(float(water_vapour_pressure(373.15)))  # Pa
    101418
    """
    return _region_4(require("temperature", temperature, 273.15, 647.096, "K"))


def _region_4(T: FloatArray) -> FloatArray:
    """Equation 30 without a check of its range."""
    n = _N
    theta = T + n[8] / (T - n[9])
    A = theta**2 + n[0] * theta + n[1]
    B = n[2] * theta**2 + n[3] * theta + n[4]
    C = n[5] * theta**2 + n[6] * theta + n[7]
    return np.asarray(1.0e6 * (2.0 * C / (-B + np.sqrt(B**2 - 4.0 * A * C))) ** 4)


def glycol_vapour_pressure(temperature: ArrayLike, kind: ArrayLike) -> FloatArray:
    """Vapour pressure [Pa] of a coolant kind's pure glycol at ``temperature`` [K]; broadcasts.

    Antoine's equation; constants from memory, checked in tests against two libraries (within 6 %). In
    mixes the glycol's own share hardly matters.

    References
    ----------
    antoine-glycols.
    """
    a, b, c = np.moveaxis(_ANTOINE[np.asarray(kind)], -1, 0)
    T = np.asarray(temperature, np.float64)
    return np.asarray(_MMHG * 10.0 ** (a - b / (c + T - 273.15)))


def vapour_pressure(temperature: ArrayLike, coolant: Coolant) -> FloatArray:
    """Vapour pressure [Pa] over a coolant by Raoult's law; broadcasts.

    Parameters
    ----------
    temperature : (...) float array, [K], 230 to 560. Below freezing, where the pump inlet of a cold
        engine may lie, the water's equation is continued; it is then below 0.7 kPa and of no weight.
    coolant : its kind and strength.

    References
    ----------
    raoult-1887.
    """
    T = require("temperature", temperature, TEMPERATURE_LOW, TEMPERATURE_HIGH, "K")
    x = water_mole_fraction(coolant)
    return np.asarray(x * _region_4(T) + (1.0 - x) * glycol_vapour_pressure(T, coolant.kind))


def boiling_temperature(pressure: ArrayLike, coolant: Coolant) -> FloatArray:
    """Temperature [K] at which a coolant boils under absolute ``pressure`` [Pa]; broadcasts.

    Parameters
    ----------
    pressure : (...) float array, absolute [Pa], 1e3 to 1e6.

    Raises
    ------
    DomainError
        Outside that range.

    References
    ----------
    raoult-1887, iapws-if97. Solved in 1/T, in which the logarithm of the pressure is all but straight.

    Examples
    --------
    >>> from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, mass_fraction_from_volume
    >>> half = Coolant(np.asarray(ETHYLENE_GLYCOL), mass_fraction_from_volume(0.5))
    >>> round(float(boiling_temperature(101_325.0 + 90_000.0, half)) - 273.15)  # °C under a cap of 90 kPa
    128
    """
    p = require("pressure", pressure, 1.0e3, 1.0e6, "Pa")
    shape = np.broadcast_shapes(p.shape, np.shape(coolant.kind), np.shape(coolant.mass_fraction))
    p = np.broadcast_to(p, shape)

    def excess(inverse: FloatArray) -> FloatArray:
        return np.asarray(np.log(vapour_pressure(1.0 / inverse, coolant) / p))

    return np.asarray(
        1.0 / bracketed_root(excess, np.full(shape, 1.0 / TEMPERATURE_HIGH), _NEAR, _TOLERANCE).x
    )
