"""What a recorded drive does not say itself: gradient from its altitudes, acceleration from its speeds."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import FloatArray

GRADIENT_OVER = (
    100.0  # choice: way over which a gradient is taken, so that steps of a metre do not become hills, m
)
ACCELERATION_OVER = 4.0  # choice: the same for acceleration, s
STANDS = 1.0  # choice: a way shorter than this has no gradient, m


def gradient_along(time: FloatArray, speed: FloatArray, altitude: FloatArray) -> FloatArray:
    """Gradient (rise over run) at each row [-], (rows,), over GRADIENT_OVER of way around it.

    Parameters
    ----------
    time : (rows,) increasing [s].
    speed : (rows,) held until the next row [m/s].
    altitude : (rows,) [m].
    """
    way = np.concatenate([[0.0], np.cumsum(speed[:-1] * np.diff(time))])
    # Where it stands, the last altitude counts.
    last = np.append(np.diff(way) > 0.0, True)
    behind = np.maximum(way - 0.5 * GRADIENT_OVER, 0.0)
    ahead = np.minimum(way + 0.5 * GRADIENT_OVER, way[-1])
    climbed = np.interp(ahead, way[last], altitude[last]) - np.interp(behind, way[last], altitude[last])
    run = ahead - behind
    return np.asarray(np.where(run > STANDS, climbed / np.maximum(run, STANDS), 0.0))


def acceleration_along(time: FloatArray, speed: FloatArray) -> FloatArray:
    """Acceleration at each row [m/s²], (rows,), over ACCELERATION_OVER around it; ``time`` [s] increasing, ``speed``
    [m/s]."""
    behind = np.maximum(time - 0.5 * ACCELERATION_OVER, time[0])
    ahead = np.minimum(time + 0.5 * ACCELERATION_OVER, time[-1])
    return np.asarray((np.interp(ahead, time, speed) - np.interp(behind, time, speed)) / (ahead - behind))
