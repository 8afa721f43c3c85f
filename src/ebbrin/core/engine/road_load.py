"""Brake power that the road asks for, and the engine speed that the gearing gives."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, FloatArray
from ebbrin.core.compiled import Numbers, both


@dataclass(frozen=True)
class Vehicle:
    """Mass with load [kg], drag area C_d·A [m²], rolling resistance [-], driveline efficiency [-]; mass
    [kg] and drag area [m²] that a trailer adds, where a case tows it."""

    mass: FloatArray
    drag_area: FloatArray
    rolling_resistance: FloatArray
    driveline_efficiency: FloatArray
    trailer_mass: FloatArray
    trailer_drag_area: FloatArray


@dataclass(frozen=True)
class Motion:
    """Speed [m/s], gradient (rise over run) [-], acceleration [m/s²], headwind [m/s], and whether the
    trailer is on [0 or 1]."""

    speed: FloatArray
    gradient: FloatArray
    acceleration: FloatArray
    headwind: FloatArray
    towing: FloatArray


@both
def brake_power(vehicle: Numbers, motion: Numbers, air_density: Numbers) -> Numbers:
    """Brake power [W] for a motion in air of ``air_density`` [kg/m³]; never negative; broadcasts.

    Parameters
    ----------
    vehicle, motion : records with the fields of ``Vehicle`` and of ``Motion``.

    References
    ----------
    gillespie-1992, ch. 2 and 4 (road load).
    """
    slope = np.arctan(motion.gradient)
    mass = vehicle.mass + motion.towing * vehicle.trailer_mass
    drag_area = vehicle.drag_area + motion.towing * vehicle.trailer_drag_area
    air_speed = motion.speed + motion.headwind
    force = (
        mass * GRAVITY * (vehicle.rolling_resistance * np.cos(slope) + np.sin(slope))
        + 0.5 * air_density * drag_area * air_speed * np.abs(air_speed)
        + mass * motion.acceleration
    )
    return np.maximum(force * motion.speed / vehicle.driveline_efficiency, 0.0)


def crank_speed(road_speed: ArrayLike, overall_ratio: ArrayLike, rolling_radius: ArrayLike) -> FloatArray:
    """Crank speed [rev/s] at a ``road_speed`` [m/s] without slip; broadcasts.

    Parameters
    ----------
    overall_ratio : (...) float array, crank turns per wheel turn: gear times final drive [-].
    rolling_radius : (...) float array, of the driven wheel [m], above 0.

    Examples
    --------
    >>> round(float(crank_speed(27.78, 4.0, 0.30)) * 60)  # rpm at 100 km/h
    3537
    """
    wheel = np.asarray(road_speed) / (2.0 * np.pi * np.asarray(rolling_radius))
    return np.asarray(wheel * np.asarray(overall_ratio))
