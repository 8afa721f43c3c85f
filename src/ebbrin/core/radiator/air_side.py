"""Heat transfer and friction of air in a louvred-fin core."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, Range, require
from ebbrin.core.media import air
from ebbrin.core.radiator.geometry import Core

CHANG_WANG_RE = Range(30.0, 5000.0, "-")
CHANG_F_RE = Range(30.0, 5000.0, "-")
CHANG_WANG_ANGLE = Range(np.radians(8.4), np.radians(35.0), "rad")
_JOIN_LOW, _JOIN_HIGH = 130.0, 230.0
_DEGREE = 180.0 / np.pi


def louvred_j(Re: ArrayLike, core: Core) -> FloatArray:
    """Colburn factor of louvred fins [-].

    Parameters
    ----------
    Re : (...) float array, on louvre pitch [-]; fitted 30 to 5000 (CHANG_WANG_RE).

    References
    ----------
    chang-wang-1997, eq. 9. Below Re 30 the power law simply goes on.
    """
    Lp = core.louvre_pitch
    return np.asarray(
        np.asarray(Re) ** -0.49
        * (core.louvre_angle * _DEGREE / 90.0) ** 0.27
        * (core.fin_pitch / Lp) ** -0.14
        * (core.fin_height / Lp) ** -0.29
        * (core.depth / Lp) ** -0.23
        * (core.louvre_length / Lp) ** 0.68
        * (core.tube_pitch / Lp) ** -0.28
        * (core.fin_thickness / Lp) ** -0.05
    )


@dataclass(frozen=True)
class LouvreFriction:
    """What the geometry alone contributes to both branches of chang-2000, (...) float arrays [-]."""

    low_factor: FloatArray
    low_exponent: FloatArray
    high_factor: FloatArray
    high_exponent: FloatArray


def louvre_friction(core: Core) -> LouvreFriction:
    """The constants of the friction law for one geometry; chang-2000."""
    Fp, Lp, Ll, Fl = core.fin_pitch, core.louvre_pitch, core.louvre_length, core.fin_height
    Tp, Dm, Fd, Dh = core.tube_pitch, core.tube_height, core.depth, core.air_hydraulic_diameter
    angle, thin = core.louvre_angle * _DEGREE, core.fin_thickness / Fp
    low = 14.39 * np.log(1.0 + Fp / Lp) ** 3.04
    low = low * np.log(thin**0.48 + 0.9) ** -1.435 * (Dh / Lp) ** -3.01
    low = low * (Fp / Ll) ** -0.308 * (Fd / Ll) ** -0.308 * np.exp(-0.1167 * Tp / Dm) * angle**0.35
    high = 4.97 * np.log(thin**0.5 + 0.9) ** -0.527
    high = high * (Dh / Lp) ** -2.966 * (Fp / Ll) ** (-0.7931 * Tp / Fl)
    high = high * (Tp / Dm) ** -0.0446 * np.log(1.2 + (Lp / Fp) ** 1.4) ** -3.553 * angle**-0.477
    return LouvreFriction(low, -0.805 * Fp / Fl, high, 0.6049 - 1.064 / angle**0.2)


def louvred_f(Re: ArrayLike, law: LouvreFriction) -> FloatArray:
    """Fanning friction factor of louvred fins [-].

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
    Re = np.asarray(Re, np.float64)
    least = np.maximum(Re, CHANG_F_RE.low)
    slow, fast = np.minimum(least, _JOIN_LOW), np.maximum(least, _JOIN_HIGH)
    low = law.low_factor * slow**law.low_exponent * np.log(0.5 * slow) ** -3.01
    high = law.high_factor * fast**law.high_exponent * np.log(0.3 * fast) ** -2.966
    # w runs from 1 at 130 to -1 at 230, so the same expression is the branch itself outside.
    w = np.minimum(np.maximum(3.6 - 0.02 * least, -1.0), 1.0)
    joined = np.sqrt(0.5 * ((1.0 + w) * low**2 + (1.0 - w) * high**2))
    return np.asarray(joined * least / np.maximum(Re, 1e-9))


