"""One bracketed root finder, for whole arrays and, in compiled code, for plain numbers.

SciPy's elementwise finder compresses its arguments at every step, which nested solves with structured
parameters cannot follow; this one keeps the shape. A test compares the two.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, go_on
from ebbrin.core.compiled import compiled

MAX_STEPS = 100


@dataclass(frozen=True)
class Root:
    """Roots and whether the ends had opposite signs, each in the broadcast shape."""

    x: FloatArray
    bracketed: BoolArray


def bracketed_root(
    function: Callable[[FloatArray], FloatArray],
    low: ArrayLike,
    high: ArrayLike,
    tolerance: float,
    residual: float = 0.0,
) -> Root:
    """Root of ``function`` in [low, high], element by element.

    Parameters
    ----------
    function : callable
        Takes and returns an array of the broadcast shape, also with one more axis in front; continuous
        in each element.
    low, high : (...) float array
        Ends of the bracket.
    tolerance : float
        Absolute half width of the final bracket, in units of x.
    residual : float
        An element is also done once the function's magnitude is no more than this.

    Returns
    -------
    Root
        Where the ends have the same sign there is no proof of a root: ``bracketed`` is False and
        ``x`` is the end with the smaller residual.

    References
    ----------
    chandrupatla-1997.
    """
    ends = np.broadcast_arrays(np.asarray(low, np.float64), np.asarray(high, np.float64))
    return root_among(function, np.stack(ends), tolerance, residual)


def root_among(
    function: Callable[[FloatArray], FloatArray],
    knots: FloatArray,
    tolerance: float,
    residual: float = 0.0,
) -> Root:
    """Root between the first and last of ``knots`` (k, ...), rising along the leading axis.

    All knots are evaluated in one call; the search goes on between the first two neighbours whose signs
    differ, from where a straight line between them crosses. Otherwise as ``bracketed_root``.
    """
    values = function(knots)
    knots = np.broadcast_to(knots, values.shape)
    change = (values[1:] > 0.0) != (values[:-1] > 0.0)
    bracketed = np.asarray(change.any(0))
    first = np.argmax(change, axis=0)[None]
    a, b = (np.take_along_axis(knots, first + step, 0)[0] for step in (0, 1))
    fa, fb = (np.take_along_axis(values, first + step, 0)[0] for step in (0, 1))
    nearer_low = np.abs(values[0]) <= np.abs(values[-1])
    unproven = np.where(nearer_low, knots[0], knots[-1])
    best = np.where(np.abs(fa) < np.abs(fb), a, b)
    step = np.minimum(np.maximum(fa / np.where(bracketed, fa - fb, 1.0), 0.02), 0.98)
    for _ in range(MAX_STEPS):
        go_on()
        at = a + step * (b - a)
        there = function(at)
        same = (there > 0.0) == (fa > 0.0)
        c, fc = np.where(same, a, b), np.where(same, fa, fb)
        b, fb = np.where(same, b, a), np.where(same, fb, fa)
        a, fa = at, there
        width = np.abs(b - a)
        best = np.where(np.abs(fa) < np.abs(fb), a, b)
        if not (bracketed & (width > 2.0 * tolerance) & (np.abs(fa) > residual)).any():
            break
        step = _next_step((a, b, c), (fa, fb, fc), tolerance / np.maximum(width, 2.0 * tolerance))
    return Root(np.where(bracketed, best, unproven), bracketed)


def _next_step(
    x: tuple[FloatArray, FloatArray, FloatArray],
    f: tuple[FloatArray, FloatArray, FloatArray],
    least: FloatArray,
) -> FloatArray:
    """Where to look next between a and b: inverse quadratic where that is safe, else the middle."""
    (a, b, c), (fa, fb, fc) = x, f
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        xi, phi = (a - b) / (c - b), (fa - fb) / (fc - fb)
        safe = (phi**2 < xi) & ((1.0 - phi) ** 2 < 1.0 - xi)
        quadratic = fa / (fb - fa) * fc / (fb - fc) + (c - a) / (b - a) * fa / (fc - fa) * fb / (fc - fb)
    step = np.where(safe & np.isfinite(quadratic), quadratic, 0.5)
    return np.minimum(np.maximum(step, least), 1.0 - least)


@compiled
def first_share(fa: float, fb: float) -> float:
    """Where between two looks a straight line crosses, as a share of the way from the first, kept off both ends."""
    return min(max(fa / (fa - fb), 0.02), 0.98)


@compiled
def next_share(a: float, fa: float, b: float, fb: float, c: float, fc: float, tolerance: float) -> float:
    """Where to look next, as a share of the way from ``a``, the last look, to ``b`` on the other side of the root; ``c``
    is the look before. Inverse quadratic where that is safe, else the middle; no nearer to either end than a
    ``tolerance``.

    References
    ----------
    chandrupatla-1997.
    """
    share = 0.5
    if c != b and fc != fb and fc != fa:
        xi, phi = (a - b) / (c - b), (fa - fb) / (fc - fb)
        if phi * phi < xi and (1.0 - phi) * (1.0 - phi) < 1.0 - xi:
            share = fa / (fb - fa) * fc / (fb - fc)
            share += (c - a) / (b - a) * fa / (fc - fa) * fb / (fc - fb)
    least = tolerance / max(abs(b - a), 2.0 * tolerance)
    return min(max(share, least), 1.0 - least)
