"""Heat transfer and friction of louvred serpentine fins between flat tubes."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, Range
from ebbrin.core.compiled import compiled, over_arrays
from ebbrin.core.radiator.geometry import Core

CHANG_WANG_RE = Range(30.0, 5000.0, "-")
CHANG_F_RE = Range(30.0, 5000.0, "-")
CHANG_WANG_ANGLE = Range(np.radians(8.4), np.radians(35.0), "rad")
_JOIN_LOW, _JOIN_HIGH = 130.0, 230.0
CHANG_F_THIN = Range(0.0125, np.inf, "-")
"""Fin thickness over pitch below which friction is held and said to be outside (choice; the printed form has no value
below 0.01)."""
_DEGREE = 180.0 / np.pi
_FRICTION_FROM = CHANG_F_RE.low
_LOG_HALF, _LOG_THIRD, _LOG_JOIN = (float(np.log(x)) for x in (0.5, 0.3, _JOIN_HIGH))
_LOG_FROM, _LOG_JOIN_LOW = float(np.log(_FRICTION_FROM)), float(np.log(_JOIN_LOW))
J_EXPONENT = -0.49


def j_factor(core: Core) -> FloatArray:
    """Geometry's part of the Colburn factor [-]: j = j_factor · Re^-0.49, Re on louvre pitch.

    References
    ----------
    chang-wang-1997, eq. 9; fitted for Re 30 to 5000 (CHANG_WANG_RE). Below 30 the power law simply goes on.
    """
    Lp = core.louvre_pitch
    return np.asarray(
        (core.louvre_angle * _DEGREE / 90.0) ** 0.27
        * (core.fin_pitch / Lp) ** -0.14
        * (core.fin_height / Lp) ** -0.29
        * (core.depth / Lp) ** -0.23
        * (core.louvre_length / Lp) ** 0.68
        * (core.tube_pitch / Lp) ** -0.28
        * (core.fin_thickness / Lp) ** -0.05
    )


class LouvreFriction(NamedTuple):
    """What the geometry alone contributes to both branches of chang-2000, (...) float arrays: logarithms
    of the factors and the exponents of Re [-]."""

    low: FloatArray
    low_exponent: FloatArray
    high: FloatArray
    high_exponent: FloatArray


def friction_law(core: Core) -> LouvreFriction:
    """The constants of the friction law for one geometry; chang-2000.

    The paper's major tube diameter is read as the tube's size across the gap. Read as its depth, friction
    would be 15 % higher above Re 230 and up to 75 % below 130; friction is sampled with that in mind.
    """
    Fp, Lp, Ll, Fl = core.fin_pitch, core.louvre_pitch, core.louvre_length, core.fin_height
    Tp, Dm, Fd, Dh = core.tube_pitch, core.tube_height, core.depth, core.air_hydraulic_diameter
    angle, thin = core.louvre_angle * _DEGREE, np.maximum(core.fin_thickness / Fp, CHANG_F_THIN.low)
    low = 14.39 * np.log(1.0 + Fp / Lp) ** 3.04
    low = low * np.log(thin**0.48 + 0.9) ** -1.435 * (Dh / Lp) ** -3.01
    low = low * (Fp / Ll) ** -0.308 * (Fd / Ll) ** -0.308 * np.exp(-0.1167 * Tp / Dm) * angle**0.35
    high = 4.97 * np.log(thin**0.5 + 0.9) ** -0.527
    high = high * (Dh / Lp) ** -2.966 * (Fp / Ll) ** (-0.7931 * Tp / Fl)
    high = high * (Tp / Dm) ** -0.0446 * np.log(1.2 + (Lp / Fp) ** 1.4) ** -3.553 * angle**-0.477
    return LouvreFriction(np.log(low), -0.805 * Fp / Fl, np.log(high), 0.6049 - 1.064 / angle**0.2)


@compiled
def friction_at(
    Re: float, log_Re: float, low: float, low_exponent: float, high: float, high_exponent: float
) -> float:
    """Fanning friction factor of louvred fins [-] at ``Re``, whose logarithm is known, by the fields of a
    ``LouvreFriction``, numbers; as ``friction``."""
    if Re >= _JOIN_HIGH:
        return np.exp(high + high_exponent * log_Re - 2.966 * np.log(log_Re + _LOG_THIRD))
    x = min(max(log_Re, _LOG_FROM), _LOG_JOIN_LOW)
    slow = np.exp(low + low_exponent * x - 3.01 * np.log(x + _LOG_HALF))
    if Re > _JOIN_LOW:
        fast = np.exp(high + high_exponent * _LOG_JOIN - 2.966 * np.log(_LOG_JOIN + _LOG_THIRD))
        w = 3.6 - 0.02 * Re
        return np.sqrt(0.5 * ((1.0 + w) * slow * slow + (1.0 - w) * fast * fast))
    return slow * max(_FRICTION_FROM / max(Re, 1e-9), 1.0)


_friction = over_arrays(friction_at)


def friction(Re: ArrayLike, law: LouvreFriction) -> FloatArray:
    """Fanning friction factor of louvred fins [-]; broadcasts.

    Parameters
    ----------
    Re : (...) float array, on louvre pitch [-]; fitted 30 to 5000 (CHANG_F_RE).

    Notes
    -----
    Between 130 and 230 the two branches are joined by the authors' amendment (from memory). Below 30,
    where the published form has a pole, friction goes on as 1/Re from its value at 30 (choice).

    References
    ----------
    chang-2000, chang-2006.
    """
    Re = np.maximum(Re, 1e-9)
    return np.asarray(_friction(Re, np.log(Re), *law))
