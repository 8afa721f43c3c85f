"""One bracketed root finder for whole arrays.

SciPy's elementwise finder compresses its arguments at every step, which nested solves with structured
parameters cannot follow; this one keeps the shape. A test compares the two.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray, go_on

MAX_STEPS = 100
WORTH_NARROWING = 1000
"""How many elements must be done before leaving them out is worth its own cost."""


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
    x = root_between(function, Bracket(a, b, fa, fb, bracketed), tolerance, residual)
    return Root(np.where(bracketed, x, unproven), bracketed)


@dataclass(frozen=True)
class Bracket:
    """Two looks at a function, (...) arrays: where, what was found there, and whether to search between."""

    a: FloatArray
    b: FloatArray
    fa: FloatArray
    fb: FloatArray
    open: BoolArray


def root_between(
    function: Callable[[FloatArray], FloatArray],
    bracket: Bracket,
    tolerance: float,
    residual: float = 0.0,
    narrowed: Callable[[IntArray], Callable[[FloatArray], FloatArray]] | None = None,
) -> FloatArray:
    """Roots between the looks of a ``bracket`` whose signs differ where it is open, same shape.

    Parameters
    ----------
    narrowed : gives the same function for a few elements alone, by their indices in the flattened shape, as
        a function of one axis. With it, elements that are done are no longer looked at.

    References
    ----------
    chandrupatla-1997.
    """
    shape, best = bracket.a.shape, np.where(np.abs(bracket.fa) < np.abs(bracket.fb), bracket.a, bracket.b)
    a, b, fa, fb = (np.asarray(v) for v in (bracket.a, bracket.b, bracket.fa, bracket.fb))
    searched = bracket.open
    apart = np.where(searched, fa - fb, 1.0)
    step = np.minimum(np.maximum(fa / apart, 0.02), 0.98)
    left: IntArray | None = None
    for _ in range(MAX_STEPS):
        go_on()
        x = a + step * (b - a)
        fx = function(x)
        same = (fx > 0.0) == (fa > 0.0)
        c, fc = np.where(same, a, b), np.where(same, fa, fb)
        b, fb = np.where(same, b, a), np.where(same, fb, fa)
        a, fa = x, fx
        width = np.abs(b - a)
        going = searched & (width > 2.0 * tolerance) & (np.abs(fa) > residual)
        count = np.count_nonzero(going)
        if count == 0:
            break
        step = _next_step((a, b, c), (fa, fb, fc), tolerance / np.maximum(width, 2.0 * tolerance))
        if narrowed is not None and a.size - count >= WORTH_NARROWING and 4 * count <= 3 * a.size:
            _put(best, left, np.where(np.abs(fa) < np.abs(fb), a, b), searched)
            few = np.flatnonzero(going)
            left = few if left is None else left[few]
            function = narrowed(left)
            a, b, fa, fb, step = (v.ravel()[few] for v in (a, b, fa, fb, step))
            searched = np.ones(few.shape, bool)
    _put(best, left, np.where(np.abs(fa) < np.abs(fb), a, b), searched)
    return best.reshape(shape)


def _put(into: FloatArray, where: IntArray | None, values: FloatArray, good: BoolArray) -> None:
    """Store what has been found so far."""
    if where is None:
        np.copyto(into, values, where=good)
    else:
        into.ravel()[where] = values


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
