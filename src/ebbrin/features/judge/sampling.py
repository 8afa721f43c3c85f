"""How sure a verdict is: sampling of the guesses and of what scatters."""

from __future__ import annotations

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.studies import uncertainty as core
from ebbrin.features.judge.answers import CaseChance, CaseResult, Uncertainty
from ebbrin.features.judge.four_answers import by_verdicts
from ebbrin.features.judge.likelihood import surer, verdict_at
from ebbrin.features.judge.sentences import case_detail, case_sentence
from ebbrin.features.judge.service import evaluate


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
    UnknownVariant
        If there is no such variant.
    DomainError
        If the parts do not make a physical system.
    """
    resolved = resolve(build, variant_id or build.variants[0].id)
    system, cases = system_from(resolved).checked(), cases_from(resolved)
    unknowns = [entry.unknown for entry in all_unknowns(system, resolved)]
    chances = core.chances(system, cases, unknowns, samples)
    first = evaluate(build, resolved.variant.id, levers=False)
    place = {case.id: i for i, case in enumerate(resolved.cases)}
    found = [surer(case, chances, place[case.id]) for case in first.cases]
    return Uncertainty(
        variant_id=resolved.variant.id,
        samples=chances.samples,
        chance=chances.build_below_limit,
        verdict=verdict_at(chances.build_below_limit),
        cases=[_said(case) for case in sorted(found, key=lambda case: place[case.id])],
        answers=by_verdicts(first.answers, resolved.variant.radiator, found),
    )


def _said(case: CaseResult) -> CaseChance:
    return CaseChance(
        case_id=case.id,
        chance=case.chance,
        verdict=case.verdict,
        sentence=case_sentence(case),
        detail=case_detail(case),
    )
