"""Water, glycol mixes and waterless glycol: properties on arrays from tables made once (build_tables.py)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib import resources
from typing import Any, NamedTuple

import numpy as np

from ebbrin.core.base import ZERO_CELSIUS, ArrayLike, BoolArray, FloatArray, IntArray, Range, require
from ebbrin.core.compiled import Numbers, compiled

WATER, ETHYLENE_GLYCOL, PROPYLENE_GLYCOL, WATERLESS = 0, 1, 2, 3
_TABLE_OF_KIND = np.array([0, 1, 2, 1])  # waterless coolant lies at the strong end of ethylene glycol's
DENSITY_WATER_20C = 998.2
DENSITY_20C = np.array([998.2, 1113.2, 1036.1, 1113.2])
"""Density at 20 °C of water and of each kind's undiluted glycol [kg/m³], by kind."""
MOLAR_MASS_WATER = 18.015
MOLAR_MASS = np.array([18.015, 62.07, 76.10, 62.07])
"""Molar mass of each kind's glycol [g/mol], by kind."""

TABLE_LOW = 233.1
TABLE_END = np.array([413.15, 413.15, 413.15, 473.15])
"""End of the property tables [K] by kind: 140 °C, waterless 200 °C. What would pass it has no steady state."""

STRONGEST_MIX, WEAKEST_WATERLESS = 0.75, 0.90
WATERLESS_FREEZES = ZERO_CELSIUS - 40.0  # common practice: survives -40 °C
FITTED_TEMPERATURE = Range(TABLE_LOW, 373.15, "K")
FITTED_FRACTION = Range(0.0, 0.60, "kg/kg")
FITTED_WATERLESS_TEMPERATURE = Range(273.15, 473.15, "K")


@dataclass(frozen=True)
class Coolant:
    """A coolant by kind and strength.

    kind : (...) int array, WATER, ETHYLENE_GLYCOL, PROPYLENE_GLYCOL or WATERLESS.
    mass_fraction : (...) float array, glycol in the coolant [kg/kg]: 0 for water, to 0.75 in mixes, 0.90
        to 1 in waterless coolant, whose rest is residual water.
    """

    kind: IntArray
    mass_fraction: FloatArray

    @cached_property
    def table_end(self) -> FloatArray:
        """Highest temperature that the property tables hold [K]."""
        return np.asarray(TABLE_END[self.kind])

    def within(self, temperature: FloatArray) -> FloatArray:
        """A temperature [K] no further than the tables go (choice: what holds at their end holds beyond); broadcasts."""
        return np.asarray(np.minimum(np.maximum(temperature, TABLE_LOW), self.table_end))

    @cached_property
    def columns(self) -> tuple[FloatArray, IntArray]:
        """(strengths, T, 4) tables of the coolants' strengths, each once, and which of them each coolant has, flat."""
        kind, fraction = (np.ravel(v) for v in np.broadcast_arrays(self.kind, self.mass_fraction))
        if kind.size == 1:
            return _column_of(int(kind[0]), float(fraction[0])), np.zeros(1, np.intp)
        # One number for both, so that equals are found by sorting plain numbers.
        _, first, which = np.unique(kind + 0.5 * fraction, return_index=True, return_inverse=True)
        return _made(kind[first], fraction[first]), which.reshape(-1)

    def checked(self) -> Coolant:
        """This coolant, once its strength is one that its kind can have.

        Raises
        ------
        DomainError
            Naming the strength and its range.
        """
        kind = np.broadcast_to(self.kind, np.shape(self.mass_fraction))
        low = np.array([0.0, 0.0, 0.0, WEAKEST_WATERLESS])[kind]
        high = np.array([0.0, STRONGEST_MIX, STRONGEST_MIX, 1.0])[kind]
        x = np.asarray(self.mass_fraction, np.float64)
        for i in np.flatnonzero(~((x >= low) & (x <= high)).ravel()):
            require(
                "glycol share by mass", x.ravel()[i], float(low.ravel()[i]), float(high.ravel()[i]), "kg/kg"
            )
        return self


