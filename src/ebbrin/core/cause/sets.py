"""Every set of up to three causes, and what an observation shows under each. Exact: nothing is sampled."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, permutations

import numpy as np

from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.cause.network import STORY_WEIGHT, Network

MOST_AT_ONCE = 3


@lru_cache(maxsize=4)
def members(causes: int) -> IntArray:
    """(S, 3) causes of every set of up to three of so many, the empty set first; ``causes`` where there is none."""
    found = [
        chosen + (causes,) * (MOST_AT_ONCE - size)
        for size in range(MOST_AT_ONCE + 1)
        for chosen in combinations(range(causes), size)
    ]
    made = np.array(found, dtype=np.int64)
    made.flags.writeable = False
    return made


@dataclass(frozen=True)
class Shown:
    """What one observation shows: ``shares`` (R, V) of its values under each of R different sets of the causes that
    bear on it, and ``row`` (S,), which of them a set is: the first where there is no such cause in it at all."""

    shares: FloatArray
    row: IntArray


@lru_cache(maxsize=256)
def _rows(causes: int, linked: tuple[int, ...]) -> tuple[IntArray, IntArray]:
    """For each set the row of what it holds of the linked causes (S,), and those rows (R, 3), numbered among the linked
    from 1, 0 where there is none."""
    count = len(linked) + 1
    rows = np.array(
        [
            chosen + (0,) * (MOST_AT_ONCE - size)
            for size in range(MOST_AT_ONCE + 1)
            for chosen in combinations(range(1, count), size)
        ],
        dtype=np.int64,
    )
    at = np.zeros((count,) * MOST_AT_ONCE, dtype=np.int32)
    for order in permutations(range(MOST_AT_ONCE)):
        at[tuple(rows[:, order].T)] = np.arange(len(rows))
    number = np.zeros(causes + 1, dtype=np.int64)
    number[list(linked)] = np.arange(1, count)
    return at[tuple(number[members(causes)].T)], rows


def shown(network: Network, observation: int) -> Shown:
    """What an observation shows under every set of a network."""
    shows, base = network.shows[observation], network.base[observation]
    linked = tuple(int(c) for c in np.flatnonzero(shows.any(1)))
    row, rows = _rows(len(network.causes), linked)
    spared = np.concatenate([np.ones((1, base.size)), 1.0 - shows[list(linked)]])
    left = spared[rows].prod(1)
    if network.story[observation]:
        weights = base + STORY_WEIGHT * (1.0 - left)
    else:
        weights = 1.0 - (1.0 - base) * left
        weights[:, 0] *= left[:, 1:].prod(1)
    return Shown(weights / weights.sum(1, keepdims=True), row)


def prior_weights(prior: FloatArray) -> FloatArray:
    """(S,) chance of every set of up to three, of all of these together, from each cause's own (C,) [-]."""
    odds = np.append(prior / (1.0 - prior), 1.0)
    weights = odds[members(len(prior))].prod(1)
    return np.asarray(weights / weights.sum())


@lru_cache(maxsize=256)
def holding(causes: int, cause: int) -> IntArray:
    """The sets that hold a cause, by number."""
    return np.flatnonzero((members(causes) == cause).any(1))


def summed_over_members(weights: FloatArray, causes: int) -> FloatArray:
    """(C,) sum of the weights (S,) or (S, 3), one for each member, of the sets that hold each cause."""
    sets = members(causes)
    spread = np.broadcast_to(weights if weights.ndim == 2 else weights[:, None], sets.shape)
    return np.asarray(np.bincount(sets.ravel(), spread.ravel(), causes + 1)[:-1], np.float64)
