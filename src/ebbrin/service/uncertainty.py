"""How sure a verdict is: sampling of the guesses and of what scatters."""

from __future__ import annotations

from ebbrin.core.system import uncertainty as core
from ebbrin.document.build import Build
from ebbrin.document.resolve import resolve
from ebbrin.document.result import CaseChance, CaseResult, Uncertainty
from ebbrin.document.sure import surer, verdict_at
from ebbrin.document.to_core import cases_from, system_from
from ebbrin.document.unknowns import all_unknowns
from ebbrin.service.evaluate import evaluate
from ebbrin.verdict.sentences import case_detail, case_sentence


def uncertainty(
    build: Build,
    variant_id: str | None = None,
    samples: int = core.SAMPLES,
) -> Uncertainty:
    """Chance of holding of a variant (the first if none is named), case by case and for the build.

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
    unknowns = [entry.unknown for entry in all_unknowns(system, resolved)]
    chances = core.chances(system, cases, unknowns, samples)
    by_id = {case.id: case for case in evaluate(build, resolved.variant.id, levers=False).cases}
    return Uncertainty(
        variant_id=resolved.variant.id,
        samples=chances.samples,
        chance=chances.build_below_limit,
        verdict=verdict_at(chances.build_below_limit),
        cases=[_said(surer(by_id[case.id], chances, i)) for i, case in enumerate(resolved.cases)],
    )


def _said(case: CaseResult) -> CaseChance:
    return CaseChance(
        case_id=case.id,
        chance=case.chance,
        verdict=case.verdict,
        sentence=case_sentence(case),
        detail=case_detail(case),
    )
