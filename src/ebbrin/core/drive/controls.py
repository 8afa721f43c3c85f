"""What holds thermostat, fan and cap other than they would be, in each state of the parts."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.drive.plant import RETURN_VALVE

FREE = -1
"""Held by nothing."""


@dataclass(frozen=True)
class Controls:
    """(S,) in each of some states: lift that the valve is held at and the stage that the fan is held at, FREE
    where they move by themselves; least lift of a valve that does not shut [-]; how much later it opens [K]; stages
    of the fan that cannot be had any more, from the fastest down; whether its switch stays as it stands; gauge
    pressure at which the cap lets go, and how far below the air's it lets coolant back [Pa]; coolant lost to
    the ground [kg/s]; combustion gas into the coolant [m³/s at the cap's pressure]; share of the fill that the system
    still holds, what is above runs out at once, or was never filled if that is how the drive begins [-]."""

    held_lift: FloatArray
    least_lift: FloatArray
    late: FloatArray
    held_stage: IntArray
    lost_stages: IntArray
    deaf: BoolArray
    cap: FloatArray
    back: FloatArray
    leak: FloatArray
    gas: FloatArray
    fill: FloatArray


def free(states: int, cap: float) -> Controls:
    """Everything as it should be."""
    nothing = np.zeros(states)
    return Controls(
        held_lift=np.full(states, float(FREE)),
        least_lift=nothing,
        late=nothing,
        held_stage=np.full(states, FREE),
        lost_stages=np.zeros(states, np.int64),
        deaf=np.zeros(states, bool),
        cap=np.full(states, cap),
        back=np.full(states, RETURN_VALVE),
        leak=nothing,
        gas=nothing,
        fill=np.ones(states),
    )


def joined(parts: list[Controls]) -> Controls:
    """Controls of several states, one after another."""
    return Controls(*(np.concatenate([getattr(part, f.name) for part in parts]) for f in fields(Controls)))
