"""From the core's chances back to the document's units."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ebbrin.bridge.unknowns import Named
from ebbrin.core.studies.chance import Estimate, verdict_of
from ebbrin.features.judge.answers import VERDICTS, UnknownWorth, Verdict


def unknown_worths(named: Sequence[Named], estimate: Estimate, case: int) -> list[UnknownWorth]:
    """What hangs in a case on each unknown that one could measure, the most first."""
    known = estimate.if_known(case)
    measurable = [k for k, entry in enumerate(named) if entry.measurable]
    order = sorted(measurable, key=lambda k: -float(estimate.settles[k, case]))
    return [
        UnknownWorth(
            name=named[k].unknown.name,
            path=named[k].path,
            title=named[k].title,
            settles=float(estimate.settles[k, case]),
            swing_k=float(estimate.swing[k, case]),
            chance_at_low=float(known[k, 0]),
            chance_at_high=float(known[k, 1]),
        )
        for k in order
    ]


def verdict_at(chance: float) -> Verdict:
    """The verdict that goes with a chance."""
    return VERDICTS[int(verdict_of(np.asarray(chance)))]