class Properties(NamedTuple):
    """Density [kg/m³], heat capacity [J/kg K], conductivity [W/m K], viscosity [Pa s]: arrays, or
    numbers in compiled code."""

    density: FloatArray
    heat_capacity: FloatArray
    conductivity: FloatArray
    viscosity: FloatArray

    @property
    def prandtl(self) -> FloatArray:
        """Prandtl number [-]."""
        return self.heat_capacity * self.viscosity / self.conductivity


@lru_cache(maxsize=1)
def _tables() -> dict[str, Any]:
    with resources.files("ebbrin.core.media").joinpath("coolant_tables.npz").open("rb") as file:
        data = dict(np.load(file).items())
    ethylene, propylene = data["ethylene_glycol"], data["propylene_glycol"]
    water = np.broadcast_to(data["water"][:, None, :], ethylene.shape)
    T, x = data["temperature"], data["fraction"]
    freezing = np.stack([np.full(len(x), ZERO_CELSIUS)] + [data[f"{n}_glycol_freezing"] for n in _GLYCOLS])
    return {
        # (table, T, x, property), flattened for one gather
        "values": np.ascontiguousarray(np.stack([water, ethylene, propylene]).reshape(-1, 4)),
        "shape": (len(T), len(x)),
        "x0": x[0],
        "dx": x[1] - x[0],
        "freezing": freezing,
    }


def _made(kind: IntArray, fraction: FloatArray) -> FloatArray:
    """(strengths, T, 4) tables of coolants (strengths,)."""
    t = _tables()
    j, w = _position(fraction, t)
    block = t["values"].reshape(-1, *t["shape"], 4)
    table, w = _TABLE_OF_KIND[kind], w[:, None, None]
    return np.ascontiguousarray(block[table, :, j] * (1.0 - w) + block[table, :, j + 1] * w)


@lru_cache(maxsize=256)
def _column_of(kind: int, fraction: float) -> FloatArray:
    """(1, T, 4) table of one coolant; a car's own is asked for again and again. Nobody writes into it."""
    return _made(np.array([kind]), np.array([fraction]))


_TABLE_FROM, _TABLE_STEP = 233.15, 2.0  # K, as build_tables.py lays them


@compiled
def properties_at(column: Numbers, temperature: float) -> Numbers:
    """Properties, numbers, of a coolant whose strength has the ``column`` (T, 4), within its table."""
    at = (temperature - _TABLE_FROM) / _TABLE_STEP
    i = min(int(at), len(column) - 2)
    u = at - i
    low, high = column[i], column[i + 1]
    return Properties(
        low[0] + (high[0] - low[0]) * u,
        low[1] + (high[1] - low[1]) * u,
        low[2] + (high[2] - low[2]) * u,
        np.exp(low[3] + (high[3] - low[3]) * u),
    )


_GLYCOLS = ("ethylene", "propylene")


def _position(fraction: ArrayLike, t: dict[str, Any]) -> tuple[Any, FloatArray]:
    at = (np.asarray(fraction, np.float64) - t["x0"]) / t["dx"]
    j = np.minimum(at.astype(np.int64), t["shape"][1] - 2)
    return j, at - j


def within_tables(coolant: Coolant, T: FloatArray) -> None:
    """Refuse temperatures [K] that the coolant's tables do not hold.

    Raises
    ------
    DomainError
    """
    require("coolant temperature", T, TABLE_LOW, coolant.table_end, "K")


def properties(coolant: Coolant, temperature: ArrayLike) -> Properties:
    """Properties of liquid ``coolant`` at ``temperature`` [K], 233.1 to its table's end; broadcasts.

    Raises
    ------
    DomainError
        If the temperature lies outside the tables.

    References
    ----------
    melinder-2010 (glycol mixes), iapws-95 (water), both through the CoolProp library; vdi-heat-atlas
    (glycol without water) through the chemicals library.

    Examples
    --------
    >>> water = Coolant(np.asarray(WATER), np.asarray(0.0))
    >>> round(float(properties(water, 363.15).heat_capacity))  # J/kg K at 90 °C
    4201
    """
    t, kind = _tables(), np.asarray(coolant.kind)
    T = np.asarray(temperature, np.float64)
    within_tables(coolant, T)
    nT, nx = t["shape"]
    at = (T - _TABLE_FROM) / _TABLE_STEP
    i = np.minimum(at.astype(np.int64), nT - 2)
    u = (at - i)[..., None]
    if kind.ndim == 0 and np.ndim(coolant.mass_fraction) == 0:
        column = coolant.columns[0][0]
        below, above = column[i], column[i + 1]
    else:
        j, w = _position(coolant.mass_fraction, t)
        w, values = w[..., None], t["values"]
        first = (_TABLE_OF_KIND[kind] * nT + i) * nx + j
        below = values[first] + (values[first + 1] - values[first]) * w
        above = values[first + nx] + (values[first + nx + 1] - values[first + nx]) * w
    mixed = below + (above - below) * u
    return Properties(mixed[..., 0], mixed[..., 1], mixed[..., 2], np.exp(mixed[..., 3]))


