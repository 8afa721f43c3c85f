"""From the core's levers back to the document's units."""

from __future__ import annotations

import numpy as np

from ebbrin.build.resolve import Resolved
from ebbrin.core.studies.assess import Assessment
from ebbrin.features.levers.answers import Lever, LeverGain
from ebbrin.features.levers.service import LEVERS


def levers(a: Assessment, resolved: Resolved, worst: int) -> list[Lever]:
    """Every lever, the one first that is worth most in case ``worst``."""
    v = a.levers

    def gain(k: int, i: int) -> LeverGain:
        settles = bool(v.settles[k, i])
        return LeverGain(
            case_id=resolved.cases[i].id,
            cooler_k=float(v.cooler[k, i]) if settles else None,
            margin_gain_k=float(v.spared[k, i]) if settles else None,
            ambient_gain_k=float(v.ambient_gain[k, i]) if v.found[k, i] else None,
            cures=bool(v.cures[k, i]),
        )

    order = np.lexsort((-v.spared[:, worst], -v.ambient_gain[:, worst]))
    return [
        Lever(
            name=v.names[k],
            text=LEVERS[v.names[k]].title,
            cases=[gain(k, i) for i in range(len(resolved.cases))],
        )
        for k in order
    ]
