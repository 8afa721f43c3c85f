"""From the core's chances and sensitivities back to the document's units."""

from __future__ import annotations

from collections.abc import Sequence
from math import isfinite

import numpy as np

from ebbrin.core.system.uncertainty import Chances, Sensitivity
from ebbrin.document.from_core import celsius
from ebbrin.document.resolve import Resolved
from ebbrin.document.result import CaseChance, UnknownWorth
from ebbrin.document.unknowns import Named


def case_chance(chances: Chances, resolved: Resolved, i: int) -> CaseChance:
    """How sure case ``i`` is."""
    low, middle, high = (celsius(t) if isfinite(t) else None for t in chances.quantiles[:, i])
    return CaseChance(
        case_id=resolved.cases[i].id,
        holds=float(chances.holds[i]),
        below_limit=float(chances.below_limit[i]),
        low_c=low,
        middle_c=middle,
        high_c=high,
    )


def unknown_worths(named: Sequence[Named], worth: Sensitivity, resolved: Resolved) -> list[UnknownWorth]:
    """What hangs on each unknown in the worst case, the most first."""
    worst = int(np.argmin(worth.likeliest))
    order = np.argsort(-worth.swing[:, worst], kind="stable")
    return [
        UnknownWorth(
            name=named[k].unknown.name,
            path=named[k].path,
            title=named[k].title,
            case_id=resolved.cases[worst].id,
            swing_k=float(worth.swing[k, worst]),
            margin_at_low_k=float(worth.at_low[k, worst]),
            margin_at_high_k=float(worth.at_high[k, worst]),
        )
        for k in order
    ]
