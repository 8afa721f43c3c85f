"""Causes that are present or not, each on its own, and observations that are noisy-or over those present.

For a set A of causes and an observation with base shares b: an unhealthy value v has weight 1 - (1 - b_v) Π(1 - P) over
the causes in A that show v; the healthy one b_0 likewise, times Π(1 - P) over those that show anything else; a value of a
story b_v + 6 (1 - Π(1 - P)); all normalised. (A cause that shows the *healthy* value speaks for it. The page that this
follows lets every link lower the healthy value, its own too; that cannot be meant: a dead switch is known by fans that
run with the air conditioning on.)
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.cause.tables import CAUSES, LINKS, OBSERVATIONS, Strength

CERTAIN: dict[Strength, float] = {"+++": 0.98, "++": 0.85}
AT_LEAST, THREEFOLD, AT_MOST = 0.45, 3.0, 0.85
"""A link of one +: at least so much, or a threefold of the usual, never more than a link of two (choice)."""
STORY_WEIGHT = 6.0


@dataclass(frozen=True)
class Network:
    """C causes and O observations.

    prior : (C,) chance of being present, before anything was seen.
    base : for each observation its V values' shares among sound cars (V,).
    shows : for each observation (C, V): how surely each cause shows each value.
    story : for each observation, whether no value is the healthy one.
    symptom : for each observation, whether it is something that the car does, rather than the state of one part.
    """

    causes: tuple[str, ...]
    prior: FloatArray
    observations: tuple[str, ...]
    base: tuple[FloatArray, ...]
    shows: tuple[FloatArray, ...]
    story: tuple[bool, ...]
    symptom: tuple[bool, ...]

    def cut_down(self, causes: list[int]) -> Network:
        """The network of some of its causes."""
        return replace(
            self,
            causes=tuple(self.causes[c] for c in causes),
            prior=self.prior[causes],
            shows=tuple(shown[causes] for shown in self.shows),
        )


def strength(mark: Strength, usual: float) -> float:
    """How surely a cause shows a value [-], by the mark of the link and the value's usual share."""
    if mark in CERTAIN:
        return CERTAIN[mark]
    return max(AT_LEAST, min(THREEFOLD * usual, AT_MOST))


def by_the_table() -> Network:
    """The network of the tables alone, that of any car."""
    names = {name: number for number, name in enumerate(CAUSES)}
    shows = {o.name: np.zeros((len(CAUSES), len(o.telling))) for o in OBSERVATIONS.values()}
    for link in LINKS:
        seen = OBSERVATIONS[link.observation]
        value = seen.telling.index(link.value)
        shows[link.observation][names[link.cause], value] = strength(link.strength, seen.base[value])
    return Network(
        causes=tuple(CAUSES),
        prior=np.array([cause.weight / 1000.0 for cause in CAUSES.values()]),
        observations=tuple(OBSERVATIONS),
        base=tuple(np.array(o.base) for o in OBSERVATIONS.values()),
        shows=tuple(shows.values()),
        story=tuple(o.story for o in OBSERVATIONS.values()),
        symptom=tuple(o.symptom for o in OBSERVATIONS.values()),
    )
