"""Which combinations of parts keep to what is wanted of every case, and which of those nobody would regret."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import moocore
import numpy as np

from ebbrin.core.airpath.front_end import AirPath
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.circuit.pump import Pump
from ebbrin.core.media.coolants import Coolant
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.records import part_of, stack
from ebbrin.core.sizing.target import Target
from ebbrin.core.system.parts import Cases, System

CORE, AIR, PUMP, COOLANT = 0, 1, 2, 3
"""Axes along which parts are chosen."""
PROBED = 200  # candidates on which all cases are tried, to find which of them is hardest


@dataclass(frozen=True)
class Options:
    """What may be chosen, records of shape (): cores, air paths (fan and shroud together), pumps, coolants."""

    cores: Sequence[Core]
    airs: Sequence[AirPath]
    pumps: Sequence[Pump]
    coolants: Sequence[Coolant]

    @property
    def counts(self) -> tuple[int, int, int, int]:
        """How many there are along each axis."""
        return len(self.cores), len(self.airs), len(self.pumps), len(self.coolants)

    @cached_property
    def stacked(self) -> tuple[Core, AirPath, Pump, Coolant]:
        """All of each axis in one record."""
        return stack(self.cores), stack(self.airs), stack(self.pumps), stack(self.coolants)


@dataclass(frozen=True)
class Found:
    """Arrays (candidates,): the least that is kept [K], as the target measures it, over the cases that were looked at, -inf without steady state; index
    of the case that has it; whether all cases were looked at. A candidate that falls short in one case is not
    looked at in those after it, so where ``complete`` is False the margin in some other case may be even less."""

    margin: FloatArray
    case: IntArray
    complete: BoolArray


def every(options: Options, fits: BoolArray | None = None) -> IntArray:
    """(candidates, 4) indices of every combination whose core and air path go together.

    Parameters
    ----------
    fits : (cores, airs) bool array; all if None.
    """
    index = np.indices(options.counts).reshape(4, -1).T
    return index if fits is None else index[fits[index[:, CORE], index[:, AIR]]]


def systems_of(base: System, options: Options, index: IntArray) -> System:
    """The base with the parts of ``index`` (candidates, 4) in it, fields (candidates, 1)."""
    cores, airs, pumps, coolants = options.stacked
    circuit = replace(base.circuit, pump=part_of(pumps, index[:, PUMP]))
    return replace(
        base,
        core=part_of(cores, index[:, CORE]),
        air=part_of(airs, index[:, AIR]),
        circuit=circuit,
        coolant=part_of(coolants, index[:, COOLANT]),
    )


def search(
    base: System,
    options: Options,
    index: IntArray,
    cases: Cases,
    target: Target,
    proceed: Callable[[float], bool] = lambda _share: True,
    workers: int | None = None,
) -> Found | None:
    """What each candidate keeps; None if ``proceed`` said to stop.

    The hardest case first, and only what survives goes on to the next: exact for all that keep to the ``target``, and
    most of the work is spared.

    Parameters
    ----------
    index : (candidates, 4), n from 1.
    target : what every case must keep.
    proceed : called with the share that is done [-].

    Raises
    ------
    DomainError
        If a part or a case lies outside what is possible.
    """
    order = _hardest_first(base, options, index, cases, target, workers)
    n, count = len(index), len(order)
    least, worst, looked = np.full(n, np.inf), np.full(n, order[0]), np.zeros(n, np.int64)
    which = np.arange(n)
    for k, case in enumerate(order):

        def told(share: float, done: int = k) -> bool:
            return proceed((done + share) / count)

        system = systems_of(base, options, index[which])
        one = np.array([case])
        found = target.taken(one).kept(system, cases.taken(one), workers, told)
        if found is None:
            return None
        here = np.broadcast_to(found.reshape(-1), which.shape)
        worst[which] = np.where(here < least[which], case, worst[which])
        least[which] = np.minimum(here, least[which])
        looked[which] += 1
        which = which[here >= target.wanted]
        if which.size == 0:
            break
    return Found(least, worst, looked == count)


def _hardest_first(
    base: System, options: Options, index: IntArray, cases: Cases, target: Target, workers: int | None
) -> IntArray:
    """Cases, the one in which most of some candidates fall short first."""
    some = index[:: max(len(index) // PROBED, 1)]
    found = target.kept(systems_of(base, options, some), cases, workers)
    assert found is not None
    short = (found < target.wanted).sum(0)
    rough = np.maximum(found, -100.0).mean(0)
    return np.lexsort((rough, -short))


def non_dominated(costs: FloatArray) -> BoolArray:
    """(n,) which of the rows of ``costs`` (n, objectives), smaller being better, no other row beats in one
    objective without losing in another; of equal rows the first."""
    return np.asarray(moocore.is_nondominated(costs, keep_weakly=False), bool)


def representatives(costs: FloatArray, count: int) -> list[int]:
    """Up to ``count`` rows of a front (n, objectives) that show its reach: the best in each objective (of several
    the one nearest to the ideal), the nearest to the ideal of all, then whatever lies farthest from those taken.

    Each objective is scaled to its span over the front.
    """
    low, high = costs.min(0), costs.max(0)
    scaled = (costs - low) / np.where(high > low, high - low, 1.0)
    far = np.sqrt((scaled**2).sum(-1))
    taken: list[int] = []
    for column in range(costs.shape[1]):
        best = np.flatnonzero(scaled[:, column] <= 1e-12)
        taken.append(int(best[np.argmin(far[best])]))
    taken = list(dict.fromkeys([*taken, int(np.argmin(far))]))[:count]
    while len(taken) < min(count, len(costs)):
        gap = np.sqrt(((scaled[:, None] - scaled[taken]) ** 2).sum(-1)).min(-1)
        if gap.max() < 0.15:
            break
        taken.append(int(np.argmax(gap)))
    return taken
