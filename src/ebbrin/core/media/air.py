"""Dry air as an ideal gas, and the pressure of the standard atmosphere.

Heat capacity, viscosity and Prandtl number: white-viscous (Sutherland's law and constants).
"""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.compiled import Numbers, both

GAS_CONSTANT = 287.055
HEAT_CAPACITY = 1007.0
PRANDTL = 0.71
_MU0, _T0, _S = 1.716e-5, 273.15, 110.4

SEA_LEVEL_PRESSURE = 101_325.0


@both
def density_at(temperature: Numbers, pressure: Numbers) -> Numbers:
    """As ``density``, in compiled code too."""
    return pressure / (GAS_CONSTANT * temperature)


@both
def viscosity_at(temperature: Numbers) -> Numbers:
    """As ``viscosity``, in compiled code too."""
    ratio = temperature / _T0
    return _MU0 * ratio * np.sqrt(ratio) * (_T0 + _S) / (temperature + _S)


def density(temperature: ArrayLike, pressure: ArrayLike) -> FloatArray:
    """Density [kg/m³] of air at ``temperature`` [K] and absolute ``pressure`` [Pa]; broadcasts.

    >>> round(float(density(298.15, 101_325.0)), 3)  # kg/m³ at 25 °C
    1.184
    """
    return np.asarray(density_at(np.asarray(temperature, np.float64), np.asarray(pressure, np.float64)))


def viscosity(temperature: ArrayLike) -> FloatArray:
    """Dynamic viscosity [Pa s] at ``temperature`` [K] by Sutherland's law; white-viscous."""
    return np.asarray(viscosity_at(np.asarray(temperature, np.float64)))


def standard_pressure(altitude: ArrayLike) -> FloatArray:
    """Pressure [Pa] of the standard atmosphere at geopotential ``altitude`` [m], troposphere only.

    Raises
    ------
    DomainError
        Outside -500 to 11 000 m.

    References
    ----------
    iso-2533.

    Examples
    --------
    >>> round(float(standard_pressure(2000.0)))  # Pa at 2000 m
    79495
    """
    h = require("altitude", altitude, -500.0, 11_000.0, "m")
    return np.asarray(SEA_LEVEL_PRESSURE * (1.0 - 0.0065 * h / 288.15) ** 5.255876)
