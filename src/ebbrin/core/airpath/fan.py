"""Fans by their tested curve, and what becomes of the curve at another speed, voltage and air density."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, require
from ebbrin.core.records import OwnAxis, with_axis

CURVE_POINTS = 65
STOPPED_LOSS = 1.5  # choice: heads of the disc velocity that a stopped fan takes away
TURNS = 1e-3  # speed ratio below which a fan counts as stopped
OFF, LOW, FULL = 0, 1, 2
"""Stages of a fan. An unstaged one knows off and full. A driven one has no switch: it turns, with its clutch as far
engaged as its air is warm, at every stage but OFF, where its belt is off."""
CLUTCH_TAKES, CLUTCH_TAKEN = 333.15, 358.15  # choice: air behind the core that begins and ends engaging, K
CLUTCH_SLIPS = 2800.0 / 60.0  # common practice: a viscous clutch drives no fan faster, rev/s


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
    pressure: OwnAxis
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
        return with_axis(self)

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
        require("fan voltage over test voltage", self.voltage_ratio, 0.05, 16.0, "-")
        require("fan test air density", self.reference_density, 0.1, 3.0, "kg/m³")
        return self


def fan_laws(flow: ArrayLike, pressure: ArrayLike, speed: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Flow [m³/s] and pressure [Pa] of a fan at ``speed`` times its speed [-], air density the same; broadcasts.

    References
    ----------
    white-fluid-mechanics, ch. 11 (affinity laws).

    Examples
    --------
    >>> flow, pressure = fan_laws(0.8, 120.0, 1.1)
    >>> round(float(flow), 2), round(float(pressure), 1)  # m³/s, Pa at 110 % of the speed
    (0.88, 145.2)
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


@dataclass(frozen=True)
class Speeds:
    """Fan speed over reference speed, (..., fans) arrays [-]: with the clutch free and with it engaged, the same
    without a clutch, and the most that a clutch drives, inf without one."""

    free: FloatArray
    engaged: FloatArray
    most: FloatArray

    @cached_property
    def clutched(self) -> bool:
        """Whether any of the fans answers to the warmth of its air."""
        return bool(np.any(self.free != self.engaged))

    def at(self, behind: FloatArray) -> FloatArray:
        """Speed ratio (..., fans) with the air at a temperature ``behind`` the core (..., fans) [K]."""
        if not self.clutched:
            return self.free
        grip = (behind - CLUTCH_TAKES) / (CLUTCH_TAKEN - CLUTCH_TAKES)
        grip = np.minimum(np.maximum(grip, 0.0), 1.0)
        return np.minimum(self.free + grip * (self.engaged - self.free), self.most)

    def per_kelvin(self, behind: FloatArray) -> FloatArray:
        """How the speed ratio grows with that temperature [-/K], none where the clutch is wholly free or engaged, or
        slips."""
        moves = (behind > CLUTCH_TAKES) & (behind < CLUTCH_TAKEN) & (self.at(behind) < self.most)
        return np.where(moves, (self.engaged - self.free) / (CLUTCH_TAKEN - CLUTCH_TAKES), 0.0)


def speeds(fan: Fan, stage: ArrayLike, crank_speed: ArrayLike) -> Speeds:
    """What the fans turn at; 0 for a stopped or missing fan; broadcasts.

    Parameters
    ----------
    stage : (...) int array, OFF, LOW or FULL.
    crank_speed : (...) float array, [rev/s].

    References
    ----------
    The clutch's temperatures are choices, its slip is common practice.
    """
    stage = np.asarray(stage)
    on = stage > OFF
    pulley = np.where(on, np.asarray(crank_speed) * fan.pulley_ratio / fan.reference_speed, 0.0)
    clutch = fan.mechanical & (fan.engaged != fan.disengaged)
    free: list[FloatArray] = []
    engaged: list[FloatArray] = []
    for low in (fan.low_first, fan.low_second)[: fan.in_zone.shape[-1]]:
        at_low = np.where(fan.staged, low, 1.0)
        electric = fan.voltage_ratio * np.where(stage == FULL, 1.0, np.where(on, at_low, 0.0))
        for found, share in ((free, fan.disengaged), (engaged, fan.engaged)):
            turns = np.where(fan.mechanical, pulley * share, electric)
            found.append(np.where(fan.fitted, turns, 0.0))
    slips = np.where(clutch, CLUTCH_SLIPS / fan.reference_speed, np.inf)[..., None]
    together = [np.stack(np.broadcast_arrays(*rows), -1) for rows in (free, engaged)]
    return Speeds(together[0], together[1], slips)


def pressure_rise(
    fan: Fan, flow: ArrayLike, ratio: ArrayLike, density: ArrayLike
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Pressure that a fan adds [Pa], negative where it resists; what it would add to still air [Pa]; and how the
    first falls with the logarithm of the flow [Pa]; broadcasts.

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
    turning = fan.fitted & (ratio > TURNS)
    if not turning.any():
        stopped = np.where(fan.fitted, stopped, 0.0)
        return stopped, np.zeros_like(stopped), -2.0 * stopped
    at = flow * (CURVE_POINTS - 1) / (np.where(turning, ratio, 1.0) * fan.free_flow)
    step = np.minimum(at, CURVE_POINTS - 2).astype(np.int64)
    curves = fan.pressure.reshape(-1)
    begin = (np.arange(curves.size // CURVE_POINTS) * CURVE_POINTS).reshape(fan.pressure.shape[:-1])
    first = step + begin
    left = curves[first]
    steep = curves[first + 1] - left
    scale = np.where(turning, (density / fan.reference_density) * ratio**2, 0.0)
    driven = (left + (at - step) * steep) * scale
    resists = ~turning | (driven < stopped)
    rise = np.where(resists, stopped, driven)
    falls = np.where(resists, -2.0 * stopped, -steep * at * scale)
    return np.where(fan.fitted, rise, 0.0), curves[begin] * scale, np.where(fan.fitted, falls, 0.0)


def drawn_power(fan: Fan, ratio: FloatArray, density: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Electric power and shaft power [W] that the fans take at a speed ``ratio`` (..., fans) [-]; broadcasts. Both
    follow speed cubed, that of a shaft-driven one air density as well; an electric one draws its tested power at
    its tested voltage."""
    cubed = (ratio**3 * fan.in_zone).sum(-1)
    electric = np.where(fan.mechanical, 0.0, fan.electric_power * cubed)
    shaft = fan.shaft_power * cubed * np.asarray(density) / fan.reference_density
    return electric, np.where(fan.mechanical, shaft, 0.0)
