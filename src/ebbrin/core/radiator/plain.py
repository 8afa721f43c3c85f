"""Heat transfer and friction of plain plate fins on staggered round tubes."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, Range
from ebbrin.core.compiled import Numbers, both
from ebbrin.core.radiator.geometry import Core

GRAY_WEBB_RE = Range(500.0, 24_700.0, "-")
GRAY_WEBB_TRANSVERSE = Range(1.97, 2.55, "-")  # tube pitch over diameter
GRAY_WEBB_ROW = Range(1.70, 2.58, "-")  # row pitch over diameter
GRAY_WEBB_GAP = Range(0.08, 0.64, "-")  # gap between fins over diameter
_J_EXPONENT, _ROW_EXPONENT = -0.328, -0.092 * 0.607
FIN_EXPONENT, BANK_EXPONENT = -0.521, -0.16


def j_law(core: Core) -> tuple[FloatArray, FloatArray]:
    """Factor and exponent of the Colburn factor [-]: j = factor · Re^exponent, Re on tube diameter.

    References
    ----------
    gray-webb-1986 (from memory), with its correction for fewer than four rows; fitted for Re 500 to 24 700.
    """
    D, Pt, Pl = core.tube_height, core.tube_pitch, core.row_pitch
    gap = core.fin_pitch - core.fin_thickness
    four = 0.14 * (Pt / Pl) ** -0.502 * (gap / D) ** 0.0312
    missing = np.maximum(4.0 - core.rows, 0.0)
    few = 2.24 * (np.minimum(core.rows, 4.0) / 4.0) ** -0.031
    correction = np.where(missing > 0.0, 0.991 * few ** (0.607 * missing), 1.0)
    return four * correction, _J_EXPONENT + _ROW_EXPONENT * missing


class PlateFriction(NamedTuple):
    """Both parts of the friction of plate fins and tubes, (...) float arrays [-]: factors on Re to the
    powers FIN_EXPONENT and BANK_EXPONENT."""

    fins: FloatArray
    bank: FloatArray


def friction_law(core: Core) -> PlateFriction:
    """The constants of the friction law for one geometry.

    References
    ----------
    gray-webb-1986 (fins), jakob-1938 as given by kim-youn-webb-1999 (tube bank); both from memory.
    """
    D, Pt = core.tube_height, core.tube_pitch
    fins = 0.508 * (Pt / D) ** 1.318 * core.fin_share
    tubes = (1.0 - core.fin_share) * (1.0 - core.fin_thickness / core.fin_pitch)
    bank = 4.0 / np.pi * (0.25 + 0.118 / (Pt / D - 1.0) ** 1.08) * (Pt / D - 1.0) * tubes
    return PlateFriction(fins, bank)


@both
def friction_at(log_Re: Numbers, fins: Numbers, bank: Numbers) -> Numbers:
    """As ``friction`` at the logarithm of Re, by the fields of a ``PlateFriction``, in compiled code too."""
    return fins * np.exp(FIN_EXPONENT * log_Re) + bank * np.exp(BANK_EXPONENT * log_Re)


def friction(Re: ArrayLike, law: PlateFriction) -> FloatArray:
    """Fanning friction factor of plate fins and tube bank together [-].

    Parameters
    ----------
    Re : (...) float array, on tube diameter [-]; fitted 500 to 24 700 (GRAY_WEBB_RE). Below, the power laws
        go on.

    References
    ----------
    gray-webb-1986, jakob-1938.
    """
    return np.asarray(friction_at(np.log(np.maximum(Re, 1e-9)), *law))


def schmidt_length(core: Core) -> FloatArray:
    """Fin length that makes a straight fin as efficient as a hexagonal plate round a tube [m].

    References
    ----------
    schmidt-1949, for staggered tubes (equivalent radius and its correction; the longer over the shorter side,
    which the formula asks for).
    """
    r, across = core.tube_height / 2.0, core.tube_pitch / 2.0
    along = 0.5 * np.hypot(across, core.row_pitch)
    shorter, longer = np.minimum(across, along), np.maximum(across, along)
    ratio = np.maximum(1.27 * (shorter / r) * np.sqrt(longer / shorter - 0.3), 1.001)
    return np.asarray(r * (ratio - 1.0) * (1.0 + 0.35 * np.log(ratio)))


def outside_fit(core: Core, Re: ArrayLike) -> BoolArray:
    """True where Reynolds number or geometry leave what the correlation was fitted to."""
    D = core.tube_height
    gap = core.fin_pitch - core.fin_thickness
    return np.asarray(
        GRAY_WEBB_RE.outside(Re)
        | GRAY_WEBB_TRANSVERSE.outside(core.tube_pitch / D)
        | GRAY_WEBB_ROW.outside(core.row_pitch / D)
        | GRAY_WEBB_GAP.outside(gap / D)
    )
