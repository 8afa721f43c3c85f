"""How sure an answer is, by sampling all that is assumed or scatters and solving every sample."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.system.batch import outcome
from ebbrin.core.system.chance import SEED, Unknown, applied, places
from ebbrin.core.system.parts import Cases, System

SAMPLES, CHUNK = 400, 100


@dataclass(frozen=True)
class Chances:
    """(cases,) unless said otherwise: share of samples that stay below the limit [-]; 5, 50 and 95 % points of the
    temperature that margins are taken from, (3, cases) [K], inf where such a share has no steady state; the same
    share for all cases together."""

    below_limit: FloatArray
    quantiles: FloatArray
    build_below_limit: float
    samples: int


def chances(
    system: System,
    cases: Cases,
    unknowns: Sequence[Unknown],
    samples: int = SAMPLES,
    seed: int = SEED,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Chances | None:
    """Sample the unknowns of one system and count; None if ``proceed`` said to stop.

    Parameters
    ----------
    proceed : called with the share that is done [-] before each CHUNK of samples.

    Raises
    ------
    DomainError
        If a case lies outside what is possible.
    """
    cases, at = cases.checked(), places(len(unknowns), samples, seed)
    parts = []
    for first in range(0, samples, CHUNK):
        if not proceed(first / samples):
            return None
        parts.append(outcome(applied(system, unknowns, at[first : first + CHUNK]), cases))
    margin, hot = (
        np.concatenate([np.atleast_2d(getattr(p, name)) for p in parts]) for name in ("margin", "hot")
    )
    ranked = np.sort(hot, axis=0)
    rows = [min(int(q * len(ranked)), len(ranked) - 1) for q in (0.05, 0.50, 0.95)]
    below = margin >= 0.0
    return Chances(below.mean(0), ranked[rows], float(below.all(-1).mean()), samples)
