"""How sure a verdict is: sampling of the guesses and of what scatters, and which of them matters most."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import isfinite

import numpy as np

from ebbrin.core.system import uncertainty as core
from ebbrin.core.system.uncertainty import Chances, Sensitivity
from ebbrin.document.build import Build
from ebbrin.document.from_core import celsius
from ebbrin.document.resolve import Resolved, resolve
from ebbrin.document.result import CaseChance, Uncertainty, UnknownWorth
from ebbrin.document.to_core import cases_from, system_from
from ebbrin.document.unknowns import Named, guessed, named_scatter


def uncertainty(
    build: Build,
    variant_id: str | None = None,
    samples: int = core.SAMPLES,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Uncertainty | None:
    """Chance of holding of a variant (the first if none is named), case by case and for the build.

    Parameters
    ----------
    proceed : asked with the share that is done [-]; False stops, and the answer is None.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    KeyError
        If there is no such variant.
    DomainError
        If the parts do not make a physical system.
    """
    resolved = resolve(build, variant_id or build.variants[0].id)
    system, cases = system_from(resolved).checked(), cases_from(resolved)
    tested = resolved.variant.radiator.test_point
    named = [*named_scatter(core.scatter(system, tested)), *guessed(resolved)]
    unknowns = [entry.unknown for entry in named]
    chances = core.chances(system, cases, unknowns, samples, proceed=proceed)
    if chances is None:
        return None
    worth = core.sensitivity(system, cases, unknowns)
    return Uncertainty(
        variant_id=resolved.variant.id,
        samples=chances.samples,
        holds=chances.build_holds,
        below_limit=chances.build_below_limit,
        cases=[_case(chances, resolved, i) for i in range(len(resolved.cases))],
        unknowns=_worths(named, worth, resolved),
    )


def _case(chances: Chances, resolved: Resolved, i: int) -> CaseChance:
    low, middle, high = (celsius(t) if isfinite(t) else None for t in chances.quantiles[:, i])
    return CaseChance(
        case_id=resolved.cases[i].id,
        holds=float(chances.holds[i]),
        below_limit=float(chances.below_limit[i]),
        low_c=low,
        middle_c=middle,
        high_c=high,
    )


def _worths(named: Sequence[Named], worth: Sensitivity, resolved: Resolved) -> list[UnknownWorth]:
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
