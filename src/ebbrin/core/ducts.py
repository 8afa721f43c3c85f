"""Pressure lost by a liquid in a duct, hose or flat tube, over all regimes of flow."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.compiled import Numbers, both, compiled, over_arrays

LAMINAR_END, TURBULENT_START = 2300.0, 4000.0
_BEND = -3.6 / np.log(10.0)  # growth of konakov_friction with ln Re, over its power 3/2
_KONAKOV = 1.8 / np.log(10.0)


class Duct(NamedTuple):
    """What a duct makes of a volume flow, float arrays or numbers: Reynolds number per flow [s/m³]; laminar
    constant f·Re [-]; friction length over diameter [-]; fixed loss in velocity heads [-]; one velocity
    head per flow squared [Pa s²/m⁶]."""

    reynolds: Numbers
    laminar: Numbers
    length: Numbers
    fixed: Numbers
    head: Numbers


@both
def konakov_friction(Re: Numbers) -> Numbers:
    """Darcy friction factor of turbulent flow in a smooth duct [-], Re above 2300; gnielinski-2013.

    >>> round(float(konakov_friction(1e5)), 4)
    0.0178
    """
    root = _KONAKOV * np.log(Re) - 1.5
    return 1.0 / (root * root)


@both
def transition_share(Re: Numbers) -> Numbers:
    """0 in laminar flow, 1 in turbulent, linear between Re 2300 and 4000 [-]; gnielinski-2013.

    >>> float(transition_share(3150.0))
    0.5
    """
    share = (Re - LAMINAR_END) / (TURBULENT_START - LAMINAR_END)
    return np.minimum(np.maximum(share, 0.0), 1.0)


@compiled
def friction_and_growth(Re: float, laminar_constant: float) -> tuple[float, float]:
    """Darcy friction factor over all regimes [-] and how it grows with the logarithm of Re [-], numbers.

    Between the regimes it runs straight from the laminar value at 2300 to Konakov's at 4000, as the
    Nusselt number does, so that pressure drop always rises with flow; gnielinski-2013, shah-london-1978.
    """
    if Re <= LAMINAR_END:
        f = laminar_constant / Re
        return f, -f
    if Re < TURBULENT_START:
        laminar = laminar_constant / LAMINAR_END
        rise = (konakov_friction(TURBULENT_START) - laminar) / (TURBULENT_START - LAMINAR_END)
        return laminar + (Re - LAMINAR_END) * rise, Re * rise
    f = konakov_friction(Re)
    return f, _BEND * f * np.sqrt(f)


@compiled
def drop_and_growth(
    reynolds: float, laminar: float, length: float, fixed: float, head: float, flow: float
) -> tuple[float, float]:
    """Pressure lost [Pa] by a duct, given by the fields of ``Duct``, at a ``flow`` [m³/s], and its growth
    d ln(drop) / d ln(flow) [-], 1 to about 2.6, numbers."""
    f, bend = friction_and_growth(max(flow * reynolds, 1e-6), laminar)
    lost = f * length + fixed
    return lost * head * flow * flow, 2.0 + bend * length / lost


_friction, _lost = over_arrays(friction_and_growth, 2), over_arrays(drop_and_growth, 2)


def friction_factor(Re: ArrayLike, laminar_constant: ArrayLike) -> FloatArray:
    """Darcy friction factor over all regimes [-], as ``friction_and_growth``; broadcasts.

    Parameters
    ----------
    Re : (...) float array, [-], above 0.
    laminar_constant : (...) float array, f·Re of the cross section [-], 64 for a round one.

    Examples
    --------
    >>> [round(float(friction_factor(Re, 64.0)), 3) for Re in (1000.0, 1e4)]
    [0.064, 0.031]
    """
    return np.asarray(_friction(Re, laminar_constant)[0])


def pressure_drop(duct: Duct, flow: ArrayLike) -> FloatArray:
    """Pressure lost [Pa] at a volume ``flow`` [m³/s], 0 or more; broadcasts. gnielinski-2013."""
    return np.asarray(_lost(*duct, flow)[0])