def outside_fit(coolant: Coolant, temperature: ArrayLike) -> BoolArray:
    """True where the fit of a property's source is left and its values are continued; broadcasts."""
    kind, T = np.asarray(coolant.kind), np.asarray(temperature)
    glycol = (kind == ETHYLENE_GLYCOL) | (kind == PROPYLENE_GLYCOL)
    mixes = glycol & (FITTED_TEMPERATURE.outside(T) | FITTED_FRACTION.outside(coolant.mass_fraction))
    waterless = (kind == WATERLESS) & FITTED_WATERLESS_TEMPERATURE.outside(T)
    return np.asarray(mixes | waterless)


def mass_fraction_from_volume(volume_fraction: ArrayLike, kind: ArrayLike = ETHYLENE_GLYCOL) -> FloatArray:
    """Glycol mass fraction [kg/kg] of a mix given by volume at 20 °C [m³/m³], 0 to 0.72; broadcasts.

    >>> round(float(mass_fraction_from_volume(0.5)), 3)  # half and half of ethylene glycol
    0.527
    """
    v = require("glycol share by volume", volume_fraction, 0.0, 0.72, "m³/m³")
    glycol = v * DENSITY_20C[np.asarray(kind)]
    return np.asarray(glycol / (glycol + (1.0 - v) * DENSITY_WATER_20C))


def volume_from_mass_fraction(mass_fraction: ArrayLike, kind: ArrayLike = ETHYLENE_GLYCOL) -> FloatArray:
    """Glycol share by volume at 20 °C [m³/m³] of a mix given by mass [kg/kg], 0 to 1; broadcasts."""
    x = require("glycol share by mass", mass_fraction, 0.0, 1.0, "kg/kg")
    glycol = x / DENSITY_20C[np.asarray(kind)]
    return np.asarray(glycol / (glycol + (1.0 - x) / DENSITY_WATER_20C))


def water_mole_fraction(coolant: Coolant) -> FloatArray:
    """Mole fraction of water in the coolant [-]; broadcasts."""
    x = coolant.mass_fraction
    water = (1.0 - x) / MOLAR_MASS_WATER
    return np.asarray(water / (water + x / MOLAR_MASS[coolant.kind]))


def freezing_temperature(coolant: Coolant) -> FloatArray:
    """Freezing point [K]: 273.15 for water, 233.15 for waterless coolant (common practice), else
    melinder-2010 through the CoolProp library; broadcasts.

    >>> half = Coolant(np.asarray(ETHYLENE_GLYCOL), mass_fraction_from_volume(0.5))
    >>> round(float(freezing_temperature(half)) - 273.15)  # °C
    -40
    """
    t, kind = _tables(), np.asarray(coolant.kind)
    j, w = _position(coolant.mass_fraction, t)
    rows = t["freezing"]
    mix = rows[_TABLE_OF_KIND[kind], j] * (1.0 - w) + rows[_TABLE_OF_KIND[kind], j + 1] * w
    return np.where(kind == WATERLESS, WATERLESS_FREEZES, mix)


def expansion(coolant: Coolant, cold: ArrayLike, hot: ArrayLike) -> FloatArray:
    """Growth of a fill's volume from ``cold`` to ``hot`` [K] over its cold volume [-]; broadcasts.

    >>> water = Coolant(np.asarray(WATER), np.asarray(0.0))
    >>> round(float(expansion(water, 293.15, 363.15)), 3)  # share by which cold water grows
    0.034
    """
    return np.asarray(properties(coolant, cold).density / properties(coolant, hot).density - 1.0)
