"""What holds thermostat, fan and cap other than they would be, at each operating point."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.drive.plant import RETURN_VALVE

FREE = -1
"""Held by nothing."""


@dataclass(frozen=True)
class Controls:
    """(S,) at each operating point: lift that the valve is held at and the stage that the fan is held at, FREE
    where they move by themselves; least lift of a valve that does not shut [-]; how much later it opens [K]; gauge
    pressure at which the cap lets go, and how far below the air's it lets coolant back [Pa]; coolant lost to
    the ground [kg/s]; combustion gas into the coolant [m³/s at the cap's pressure]."""

    held_lift: FloatArray
    least_lift: FloatArray
    late: FloatArray
    held_stage: IntArray
    cap: FloatArray
    back: FloatArray
    leak: FloatArray
    gas: FloatArray


def free(points: int, cap: float) -> Controls:
    """Everything as it should be."""
    none, nothing = np.full(points, float(FREE)), np.zeros(points)
    return Controls(
        none,
        nothing,
        nothing,
        np.full(points, FREE),
        np.full(points, cap),
        np.full(points, RETURN_VALVE),
        nothing,
        nothing,
    )


def joined(parts: list[Controls]) -> Controls:
    """Controls of several sets of points, one after another."""
    return Controls(*(np.concatenate([getattr(part, f.name) for part in parts]) for f in fields(Controls)))
