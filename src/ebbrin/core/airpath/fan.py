"""Fans by their tested curve, and what becomes of the curve at another speed, voltage and air density."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, require
from ebbrin.core.compiled import Numbers, both, choose, compiled, over_arrays
from ebbrin.core.records import OwnAxis

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
    def numbers(self) -> FanNumbers:
        """What compiled code asks of it."""
        return FanNumbers(
            self.fitted,
            self.mechanical,
            self.puller,
            self.staged,
            self.mechanical & (self.engaged != self.disengaged),
            self.disc,
            self.free_flow,
            self.reference_density,
            self.voltage_ratio,
            self.low_first,
            self.low_second,
            self.electric_power,
            self.shaft_power,
            self.reference_speed,
            self.pulley_ratio,
            self.engaged,
            self.disengaged,
            self.in_zone[..., 0],
            self.in_zone[..., 1] if self.apart else np.asarray(0.0),
        )

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


class FanNumbers(NamedTuple):
    """A fan without its curve, arrays (...), or numbers in compiled code: fields of ``Fan`` and ``clutch``, whether it
    has one; first and second, how many fans serve the first and the second fan zone."""

    fitted: Numbers
    mechanical: Numbers
    puller: Numbers
    staged: Numbers
    clutch: Numbers
    disc: Numbers
    free_flow: Numbers
    reference_density: Numbers
    voltage_ratio: Numbers
    low_first: Numbers
    low_second: Numbers
    electric_power: Numbers
    shaft_power: Numbers
    reference_speed: Numbers
    pulley_ratio: Numbers
    engaged: Numbers
    disengaged: Numbers
    first: Numbers
    second: Numbers


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
        return (
            self.free
            if not self.clutched
            else np.asarray(ratio_at(self.free, self.engaged, self.most, behind))
        )


@both
def ratio_at(free: Numbers, engaged: Numbers, most: Numbers, behind: Numbers) -> Numbers:
    """Speed over reference speed [-] of a fan whose clutch feels air at ``behind`` [K]; broadcasts. The clutch's
    temperatures are choices."""
    grip = (behind - CLUTCH_TAKES) / (CLUTCH_TAKEN - CLUTCH_TAKES)
    grip = np.minimum(np.maximum(grip, 0.0), 1.0)
    return np.minimum(free + grip * (engaged - free), most)


@both
def turns(fan: Numbers, low: Numbers, stage: Numbers, crank_speed: Numbers) -> tuple[Numbers, Numbers]:
    """Speed over reference speed [-] of one fan, ``low`` that at stage LOW, with its clutch free and engaged (the same
    without one); 0 for a stopped or missing fan; broadcasts."""
    pulley = choose(stage > OFF, crank_speed * fan.pulley_ratio / fan.reference_speed, 0.0)
    at_low = choose(fan.staged > 0.5, low, 1.0)
    electric = fan.voltage_ratio * choose(stage == FULL, 1.0, choose(stage > OFF, at_low, 0.0))
    free = choose(fan.mechanical > 0.5, pulley * fan.disengaged, electric)
    engaged = choose(fan.mechanical > 0.5, pulley * fan.engaged, electric)
    return choose(fan.fitted > 0.5, free, 0.0), choose(fan.fitted > 0.5, engaged, 0.0)


@both
def clutch_slips(fan: Numbers) -> Numbers:
    """The most speed over reference speed [-] that a clutch drives, inf without one; common practice."""
    return choose(fan.clutch > 0.5, CLUTCH_SLIPS / fan.reference_speed, np.inf)


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
    numbers, crank = fan.numbers, np.asarray(crank_speed)
    lows = (fan.low_first, fan.low_second)[: fan.in_zone.shape[-1]]
    found = [turns(numbers, low, np.asarray(stage), crank) for low in lows]
    free, engaged = (np.stack(np.broadcast_arrays(*(pair[k] for pair in found)), -1) for k in (0, 1))
    return Speeds(free, engaged, np.asarray(clutch_slips(numbers))[..., None])


@compiled
def rise_at(
    fan: Numbers, curve: Numbers, flow: float, ratio: float, density: float
) -> tuple[float, float, float]:
    """As ``pressure_rise`` of a fan with its ``curve`` (CURVE_POINTS,), numbers."""
    if fan.fitted < 0.5:
        return 0.0, 0.0, 0.0
    velocity = flow / fan.disc
    stopped = -STOPPED_LOSS * 0.5 * density * velocity * velocity
    if ratio <= TURNS:
        return stopped, 0.0, -2.0 * stopped
    at = flow * (CURVE_POINTS - 1) / (ratio * fan.free_flow)
    step = int(min(at, CURVE_POINTS - 2.0))
    left = curve[step]
    steep = curve[step + 1] - left
    scale = density / fan.reference_density * ratio * ratio
    driven = (left + (at - step) * steep) * scale
    if driven < stopped:
        return stopped, curve[0] * scale, -2.0 * stopped
    return driven, curve[0] * scale, -steep * at * scale


@compiled
def _rise(flow, ratio, density, fitted, disc, free_flow, reference_density, curve):  # type: ignore[no-untyped-def]
    zero = 0.0
    fan = FanNumbers(
        fitted, zero, zero, zero, zero, disc, free_flow, reference_density,
        zero, zero, zero, zero, zero, zero, zero, zero, zero, zero, zero,
    )  # fmt: skip
    return rise_at(fan, curve, flow, ratio, density)


def pressure_rise(
    fan: Fan, flow: ArrayLike, ratio: ArrayLike, density: ArrayLike
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Pressure that a fan (fields of shape ()) adds [Pa], negative where it resists; what it would add to still air
    [Pa]; and how the first falls with the logarithm of the flow [Pa]; broadcasts.

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
    own = (float(v) for v in (fan.fitted, fan.disc, fan.free_flow, fan.reference_density))
    fitted, disc, free_flow, reference = own
    curve = np.ascontiguousarray(fan.pressure)

    def one(flow: float, ratio: float, density: float) -> Any:
        return _rise(flow, ratio, density, fitted, disc, free_flow, reference, curve)

    return over_arrays(one, 3)(flow, ratio, density)


@both
def power_at(fan: Numbers, cubed: Numbers, density: Numbers) -> tuple[Numbers, Numbers]:
    """Electric power and shaft power [W] that all fans take, from the sum of their speed ratios cubed [-]; as
    ``drawn_power``."""
    electric = choose(fan.mechanical > 0.5, 0.0, fan.electric_power * cubed)
    shaft = fan.shaft_power * cubed * density / fan.reference_density
    return electric, choose(fan.mechanical > 0.5, shaft, 0.0)


def drawn_power(fan: Fan, ratio: FloatArray, density: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Electric power and shaft power [W] that the fans take at a speed ``ratio`` (..., fans) [-]; broadcasts. Both
    follow speed cubed, that of a shaft-driven one air density as well; an electric one draws its tested power at
    its tested voltage."""
    electric, shaft = power_at(fan, (ratio**3 * fan.in_zone).sum(-1), np.asarray(density))
    return np.asarray(electric), np.asarray(shaft)
