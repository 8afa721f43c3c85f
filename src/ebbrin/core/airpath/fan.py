"""Fans by their tested curve, and what becomes of the curve at another speed, voltage and air density."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, require

CURVE_POINTS = 65
STOPPED_LOSS = 1.5  # choice: heads of the disc velocity that a stopped fan takes away
OFF, LOW, FULL = 0, 1, 2
"""Stages of the fan switch. An unstaged fan knows off and full; the clutch of a driven one is engaged from LOW."""


@dataclass(frozen=True)
class Fan:
    """One fan, or two alike side by side, (...) arrays unless said otherwise.

    fitted, mechanical, puller, staged : bool. count, 1 or 2. diameter [m] of each.
    free_flow [m³/s] of each at reference speed; pressure : (..., CURVE_POINTS), [Pa] at equal steps of flow from
    none to free_flow, at reference_density [kg/m³] and reference speed.
    voltage_ratio [-] of an electric fan, working over test voltage; its speed follows (common practice).
    low_first, low_second [-] speed of the first and the second fan at stage LOW over that at FULL.
    electric_power [W] of each at reference speed; shaft_power [W] at reference speed and density (mechanical);
    reference_speed [rev/s], pulley_ratio, engaged and disengaged [-], the last four for mechanical fans.
    """

    fitted: BoolArray
    mechanical: BoolArray
    puller: BoolArray
    staged: BoolArray
    count: FloatArray
    diameter: FloatArray
    free_flow: FloatArray
    pressure: FloatArray
    reference_density: FloatArray
    voltage_ratio: FloatArray
    low_first: FloatArray
    low_second: FloatArray
    electric_power: FloatArray
    shaft_power: FloatArray
    reference_speed: FloatArray
    pulley_ratio: FloatArray
    engaged: FloatArray
    disengaged: FloatArray

    @cached_property
    def disc(self) -> FloatArray:
        """Swept area of one fan [m²]."""
        return np.asarray(np.pi / 4.0 * self.diameter**2)

    @cached_property
    def apart(self) -> bool:
        """Whether anywhere the first and the second fan can run at different speeds."""
        return bool(np.any(self.staged & (self.count > 1.0) & (self.low_first != self.low_second)))

    @cached_property
    def in_zone(self) -> FloatArray:
        """(..., fan zones) number of fans that serve each zone: two zones where they can differ, else one."""
        groups = [np.ones_like(self.count), self.count - 1.0] if self.apart else [self.count]
        return np.stack(np.broadcast_arrays(*groups), -1)

    @cached_property
    def zoned(self) -> Fan:
        """The same fan with a length-one axis at the end of each field (before the curve's own), for zones."""
        values = {f.name: np.asarray(getattr(self, f.name))[..., None] for f in fields(self)}
        return replace(self, **values | {"pressure": self.pressure[..., None, :]})

    def checked(self) -> Fan:
        """This fan, once its numbers are those of a fan.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        require("fan diameter", self.diameter, 0.02, 3.0, "m")
        require("fan free flow", self.free_flow, 1e-4, 100.0, "m³/s")
        require("fan pressure", self.pressure, 0.0, 1e5, "Pa")
        require("number of fans", self.count, 1.0, 2.0, "-")
        require("fan voltage over test voltage", self.voltage_ratio, 0.1, 3.0, "-")
        require("fan test air density", self.reference_density, 0.1, 3.0, "kg/m³")
        return self


def fan_laws(flow: ArrayLike, pressure: ArrayLike, speed: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Flow [m³/s] and pressure [Pa] of a fan at ``speed`` times its speed [-], air density the same; broadcasts.

    References
    ----------
    white-fluid-mechanics, ch. 11 (affinity laws).
    """
    ratio = np.asarray(speed, np.float64)
    return np.asarray(flow * ratio), np.asarray(pressure * ratio**2)


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
    fritsch-carlson-1980 (monotone piecewise cubics, with the end and inner slopes that SciPy takes).
    """
    q, p = np.asarray(flow, np.float64), np.asarray(pressure, np.float64)
    at = np.linspace(0.0, q[-1], CURVE_POINTS)
    return float(q[-1]), _monotone_cubic(q, p, at)


def _monotone_cubic(x: FloatArray, y: FloatArray, at: FloatArray) -> FloatArray:
    """Values of the monotone cubic through (x, y). Written out because importing scipy.interpolate takes
    longer than a whole evaluation; a test compares both."""
    h, slope = np.diff(x), np.diff(y) / np.diff(x)
    d = np.zeros_like(y)
    if len(x) == 2:
        d[:] = slope[0]
    else:
        w1, w2 = 2.0 * h[1:] + h[:-1], h[1:] + 2.0 * h[:-1]
        same = slope[1:] * slope[:-1] > 0.0
        left, right = np.where(same, slope[:-1], 1.0), np.where(same, slope[1:], 1.0)
        d[1:-1] = np.where(same, (w1 + w2) / (w1 / left + w2 / right), 0.0)
        d[0], d[-1] = _end_slope(h, slope), _end_slope(h[::-1], slope[::-1])
    i = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(h) - 1)
    s = (at - x[i]) / h[i]
    return np.asarray(
        y[i] * (1.0 + 2.0 * s) * (1.0 - s) ** 2
        + h[i] * d[i] * s * (1.0 - s) ** 2
        + y[i + 1] * s**2 * (3.0 - 2.0 * s)
        + h[i] * d[i + 1] * s**2 * (s - 1.0)
    )


def _end_slope(h: FloatArray, slope: FloatArray) -> float:
    """Three-point slope at an end, kept within what is monotone."""
    d = float(((2.0 * h[0] + h[1]) * slope[0] - h[0] * slope[1]) / (h[0] + h[1]))
    if np.sign(d) != np.sign(slope[0]):
        return 0.0
    if np.sign(slope[0]) != np.sign(slope[1]) and abs(d) > 3.0 * abs(slope[0]):
        return 3.0 * float(slope[0])
    return d


def stages(fan: Fan) -> tuple[int, ...]:
    """Stages that any of the fans knows, from off upwards."""
    return (OFF, LOW, FULL) if np.any(fan.fitted & fan.staged) else (OFF, FULL)


def speed_ratio(fan: Fan, stage: ArrayLike, crank_speed: ArrayLike) -> FloatArray:
    """(..., fan zones) fan speed over reference speed [-]; 0 for a stopped or missing fan; broadcasts.

    Parameters
    ----------
    stage : (...) int array, OFF, LOW or FULL.
    crank_speed : (...) float array, [rev/s].
    """
    stage = np.asarray(stage)
    on = stage > OFF
    share = np.where(on, fan.engaged, fan.disengaged)
    driven = np.asarray(crank_speed) * fan.pulley_ratio * share / fan.reference_speed
    zones = []
    for low in (fan.low_first, fan.low_second)[: fan.in_zone.shape[-1]]:
        at_low = np.where(fan.staged, low, 1.0)
        electric = fan.voltage_ratio * np.where(stage == FULL, 1.0, np.where(on, at_low, 0.0))
        zones.append(np.where(fan.fitted, np.where(fan.mechanical, driven, electric), 0.0))
    return np.stack(np.broadcast_arrays(*zones), -1)


def pressure_rise(fan: Fan, flow: ArrayLike, ratio: ArrayLike, density: ArrayLike) -> FloatArray:
    """Pressure that a fan adds [Pa]; negative where it resists; broadcasts.

    Parameters
    ----------
    flow : (...) float array, through the blades of one fan [m³/s], 0 or more.
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
    if not turning.any():
        return np.where(fan.fitted, stopped, 0.0)
    at = flow * (CURVE_POINTS - 1) / (np.where(turning, ratio, 1.0) * fan.free_flow)
    step = np.minimum(at, CURVE_POINTS - 2).astype(np.int64)
    curves = fan.pressure.reshape(-1)
    first = step + (np.arange(curves.size // CURVE_POINTS) * CURVE_POINTS).reshape(fan.pressure.shape[:-1])
    left = curves[first]
    curve = left + (at - step) * (curves[first + 1] - left)
    driven = curve * (density / fan.reference_density) * ratio**2
    return np.where(fan.fitted, np.where(turning, np.maximum(driven, stopped), stopped), 0.0)


def drawn_power(
    fan: Fan, stage: ArrayLike, crank_speed: ArrayLike, density: ArrayLike
) -> tuple[FloatArray, FloatArray]:
    """Electric power and shaft power [W] that the fans take; broadcasts. Both follow speed cubed, that of a
    shaft-driven one air density as well; an electric one draws its tested power at its tested voltage."""
    cubed = (speed_ratio(fan, stage, crank_speed) ** 3 * fan.in_zone).sum(-1)
    electric = np.where(fan.mechanical, 0.0, fan.electric_power * cubed)
    shaft = fan.shaft_power * cubed * np.asarray(density) / fan.reference_density
    return electric, np.where(fan.mechanical, shaft, 0.0)
