"""Heat transfer and friction of coolant in flat tubes."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.ducts import TURBULENT_START, Duct, konakov_friction, transition_share
from ebbrin.core.media.coolants import Properties
from ebbrin.core.radiator.geometry import Core

TANK_LOSS = 1.5  # choice: velocity heads of the tubes lost in tanks and tube ends


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


def gnielinski_nusselt(Re: ArrayLike, Pr: ArrayLike, diameter_over_length: ArrayLike) -> FloatArray:
    """Nusselt number of turbulent duct flow [-], Re from 4000; gnielinski-2013."""
    Re, Pr = np.asarray(Re), np.asarray(Pr)
    f8 = konakov_friction(Re) / 8.0
    turbulent = f8 * (Re - 1000.0) * Pr / (1.0 + 12.7 * np.sqrt(f8) * (Pr ** (2.0 / 3.0) - 1.0))
    return np.asarray(turbulent * (1.0 + np.asarray(diameter_over_length) ** (2.0 / 3.0)))


def nusselt(Re: ArrayLike, Pr: ArrayLike, aspect: ArrayLike, diameter_over_length: ArrayLike) -> FloatArray:
    """Nusselt number in a flat tube over all regimes [-]; broadcasts.

    References
    ----------
    gnielinski-2013 (turbulent, and the linear blend from 2300 to 4000), shah-london-1978 (laminar).
    """
    share = transition_share(Re)
    turbulent = gnielinski_nusselt(np.maximum(Re, TURBULENT_START), Pr, diameter_over_length)
    return np.asarray((1.0 - share) * laminar_nusselt(aspect) + share * turbulent)


def tube_velocity(core: Core, volume_flow: ArrayLike) -> FloatArray:
    """Mean velocity in the open tubes [m/s] for a ``volume_flow`` [m³/s]; broadcasts."""
    return np.asarray(np.asarray(volume_flow) / (core.open_tubes * core.tube_flow_area))


def tube_reynolds(core: Core, volume_flow: ArrayLike, coolant: Properties) -> FloatArray:
    """Reynolds number in the open tubes [-]; broadcasts."""
    velocity = tube_velocity(core, volume_flow)
    return np.asarray(coolant.density * velocity * core.tube_hydraulic_diameter / coolant.viscosity)


def heat_transfer_coefficient(core: Core, volume_flow: ArrayLike, coolant: Properties) -> FloatArray:
    """Coolant-side coefficient [W/m² K]; broadcasts. gnielinski-2013, shah-london-1978."""
    d = core.tube_hydraulic_diameter
    Nu = nusselt(
        tube_reynolds(core, volume_flow, coolant), coolant.prandtl, core.tube_aspect, d / core.tube_length
    )
    return np.asarray(Nu * coolant.conductivity / d)


def tube_duct(core: Core, coolant: Properties) -> Duct:
    """The open tubes of the core in parallel, tanks included, as one duct."""
    d, area = core.tube_hydraulic_diameter, core.open_tubes * core.tube_flow_area
    return Duct(
        reynolds=coolant.density * d / (area * coolant.viscosity),
        laminar=laminar_friction_constant(core.tube_aspect),
        length=core.tube_length / d,
        fixed=np.asarray(TANK_LOSS),
        head=0.5 * coolant.density / area**2,
    )
