"""Pressure lost by a liquid in a duct, hose or flat tube, over all regimes of flow."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray

LAMINAR_END, TURBULENT_START = 2300.0, 4000.0
_BEND = -3.6 / np.log(10.0)  # growth of konakov_friction with ln Re, over its power 3/2


@dataclass(frozen=True)
class Duct:
    """What a duct makes of a volume flow, (...) float arrays: Reynolds number per flow [s/m³]; laminar
    constant f·Re [-]; friction length over diameter [-]; fixed loss in velocity heads [-]; one velocity
    head per flow squared [Pa s²/m⁶]."""

    reynolds: FloatArray
    laminar: FloatArray
    length: FloatArray
    fixed: FloatArray
    head: FloatArray


def side_by_side(axes: int, *ducts: Duct) -> Duct:
    """Several ducts along a new leading axis, ahead of the ``axes`` that flows have, for one go."""
    shape = np.broadcast_shapes((1,) * axes, *(duct.reynolds.shape for duct in ducts))

    def joined(name: str) -> FloatArray:
        rows = np.empty((len(ducts), *shape))
        for row, duct in enumerate(ducts):
            rows[row] = getattr(duct, name)
        return rows

    return Duct(*(joined(field.name) for field in fields(Duct)))


def konakov_friction(Re: ArrayLike) -> FloatArray:
    """Darcy friction factor of turbulent flow in a smooth duct [-], Re above 2300; gnielinski-2013.

    >>> round(float(konakov_friction(1e5)), 4)
    0.0178
    """
    return np.asarray((1.8 * np.log10(Re) - 1.5) ** -2.0)


def transition_share(Re: ArrayLike) -> FloatArray:
    """0 in laminar flow, 1 in turbulent, linear between Re 2300 and 4000 [-]; gnielinski-2013.

    >>> float(transition_share(3150.0))
    0.5
    """
    share = (np.asarray(Re) - LAMINAR_END) / (TURBULENT_START - LAMINAR_END)
    return np.minimum(np.maximum(share, 0.0), 1.0)


def friction_factor(Re: ArrayLike, laminar_constant: ArrayLike) -> FloatArray:
    """Darcy friction factor over all regimes [-]; broadcasts.

    Parameters
    ----------
    Re : (...) float array, [-], above 0.
    laminar_constant : (...) float array, f·Re of the cross section [-], 64 for a round one.

    Notes
    -----
    Between the regimes it runs straight from the laminar value at 2300 to Konakov's at 4000, as the
    Nusselt number does, so that pressure drop always rises with flow.

    References
    ----------
    gnielinski-2013, shah-london-1978.

    Examples
    --------
    >>> [round(float(friction_factor(Re, 64.0)), 3) for Re in (1000.0, 1e4)]
    [0.064, 0.031]
    """
    Re = np.asarray(Re)
    share = transition_share(Re)
    laminar = np.asarray(laminar_constant) / np.minimum(Re, LAMINAR_END)
    turbulent = konakov_friction(np.maximum(Re, TURBULENT_START))
    return np.asarray(laminar + share * (turbulent - laminar))


def pressure_drop(duct: Duct, flow: ArrayLike) -> FloatArray:
    """Pressure lost [Pa] at a volume ``flow`` [m³/s], 0 or more; broadcasts. gnielinski-2013."""
    flow = np.asarray(flow)
    f = friction_factor(np.maximum(flow * duct.reynolds, 1e-6), duct.laminar)
    return np.asarray((f * duct.length + duct.fixed) * duct.head * flow**2)


def drop_and_growth(duct: Duct, flow: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Pressure lost [Pa] and its growth d ln(drop) / d ln(flow) [-], 1 to about 2.6; broadcasts."""
    Re = np.maximum(flow * duct.reynolds, 1e-6)
    root = 1.0 / (1.8 * np.log10(np.maximum(Re, TURBULENT_START)) - 1.5)
    turbulent, laminar = root * root, duct.laminar / np.minimum(Re, LAMINAR_END)
    rise = turbulent - laminar
    f = laminar + transition_share(Re) * rise
    beyond = np.where(
        Re < TURBULENT_START, Re * rise / (TURBULENT_START - LAMINAR_END), _BEND * turbulent * root
    )
    bend = np.where(Re < LAMINAR_END, -laminar, beyond)
    lost = f * duct.length + duct.fixed
    return lost * duct.head * flow * flow, 2.0 + bend * duct.length / lost
