"""Heat transfer and friction of coolant in flat or round tubes, scale included."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.compiled import Numbers, both, compiled, over_arrays
from ebbrin.core.ducts import LAMINAR_END, TURBULENT_START, Duct, konakov_friction
from ebbrin.core.media.coolants import Properties
from ebbrin.core.radiator.geometry import SCALE_CONDUCTIVITY, Core

TANK_LOSS = 1.5  # choice: velocity heads of the tubes lost in tanks and tube ends, for each pass
WALL_CONDUCTIVITY = 160.0  # tube wall, W/m K; common practice, of no weight beside the films
ROUND_NUSSELT, ROUND_FRICTION = 3.66, 64.0  # developed laminar flow, constant wall temperature
_FLOOR, _ENTRY = 0.7, 1.615  # of the laminar film with thermal entrance; gnielinski-2013


def laminar_nusselt(aspect: ArrayLike) -> FloatArray:
    """Nusselt number of developed laminar flow in a rectangular duct, constant wall temperature [-].

    Parameters
    ----------
    aspect : (...) float array, short side over long side [-], 0 to 1.

    References
    ----------
    shah-london-1978, eq. 341.
    """
    a = np.asarray(aspect)
    return np.asarray(7.541 * (1.0 - 2.610 * a + 4.970 * a**2 - 5.119 * a**3 + 2.702 * a**4 - 0.548 * a**5))


def laminar_friction_constant(aspect: ArrayLike) -> FloatArray:
    """Darcy friction factor times Re of developed laminar flow in a rectangular duct [-].

    References
    ----------
    shah-london-1978, eq. 341 ff. (Fanning's constant, times four).
    """
    a = np.asarray(aspect)
    fRe = 24.0 * (1.0 - 1.3553 * a + 1.9467 * a**2 - 1.7012 * a**3 + 0.9564 * a**4 - 0.2537 * a**5)
    return np.asarray(4.0 * fRe)


class Tubes(NamedTuple):
    """The open tubes of a core as coolant meets them, worked out once for a geometry; (...) float arrays, numbers in
    compiled code.

    diameter, hydraulic [m]; slenderness, diameter over the length of one pass, and entrance, that to the power 2/3 [-]; flow_area that the coolant has at any one place [m²]; surface [m²]; layers
    [m² K/W] of scale and wall; laminar_nusselt (developed), film_factor [-]; laminar_friction, length over
    diameter and fixed loss in velocity heads [-] over all passes.
    """

    diameter: FloatArray
    slenderness: FloatArray
    entrance: FloatArray
    flow_area: FloatArray
    surface: FloatArray
    layers: FloatArray
    laminar_nusselt: FloatArray
    film_factor: FloatArray
    laminar_friction: FloatArray
    length: FloatArray
    fixed: FloatArray


def tubes(core: Core) -> Tubes:
    """The tubes of a core. Scale and wall are layers of SCALE_CONDUCTIVITY and WALL_CONDUCTIVITY."""
    d = core.tube_hydraulic_diameter
    return Tubes(
        diameter=d,
        slenderness=d / core.tube_length,
        entrance=np.cbrt(d / core.tube_length) ** 2,
        flow_area=core.parallel_area,
        surface=core.coolant_area * (1.0 - core.blocked_tubes),
        layers=core.scale / SCALE_CONDUCTIVITY + core.tube_wall / WALL_CONDUCTIVITY,
        laminar_nusselt=np.where(core.plain, ROUND_NUSSELT, laminar_nusselt(core.tube_aspect)),
        film_factor=core.coolant_film,
        laminar_friction=np.where(core.plain, ROUND_FRICTION, laminar_friction_constant(core.tube_aspect)),
        length=core.passes * core.tube_length / d,
        fixed=np.asarray(core.passes * TANK_LOSS),
    )


@both
def gnielinski_nusselt(Re: Numbers, Pr: Numbers, entrance: Numbers) -> Numbers:
    """Nusselt number of turbulent duct flow [-], Re from 4000; ``entrance`` is (d/L)^(2/3); gnielinski-2013."""
    f8 = konakov_friction(Re) / 8.0
    grown = np.cbrt(Pr)
    turbulent = f8 * (Re - 1000.0) * Pr / (1.0 + 12.7 * np.sqrt(f8) * (grown * grown - 1.0))
    return turbulent * (1.0 + entrance)


@both
def entry_nusselt(Re: Numbers, Pr: Numbers, developed: Numbers, slenderness: Numbers) -> Numbers:
    """Mean Nusselt number of laminar flow with developed velocity that begins to be cooled at the tube's inlet,
    constant wall temperature [-]; broadcasts.

    Parameters
    ----------
    developed : (...) float array, value of the cross section far from the inlet [-]; in place of a round tube's
        3.66 (choice).
    slenderness : (...) float array, hydraulic diameter over length [-].

    References
    ----------
    gnielinski-2013.
    """
    entry = _ENTRY * np.cbrt(Re * Pr * slenderness) - _FLOOR
    return np.cbrt(developed**3 + _FLOOR**3 + entry**3)


@compiled
def nusselt_at(Re: float, Pr: float, developed: float, slenderness: float, entrance: float) -> float:
    """Nusselt number in a tube over all regimes [-], as ``nusselt``, numbers."""
    if Re <= LAMINAR_END:
        return entry_nusselt(Re, Pr, developed, slenderness)
    if Re >= TURBULENT_START:
        return gnielinski_nusselt(Re, Pr, entrance)
    laminar = entry_nusselt(LAMINAR_END, Pr, developed, slenderness)
    turbulent = gnielinski_nusselt(TURBULENT_START, Pr, entrance)
    return laminar + (Re - LAMINAR_END) / (TURBULENT_START - LAMINAR_END) * (turbulent - laminar)


_nusselt = over_arrays(nusselt_at)


def nusselt(Re: ArrayLike, Pr: ArrayLike, developed: ArrayLike, slenderness: ArrayLike) -> FloatArray:
    """Nusselt number in a tube over all regimes, constant wall temperature [-]; broadcasts.

    Parameters
    ----------
    developed : (...) float array, developed laminar value of the cross section [-].
    slenderness : (...) float array, hydraulic diameter over the length of one pass [-].

    References
    ----------
    gnielinski-2013 (turbulent and laminar with entrance, and the linear blend from 2300 to 4000, the laminar
    value in it taken at 2300), shah-london-1978 (developed laminar).
    """
    return np.asarray(_nusselt(Re, Pr, developed, slenderness, np.cbrt(slenderness) ** 2))


def tube_velocity(tubes: Tubes, volume_flow: ArrayLike) -> FloatArray:
    """Mean velocity in the open tubes [m/s] for a ``volume_flow`` [m³/s]; broadcasts."""
    return np.asarray(np.asarray(volume_flow) / tubes.flow_area)


@both
def tube_reynolds(tubes: Numbers, volume_flow: Numbers, coolant: Numbers) -> Numbers:
    """Reynolds number in the open tubes [-] at a ``volume_flow`` [m³/s]; broadcasts."""
    velocity = volume_flow / tubes.flow_area
    return coolant.density * velocity * tubes.diameter / coolant.viscosity


def heat_transfer_coefficient(tubes: Tubes, Re: ArrayLike, coolant: Properties) -> FloatArray:
    """Coolant-side coefficient [W/m² K] at ``Re`` from ``tube_reynolds``; broadcasts.

    References
    ----------
    gnielinski-2013, shah-london-1978.
    """
    Nu = nusselt(Re, coolant.prandtl, tubes.laminar_nusselt, tubes.slenderness)
    return np.asarray(tubes.film_factor * Nu * coolant.conductivity / tubes.diameter)


def inner_resistance(tubes: Tubes, Re: ArrayLike, coolant: Properties) -> FloatArray:
    """Resistance from coolant to the tube's outside over all open tubes: film, scale and wall [K/W];
    broadcasts."""
    film = heat_transfer_coefficient(tubes, Re, coolant)
    return np.asarray((1.0 / film + tubes.layers) / tubes.surface)


@compiled
def inner_resistance_at(tubes: Numbers, Re: float, coolant: Numbers) -> float:
    """As ``inner_resistance``, numbers."""
    Pr = coolant.heat_capacity * coolant.viscosity / coolant.conductivity
    Nu = nusselt_at(Re, Pr, tubes.laminar_nusselt, tubes.slenderness, tubes.entrance)
    film = tubes.film_factor * Nu * coolant.conductivity / tubes.diameter
    return (1.0 / film + tubes.layers) / tubes.surface


@both
def tube_duct(tubes: Numbers, coolant: Numbers) -> Duct:
    """The open tubes, pass after pass, tanks included, as one duct; broadcasts."""
    return Duct(
        coolant.density * tubes.diameter / (tubes.flow_area * coolant.viscosity),
        tubes.laminar_friction,
        tubes.length,
        tubes.fixed,
        0.5 * coolant.density / (tubes.flow_area * tubes.flow_area),
    )
