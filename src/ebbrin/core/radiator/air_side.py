"""The air's side of a core of either kind: film, fins, friction."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, require
from ebbrin.core.compiled import Numbers, both, compiled, over_arrays
from ebbrin.core.media import air
from ebbrin.core.radiator import louvred
from ebbrin.core.radiator import plain as plates
from ebbrin.core.radiator.geometry import Core

_PRANDTL_PART = air.PRANDTL ** (-2.0 / 3.0)


class Surface(NamedTuple):
    """A core as air meets it, worked out once for a geometry; (...) float arrays, numbers in compiled code.

    reference [m] length of the Reynolds number; j = j_factor · Re^j_exponent; the constants of both friction laws, of
    which ``plain`` picks, and a factor on them; ends [-] velocity heads lost at entrance and exit; fin_length [m] of a straight fin
    that does as well, and fin_bend [1/√(W/m²K)/m] so that m = fin_bend·√h.
    """

    plain: Numbers
    reference: Numbers
    j_factor: Numbers
    j_exponent: Numbers
    louvre_low: Numbers
    louvre_low_exponent: Numbers
    louvre_high: Numbers
    louvre_high_exponent: Numbers
    plate_fins: Numbers
    plate_bank: Numbers
    friction_factor: Numbers
    free_share: Numbers
    area_ratio: Numbers
    fin_share: Numbers
    ends: Numbers
    fin_length: Numbers
    fin_bend: Numbers


def surface(core: Core) -> Surface:
    """The surface of a core; the joint entrance and exit loss 0.45 (1 - sigma²) is a choice."""
    plate_j, plate_exponent = plates.j_law(core)
    louvres, plate = louvred.friction_law(core), plates.friction_law(core)
    return Surface(
        plain=core.plain,
        reference=np.where(core.plain, core.tube_height, core.louvre_pitch),
        j_factor=core.air_film * np.where(core.plain, plate_j, louvred.j_factor(core)),
        j_exponent=np.where(core.plain, plate_exponent, louvred.J_EXPONENT),
        louvre_low=louvres.low,
        louvre_low_exponent=louvres.low_exponent,
        louvre_high=louvres.high,
        louvre_high_exponent=louvres.high_exponent,
        plate_fins=plate.fins,
        plate_bank=plate.bank,
        friction_factor=core.air_friction,
        free_share=core.free_share,
        area_ratio=core.air_area_ratio,
        fin_share=core.fin_share,
        ends=0.45 * (1.0 - core.free_share**2),
        fin_length=np.where(core.plain, plates.schmidt_length(core), core.fin_height / 2.0),
        fin_bend=np.sqrt(2.0 / (core.conductivity * core.fin_thickness)),
    )


@both
def reynolds(surface: Numbers, mass_velocity: Numbers, mean_temperature: Numbers) -> Numbers:
    """Reynolds number on louvre pitch or tube diameter [-] from the mass velocity over the open face
    [kg/m² s] and the mean temperature of the air [K]; broadcasts."""
    G = mass_velocity / surface.free_share
    return G * surface.reference / air.viscosity_at(mean_temperature)


def outside_fit(core: Core, Re: ArrayLike) -> BoolArray:
    """True where Reynolds number or geometry leave what the core's correlations were fitted to."""
    louvres = louvred.CHANG_WANG_RE.outside(Re) | louvred.CHANG_WANG_ANGLE.outside(core.louvre_angle)
    louvres = louvres | louvred.CHANG_F_THIN.outside(core.fin_thickness / core.fin_pitch)
    return np.where(core.plain, plates.outside_fit(core, Re), louvres)


@compiled
def friction_at(surface: Numbers, Re: float, log_Re: float) -> float:
    """Fanning friction factor [-] of a surface given in numbers at ``Re``, whose logarithm is known."""
    if surface.plain > 0.5:
        return surface.friction_factor * plates.friction_at(log_Re, surface.plate_fins, surface.plate_bank)
    return surface.friction_factor * louvred.friction_at(
        Re,
        log_Re,
        surface.louvre_low,
        surface.louvre_low_exponent,
        surface.louvre_high,
        surface.louvre_high_exponent,
    )


@both
def heat_transfer_coefficient(surface: Numbers, mass_velocity: Numbers, Re: Numbers) -> Numbers:
    """Air-side coefficient [W/m² K]; broadcasts.

    Parameters
    ----------
    mass_velocity : (...) float array, over the open face [kg/m² s], above 0.
    Re : (...) float array, from ``reynolds`` [-].

    References
    ----------
    chang-wang-1997 or gray-webb-1986.
    """
    return film_at(surface, mass_velocity, np.log(Re))


@both
def film_at(surface: Numbers, mass_velocity: Numbers, log_Re: Numbers) -> Numbers:
    """As ``heat_transfer_coefficient``, from the logarithm of Re."""
    G = mass_velocity / surface.free_share
    j = surface.j_factor * np.exp(surface.j_exponent * log_Re)
    return j * G * (air.HEAT_CAPACITY * _PRANDTL_PART)


@both
def fin_efficiency(surface: Numbers, coefficient: Numbers) -> Numbers:
    """Efficiency of the fins [-] at a film ``coefficient`` [W/m² K]; broadcasts.

    References
    ----------
    incropera-2007, ch. 3 (straight fin, adiabatic at mid height); schmidt-1949 for plate fins.
    """
    mL = surface.fin_bend * np.sqrt(coefficient) * surface.fin_length
    # The hyperbolic tangent; this way it costs a third.
    gone = np.exp(-2.0 * mL)
    return (1.0 - gone) / ((1.0 + gone) * mL)


@both
def efficiency_of(fin_efficiency: Numbers, fin_share: Numbers) -> Numbers:
    """As ``surface_efficiency``, unchecked, in compiled code too."""
    return 1.0 - fin_share * (1.0 - fin_efficiency)


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
    return np.asarray(efficiency_of(fins, share))


@compiled
def pressure_drop_at(
    surface: Numbers, mass_velocity: float, mean_temperature: float, mean_density: float
) -> float:
    """Pressure that air loses in the core [Pa], as ``pressure_drop``, numbers."""
    Re = reynolds(surface, mass_velocity, mean_temperature)
    return loss_at(surface, mass_velocity, Re, np.log(max(Re, 1e-9)), mean_density)


@compiled
def loss_at(surface: Numbers, mass_velocity: float, Re: float, log_Re: float, mean_density: float) -> float:
    """As ``pressure_drop_at``, from a Reynolds number whose logarithm is known."""
    G = mass_velocity / surface.free_share
    loss = friction_at(surface, Re, log_Re) * surface.area_ratio + surface.ends
    return 0.5 * G * G / mean_density * loss


@compiled
def _drop(mass_velocity, mean_temperature, mean_density, *surface):  # type: ignore[no-untyped-def]
    return pressure_drop_at(Surface(*surface), mass_velocity, mean_temperature, mean_density)


_pressure_drop = over_arrays(_drop)


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
    return np.asarray(_pressure_drop(mass_velocity, mean_temperature, mean_density, *surface))
