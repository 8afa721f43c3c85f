"""What a machine can do in this hour: one plain NumPy evaluation of coolant properties, air side, coolant side and
effectiveness over an array of candidates × cases. Its formulas stand here as arrays, for the product's are compiled."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.media import air
from ebbrin.core.media.coolants import Properties, properties
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.coolant_side import Tubes, tube_duct, tube_reynolds
from ebbrin.core.system.parts import System


def friction(Re: FloatArray, s: Surface) -> FloatArray:
    """Fanning friction factor of louvred fins."""
    x = np.log(np.maximum(Re, 30.0))
    slow, fast = np.minimum(x, np.log(130.0)), np.maximum(x, np.log(230.0))
    low = np.exp(2.0 * (s.louvre_low + s.louvre_low_exponent * slow - 3.01 * np.log(slow + np.log(0.5))))
    high = np.exp(2.0 * (s.louvre_high + s.louvre_high_exponent * fast - 2.966 * np.log(fast + np.log(0.3))))
    w = np.minimum(np.maximum(3.6 - 0.02 * Re, -1.0), 1.0)
    return np.asarray(s.friction_factor * np.sqrt(0.5 * (low + high + w * (low - high))))


def pressure_drop(s: Surface, mass_velocity: FloatArray, T: float, density: float) -> FloatArray:
    """Pressure that air loses in the core [Pa]."""
    G = mass_velocity / s.free_share
    Re = G * s.reference / air.viscosity(T)
    return np.asarray(0.5 * G * G / density * (friction(Re, s) * s.area_ratio + s.ends))


def _konakov(Re: FloatArray) -> FloatArray:
    return np.asarray((1.8 * np.log10(Re) - 1.5) ** -2.0)


def _blend(Re: FloatArray) -> FloatArray:
    return np.asarray(np.minimum(np.maximum((Re - 2300.0) / 1700.0, 0.0), 1.0))


def nusselt(Re: FloatArray, Pr: FloatArray, t: Tubes) -> FloatArray:
    """Nusselt number in a tube over all regimes."""
    fast, slow = np.maximum(Re, 4000.0), np.minimum(Re, 2300.0)
    f8 = _konakov(fast) / 8.0
    turbulent = f8 * (fast - 1000.0) * Pr / (1.0 + 12.7 * np.sqrt(f8) * (np.cbrt(Pr) ** 2 - 1.0))
    turbulent = turbulent * (1.0 + np.cbrt(t.slenderness) ** 2)
    entry = 1.615 * np.cbrt(slow * Pr * t.slenderness) - 0.7
    laminar = np.cbrt(t.laminar_nusselt**3 + 0.7**3 + entry**3)
    return np.asarray(laminar + _blend(Re) * (turbulent - laminar))


def inner_resistance(t: Tubes, Re: FloatArray, fluid: Properties) -> FloatArray:
    """Resistance from the coolant to the tubes' outside [K/W]."""
    film = t.film_factor * nusselt(Re, fluid.prandtl, t) * fluid.conductivity / t.diameter
    return np.asarray((1.0 / film + t.layers) / t.surface)


def duct_drop(t: Tubes, fluid: Properties, flow: FloatArray) -> FloatArray:
    """Pressure that the coolant loses in the tubes [Pa]."""
    duct = tube_duct(t, fluid)
    Re = np.maximum(flow * duct.reynolds, 1e-6)
    laminar = duct.laminar / np.minimum(Re, 2300.0)
    f = laminar + _blend(Re) * (_konakov(np.maximum(Re, 4000.0)) - laminar)
    return np.asarray((f * duct.length + duct.fixed) * duct.head * flow**2)


def effectiveness(NTU: FloatArray, ratio: FloatArray) -> FloatArray:
    """Effectiveness of crossflow, both unmixed, by the exact series."""
    y = np.maximum(ratio * NTU, 1e-9)
    largest = float(y.max())
    mean = np.stack([NTU, y])
    term = np.exp(-mean)
    tail = 1.0 - term
    total = tail[0] * tail[1]
    for n in range(1, int(np.ceil(largest + 5.0 * np.sqrt(largest) + 6.0))):
        term *= mean
        term *= 1.0 / n
        tail -= term
        total += tail[0] * tail[1]
    return np.asarray(total / y)


def floor(system: System, shape: tuple[int, int]) -> Callable[[], FloatArray]:
    """One evaluation over (candidates, cases), ready to be called."""
    T = np.full(shape, 370.0) + np.linspace(0.0, 5.0, shape[1])
    surface, tubes = air_side.surface(system.core), system.tubes
    G, Q = np.full(shape, 6.0), np.full(shape, 1.5e-3)

    def once() -> FloatArray:
        fluid = properties(system.coolant, T)
        Re = air_side.reynolds(surface, G, 330.0)
        film = air_side.heat_transfer_coefficient(surface, G, Re)
        eta = air_side.surface_efficiency(air_side.fin_efficiency(surface, film), system.core.fin_share)
        pressure_drop(surface, G, 330.0, 1.07)
        inside = inner_resistance(tubes, tube_reynolds(tubes, Q, fluid), fluid)
        duct_drop(tubes, fluid, Q)
        UA = 1.0 / (1.0 / (eta * film * system.core.air_area) + inside)
        C, C_air = Q * fluid.density * fluid.heat_capacity, G * system.core.open_face * air.HEAT_CAPACITY
        least = np.minimum(C, C_air)
        return np.asarray(effectiveness(UA / least, least / np.maximum(C, C_air)) * least)

    return once
