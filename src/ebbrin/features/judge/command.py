"""ebbrin evaluate: a build judged without a server."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from pydantic import BaseModel

from ebbrin.bridge.reading import explained, read_build
from ebbrin.build.build import Build
from ebbrin.features.judge.answers import CaseResult, Evaluation, Uncertainty
from ebbrin.features.judge.sampling import uncertainty
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.paths import parts_of
from ebbrin.ground.words import in_days, in_percent, printed

SHOWN = 4  # how many levers and unknowns are printed
LEAST_LEFT, MOST_WORTH = 0.5, 100.0  # K; below the one it boils, beyond the other straight lines tell nothing
MARKS = {"holds": "holds", "tight": "TIGHT", "fails": "FAILS"}


def evaluate_file(
    file: Annotated[Path, typer.Argument(help="A build document (JSON); - reads standard input.")],
    as_json: Annotated[bool, typer.Option("--json", help="The whole evaluation as JSON.")] = False,
    variant: Annotated[str | None, typer.Option(help="Id of the variant; the first if left out.")] = None,
    chance: Annotated[
        bool, typer.Option("--chance", help="Also how sure it is, by sampling what is guessed or scatters.")
    ] = False,
) -> None:
    """Judge a build without a server. Exits 0 if it was judged, 1 if it could not be, 2 on a bad call."""
    with explained(file):
        build = read_build(file)
        result = evaluate(build, variant)
        sure = uncertainty(build, variant) if chance else None
    if as_json:
        typer.echo(
            (result if sure is None else Judged(evaluation=result, uncertainty=sure)).model_dump_json(
                indent=2
            )
        )
    else:
        typer.echo(_report(build, result, sure))


class Judged(BaseModel):
    """What --json prints with --chance: both answers."""

    evaluation: Evaluation
    uncertainty: Uncertainty


def _report(build: Build, result: Evaluation, sure: Uncertainty | None) -> str:
    lines = []
    chances = {} if sure is None else {case.case_id: case for case in sure.cases}
    for case in result.cases:
        said = chances.get(case.id, case)
        lines.append(
            f"{MARKS[said.verdict]:6} {case.name} ({in_days(said.chance)}): {printed(said.sentence)} {printed(said.detail)}".rstrip()
        )
        lines.append(
            f"       {case.heat_kw:.1f} kW ({case.heat_low_kw:.1f} to {case.heat_high_kw:.1f}), air {case.air_flow_m3_per_s:.2f} m³/s, "
            f"coolant {case.coolant_flow_l_per_min:{'.0f' if case.coolant_flow_l_per_min >= 9.5 else '.1f'}} L/min, "
            f"{_hot(case)} (limit {case.limit_c:.0f} °C{_to_boiling(case)})"
        )
    lines.append("")
    for name, answer in result.answers if sure is None else sure.answers:
        lines.append(f"{name.capitalize():11}{printed(answer.headline)}: {printed(answer.sentence)}")
    lines += _levers(result)
    lines += _unknowns(result, sure)
    if result.findings:
        lines.append("")
        lines += [f"{f.kind}: {printed(f.text)}" for f in result.findings]
    guesses = [a.title + _of_case(a.path, build) for a in result.assumed if a.guess]
    if guesses:
        lines += ["", "Guessed, not known: " + ", ".join(guesses)]
    lines += ["", "A design aid: tested parts, local codes and a licensed technician come first."]
    return "\n".join(lines)


def _of_case(path: str, build: Build) -> str:
    """Whose an assumed value is, where it is a case's."""
    of, number, *_ = parts_of(path)
    return f" ({build.cases[int(number)].name})" if of == "cases" else ""


def _hot(case: CaseResult) -> str:
    """How hot it gets."""
    if case.timed is not None:
        more = "more than " if case.timed.beyond else ""
        return f"top hose {more}{case.timed.end_c:.0f} °C at its end"
    if case.hunt is not None:
        return f"top hose never at rest, up to {case.hunt.hottest_c:.0f} °C"
    return "never settles" if case.top_hose_c is None else f"top hose {case.top_hose_c:.0f} °C"


def _to_boiling(case: CaseResult) -> str:
    left = case.boiling_margin_k
    if left is None:
        return ""
    return f", {left:.0f} K to boiling" if left >= LEAST_LEFT else ", boils"


def _levers(result: Evaluation) -> list[str]:
    """What helps most in the worst case."""
    lines = ["", f"What would help most in {_name(result, result.worst_case_id)}:"]
    for lever in result.levers[:SHOWN]:
        gain = next(g for g in lever.cases if g.case_id == result.worst_case_id)
        if gain.ambient_gain_k is not None and gain.ambient_gain_k > 0.05:
            lines.append(f"  {printed(lever.text)}: air may be {gain.ambient_gain_k:.1f} K hotter")
            lines += [f"    mind: {printed(caution)}" for caution in lever.cautions]
    return lines if len(lines) > 2 else []


def _unknowns(result: Evaluation, sure: Uncertainty | None) -> list[str]:
    by, chance = ("", result.chance) if sure is None else (f" in {sure.samples} samples", sure.chance)
    first = result.measure_first
    lines = [
        "",
        f"All cases stay below their limits {in_days(chance)} ({in_percent(chance)}{by}). {printed(first.sentence)}",
    ]
    return [
        *lines,
        *(
            f"  {u.title}: {in_percent(u.settles)} of the doubt, {_worth(u.swing_k)} of outside air"
            for u in first.unknowns
        ),
    ]


def _worth(kelvins: float) -> str:
    """What an unknown is worth in outside air."""
    return f"{kelvins:.1f} K" if kelvins <= MOST_WORTH else f"more than {MOST_WORTH:.0f} K"


def _name(result: Evaluation, case_id: str) -> str:
    return next(case.name for case in result.cases if case.id == case_id)
