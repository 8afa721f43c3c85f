"""Water and ethylene-glycol mixes: properties on arrays from tables made once (build_tables.py)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray, Range, require

WATER, ETHYLENE_GLYCOL = 0, 1
DENSITY_WATER_20C, DENSITY_EG_20C = 998.2, 1113.2
MOLAR_MASS_WATER, MOLAR_MASS_EG = 18.015, 62.07

TABLE_END = 413.15
"""End of the property tables, 140 °C [K]. What would pass it has no steady state."""

FITTED_TEMPERATURE = Range(233.1, 373.15, "K")
FITTED_FRACTION = Range(0.0, 0.60, "kg/kg")


@dataclass(frozen=True)
class Coolant:
    """A coolant by kind and strength.

    kind : (...) int array, WATER or ETHYLENE_GLYCOL.
    mass_fraction : (...) float array, glycol in the mix [kg/kg], 0 to 0.75; 0 for water.
    """

    kind: IntArray
    mass_fraction: FloatArray


@dataclass(frozen=True)
class Properties:
    """Density [kg/m³], heat capacity [J/kg K], conductivity [W/m K], viscosity [Pa s]; and a flag where
    the source's fit has been left and the value is continued linearly."""

    density: FloatArray
    heat_capacity: FloatArray
    conductivity: FloatArray
    viscosity: FloatArray
    outside_fit: BoolArray

    @property
    def prandtl(self) -> FloatArray:
        """Prandtl number [-]."""
        return self.heat_capacity * self.viscosity / self.conductivity


@lru_cache(maxsize=1)
def _tables() -> dict[str, Any]:
    with resources.files("ebbrin.core.media").joinpath("coolant_tables.npz").open("rb") as file:
        data = dict(np.load(file).items())
    glycol = data["ethylene_glycol"]
    water = np.broadcast_to(data["water"][:, None, :], glycol.shape)
    T, x = data["temperature"], data["fraction"]
    return {
        # (kind, T, x, property), flattened for one gather
        "values": np.ascontiguousarray(np.stack([water, glycol]).reshape(-1, 4)),
        "shape": (len(T), len(x)),
        "T0": T[0],
        "dT": T[1] - T[0],
        "x0": x[0],
        "dx": x[1] - x[0],
        "fraction": x,
        "freezing": data["ethylene_glycol_freezing"],
    }


def properties(coolant: Coolant, temperature: ArrayLike) -> Properties:
    """Properties of liquid ``coolant`` at ``temperature`` [K], 233.1 to 413.15; broadcasts.

    Raises
    ------
    DomainError
        If the temperature or strength lies outside the tables.

    References
    ----------
    melinder-2010 (glycol mixes), iapws-95 (water), both through the CoolProp library.
    """
    t = _tables()
    T = require("coolant temperature", temperature, 233.1, TABLE_END, "K")
    nT, nx = t["shape"]
    at_T = (T - t["T0"]) / t["dT"]
    at_x = (coolant.mass_fraction - t["x0"]) / t["dx"]
    i = np.minimum(at_T.astype(np.int64), nT - 2)
    j = np.minimum(np.asarray(at_x).astype(np.int64), nx - 2)
    u, w = (at_T - i)[..., None], (at_x - j)[..., None]
    first = (coolant.kind * nT + i) * nx + j
    values = t["values"]
    below = values[first] * (1.0 - w) + values[first + 1] * w
    above = values[first + nx] * (1.0 - w) + values[first + nx + 1] * w
    mixed = below * (1.0 - u) + above * u
    glycol = np.asarray(coolant.kind) == ETHYLENE_GLYCOL
    outside = glycol & (FITTED_TEMPERATURE.outside(T) | FITTED_FRACTION.outside(coolant.mass_fraction))
    return Properties(mixed[..., 0], mixed[..., 1], mixed[..., 2], np.exp(mixed[..., 3]), outside)


def mass_fraction_from_volume(volume_fraction: ArrayLike) -> FloatArray:
    """Glycol mass fraction [kg/kg] of a mix given by volume at 20 °C [m³/m³], 0 to 0.72; broadcasts."""
    v = require("glycol share by volume", volume_fraction, 0.0, 0.72, "m³/m³")
    glycol = v * DENSITY_EG_20C
    return np.asarray(glycol / (glycol + (1.0 - v) * DENSITY_WATER_20C))


def water_mole_fraction(coolant: Coolant) -> FloatArray:
    """Mole fraction of water in the mix [-]; broadcasts."""
    x = coolant.mass_fraction
    water = (1.0 - x) / MOLAR_MASS_WATER
    return np.asarray(water / (water + x / MOLAR_MASS_EG))


def freezing_temperature(coolant: Coolant) -> FloatArray:
    """Freezing point [K]; 273.15 for water. melinder-2010 through the CoolProp library."""
    t = _tables()
    mix = np.interp(coolant.mass_fraction, t["fraction"], t["freezing"])
    return np.where(np.asarray(coolant.kind) == WATER, 273.15, mix)
