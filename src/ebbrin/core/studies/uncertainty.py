"""How sure an answer is, by sampling all that is assumed or scatters: every sample looked at whole, at its limit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray, go_on
from ebbrin.core.studies.chance import Unknown, applied, by_draws, by_odds, centred, kept, spare
from ebbrin.core.studies.draws import SEED, places
from ebbrin.core.system.parts import Cases, System

SAMPLES, CHUNK = 400, 200


@dataclass(frozen=True)
class Chances:
    """Share of samples that stay below the limit (cases,) [-], and the share in which all cases do."""

    below_limit: FloatArray
    build_below_limit: float
    samples: int


def chances(
    system: System,
    cases: Cases,
    unknowns: Sequence[Unknown],
    samples: int = SAMPLES,
    seed: int = SEED,
) -> Chances:
    """Sample the unknowns of one system and count. What the samples bring is laid around the likely answer
    (``chance.centred``, ``chance.by_odds``).

    Raises
    ------
    DomainError
        If a case lies outside what is possible.
    """
    cases, at = cases.checked(), places(len(unknowns), samples, seed)
    likely = applied(system, unknowns, np.zeros((1, 1, len(unknowns))))
    left = np.atleast_2d(spare(likely, cases))
    left, middle = left[0], kept(likely, cases, left)[0]
    which = by_draws(system, cases, left, middle)
    straight = np.setdiff1d(np.arange(left.size), which)
    brought = np.empty((samples, left.size))
    for first in range(0, samples, CHUNK):
        go_on()
        drawn = applied(system, unknowns, at[first : first + CHUNK, None])
        for look, some in ((spare, straight), (kept, which)):
            if some.size:
                brought[first : first + CHUNK, some] = look(drawn, cases.taken(some))
    moved = centred(brought - left)
    for case in which:
        moved[:, case] = by_odds(brought[:, case] - middle[case])
    below = middle + moved > 0.0
    return Chances(below.mean(0), float(below.all(-1).mean()), samples)
