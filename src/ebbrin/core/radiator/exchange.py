"""From two sides to the heat exchanged: effectiveness of crossflow, of passes, and conductance."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.compiled import compiled, over_arrays
from ebbrin.core.radiator.geometry import Core

MOST_TERMS, LEFT_OUT = 400, 1e-11
SMALL = 0.01
"""Below it what an exponential leaves of 1 is worked out for itself, which takes three times as long."""
_SHARES = 1.0 / np.maximum(np.arange(MOST_TERMS), 1.0)


@compiled
def crossflow(NTU: float, capacity_ratio: float) -> float:
    """Effectiveness of crossflow, both fluids unmixed [-], as ``crossflow_effectiveness``, numbers.

    The sum over n of P(x, n) P(y, n), x the NTU and y that times the ratio of capacities, P the chance that a
    Poisson variable exceeds n; over y. Each is what the one before it leaves less the next term.
    """
    y = NTU * capacity_ratio
    term_x = np.exp(-NTU)
    tail_x = 1.0 - term_x if NTU > SMALL else -np.expm1(-NTU)
    if y < 1e-9:
        return tail_x
    term_y = np.exp(-y)
    tail_y = 1.0 - term_y if y > SMALL else -np.expm1(-y)
    total = tail_x * tail_y
    for n in range(1, MOST_TERMS):
        term_x *= NTU * _SHARES[n]
        term_y *= y * _SHARES[n]
        tail_x -= term_x
        tail_y -= term_y
        more = tail_x * tail_y
        total += more
        if more < LEFT_OUT * total:
            break
    return total / y


_crossflow = over_arrays(crossflow)


def crossflow_effectiveness(NTU: ArrayLike, capacity_ratio: ArrayLike) -> FloatArray:
    """Effectiveness of a crossflow exchanger with both fluids unmixed, by the exact series [-].

    Parameters
    ----------
    NTU : (...) float array, UA over the lesser capacity rate [-], 0 or more.
    capacity_ratio : (...) float array, lesser over greater capacity rate [-], 0 to 1.

    Returns
    -------
    (...) float array, 0 to 1.

    References
    ----------
    mason-1955; kays-london-1984. The sum ends where a term is below 1e-11 of it.

    Examples
    --------
    >>> round(float(crossflow_effectiveness(1.0, 0.5)), 3)
    0.547
    """
    return np.asarray(_crossflow(NTU, capacity_ratio))


@compiled
def heat_per_kelvin_at(UA: float, air_capacity: float, coolant_capacity: float) -> float:
    """As ``heat_per_kelvin``, numbers."""
    least, most = min(air_capacity, coolant_capacity), max(air_capacity, coolant_capacity)
    return crossflow(UA / least, least / most) * least


_heat_per_kelvin = over_arrays(heat_per_kelvin_at)


def heat_per_kelvin(UA: ArrayLike, air_capacity: ArrayLike, coolant_capacity: ArrayLike) -> FloatArray:
    """Heat per second that passes for each kelvin between the inlets of both streams [W/K]; broadcasts.

    Parameters
    ----------
    UA, air_capacity, coolant_capacity : (...) float arrays, [W/K], above 0.

    Examples
    --------
    >>> round(float(heat_per_kelvin(1200.0, 1000.0, 4000.0)))  # W for each K between the inlets
    647
    """
    return np.asarray(_heat_per_kelvin(UA, air_capacity, coolant_capacity))


@compiled
def counterflow(pass_effectiveness: float, capacity_ratio: float, n: float) -> float:
    """As ``counterflow_passes``, numbers."""
    e, R = min(pass_effectiveness, 1.0 - 1e-12), capacity_ratio
    if R > 1.0 - 1e-9:
        return n * pass_effectiveness / (1.0 + (n - 1.0) * pass_effectiveness)
    power = ((1.0 - pass_effectiveness * R) / (1.0 - e)) ** n
    return (power - 1.0) / (power - R)


_counterflow = over_arrays(counterflow)


def counterflow_passes(pass_effectiveness: ArrayLike, capacity_ratio: ArrayLike, n: ArrayLike) -> FloatArray:
    """Effectiveness of ``n`` equal passes one behind the other in overall counterflow [-]; broadcasts.

    Parameters
    ----------
    pass_effectiveness : (...) float array, of one pass alone [-], 0 to below 1.
    capacity_ratio : (...) float array, lesser over greater capacity rate [-], 0 to 1.

    References
    ----------
    kays-london-1984, ch. 2 (multipass, overall counterflow, both fluids mixed between passes).
    """
    return np.asarray(_counterflow(pass_effectiveness, capacity_ratio, n))


@compiled
def passes_at(n: float, in_depth: float, UA: float, air_capacity: float, coolant_capacity: float) -> float:
    """As ``passes_heat_per_kelvin`` for ``n`` passes, in depth where ``in_depth`` is not 0, numbers."""
    if n <= 1.0:
        return heat_per_kelvin_at(UA, air_capacity, coolant_capacity)
    if in_depth > 0.5:
        of_one = heat_per_kelvin_at(UA / n, air_capacity, coolant_capacity)
        least, most = min(air_capacity, coolant_capacity), max(air_capacity, coolant_capacity)
        return least * counterflow(min(of_one / least, 1.0 - 1e-12), least / most, n)
    of_one = heat_per_kelvin_at(UA / n, air_capacity / n, coolant_capacity)
    return coolant_capacity * (1.0 - max(1.0 - of_one / coolant_capacity, 0.0) ** n)


_passes = over_arrays(passes_at)


def passes_heat_per_kelvin(
    core: Core, UA: ArrayLike, air_capacity: ArrayLike, coolant_capacity: ArrayLike
) -> FloatArray:
    """As ``heat_per_kelvin`` for a core whose coolant passes the face several times; broadcasts.

    Side by side each pass meets its own share of fresh air, the coolant chained from one to the next. In
    depth all of both streams go through every pass.

    References
    ----------
    kays-london-1984.
    """
    return np.asarray(_passes(core.passes, core.in_depth, UA, air_capacity, coolant_capacity))
