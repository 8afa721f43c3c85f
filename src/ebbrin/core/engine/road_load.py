"""Brake power that the road asks for."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, FloatArray


@dataclass(frozen=True)
class Vehicle:
    """Mass with load [kg], drag area C_d·A [m²], rolling resistance [-], driveline efficiency [-]."""

    mass: FloatArray
    drag_area: FloatArray
    rolling_resistance: FloatArray
    driveline_efficiency: FloatArray


@dataclass(frozen=True)
class Motion:
    """Speed [m/s], gradient (rise over run) [-], acceleration [m/s²], headwind [m/s]."""

    speed: FloatArray
    gradient: FloatArray
    acceleration: FloatArray
    headwind: FloatArray


def brake_power(vehicle: Vehicle, motion: Motion, air_density: ArrayLike) -> FloatArray:
    """Brake power [W] for a motion in air of ``air_density`` [kg/m³]; never negative; broadcasts.

    References
    ----------
    gillespie-1992, ch. 2 and 4 (road load).
    """
    slope = np.arctan(motion.gradient)
    air_speed = motion.speed + motion.headwind
    force = (
        vehicle.mass * GRAVITY * (vehicle.rolling_resistance * np.cos(slope) + np.sin(slope))
        + 0.5 * np.asarray(air_density) * vehicle.drag_area * air_speed * np.abs(air_speed)
        + vehicle.mass * motion.acceleration
    )
    return np.maximum(force * motion.speed / vehicle.driveline_efficiency, 0.0)
