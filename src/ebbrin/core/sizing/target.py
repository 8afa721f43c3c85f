"""What a combination of parts must keep in every case: a chance of staying below the limit, or a margin below it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.studies.batch import in_chunks, left, outcomes
from ebbrin.core.studies.chance import Estimate, draws_of, in_kelvin
from ebbrin.core.system.parts import Cases, System


@dataclass(frozen=True)
class Target:
    """What is wanted of every case, and how it is measured, in kelvins.

    A margin: of the top hose below the limit. A chance: of the outside air, beyond what the chance asks; asked
    (cases,) [-] is what must be spare at the limit for it and per_kelvin (cases,) [-/K] what a kelvin of hotter air
    takes of that, both found on one system and taken for all that are like it (choice: each combination that is
    shown is judged by its own).
    """

    wanted: float
    asked: FloatArray | None = None
    per_kelvin: FloatArray | None = None

    def taken(self, which: IntArray) -> Target:
        """The same for some of the cases."""
        if self.asked is None or self.per_kelvin is None:
            return self
        return replace(self, asked=self.asked[which], per_kelvin=self.per_kelvin[which])

    def kept(
        self,
        system: System,
        cases: Cases,
        workers: int | None = None,
        proceed: Callable[[float], bool] = lambda _share: True,
    ) -> FloatArray | None:
        """(candidates, cases) what each keeps [K], of hotter air never more than up to the top hose's limit; None if ``proceed`` said to stop.

        Raises
        ------
        DomainError
            If a part or a case lies outside what is possible.
        """
        if self.asked is None or self.per_kelvin is None:
            solved = outcomes(system, cases, workers, proceed)
            return None if solved is None else solved.margin
        found = in_chunks(left, system, cases, workers, proceed)
        if found is None:
            return None
        # Air as hot as the top hose may be takes no heat at all: what a kelvin is worth here is not drawn out beyond it. A
        # short run that holds in air that is hotter still keeps nothing, and holds.
        most = np.maximum(system.limits.top_hose - cases.ambient, 0.0)
        return np.asarray(np.minimum(in_kelvin(found.spare - self.asked, self.per_kelvin), most))


def for_margin(margin: float) -> Target:
    """A margin of the top hose below the limit [K]."""
    return Target(margin)


def for_chance(found: Estimate) -> Target:
    """The chance that an estimate was asked for, in each case."""
    return Target(0.0, found.wanted, found.per_kelvin)


def at_borders(found: Sequence[Estimate]) -> Estimate:
    """Of estimates of systems that differ in nothing but how much they shed, with the same unknowns: for each case the one
    whose likely answer lies nearest to what is wanted, since a case that is far from its limit is in doubt by another
    measure than one that decides."""
    nearest = np.argmin([np.abs(one.middle - one.wanted) for one in found], axis=0)
    arrays = ("below", "hotter", "wanted", "middle", "down", "up", "per_kelvin", "settles", "swing")
    taken: dict[str, Any] = {
        name: np.stack([getattr(found[k], name)[..., case] for case, k in enumerate(nearest)], -1)
        for name in arrays
    }
    bends = {case: found[k].bends[case] for case, k in enumerate(nearest) if case in found[k].bends}
    mixed = replace(found[0], bends=bends, **taken)
    return replace(mixed, build=float(chance_of_all(mixed, mixed.middle)[0]))


def chance_of_each(found: Estimate, groups: int) -> FloatArray:
    """(groups,) chance that all cases of a group stay below, of an estimate whose cases are so many groups, one after the
    other and of the same size."""
    stays = found.middle + draws_of(found) > 0.0
    return np.asarray(stays.reshape(len(stays), groups, -1).all(-1).mean(0))


def chance_of_all(found: Estimate, spare: FloatArray) -> FloatArray:
    """(candidates,) chance that all cases stay below, from what is ``spare`` (candidates, cases) [-] and the doubts of
    one system."""
    moved = draws_of(found)
    return np.array([np.mean((moved + row > 0.0).all(-1)) for row in np.atleast_2d(spare)])