def louvre_reynolds(core: Core, mass_velocity: ArrayLike, mean_temperature: ArrayLike) -> FloatArray:
    """Reynolds number on louvre pitch [-] from mass velocity over the face [kg/m² s]; broadcasts."""
    G = np.asarray(mass_velocity) / core.free_share
    return np.asarray(G * core.louvre_pitch / air.viscosity(mean_temperature))


def outside_fit(core: Core, Re: ArrayLike) -> BoolArray:
    """True where Reynolds number or louvre angle leave what the correlations were fitted to."""
    return CHANG_WANG_RE.outside(Re) | CHANG_WANG_ANGLE.outside(core.louvre_angle)


def heat_transfer_coefficient(
    core: Core, mass_velocity: ArrayLike, mean_temperature: ArrayLike
) -> FloatArray:
    """Air-side coefficient [W/m² K]; broadcasts.

    Parameters
    ----------
    mass_velocity : (...) float array, over the open face [kg/m² s], above 0.
    mean_temperature : (...) float array, mean of air in and out [K].

    References
    ----------
    chang-wang-1997.
    """
    Re = louvre_reynolds(core, mass_velocity, mean_temperature)
    G = np.asarray(mass_velocity) / core.free_share
    return np.asarray(louvred_j(Re, core) * G * air.HEAT_CAPACITY * air.PRANDTL ** (-2.0 / 3.0))


def fin_efficiency(coefficient: ArrayLike, core: Core) -> FloatArray:
    """Efficiency of a straight fin that spans from tube to tube [-].

    References
    ----------
    incropera-2007, ch. 3 (straight fin, adiabatic at mid height).
    """
    m = np.sqrt(2.0 * np.asarray(coefficient) / (core.conductivity * core.fin_thickness))
    mL = m * core.fin_height / 2.0
    return np.asarray(np.tanh(mL) / mL)


def surface_efficiency(fin_efficiency: ArrayLike, fin_share: ArrayLike) -> FloatArray:
    """Overall efficiency of a finned surface [-].

    Parameters
    ----------
    fin_efficiency, fin_share : (...) float arrays, [-], 0 to 1.

    Raises
    ------
    DomainError
        If an argument is NaN or outside 0 to 1.

    References
    ----------
    kays-london-1984, eq. 2-4.
    """
    fins = require("fin efficiency", fin_efficiency, 0.0, 1.0, "-")
    share = require("fin share of the area", fin_share, 0.0, 1.0, "-")
    return np.asarray(1.0 - share * (1.0 - fins))


@dataclass(frozen=True)
class CoreResistance:
    """A core as a resistance to air, worked out once for a geometry; (...) float arrays."""

    friction: LouvreFriction
    free_share: FloatArray
    louvre_pitch: FloatArray
    area_ratio: FloatArray
    ends: FloatArray


def core_resistance(core: Core) -> CoreResistance:
    """The resistance of a core; the joint entrance and exit loss 0.45 (1 - sigma²) is a choice."""
    return CoreResistance(
        louvre_friction(core),
        core.free_share,
        core.louvre_pitch,
        core.air_area_ratio,
        0.45 * (1.0 - core.free_share**2),
    )


def pressure_drop(
    resistance: CoreResistance, mass_velocity: ArrayLike, mean_temperature: ArrayLike, mean_density: ArrayLike
) -> FloatArray:
    """Pressure that air loses in the core, entrance and exit included [Pa]; broadcasts.

    Parameters
    ----------
    mass_velocity : (...) float array, over the open face [kg/m² s].
    mean_temperature, mean_density : (...) float arrays, mean of air in and out [K], [kg/m³].

    References
    ----------
    chang-2000 (friction).
    """
    G = np.asarray(mass_velocity) / resistance.free_share
    Re = G * resistance.louvre_pitch / air.viscosity(mean_temperature)
    loss = louvred_f(Re, resistance.friction) * resistance.area_ratio + resistance.ends
    return np.asarray(0.5 * G * G / np.asarray(mean_density) * loss)
