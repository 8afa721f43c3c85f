"""How sure a verdict is: sampling of the guesses and of what scatters."""

from __future__ import annotations

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.studies import uncertainty as core
from ebbrin.features.judge.answers import CaseChance, CaseResult, Evaluation, Uncertainty
from ebbrin.features.judge.four_answers import by_verdicts
from ebbrin.features.judge.likelihood import verdict_at
from ebbrin.features.judge.service import badness, evaluate, said


def surely(build: Build, variant_id: str | None = None, samples: int = core.SAMPLES) -> Evaluation:
    """A variant (the first if none is named) judged by its sampled chances: verdicts, sentences and answers go by them,
    the worst case stands first. Levers are left out.

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
    place = {case.id: i for i, case in enumerate(resolved.cases)}
    first = evaluate(build, resolved.variant.id, levers=False)
    found = sorted((_surer(case, chances, place[case.id]) for case in first.cases), key=badness)
    return first.model_copy(
        update={
            "chance": chances.build_below_limit,
            "verdict": verdict_at(chances.build_below_limit),
            "worst_case_id": found[0].id,
            "cases": found,
            "answers": by_verdicts(first.answers, resolved.variant.radiator, found),
        }
    )


def uncertainty(build: Build, variant_id: str | None = None, samples: int = core.SAMPLES) -> Uncertainty:
    """Chance of holding of a variant (the first if none is named), case by case as they stand in the build, and for it.

    Raises
    ------
    MissingValues, UnknownVariant, DomainError
        As ``surely``.
    """
    found = surely(build, variant_id, samples)
    by_id = {case.id: case for case in found.cases}
    return Uncertainty(
        variant_id=found.variant_id,
        samples=samples,
        chance=found.chance,
        verdict=found.verdict,
        cases=[
            CaseChance(
                case_id=case.id,
                chance=by_id[case.id].chance,
                verdict=by_id[case.id].verdict,
                sentence=by_id[case.id].sentence,
                detail=by_id[case.id].detail,
            )
            for case in build.cases
        ],
        answers=found.answers,
    )


def _surer(case: CaseResult, chances: core.Chances, i: int) -> CaseResult:
    """A case with the chance that sampling found for case ``i``, and what goes with it."""
    chance = float(chances.below_limit[i])
    return said(case.model_copy(update={"chance": chance, "verdict": verdict_at(chance)}))
