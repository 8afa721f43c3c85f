"""How sure an answer is, by sampling all that is assumed or scatters: every sample looked at whole, at its limit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray, go_on
from ebbrin.core.studies.chance import Unknown, applied, by_odds, centred, passed, spare
from ebbrin.core.studies.draws import SEED, places
from ebbrin.core.system.limits import boiling_temperature, limit_temperature
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import steady_state

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
    parts = []
    for first in range(0, samples, CHUNK):
        go_on()
        parts.append(np.atleast_2d(spare(applied(system, unknowns, at[first : first + CHUNK, None]), cases)))
    left, middle = likely(system, cases, unknowns)
    brought = np.concatenate(parts) - left
    moved = centred(brought)
    for case in np.flatnonzero(np.isfinite(cases.duration)):
        moved[:, case] = by_odds(brought[:, case])
    below = middle + moved > 0.0
    return Chances(below.mean(0), float(below.all(-1).mean()), samples)


def likely(system: System, cases: Cases, unknowns: Sequence[Unknown]) -> tuple[FloatArray, FloatArray]:
    """(cases,) what is spare at the limit with all unknowns at their medians [-]; and the same, no more than what it settles
    at or hunts about leaves."""
    middle = applied(system, unknowns, np.zeros((1, 1, len(unknowns))))
    left = np.atleast_2d(spare(middle, cases))[0]
    limit = limit_temperature(middle, boiling_temperature(middle, cases, middle.cap.holds))
    limit = np.broadcast_to(limit, (*np.shape(limit)[:-1], left.size))
    state = steady_state(middle, cases, limit)
    settles = np.where(state.exists, state.judged, np.inf)
    hottest = np.minimum(np.where(state.hunts, state.hottest, settles), middle.table_end)
    one, hottest, hunts = (np.atleast_2d(v)[0] for v in (limit, hottest, state.hunts))
    return left, np.asarray(np.minimum(left, passed(left, one, hottest, hunts, cases)))
