"""What the radiator has to be, whoever makes it: the face that just keeps what is wanted of every case."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ebbrin.core.airpath.fan import fan_laws
from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.records import changed
from ebbrin.core.sizing.target import Target
from ebbrin.core.system.parts import Cases, System

LEAST_SIDE, MOST_SIDE = 0.1, 2.0
"""Sides of a core that anybody would make, and that a build can hold [m]: all faces from the one squared to the other are
looked at, whatever the fitted core's."""
POINTS, ROUNDS = 18, 4
"""Faces of a round, evenly spaced in the logarithm; each round looks between two of the one before."""


@dataclass(frozen=True)
class FaceNeed:
    """For each of some systems, arrays (systems,): face over the face that is there [-], inf where no face up to
    that of MOST_SIDE does; what is kept at that face [K], as the target measures it, and the most that any face keeps [K];
    index of the case that asks for it."""

    factor: FloatArray
    margin: FloatArray
    best_margin: FloatArray
    case: IntArray


def sides(width: ArrayLike, height: ArrayLike, face: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Width and height [m] of a core with so much ``face`` [m²], of the shape of one of ``width`` by ``height`` [m], as far as
    its sides are ones that a build can hold; broadcasts.

    Examples
    --------
    >>> [float(side) for side in sides(0.6, 0.4, 0.96)]
    [1.2, 0.8]
    >>> [round(float(side), 3) for side in sides(0.8, 0.2, 3.0)]
    [2.0, 1.5]
    """
    shape, area = np.asarray(width, np.float64) / np.asarray(height, np.float64), np.asarray(face, np.float64)
    wide = np.clip(np.sqrt(area * shape), LEAST_SIDE, MOST_SIDE)
    high = np.clip(area / wide, LEAST_SIDE, MOST_SIDE)
    return np.asarray(np.clip(area / high, LEAST_SIDE, MOST_SIDE)), np.asarray(high)


def with_face(system: System, factor: FloatArray | float) -> System:
    """The system with ``factor`` times the face of its core, of the same shape as far as a build can hold it; depth and
    fins stay."""
    core = system.core
    face = core.width * core.height * np.asarray(factor, np.float64)
    width, height = sides(core.width, core.height, face)
    return changed(changed(system, "core.width", width), "core.height", height)


def with_fan_air(system: System, factor: FloatArray | float) -> System:
    """The system with fans that give ``factor`` times the air against its square in pressure, as at a higher speed."""
    scale, fan = np.asarray(factor, np.float64), system.air.fan
    # The pressures of a curve have an axis of their own.
    flow, _ = fan_laws(fan.free_flow, 0.0, scale)
    _, pressure = fan_laws(0.0, fan.pressure, scale[..., None])
    return changed(changed(system, "air.fan.free_flow", flow), "air.fan.pressure", pressure)


def face_needed(system: System, cases: Cases, target: Target, fan_air: Sequence[float] = (1.0,)) -> FaceNeed:
    """Least face that keeps what is wanted of every case, for each of some factors on the fans' air.

    Parameters
    ----------
    system : one system, fields of shape ().
    target : what every case must keep; a timed case counts with its end.
    fan_air : factors on the air that the fans give [-].

    The face is bracketed by looking at POINTS faces at once; of several crossings the one at the largest face
    counts, above which all that were looked at do. The last bracket is 7e-5 wide in the logarithm.

    Raises
    ------
    DomainError
        If a part or a case lies outside what is possible.
    """
    air = np.asarray(fan_air, np.float64)
    n = air.size
    face = float(system.core.width * system.core.height)
    low = np.full(n, np.log(LEAST_SIDE**2 / face))
    high = np.full(n, np.log(MOST_SIDE**2 / face))
    best, never = np.full(n, -np.inf), np.zeros(n, bool)
    for turn in range(ROUNDS):
        grid = low[:, None] + np.linspace(0.0, 1.0, POINTS) * (high - low)[:, None]
        least = _kept(system, cases, target, air, np.exp(grid)).min(-1)
        enough = least >= target.wanted
        if turn == 0:
            best, never = least.max(-1), ~enough[:, -1]
        # The first point above which all do; without any short one the least face will do.
        first = POINTS - np.cumprod(enough[:, ::-1], axis=1).sum(-1)
        rows, upper = np.arange(n), np.minimum(np.maximum(first, 1), POINTS - 1)
        low, high = grid[rows, upper - 1], grid[rows, upper]
    at = np.exp(high)
    there = _kept(system, cases, target, air, at[:, None])[:, 0]
    return FaceNeed(np.where(never, np.inf, at), there.min(-1), best, there.argmin(-1))


def _kept(system: System, cases: Cases, target: Target, air: FloatArray, faces: FloatArray) -> FloatArray:
    """(fans, faces, cases) what is kept [K]."""
    n, k = faces.shape
    spread = with_face(with_fan_air(system, np.repeat(air, k)[:, None]), faces.reshape(-1, 1))
    found = target.kept(spread, cases)
    assert found is not None
    return found.reshape(n, k, -1)
