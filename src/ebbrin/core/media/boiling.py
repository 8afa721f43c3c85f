"""Boiling of water, glycol mixes and waterless coolant by Raoult's law. Pressures are absolute."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.compiled import Numbers, both, compiled, flat
from ebbrin.core.media.coolants import Coolant, water_mole_fraction
from ebbrin.core.roots import MAX_STEPS, first_share, next_share

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
    return np.asarray(_region_4(require("temperature", temperature, 273.15, 647.096, "K")))


@both
def _region_4(T: Numbers) -> Numbers:
    """Equation 30 without a check of its range."""
    n = _N
    theta = T + n[8] / (T - n[9])
    A = theta * theta + n[0] * theta + n[1]
    B = n[2] * theta * theta + n[3] * theta + n[4]
    C = n[5] * theta * theta + n[6] * theta + n[7]
    root = 2.0 * C / (-B + np.sqrt(B * B - 4.0 * A * C))
    return 1.0e6 * root * root * root * root


def glycol_vapour_pressure(temperature: ArrayLike, kind: ArrayLike) -> FloatArray:
    """Vapour pressure [Pa] of a coolant kind's pure glycol at ``temperature`` [K]; broadcasts.

    Antoine's equation; constants from memory, checked in tests against two libraries (within 6 %). In
    mixes the glycol's own share hardly matters.

    References
    ----------
    antoine-glycols.
    """
    a, b, c = np.moveaxis(_ANTOINE[np.asarray(kind)], -1, 0)
    return np.asarray(_antoine(np.asarray(temperature, np.float64), a, b, c))


@both
def _antoine(T: Numbers, a: Numbers, b: Numbers, c: Numbers) -> Numbers:
    """Vapour pressure [Pa] by the constants of Antoine's equation."""
    return _MMHG * 10.0 ** (a - b / (c + T - 273.15))


@compiled
def _boils_at(pressure: float, x: float, a: float, b: float, c: float) -> float:
    """Boiling temperature [K] under a pressure [Pa] of a coolant whose water has the mole fraction ``x`` and whose glycol
    the constants of Antoine's equation. Solved in 1/T, in which the logarithm of the pressure is all but straight."""
    wanted = np.log(pressure)
    lo, hi = 1.0 / TEMPERATURE_HIGH, _NEAR
    f_lo = np.log(x * _region_4(1.0 / lo) + (1.0 - x) * _antoine(1.0 / lo, a, b, c)) - wanted
    f_hi = np.log(x * _region_4(1.0 / hi) + (1.0 - x) * _antoine(1.0 / hi, a, b, c)) - wanted
    if (f_lo > 0.0) == (f_hi > 0.0):
        return 1.0 / (lo if abs(f_lo) <= abs(f_hi) else hi)
    share = first_share(f_lo, f_hi)
    for _ in range(MAX_STEPS):
        at = lo + share * (hi - lo)
        f_at = np.log(x * _region_4(1.0 / at) + (1.0 - x) * _antoine(1.0 / at, a, b, c)) - wanted
        if (f_at > 0.0) == (f_lo > 0.0):
            before, f_before = lo, f_lo
        else:
            before, f_before, hi, f_hi = hi, f_hi, lo, f_lo
        lo, f_lo = at, f_at
        if abs(hi - lo) <= 2.0 * _TOLERANCE or f_lo == 0.0:
            break
        share = next_share(lo, f_lo, hi, f_hi, before, f_before, _TOLERANCE)
    return 1.0 / (lo if abs(f_lo) < abs(f_hi) else hi)


@compiled
def _boils(pressure, x, a, b, c, out):  # type: ignore[no-untyped-def]
    for e in range(len(out)):
        # What lies side by side is most often the same: one car in cases at one height.
        f = e - 1
        same = e > 0 and pressure[e] == pressure[f] and x[e] == x[f]
        if same and a[e] == a[f] and b[e] == b[f] and c[e] == c[f]:
            out[e] = out[f]
        else:
            out[e] = _boils_at(pressure[e], x[e], a[e], b[e], c[e])


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
    raoult-1887, iapws-if97.

    Examples
    --------
    >>> from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, mass_fraction_from_volume
    >>> half = Coolant(np.asarray(ETHYLENE_GLYCOL), mass_fraction_from_volume(0.5))
    >>> round(float(boiling_temperature(101_325.0 + 90_000.0, half)) - 273.15)  # °C under a cap of 90 kPa
    128
    """
    p = require("pressure", pressure, 1.0e3, 1.0e6, "Pa")
    values = np.broadcast_arrays(p, water_mole_fraction(coolant), *np.moveaxis(_ANTOINE[coolant.kind], -1, 0))
    out = np.empty(values[0].size)
    _boils(*[*(flat(value, value.shape) for value in values), out])
    return out.reshape(values[0].shape)
