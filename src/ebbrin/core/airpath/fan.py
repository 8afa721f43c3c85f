"""A fan by its tested curve, and what becomes of the curve at another speed and air density."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.interpolate import PchipInterpolator

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray

CURVE_POINTS = 65
STOPPED_LOSS = 1.5  # choice: heads of the disc velocity that a stopped fan takes away


@dataclass(frozen=True)
class Fan:
    """A fan, (...) float arrays unless said otherwise.

    fitted, mechanical, puller : (...) bool arrays. diameter [m].
    free_flow [m³/s] at reference speed; pressure : (..., CURVE_POINTS), [Pa] at equal steps of flow from
    none to free_flow, at reference_density [kg/m³] and reference speed.
    electric_power [W] at reference speed; shaft_power [W] at reference speed and density (mechanical);
    reference_speed [rev/s], pulley_ratio, engaged and disengaged [-], the last four for mechanical fans.
    """

    fitted: BoolArray
    mechanical: BoolArray
    puller: BoolArray
    diameter: FloatArray
    free_flow: FloatArray
    pressure: FloatArray
    reference_density: FloatArray
    electric_power: FloatArray
    shaft_power: FloatArray
    reference_speed: FloatArray
    pulley_ratio: FloatArray
    engaged: FloatArray
    disengaged: FloatArray

    @property
    def disc(self) -> FloatArray:
        """Swept area [m²]."""
        return np.asarray(np.pi / 4.0 * self.diameter**2)


def curve_table(flow: Sequence[float], pressure: Sequence[float]) -> tuple[float, FloatArray]:
    """Free flow [m³/s] and pressures [Pa] at CURVE_POINTS equal steps, from a tested curve.

    Parameters
    ----------
    flow : (n,) float array, rising from 0 [m³/s], n from 2.
    pressure : (n,) float array, falling to 0 at free flow [Pa].

    Returns
    -------
    free flow and a (CURVE_POINTS,) array, monotone between the points.

    References
    ----------
    fritsch-carlson-1980 (monotone piecewise cubics, as SciPy has them).
    """
    q, p = np.asarray(flow, np.float64), np.asarray(pressure, np.float64)
    steps = np.linspace(0.0, q[-1], CURVE_POINTS)
    return float(q[-1]), np.asarray(PchipInterpolator(q, p)(steps))


def speed_ratio(fan: Fan, on: ArrayLike, crank_speed: ArrayLike) -> FloatArray:
    """Fan speed over reference speed [-]; 0 for a stopped or missing fan; broadcasts.

    Parameters
    ----------
    on : (...) bool array, switched on, or clutch engaged.
    crank_speed : (...) float array, [rev/s].
    """
    share = np.where(on, fan.engaged, fan.disengaged)
    mechanical = np.asarray(crank_speed) * fan.pulley_ratio * share / fan.reference_speed
    electric = np.where(on, 1.0, 0.0)
    return np.where(fan.fitted, np.where(fan.mechanical, mechanical, electric), 0.0)


def pressure_rise(fan: Fan, flow: ArrayLike, ratio: ArrayLike, density: ArrayLike) -> FloatArray:
    """Pressure that the fan adds [Pa]; negative where it resists; broadcasts.

    Parameters
    ----------
    flow : (...) float array, through the blades [m³/s], 0 or more.
    ratio : (...) float array, speed over reference speed [-].
    density : (...) float array, of the air at the blades [kg/m³].

    Notes
    -----
    Fan laws: flow follows speed, pressure follows density times speed squared. Past free flow the last
    slope of the curve goes on, but a turning fan never resists more than a stopped one (choice).

    References
    ----------
    white-fluid-mechanics, ch. 11 (fan laws).
    """
    flow, ratio, density = np.asarray(flow), np.asarray(ratio), np.asarray(density)
    stopped = (-STOPPED_LOSS * 0.5) * density * (flow / fan.disc) ** 2
    turning = ratio > 1e-3
    at = flow * (CURVE_POINTS - 1) / (np.where(turning, ratio, 1.0) * fan.free_flow)
    step = np.minimum(at.astype(np.int64), CURVE_POINTS - 2)
    curves = fan.pressure.reshape(-1)
    first = step + (np.arange(curves.size // CURVE_POINTS) * CURVE_POINTS).reshape(fan.pressure.shape[:-1])
    left = curves[first]
    curve = left + (at - step) * (curves[first + 1] - left)
    driven = curve * density / fan.reference_density * ratio**2
    return np.where(fan.fitted, np.where(turning, np.maximum(driven, stopped), stopped), 0.0)


def drawn_power(
    fan: Fan, on: ArrayLike, crank_speed: ArrayLike, density: ArrayLike
) -> tuple[FloatArray, FloatArray]:
    """Electric power and shaft power [W] that the fan takes; broadcasts. Power follows density times
    speed cubed for a shaft-driven fan; an electric one draws its rated power while it is on."""
    electric = np.where(fan.fitted & ~fan.mechanical & np.asarray(on), fan.electric_power, 0.0)
    ratio = speed_ratio(fan, on, crank_speed)
    shaft = fan.shaft_power * ratio**3 * np.asarray(density) / fan.reference_density
    return electric, np.where(fan.fitted & fan.mechanical, shaft, 0.0)
