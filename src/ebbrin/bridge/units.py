"""The document's units in SI, and temperatures both ways: a value times its unit is SI, an SI value over it the document's."""

from __future__ import annotations

from typing import Any

import numpy as np

from ebbrin.core.base import ZERO_CELSIUS

MM, LITRE, KILO = 1e-3, 1e-3, 1e3
MINUTE, HOUR = 60.0, 3600.0  # s
RPM = 1.0 / MINUTE
"""rev/s"""
KM_H = KILO / HOUR
"""m/s"""
LITRE_PER_MINUTE = LITRE / MINUTE
"""m³/s"""
KG_PER_HOUR = 1.0 / HOUR
"""kg/s"""


def kelvin(celsius: Any) -> Any:
    """Temperature in K from °C. Not for differences."""
    return np.asarray(celsius, np.float64) + ZERO_CELSIUS


def celsius(kelvin: Any) -> float:
    """Temperature in °C from K. Not for differences.

    >>> round(celsius(373.15), 2)
    100.0
    """
    return float(kelvin) - ZERO_CELSIUS


def kilopascals(pressure: Any) -> float:
    """Pressure [Pa] in kPa.

    >>> kilopascals(103_000)
    103.0
    """
    return float(pressure) / KILO


def kilowatts(power: Any) -> float:
    """Heat or power [W] in kW."""
    return float(power) / KILO
