"""Judge one variant of a build over all its cases."""

from __future__ import annotations

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.units import kilopascals
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build
from ebbrin.build.resolve import Resolved, resolve
from ebbrin.core.drive.faults import all_possible
from ebbrin.core.studies.assess import Assessment, assess
from ebbrin.core.studies.chance import HOLDS_FROM
from ebbrin.features.judge import candidates, from_core
from ebbrin.features.judge import four_answers as answers
from ebbrin.features.judge.answers import Answers, AssumedValue, CaseResult, Evaluation
from ebbrin.features.judge.findings import findings, of_levers
from ebbrin.features.judge.likelihood import unknown_worths, verdict_at
from ebbrin.features.judge.measure import measure_first
from ebbrin.features.judge.sentences import case_detail, case_sentence
from ebbrin.features.levers import levers as gains


def evaluate(build: Build, variant_id: str | None = None, levers: bool = True) -> Evaluation:
    """Solve a variant (the first if none is named) and say what comes of it; quicker without ``levers``.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant
        If there is no such variant.
    DomainError
        If the parts do not make a physical system.
    """
    chosen = variant_id or build.variants[0].id
    resolved = resolve(build, chosen)
    system, cases = system_from(resolved), cases_from(resolved)
    named = all_unknowns(system, resolved)
    assessment = assess(system, cases, levers, [entry.unknown for entry in named])
    solved = [said(from_core.case_result(assessment, resolved, cases, i)) for i in range(len(resolved.cases))]
    ladder = from_core.ladder(assessment, resolved)
    ordered = sorted(solved, key=badness)
    gained = gains(assessment, resolved, solved.index(ordered[0]))
    pumped = kilopascals(assessment.cap.pumped)
    return Evaluation(
        variant_id=chosen,
        verdict=verdict_at(assessment.chance.build),
        worst_case_id=ordered[0].id,
        chance=assessment.chance.build,
        chance_asked=HOLDS_FROM,
        measure_first=measure_first(
            ordered[0], unknown_worths(named, assessment.chance, solved.index(ordered[0]))
        ),
        cases=ordered,
        ladder=ladder,
        answers=_answers(resolved, assessment, ordered),
        caps=candidates.caps(
            from_core.cap_candidates(assessment), resolved.variant.circuit.pump_drive != "none"
        ),
        cap_needed_kpa=from_core.cap_needed_kpa(assessment),
        cap_needed_by="pump_inlet" if assessment.cap.needed_by_inlet else "boiling",
        thermostats=candidates.thermostats(from_core.thermostat_candidates(assessment)),
        switches=candidates.switches(from_core.switch_candidates(assessment)),
        tank=from_core.tank(assessment),
        levers=of_levers(gained, assessment.levers, resolved, solved, ladder, pumped),
        findings=findings(resolved, solved, ladder, pumped),
        can_break=all_possible(system),
        assumed=[AssumedValue(**vars(a)) for a in resolved.assumed],
    )


def said(case: CaseResult) -> CaseResult:
    """A case with its sentences, by the verdict that it has."""
    return case.model_copy(update={"sentence": case_sentence(case), "detail": case_detail(case)})


def badness(case: CaseResult) -> tuple[int, float, float]:
    """Worst first: by verdict, then by ambient margin."""
    margin = case.ambient_margin_k
    return (
        -answers.SEVERITY[case.verdict],
        float("-inf") if margin is None else margin,
        -(case.shortfall_kw or 0.0),
    )


def _answers(resolved: Resolved, assessment: Assessment, cases: list[CaseResult]) -> Answers:
    v = resolved.variant
    thermostats, caps = from_core.thermostat_candidates(assessment), from_core.cap_candidates(assessment)
    choice = assessment.thermostat
    return Answers(
        radiator=answers.radiator_answer(v.radiator, cases),
        airflow=answers.airflow_answer(cases),
        thermostat=answers.thermostat_answer(
            v.thermostat.opens_c or 0.0, choice.fitted_works, thermostats, choice.chosen
        ),
        cap=answers.cap_answer(
            v.cap.pressure_kpa or 0.0,
            v.limits.boiling_margin_k or 0.0,
            v.cap.weakest_part_kpa or 0.0,
            cases,
            caps,
            assessment.cap.chosen,
            from_core.cap_needed_kpa(assessment),
            kilopascals(assessment.cap.pumped),
            v.limits.top_hose_c or 0.0,
            v.circuit.pump_drive != "none",
            from_core.lowered_limit_c(assessment),
        ),
    )
