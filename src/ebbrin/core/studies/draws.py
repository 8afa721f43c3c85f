"""Draws of what is not known: always the same ones, so that an answer does not flicker."""

from __future__ import annotations

from functools import lru_cache
from statistics import NormalDist
from threading import Lock

import numpy as np

from ebbrin.core.base import FloatArray

DRAWS, SEED = 4096, 20


def places(unknowns: int, samples: int, seed: int = SEED) -> FloatArray:
    """(samples, unknowns) standard deviations from the median, each unknown spread evenly over its distribution (Latin
    hypercube)."""
    rng = np.random.default_rng(seed)
    return _side_by_side([_drawn(rng, samples) for _ in range(unknowns)], samples)


def _drawn(rng: np.random.Generator, samples: int) -> list[float]:
    """Standard deviations from the median of one unknown, in the order of the samples."""
    shares = (rng.permutation(samples) + rng.random(samples)) / samples
    # SciPy's quantiles are the same to the last digits; to import them takes longer than a whole evaluation.
    at = NormalDist().inv_cdf
    return [at(share) for share in shares.tolist()]


def _side_by_side(columns: list[list[float]], samples: int) -> FloatArray:
    return np.array(columns).T.reshape(samples, len(columns))


_rng, _columns, _growing = np.random.default_rng(SEED), list[list[float]](), Lock()


@lru_cache(maxsize=64)
def sides(unknowns: int) -> tuple[FloatArray, FloatArray]:
    """(DRAWS, unknowns) how far each draw of ``places`` lies above the median, and how far below [-].

    Whoever fills in a value or clears it changes the number of unknowns: those before it keep their columns, so that
    thirty milliseconds of quantiles are not found anew.
    """
    with _growing:
        while len(_columns) < unknowns:
            _columns.append(_drawn(_rng, DRAWS))
    drawn = _side_by_side(_columns[:unknowns], DRAWS)
    return np.maximum(drawn, 0.0), np.maximum(-drawn, 0.0)
