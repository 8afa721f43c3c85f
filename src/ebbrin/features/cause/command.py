"""ebbrin diagnose: what it may be and what to look at next, without a server."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError

from ebbrin.bridge.reading import explained, read_build
from ebbrin.build.problems import problem
from ebbrin.core.cause.choice import ORDERS
from ebbrin.features.cause.answers import Diagnosis, DiagnosisQuestion
from ebbrin.features.cause.service import CauseService
from ebbrin.ground.command import fail, unread
from ebbrin.ground.words import in_percent, printed

SHOWN = 6


def diagnose_file(
    evidence: Annotated[
        Path, typer.Option(help="What was seen: a JSON object of observation to value, both by their ids.")
    ],
    file: Annotated[
        Path | None, typer.Argument(help="A build document (JSON); any car if it is left out.")
    ] = None,
    variant: Annotated[
        str | None, typer.Option(help="Id of the variant; that in the car if left out.")
    ] = None,
    order: Annotated[str, typer.Option(help=f"Which test comes next: {', '.join(ORDERS)}.")] = "telling",
    hourly_rate: Annotated[float, typer.Option(help="What an hour is worth.")] = 30.0,
    as_json: Annotated[bool, typer.Option("--json", help="The whole answer as JSON.")] = False,
) -> None:
    """Find the cause. A build is driven in the model first, with each fault, which takes some seconds. Exits 0 if there
    is an answer, 1 if what was given cannot be read, 2 on a bad call."""
    seen = _read(evidence)
    build = None
    if file is not None:
        with explained(file):
            build = read_build(file)
    try:
        question = DiagnosisQuestion.model_validate(
            {
                "build": build,
                "variant": variant,
                "evidence": seen,
                "order": order,
                "hourly_rate": hourly_rate,
            }
        )
    except ValidationError as error:
        wrong = [problem(dict(e), root=DiagnosisQuestion) for e in error.errors()]
        fail("This cannot be asked:", wrong, {"order": "--order", "hourly_rate": "--hourly-rate"})
    with explained(file or evidence):
        found = CauseService().diagnose(question, wait=True)
    typer.echo(found.model_dump_json(indent=2, by_alias=True) if as_json else _report(found))


def _read(file: Path) -> dict[str, object]:
    try:
        seen = json.loads(file.read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError, json.JSONDecodeError) as error:
        unread(file, error)
    if not isinstance(seen, dict):
        fail(f"{file} must hold a JSON object of observation to value.")
    return seen


def _asked(question: str) -> str:
    return question if question.endswith("?") else f"{question}."


def _report(found: Diagnosis) -> str:
    lines = [f"STOP. {found.stop}", ""] if found.stop else []
    lines.append("What it may be, of ten such cars:")
    for cause in found.causes[:SHOWN]:
        lines.append(
            f"  {printed(cause.title)}: {cause.words} ({in_percent(cause.chance)}; explains it {in_percent(cause.explains)})"
        )
        lines += [f"    for      {printed(r.said)} (x{r.times:.1f})" for r in cause.for_[:3]]
        lines += [f"    against  {printed(r.said)} (x{r.times:.1f})" for r in cause.against[:2]]
    lines += [f"  None of what is known here: {in_percent(found.nothing)}", "", printed(found.lead)]
    if found.enough:
        lines.append(printed(found.enough))
    lines += [printed(clash.text) for clash in found.clashes]
    if found.questions:
        lines += ["", "To be told from the seat:"]
        lines += [
            f"  {q.observation}: {q.question} ({'|'.join(v.value for v in q.values)})"
            for q in found.questions
        ]
    if found.next:
        lines += ["", "Next:"]
        lines += [
            f"  {t.observation}: {_asked(t.question)} {t.why} ({'|'.join(v.value for v in t.values)})"
            for t in found.next
        ]
    lines += ["", found.spoken_by.text]
    lines += ["A design aid: tested parts, local codes and a licensed technician come first."]
    return "\n".join(lines)
