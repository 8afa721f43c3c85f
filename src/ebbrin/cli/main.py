"""ebbrin: the command line."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError

from ebbrin.core.base import DomainError
from ebbrin.document.build import Build
from ebbrin.document.problems import FieldProblem, missing_problem, problem
from ebbrin.document.resolve import MissingValues
from ebbrin.document.result import Evaluation
from ebbrin.service.evaluate import evaluate
from ebbrin.verdict.text import printed

app = typer.Typer(no_args_is_help=True, add_completion=False, help="Sizes the cooling system of an engine.")

MARKS = {"holds": "holds", "tight": "TIGHT", "fails": "FAILS"}


@app.callback()
def root() -> None:
    """Sizes the cooling system of a modified or swapped engine."""


@app.command("evaluate")
def evaluate_file(
    file: Annotated[Path, typer.Argument(help="A build document (JSON); - reads standard input.")],
    as_json: Annotated[bool, typer.Option("--json", help="The whole evaluation as JSON.")] = False,
    variant: Annotated[str | None, typer.Option(help="Id of the variant; the first if left out.")] = None,
) -> None:
    """Judge a build without a server. Exits 0 if it was judged, 1 if it could not be, 2 on a bad call."""
    try:
        raw = sys.stdin.read() if str(file) == "-" else file.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        _fail(f"{file} cannot be read: {error}")
    try:
        result = evaluate(Build.model_validate_json(raw), variant)
    except ValidationError as error:
        _fail(f"{file} is not a valid build:", [problem(dict(e)) for e in error.errors()])
    except MissingValues as error:
        _fail(f"{file} lacks what an answer needs:", [missing_problem(m) for m in error.missing])
    except KeyError as error:
        _fail(f"{file} has no variant {error}")
    except DomainError as error:
        _fail(f"{file} cannot be computed: {error}")
    typer.echo(result.model_dump_json(indent=2) if as_json else _report(result))


def _fail(message: str, problems: list[FieldProblem] | None = None) -> None:
    typer.echo(message, err=True)
    for entry in problems or []:
        typer.echo(f"  {entry.path or '/'}: {entry.message}", err=True)
    raise typer.Exit(1)


def _report(result: Evaluation) -> str:
    lines = []
    for case in result.cases:
        lines.append(
            f"{MARKS[case.verdict]:6} {case.name}: {printed(case.sentence)} {printed(case.detail)}".rstrip()
        )
        top = "none" if case.top_hose_c is None else f"{case.top_hose_c:.0f} °C"
        boils = "" if case.boiling_margin_k is None else f", {case.boiling_margin_k:.0f} K to boiling"
        lines.append(
            f"       {case.heat_kw:.1f} kW, air {case.air_flow_m3_per_s:.2f} m³/s, "
            f"coolant {case.coolant_flow_l_per_min:.0f} L/min, top hose {top} (limit {case.limit_c:.0f} °C{boils})"
        )
    lines.append("")
    for name, answer in result.answers:
        lines.append(f"{name.capitalize():11}{printed(answer.headline)}: {printed(answer.sentence)}")
    if result.findings:
        lines.append("")
        lines += [f"{f.kind}: {printed(f.text)}" for f in result.findings]
    guesses = [a.title for a in result.assumed if a.guess]
    if guesses:
        lines += ["", "Guessed, not known: " + ", ".join(guesses)]
    lines += ["", "A design aid: tested parts, local codes and a licensed technician come first."]
    return "\n".join(lines)


if __name__ == "__main__":
    app()
