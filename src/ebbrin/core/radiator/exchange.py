"""From two sides to the heat exchanged: crossflow effectiveness and conductance."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray

WALL_CONDUCTIVITY = 160.0  # tube wall, W/m K; common practice, of no weight beside the films


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
    mason-1955; kays-london-1984. The number of terms follows from the largest argument.
    """
    x, R = np.broadcast_arrays(np.asarray(NTU, np.float64), np.asarray(capacity_ratio, np.float64))
    y = R * x
    still = y < 1e-9
    y_safe = np.where(still, 1e-9, y)
    terms = int(np.ceil(y_safe.max() + 7.0 * np.sqrt(y_safe.max()) + 7.0)) if y.size else 0
    # Both Poisson terms and tails side by side: one operation serves both arguments.
    mean = np.stack([x, y_safe])
    term = np.exp(-mean)
    tail = -np.expm1(-mean)
    total = tail[0] * tail[1]
    for n in range(1, terms):
        term *= mean / n
        tail -= term
        total += tail[0] * tail[1]
    return np.asarray(np.where(still, -np.expm1(-x), total / y_safe))


def heat_per_kelvin(UA: ArrayLike, air_capacity: ArrayLike, coolant_capacity: ArrayLike) -> FloatArray:
    """Heat per second that passes for each kelvin between the inlets of both streams [W/K]; broadcasts.

    Parameters
    ----------
    UA, air_capacity, coolant_capacity : (...) float arrays, [W/K], above 0.
    """
    least = np.minimum(air_capacity, coolant_capacity)
    most = np.maximum(air_capacity, coolant_capacity)
    return np.asarray(crossflow_effectiveness(np.asarray(UA) / least, least / most) * least)
