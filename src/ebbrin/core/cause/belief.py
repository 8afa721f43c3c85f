"""What is likely after what was seen, and what each further look would tell."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.cause.network import Network
from ebbrin.core.cause.sets import Shown, holding, members, prior_weights, shown, summed_over_members
from ebbrin.core.compiled import compiled


class Inquiry:
    """A network ready to be asked: what all observations show under all sets of up to three causes is worked out
    once."""

    def __init__(self, network: Network) -> None:
        self.network = network
        self.shown: tuple[Shown, ...] = tuple(shown(network, o) for o in range(len(network.observations)))

    def likelihood(self, observation: int, value: int) -> FloatArray:
        """(S,) share of cars with each set that show a value [-]."""
        seen = self.shown[observation]
        return np.asarray(seen.shares[seen.row, value])

    def after(self, evidence: Mapping[int, int], prior: FloatArray | None = None) -> Belief:
        """What to believe once values were seen: observation to value, both by number. Their order is of no account.

        Parameters
        ----------
        prior : (C,) chance of each cause before anything was seen [-]; the network's own if left out.
        """
        before = prior_weights(self.network.prior if prior is None else prior)
        weights = before
        for observation in sorted(evidence):
            weights = weights * self.likelihood(observation, evidence[observation])
        return Belief(self, dict(evidence), weights / weights.sum(), before)


@dataclass(frozen=True)
class Belief:
    """Chances ``weights`` (S,) of all sets after the evidence, and ``before`` (S,) it."""

    of: Inquiry
    evidence: dict[int, int]
    weights: FloatArray
    before: FloatArray

    @property
    def _causes(self) -> int:
        return len(self.of.network.causes)

    @cached_property
    def present(self) -> FloatArray:
        """(C,) chance of each cause that it is there [-]."""
        return np.minimum(summed_over_members(self.weights, self._causes), 1.0)

    @property
    def nothing(self) -> float:
        """Chance that none of the causes is there [-]."""
        return float(self.weights[0])

    def together_with(self, observation: int, cause: int) -> FloatArray:
        """(V,) chances that a cause is there together with each value of an observation that was not made yet [-]."""
        seen = self.of.shown[observation]
        held = holding(self._causes, cause)
        return np.asarray(np.bincount(seen.row[held], self.weights[held], len(seen.shares)) @ seen.shares)

    def explained(self, can: BoolArray) -> Explained:
        """What explains the complaint, among causes that ``can`` (C,).

        Within a set those that can share it, by how much likelier each alone makes the symptoms that were seen.
        """
        credit = np.append(np.where(can, self._told_by_each, 0.0), 0.0)
        mine = credit[members(self._causes)]
        total = mine.sum(1, keepdims=True)
        part = np.divide(mine, total, out=np.zeros_like(mine), where=total > 0.0)
        return Explained(self, self.weights[:, None] * part)

    @cached_property
    def _told_by_each(self) -> FloatArray:
        symptom = self.of.network.symptom
        return self.alone([observation for observation in self.evidence if symptom[observation]])

    def alone(self, observations: Iterable[int]) -> FloatArray:
        """(C,) chance that each cause alone would show the values that these observations had [-]."""
        shown = np.ones(self._causes)
        for observation in observations:
            shown = shown * self.of.likelihood(observation, self.evidence[observation])[1 : 1 + self._causes]
        return shown

    def without(self, observation: int) -> Belief:
        """What to believe had one of the observations not been made."""
        left = {o: v for o, v in self.evidence.items() if o != observation}
        weights = self.weights / self.of.likelihood(observation, self.evidence[observation])
        return Belief(self.of, left, weights / weights.sum(), self.before)

    def likeliest(self, most: int) -> list[tuple[list[int], float]]:
        """The likeliest sets, each with its causes and its chance [-]."""
        sets = members(self._causes)
        best = np.argsort(-self.weights, kind="stable")[:most]
        return [([int(c) for c in sets[s] if c < self._causes], float(self.weights[s])) for s in best]

    def for_and_against(self) -> dict[int, FloatArray]:
        """For every observation that was made (C,): how far it moves each cause, in bits of its odds, above 0 for it."""
        return {
            observation: _bits_of_odds(self.present) - _bits_of_odds(self.without(observation).present)
            for observation in self.evidence
        }

    def at_odds(self) -> list[tuple[int, int, float]]:
        """Pairs of observations whose values seldom go together: how much rarer together than if the one had nothing
        to do with the other, times; the rarest first."""
        made = sorted(self.evidence)
        if len(made) < 2:
            return []
        each = np.array([self.of.likelihood(o, self.evidence[o]) for o in made])
        alone = each @ self.before
        rarer = (each * self.before) @ each.T / np.outer(alone, alone)
        found = [
            (made[i], made[j], float(rarer[i, j]))
            for i in range(len(made))
            for j in range(i + 1, len(made))
            if rarer[i, j] < SELDOM
        ]
        return sorted(found, key=lambda pair: pair[2])


class Explained:
    """Chances ``joint`` (S, 3) of each set that the complaint is owed to its first, second or third member."""

    def __init__(self, belief: Belief, joint: FloatArray) -> None:
        self.belief, self.joint = belief, joint
        self._with: dict[int, FloatArray] = {}

    @cached_property
    def by(self) -> FloatArray:
        """(C,) chance of each cause that it is what explains the complaint [-]; what is missing to 1 is that of
        something else."""
        causes = len(self.belief.of.network.causes)
        return np.minimum(summed_over_members(self.joint, causes), self.belief.present)

    def together_with(self, observation: int) -> FloatArray:
        """(C + 1, V) chances of each reason of the complaint, the last one none of the causes, together with each value
        of an observation that was not made yet."""
        if observation not in self._with:
            self._with[observation] = self._together_with(observation)
        return self._with[observation]

    def bits(self, observation: int) -> float:
        """How much an observation is expected to tell about what explains the complaint [bits], 0 or more: the doubt
        about its value less what is left of that once the reason is known."""
        both = self.together_with(observation)
        return max(0.0, _doubt(both.sum(0)) + _doubt(both.sum(1)) - _doubt(both))

    def _together_with(self, observation: int) -> FloatArray:
        belief = self.belief
        seen, causes = belief.of.shown[observation], len(belief.of.network.causes)
        held = np.zeros((causes + 1, len(seen.shares)))
        by_row = np.zeros(len(seen.shares))
        _by_reason_and_row(seen.row, members(causes), self.joint, belief.weights, held, by_row)
        # Where none of the causes is there that bear on it, a set is of the first row.
        held[:-1, 0] = np.maximum(self.by - held[:-1].sum(1), 0.0)
        held[-1] = np.maximum(by_row - held[:-1].sum(0), 0.0)
        return np.asarray(held @ seen.shares)


@compiled
def _by_reason_and_row(
    row: IntArray,
    sets: IntArray,
    joint: FloatArray,
    weights: FloatArray,
    held: FloatArray,
    by_row: FloatArray,
) -> None:
    """Add to ``held`` (C + 1, R) what the ``joint`` chances (S, 3) of the ``sets`` (S, 3) come to for each reason and
    ``row`` (S,) but the first, and to ``by_row`` (R,) what their ``weights`` (S,) do: both begin as nothing."""
    for s in range(len(row)):
        r = row[s]
        by_row[r] += weights[s]
        if r > 0:
            for k in range(sets.shape[1]):
                held[sets[s, k], r] += joint[s, k]


def _doubt(chances: FloatArray) -> float:
    held = chances[chances > 0.0]
    return float(-(held * np.log2(held)).sum())


SELDOM = 0.5
"""Two values are at odds where they come together less than half as often as they would by chance (choice)."""
LEAST = 1e-9


def _bits_of_odds(chance: FloatArray) -> FloatArray:
    held = np.clip(chance, LEAST, 1.0 - LEAST)
    return np.log2(held / (1.0 - held))
