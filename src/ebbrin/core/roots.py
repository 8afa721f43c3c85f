"""One bracketed root finder for whole arrays.

SciPy's elementwise finder compresses its arguments at every step, which nested solves with structured
parameters cannot follow; this one keeps the shape. A test compares the two.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray

MAX_STEPS = 100


@dataclass(frozen=True)
class Root:
    """Roots and whether the ends had opposite signs, each in the broadcast shape."""

    x: FloatArray
    bracketed: BoolArray


def bracketed_root(
    function: Callable[[FloatArray], FloatArray], low: ArrayLike, high: ArrayLike, tolerance: float
) -> Root:
    """Root of ``function`` in [low, high], element by element.

    Parameters
    ----------
    function : callable
        Takes and returns an array of the broadcast shape; continuous in each element.
    low, high : (...) float array
        Ends of the bracket.
    tolerance : float
        Absolute half width of the final bracket, in units of x.

    Returns
    -------
    Root
        Where the ends have the same sign there is no proof of a root: ``bracketed`` is False and
        ``x`` is the end with the smaller residual.

    References
    ----------
    chandrupatla-1997.
    """
    a, b = np.asarray(low, np.float64), np.asarray(high, np.float64)
    return _between(function, (a, b), (function(a), function(b)), tolerance)


def root_near(
    function: Callable[[FloatArray], FloatArray],
    near: tuple[FloatArray, FloatArray],
    bracket: tuple[FloatArray, FloatArray],
    tolerance: float,
) -> Root:
    """Root looked for first between the two ends of ``near``, and in the whole ``bracket`` where these
    have the same sign. Otherwise as ``bracketed_root``."""
    f_low, f_high = function(near[0]), function(near[1])
    within = (f_low > 0.0) != (f_high > 0.0)
    if within.all():
        return _between(function, near, (f_low, f_high), tolerance)
    low, high = np.where(within, near[0], bracket[0]), np.where(within, near[1], bracket[1])
    return bracketed_root(function, low, high, tolerance)


def _between(
    function: Callable[[FloatArray], FloatArray],
    ends: tuple[FloatArray, FloatArray],
    values: tuple[FloatArray, FloatArray],
    tolerance: float,
) -> Root:
    """Chandrupatla's method from two ends and the function's values there."""
    (a, b), (fa, fb) = ends, values
    shape = np.broadcast_shapes(a.shape, b.shape, fa.shape, fb.shape)
    a, b, fa, fb = (np.array(np.broadcast_to(v, shape)) for v in (a, b, fa, fb))
    bracketed = (fa * fb) <= 0.0
    unproven = np.where(np.abs(fa) < np.abs(fb), a, b)
    c, fc = a.copy(), fa.copy()
    step = np.full(shape, 0.5)
    for _ in range(MAX_STEPS):
        x = a + step * (b - a)
        fx = function(x)
        same = (fx > 0.0) == (fa > 0.0)
        c, fc = np.where(same, a, b), np.where(same, fa, fb)
        b, fb = np.where(same, b, a), np.where(same, fb, fa)
        a, fa = x, fx
        width = np.abs(b - a)
        open_still = bracketed & (width > 2.0 * tolerance) & (fa != 0.0)
        if not open_still.any():
            break
        step = _next_step((a, b, c), (fa, fb, fc), tolerance / np.maximum(width, 2.0 * tolerance))
    best_is_a = np.abs(fa) < np.abs(fb)
    return Root(np.where(bracketed, np.where(best_is_a, a, b), unproven), bracketed)


def _next_step(
    x: tuple[FloatArray, FloatArray, FloatArray],
    f: tuple[FloatArray, FloatArray, FloatArray],
    least: FloatArray,
) -> FloatArray:
    """Where to look next between a and b: inverse quadratic where that is safe, else the middle."""
    (a, b, c), (fa, fb, fc) = x, f
    with np.errstate(divide="ignore", invalid="ignore"):
        xi, phi = (a - b) / (c - b), (fa - fb) / (fc - fb)
        safe = (phi**2 < xi) & ((1.0 - phi) ** 2 < 1.0 - xi)
        quadratic = fa / (fb - fa) * fc / (fb - fc) + (c - a) / (b - a) * fa / (fc - fa) * fb / (fc - fb)
    step = np.where(safe & np.isfinite(quadratic), quadratic, 0.5)
    return np.minimum(np.maximum(step, least), 1.0 - least)
