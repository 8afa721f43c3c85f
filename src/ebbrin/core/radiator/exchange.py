"""From two sides to the heat exchanged: effectiveness of crossflow, of passes, and conductance."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.radiator.geometry import Core

MOST_TERMS = 400


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
    mason-1955; kays-london-1984. The number of terms follows from the largest argument and leaves less
    than 1e-9 of the sum.

    Examples
    --------
    >>> round(float(crossflow_effectiveness(1.0, 0.5)), 3)
    0.547
    """
    x, R = np.broadcast_arrays(np.asarray(NTU, np.float64), np.asarray(capacity_ratio, np.float64))
    y = R * x
    still = y < 1e-9
    y_safe = np.where(still, 1e-9, y)
    largest = float(y_safe.max()) if y.size else 0.0
    terms = min(int(np.ceil(largest + 5.0 * np.sqrt(largest) + 6.0)), MOST_TERMS)
    # Both Poisson terms and tails side by side: one operation serves both arguments.
    mean = np.stack([x, y_safe])
    term = np.exp(-mean)
    tail = 1.0 - term
    total = tail[0] * tail[1]
    for n in range(1, terms):
        term *= mean
        term *= 1.0 / n
        tail -= term
        total += tail[0] * tail[1]
    return np.asarray(np.where(still, -np.expm1(-x), total / y_safe))


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
    least = np.minimum(air_capacity, coolant_capacity)
    most = np.maximum(air_capacity, coolant_capacity)
    return np.asarray(crossflow_effectiveness(np.asarray(UA) / least, least / most) * least)


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
    e, R, n = np.broadcast_arrays(
        *(np.asarray(v, np.float64) for v in (pass_effectiveness, capacity_ratio, n))
    )
    equal = R > 1.0 - 1e-9
    R_safe = np.where(equal, 0.5, R)
    power = ((1.0 - e * R_safe) / (1.0 - np.minimum(e, 1.0 - 1e-12))) ** n
    unequal = (power - 1.0) / (power - R_safe)
    return np.asarray(np.where(equal, n * e / (1.0 + (n - 1.0) * e), unequal))


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
    n = core.passes
    if not np.any(n > 1.0):
        return heat_per_kelvin(UA, air_capacity, coolant_capacity)
    part, C_air, C = np.asarray(UA) / n, np.asarray(air_capacity), np.asarray(coolant_capacity)
    of_one = heat_per_kelvin(part, np.where(core.in_depth, C_air, C_air / n), C)
    beside = C * (1.0 - np.maximum(1.0 - of_one / C, 0.0) ** n)
    least, most = np.minimum(C_air, C), np.maximum(C_air, C)
    behind = least * counterflow_passes(np.minimum(of_one / least, 1.0 - 1e-12), least / most, n)
    return np.asarray(np.where(core.in_depth, behind, beside))
