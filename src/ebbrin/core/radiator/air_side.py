"""The air's side of a core of either kind: film, fins, friction."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, require
from ebbrin.core.media import air
from ebbrin.core.radiator import louvred
from ebbrin.core.radiator import plain as plates
from ebbrin.core.radiator.geometry import Core

_PRANDTL_PART = air.PRANDTL ** (-2.0 / 3.0)


@dataclass(frozen=True)
class Surface:
    """A core as air meets it, worked out once for a geometry; (...) float arrays.

    reference [m] length of the Reynolds number; j = j_factor · Re^j_exponent; both friction laws, of
    which ``plain`` picks; ends [-] velocity heads lost at entrance and exit; fin_length [m] of a straight fin
    that does as well, and fin_bend [1/√(W/m²K)/m] so that m = fin_bend·√h.
    """

    plain: BoolArray
    reference: FloatArray
    j_factor: FloatArray
    j_exponent: FloatArray
    louvre_law: louvred.LouvreFriction
    plate_law: plates.PlateFriction
    friction_factor: FloatArray
    free_share: FloatArray
    area_ratio: FloatArray
    fin_share: FloatArray
    ends: FloatArray
    fin_length: FloatArray
    fin_bend: FloatArray


def surface(core: Core) -> Surface:
    """The surface of a core; the joint entrance and exit loss 0.45 (1 - sigma²) is a choice."""
    plate_j, plate_exponent = plates.j_law(core)
    return Surface(
        plain=core.plain,
        reference=np.where(core.plain, core.tube_height, core.louvre_pitch),
        j_factor=core.air_film * np.where(core.plain, plate_j, louvred.j_factor(core)),
        j_exponent=np.where(core.plain, plate_exponent, louvred.J_EXPONENT),
        louvre_law=louvred.friction_law(core),
        plate_law=plates.friction_law(core),
        friction_factor=core.air_friction,
        free_share=core.free_share,
        area_ratio=core.air_area_ratio,
        fin_share=core.fin_share,
        ends=0.45 * (1.0 - core.free_share**2),
        fin_length=np.where(core.plain, plates.schmidt_length(core), core.fin_height / 2.0),
        fin_bend=np.sqrt(2.0 / (core.conductivity * core.fin_thickness)),
    )


def reynolds(surface: Surface, mass_velocity: ArrayLike, mean_temperature: ArrayLike) -> FloatArray:
    """Reynolds number on louvre pitch or tube diameter [-] from the mass velocity over the open face
    [kg/m² s] and the mean temperature of the air [K]; broadcasts."""
    G = np.asarray(mass_velocity) / surface.free_share
    return np.asarray(G * surface.reference / air.viscosity(mean_temperature))


def outside_fit(core: Core, Re: ArrayLike) -> BoolArray:
    """True where Reynolds number or geometry leave what the core's correlations were fitted to."""
    louvres = louvred.CHANG_WANG_RE.outside(Re) | louvred.CHANG_WANG_ANGLE.outside(core.louvre_angle)
    louvres = louvres | louvred.CHANG_F_THIN.outside(core.fin_thickness / core.fin_pitch)
    return np.where(core.plain, plates.outside_fit(core, Re), louvres)


def friction(surface: Surface, Re: ArrayLike) -> FloatArray:
    """Fanning friction factor [-]; broadcasts. chang-2000, chang-2006 or gray-webb-1986."""
    which = surface.plain
    if not which.any():
        f = louvred.friction(Re, surface.louvre_law)
    elif which.all():
        f = plates.friction(Re, surface.plate_law)
    else:
        f = np.where(which, plates.friction(Re, surface.plate_law), louvred.friction(Re, surface.louvre_law))
    return np.asarray(surface.friction_factor * f)


def heat_transfer_coefficient(surface: Surface, mass_velocity: ArrayLike, Re: ArrayLike) -> FloatArray:
    """Air-side coefficient [W/m² K]; broadcasts.

    Parameters
    ----------
    mass_velocity : (...) float array, over the open face [kg/m² s], above 0.
    Re : (...) float array, from ``reynolds`` [-].

    References
    ----------
    chang-wang-1997 or gray-webb-1986.
    """
    G = np.asarray(mass_velocity) / surface.free_share
    j = surface.j_factor * np.exp(surface.j_exponent * np.log(Re))
    return np.asarray(j * G * (air.HEAT_CAPACITY * _PRANDTL_PART))


def fin_efficiency(surface: Surface, coefficient: ArrayLike) -> FloatArray:
    """Efficiency of the fins [-] at a film ``coefficient`` [W/m² K]; broadcasts.

    References
    ----------
    incropera-2007, ch. 3 (straight fin, adiabatic at mid height); schmidt-1949 for plate fins.
    """
    mL = surface.fin_bend * np.sqrt(coefficient) * surface.fin_length
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

    Examples
    --------
    >>> round(float(surface_efficiency(0.9, 0.85)), 3)
    0.915
    """
    fins = require("fin efficiency", fin_efficiency, 0.0, 1.0, "-")
    share = require("fin share of the area", fin_share, 0.0, 1.0, "-")
    return np.asarray(1.0 - share * (1.0 - fins))


def pressure_drop(
    surface: Surface, mass_velocity: ArrayLike, mean_temperature: ArrayLike, mean_density: ArrayLike
) -> FloatArray:
    """Pressure that air loses in the core, entrance and exit included [Pa]; broadcasts.

    Parameters
    ----------
    mass_velocity : (...) float array, over the open face [kg/m² s].
    mean_temperature, mean_density : (...) float arrays, mean of air in and out [K], [kg/m³].

    References
    ----------
    chang-2000 or gray-webb-1986 (friction).
    """
    G = np.asarray(mass_velocity) / surface.free_share
    Re = G * surface.reference / air.viscosity(mean_temperature)
    loss = friction(surface, Re) * surface.area_ratio + surface.ends
    return np.asarray(0.5 * G * G / np.asarray(mean_density) * loss)
