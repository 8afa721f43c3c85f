"""Operating points that lie close together share one working-out of the components."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.system.parts import Cases

MOST_PLACES = 600
NEAR = {"ambient": 2.0, "altitude": 200.0, "speed": 1.0, "headwind": 1.0, "crank_speed": 2.0}
"""How far points of one place lie apart (choices) [K, m, m/s, m/s, rev/s]; more where a drive has too many places."""
NEAR_POWER = 0.05  # choice: the same for brake power, as a share of the drive's greatest
WIDER = 1.25


@dataclass(frozen=True)
class Places:
    """Place of each of S points, (S,) indices; the mean point of each place and whether its engine runs (P,)."""

    of: IntArray
    points: Cases
    running: BoolArray


def places(points: Cases, running: BoolArray, power: FloatArray, most: int = MOST_PLACES) -> Places:
    """Points grouped by where they stand in a grid, as fine as ``most`` places allow.

    Parameters
    ----------
    power : (S,) brake power of each point [W]; it places the air's warmth, heat itself is that of each point.
    """
    exact = [points.air_conditioning, points.heater, running]
    graded = [np.asarray(getattr(points, name)) / step for name, step in NEAR.items()]
    graded.append(power / (NEAR_POWER * max(float(power.max()), 1.0)))
    width = 1.0
    while True:
        cells = np.stack([*(np.round(values / width) for values in graded), *exact], axis=1)
        _, of = np.unique(cells, axis=0, return_inverse=True)
        of = np.reshape(of, -1)
        count = int(of.max()) + 1
        if count <= most:
            break
        width *= WIDER
    size = np.bincount(of, minlength=count)

    def middle(values: Any) -> Any:
        mean = np.bincount(of, np.asarray(values, np.float64), count) / size
        return mean > 0.5 if np.asarray(values).dtype == bool else mean

    kept = {"duration", "start", "given_power", "power_is_given"}
    means = {f.name: middle(getattr(points, f.name)) for f in fields(Cases) if f.name not in kept}
    # The mean of what the road asks for, not what it would ask for at the mean of speed and gradient.
    means |= {"given_power": middle(power), "power_is_given": np.ones(count, bool)}
    first = np.unique(of, return_index=True)[1]
    return Places(of, replace(points.taken(first), **means), middle(running))
