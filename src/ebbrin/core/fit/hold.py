"""A pressure hold: what of a fall of the gauge is a leak, what is cooling, and how small a leak it could have seen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ebbrin.core.base import FloatArray, require
from ebbrin.core.media.coolants import Coolant, properties

HOSES = 0.3e-9  # choice, 0.3 mL/kPa: by how much hoses and tanks give, m³/Pa
HOSES_FACTOR = 1.6  # choice: it may be so many times as much or as little (90 %)
AIR = 0.1e-3  # choice, 0.1 L: air left in a filled system, below the adapter and in the pump's hose, m³
AIR_FACTOR = 1.6  # choice: the same of the air
NOTICED = 1.0  # choice: without thermometer readings, what nobody would have noticed between start and end, K (90 %)
MATTERS = 10e-6 / 3600.0  # choice, 10 mL/h: a quarter of a litre in a month of an hour a day, m³/s
FAST = 0.5  # choice: share of the pressure that is lost ...
FAST_WITHIN = 300.0  # choice: ... within so many seconds: a large leak, or a loose adapter
LEAST_READINGS = 3
SIMULATED_STEP = 10.0  # s
SURE = 0.90
"""Both ends of a band together leave a tenth outside."""

Said = Literal["leaks", "seeps", "tight", "doubt", "fast"]


@dataclass(frozen=True)
class Rig:
    """What is under pressure: coolant and its volume [m³], air shut in with it at the beginning [m³], by how much
    hoses and tanks give [m³/Pa], pressure of the air outside [Pa], what the gauge can show apart [Pa], and how far its
    thermometer may be off between start and end [K] (90 %)."""

    coolant: Coolant
    volume: float
    atmosphere: float
    resolution: float
    thermometer: float
    air: float = AIR
    hoses: float = HOSES


@dataclass(frozen=True)
class Held:
    """What a hold came to. Leak at the pressure of the beginning with its 90 % band, and the smallest that would have
    shown [m³/s]: a band below nothing says that it warmed, or was pumped again, without being told. Fall of the gauge, and
    what cooling makes alone [Pa], below nothing for a rise."""

    said: Said
    leak: float
    low: float
    high: float
    smallest: float
    fall: float
    by_cooling: float


def escaped(rig: Rig, pressure: FloatArray, temperature: FloatArray) -> FloatArray:
    """(n,) what has left the system since the first reading [m³], from gauge pressures [Pa] and temperatures [K].

    The coolant gives room by what left and by what it shrank in cooling; the air shut in takes it, growing as its
    pressure falls and shrinking as it cools, and so do the hoses.

    References
    ----------
    Ideal gas; thermal expansion from melinder-2010 and iapws-95 through ``properties``.
    """
    inside = rig.atmosphere + pressure
    air = rig.air * (inside[0] / inside * temperature / temperature[0] - 1.0)
    hoses = rig.hoses * (pressure[0] - pressure)
    density = properties(rig.coolant, temperature).density
    shrunk = rig.volume * (1.0 - density[0] / density)
    return np.asarray(air + hoses - shrunk)


def compliance(rig: Rig, pressure: float) -> float:
    """Volume that a system takes in per pressure [m³/Pa] at a gauge pressure [Pa].

    >>> water = Coolant(np.asarray(0), np.asarray(0.0))
    >>> c = compliance(Rig(water, 10e-3, 101325.0, 1000.0, 0.5), 100e3)
    >>> round(c * 1e9, 2)  # mL/kPa
    0.8
    """
    return rig.air / (rig.atmosphere + pressure) + rig.hoses


def held(
    rig: Rig, time: FloatArray, pressure: FloatArray, start: float | None, end: float | None, room: float
) -> Held:
    """What readings over time say.

    A leak goes with the pressure behind it (laminar, a choice), so what has escaped is fitted by a straight line over
    the pressure's own integral. Its band holds the gauge's steps and scatter, the thermometer, and what is not known of
    air and hoses.

    Parameters
    ----------
    time, pressure : (n,) float arrays, at least three readings [s], rising, and gauge pressures [Pa], above none.
    start, end : coolant temperatures then [K]; None where nobody measured: it counts as ``room``, unchanged.
    room : temperature taken where there is none [K].

    Raises
    ------
    DomainError
        If there are fewer readings, times do not rise, or a value lies outside.
    """
    time = require("time of a reading", time, 0.0, 86400.0, "s")
    pressure = require("gauge pressure", pressure, 0.0, 500e3, "Pa")
    require("number of readings", float(len(time)), LEAST_READINGS, 10_000, "")
    require("time between readings", np.diff(time), 1e-3, 86400.0, "s")
    require("first gauge pressure", pressure[0], max(2.0 * rig.resolution, 1e3), 500e3, "Pa")
    both = start is not None and end is not None
    first = room if start is None else start
    last = first if end is None else end
    require("coolant temperature", np.array([first, last]), 273.15 - 30.0, 273.15 + 110.0, "K")
    rig = rig if both else replace(rig, thermometer=max(rig.thermometer, NOTICED))
    # A gauge at its stop tells nothing of what goes on.
    live = np.flatnonzero(pressure <= max(rig.resolution, 1e-9))
    count = max(int(live[0]) + 1, 2) if live.size else len(pressure)
    t, p = time[:count] - time[0], pressure[:count]
    slope, by_gauge = _slope(rig, t, p, first, last, time)
    by_thermometer = _apart(
        _slope(rig, t, p, first, last + rig.thermometer, time)[0],
        _slope(rig, t, p, first, last - rig.thermometer, time)[0],
    )
    by_air = _apart(
        *(_slope(replace(rig, air=rig.air * f), t, p, first, last, time)[0] for f in _ends(AIR_FACTOR))
    )
    by_hoses = _apart(
        *(_slope(replace(rig, hoses=rig.hoses * f), t, p, first, last, time)[0] for f in _ends(HOSES_FACTOR))
    )
    wide = float(np.sqrt(by_gauge**2 + by_thermometer**2 + by_air**2 + by_hoses**2))
    smallest = float(np.hypot(by_gauge, by_thermometer))
    low, high = slope - wide, slope + wide
    cooling = _cooling(rig, float(pressure[0]), first, last)
    fast = slope > 0.0 and _falls_fast(t, p, cooling / (time[-1] - time[0]))
    return Held(
        "fast" if fast else _said(slope, low, high, smallest),
        slope,
        low,
        high,
        smallest,
        float(pressure[0] - pressure[-1]),
        cooling,
    )


def _ends(factor: float) -> tuple[float, float]:
    return factor, 1.0 / factor


def _apart(one: float, other: float) -> float:
    return 0.5 * abs(one - other)


def _falls_fast(t: FloatArray, p: FloatArray, cooling: float) -> bool:
    """Whether the pressure falls at once by more than what ``cooling`` takes from it [Pa/s]."""
    last = int(np.flatnonzero(t <= FAST_WITHIN)[-1])
    return bool(p[0] - p[last] - max(cooling, 0.0) * t[last] > FAST * p[0])


def _said(leak: float, low: float, high: float, smallest: float) -> Said:
    if low > 0.0 and leak > smallest:
        return "seeps" if high < MATTERS else "leaks"
    # What rose by more than was measured may hide any leak.
    return "tight" if 0.0 <= high < MATTERS and smallest < MATTERS else "doubt"


def _slope(
    rig: Rig, t: FloatArray, p: FloatArray, first: float, last: float, time: FloatArray
) -> tuple[float, float]:
    """Leak at the first pressure [m³/s], and half its 90 % band by the gauge alone."""
    share = t / (time[-1] - time[0])
    out = escaped(rig, p, first + (last - first) * share)
    # Under what the gauge cannot show there may still be pressure: the mean of two readings stands for the time between.
    relative = p / p[0]
    x = np.concatenate([[0.0], np.cumsum(0.5 * (relative[1:] + relative[:-1]) * np.diff(t))])
    spread = x - x.mean()
    squares = float(spread @ spread)
    slope = float(spread @ out) / squares
    rest = out - out.mean() - slope * spread
    # What a step of the gauge is worth in volume; readings scatter evenly over a step.
    step = compliance(rig, float(p.mean())) * rig.resolution / np.sqrt(12.0)
    free = len(t) - 2
    seen = float(np.sqrt(rest @ rest / free)) if free > 0 else 0.0
    from scipy.special import ndtri, stdtrit  # a quarter of a second to import, which nothing else asks for

    sure = 0.5 + 0.5 * SURE
    wide = max(float(ndtri(sure)) * step, float(stdtrit(free, sure)) * seen if free > 0 else 0.0)
    return slope, float(wide / np.sqrt(squares))


def _cooling(rig: Rig, pressure: float, first: float, last: float) -> float:
    """Fall of the gauge [Pa] that cooling makes in a tight system, by a few Newton steps."""
    now = pressure
    temperatures = np.array([first, last])
    for _ in range(30):
        out = float(escaped(rig, np.array([pressure, now]), temperatures)[1])
        step = out / compliance(rig, now)
        now = max(now + step, -0.9 * rig.atmosphere)
        if abs(step) < 1.0:
            break
    return float(min(pressure - now, pressure))


def simulated(
    rig: Rig, leak: float, start: float, time: FloatArray, temperature: FloatArray, seed: int
) -> FloatArray:
    """(n,) what a gauge on a made system shows [Pa]: the stand-in for a real one, with its steps and a little scatter.

    Parameters
    ----------
    leak : at the first pressure [m³/s].
    start : first gauge pressure [Pa].
    time, temperature : (n,) float arrays, of each reading [s] and of the coolant then [K].
    """
    require("leak", leak, 0.0, 1e-6, "m³/s")
    rng = np.random.default_rng(seed)
    fine = np.arange(0.0, float(time[-1]) + SIMULATED_STEP, SIMULATED_STEP)
    warm = np.interp(fine, time, temperature)
    density = properties(rig.coolant, warm).density
    shrunk = rig.volume * (1.0 - density[0] / density)
    amount = rig.air * (rig.atmosphere + start) / warm[0]
    pressure = np.empty_like(fine)
    pressure[0] = start
    for i in range(1, len(fine)):
        now = pressure[i - 1]
        inside = rig.atmosphere + now
        warming = amount * (warm[i] - warm[i - 1]) / inside
        out = leak * max(now, 0.0) / start * SIMULATED_STEP + (shrunk[i] - shrunk[i - 1]) - warming
        pressure[i] = max(now - out / (amount * warm[i] / inside**2 + rig.hoses), 0.0)
    shown = np.interp(time, fine, pressure) + rng.normal(0.0, 0.3 * rig.resolution, len(time))
    return np.asarray(np.maximum(np.round(shown / rig.resolution) * rig.resolution, 0.0))
