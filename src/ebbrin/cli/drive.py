"""ebbrin drive: a build over time, without a server."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError

from ebbrin.cli.reading import explained, fail, read_build
from ebbrin.document.drive import DriveCourse, DriveQuestion, LegFault, Script
from ebbrin.document.problems import problem
from ebbrin.verdict.text import printed


def drive_file(
    file: Annotated[Path, typer.Argument(help="A build document (JSON); - reads standard input.")],
    script: Annotated[Path, typer.Argument(help="A drive (JSON): legs and faults.")],
    variant: Annotated[str | None, typer.Option(help="Id of the variant; the first if left out.")] = None,
    fault: Annotated[
        list[str] | None,
        typer.Option(help="What breaks besides: name, name:severity or name:severity:from-second."),
    ] = None,
    course: Annotated[Path | None, typer.Option("--csv", help="Write every step to this file.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="The whole answer as JSON.")] = False,
) -> None:
    """Drive a build and tell what happens. Exits 0 if it was driven, 1 if it could not be, 2 on a bad call."""
    from ebbrin.service import drive as service  # it takes half a second to load

    try:
        read = Script.model_validate_json(script.read_text(encoding="utf-8"))
        more = [_fault(text) for text in fault or []]
        asked = Script.model_validate({**read.model_dump(), "faults": [*read.model_dump()["faults"], *more]})
    except (OSError, UnicodeDecodeError) as error:
        fail(f"{script} cannot be read: {error}")
    except ValidationError as error:
        fail(f"{script} is not a valid drive:", [problem(dict(e), root=Script) for e in error.errors()])
    with explained(file):
        build = read_build(file)
        question = DriveQuestion.model_construct(
            build=build, variant=variant or build.variants[0].id, script=asked
        )
        result = service.drive(question)
        if course is not None:
            course.write_text(service.as_csv(service.driven(question)), encoding="utf-8")
    typer.echo(result.model_dump_json(indent=2) if as_json else _report(result))


def _fault(text: str) -> dict[str, object]:
    name, *rest = text.split(":")
    fields = dict(zip(("severity_share", "from_s"), rest, strict=False))
    return LegFault.model_validate({"fault": name, **fields}).model_dump()


def clock(seconds: float) -> str:
    """Minutes and seconds."""
    return f"{int(seconds) // 60:02d}:{int(seconds) % 60:02d}"


def _report(result: DriveCourse) -> str:
    lines = [f"{result.name}: hottest {result.hottest_c:.0f} °C, limit {result.limit_c:.0f} °C"]
    lines += [
        f"  from {clock(leg.from_s)} {leg.name}: hottest {leg.hottest_c:.0f} °C, ends at {leg.end_c:.0f} °C"
        for leg in result.legs
    ]
    lines += ["", *(f"{clock(event.time_s)} {printed(event.text)}" for event in result.events), ""]
    if result.coolant_in_bottle_l + result.coolant_on_ground_l > 0.05:
        lines.append(
            f"Coolant: {result.coolant_in_bottle_l:.1f} L in the bottle, {result.coolant_on_ground_l:.1f} L lost"
        )
    if result.caution is not None:
        lines.append(printed(result.caution))
    lines.append("A design aid: tested parts, local codes and a licensed technician come first.")
    return "\n".join(lines)
