"""ebbrin drive: a build over time, without a server."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated
from uuid import UUID

import typer
from pydantic import ValidationError

from ebbrin.bridge.reading import explained, read_build
from ebbrin.build.build import Build
from ebbrin.build.drive import Drive, LegFault
from ebbrin.build.problems import problem
from ebbrin.core.drive.faults import FAULTS
from ebbrin.features.drive import recording_csv as recordings
from ebbrin.features.drive.answers import DriveCourse, DriveQuestion, FaultOutcome
from ebbrin.features.drive.recording import Recording, ref_of
from ebbrin.ground.command import fail, unread
from ebbrin.ground.errors import FieldProblem
from ebbrin.ground.words import printed


def drive_file(
    file: Annotated[Path, typer.Argument(help="A build document (JSON); - reads standard input.")],
    name: Annotated[
        str | None, typer.Option("--drive", help="Id or name of one of its drives; the first if left out.")
    ] = None,
    recording: Annotated[
        Path | None, typer.Option(help="Follow a recorded drive (CSV) instead of the build's drives.")
    ] = None,
    variant: Annotated[str | None, typer.Option(help="Id of the variant; the first if left out.")] = None,
    fault: Annotated[
        list[str] | None,
        typer.Option(help="What breaks besides: name, name:severity or name:severity:from-second."),
    ] = None,
    course: Annotated[Path | None, typer.Option("--csv", help="Write every step to this file.")] = None,
    every_fault: Annotated[
        bool, typer.Option(help="Drive it with each single fault on top, the hottest first.")
    ] = False,
    as_json: Annotated[bool, typer.Option("--json", help="The whole answer as JSON.")] = False,
) -> None:
    """Drive a build and tell what happens. Exits 0 if it was driven, 1 if it could not be, 2 on a bad call."""
    from ebbrin.features.drive import service

    with explained(file):
        build = read_build(file)
        rows = None if recording is None else _recorded(recording)
        drive = _chosen(build, name) if rows is None else _following(rows)
    try:
        more = [_fault(text) for text in fault or []]
        drive = Drive.model_validate(drive.model_dump() | {"faults": [*drive.model_dump()["faults"], *more]})
    except ValidationError as error:
        wrong = [problem(dict(e), root=LegFault) for e in error.errors()]
        fail("--fault is not valid:", wrong, dict.fromkeys(LegFault.model_fields, "--fault"))
    with explained(file):
        chosen = variant or build.variants[0].id
        question = DriveQuestion.model_construct(build=build, variant=chosen, drive=drive)
        try:
            found = service.driven(question, rows)
            outcomes = service.each_fault(question, rows) if every_fault else []
        except service.NoDrive as error:
            fail(f"{file}: {error}")
        result = service.course_of(question, found)
        if course is not None:
            course.write_text(service.as_csv(found), encoding="utf-8")
    if as_json:
        listed = ",".join(outcome.model_dump_json() for outcome in outcomes)
        typer.echo(f"[{listed}]" if every_fault else result.model_dump_json(indent=2))
    else:
        typer.echo("\n".join(_listed(outcomes)) if every_fault else _report(result))


def _chosen(build: Build, name: str | None) -> Drive:
    """One of a build's drives."""
    if not build.drives:
        fail("The build has no drives; give a recorded one with --recording, or add drives on its page.")
    if name is None:
        return build.drives[0]
    found = next((drive for drive in build.drives if name in (drive.id, drive.name)), None)
    if found is None:
        known = ", ".join(f"{drive.id} ({drive.name})" for drive in build.drives)
        fail(f"The build has no drive {name}; it has: {known}")
    return found


def _recorded(file: Path) -> Recording:
    """The recording in a file."""
    try:
        read = recordings.read(file.read_text(encoding="utf-8"), file.stem)
    except (OSError, UnicodeDecodeError) as error:
        unread(file, error)
    if read.recording is None:
        fail(
            f"{file} is not a recorded drive:",
            [FieldProblem(f"{r.where} {r.column}".strip(), r.message) for r in read.refused],
        )
    if read.ignored:
        typer.echo(f"Not read: {', '.join(read.ignored)}", err=True)
    return read.recording


def _following(recording: Recording) -> Drive:
    return Drive(id="recorded", name=recording.name, recording=ref_of(recording, UUID(int=0)))


def _fault(text: str) -> dict[str, object]:
    name, *rest = text.split(":")
    fields = dict(zip(("severity_share", "from_s"), rest, strict=False))
    return LegFault.model_validate({"fault": name, **fields}).model_dump()


def clock(seconds: float) -> str:
    """Minutes and seconds."""
    return f"{int(seconds) // 60:02d}:{int(seconds) % 60:02d}"


def _listed(outcomes: list[FaultOutcome]) -> list[str]:
    """What each fault alone would come to, a line each."""
    lines = []
    for outcome in outcomes:
        over = outcome.time_to_limit_s
        limit = "below the limit" if over is None else f"over the limit at {clock(over)}"
        rest = ", runs dry" if outcome.runs_dry else ", boils" if outcome.boils else ""
        rest += f", {outcome.lost_l:.1f} L lost" if outcome.lost_l > 0.05 else ""
        rest += "" if outcome.worse else "; no worse than without it"
        lines.append(f"{outcome.hottest_c:4.0f} °C  {FAULTS[outcome.fault].title}: {limit}{rest}")
    return lines


def _report(result: DriveCourse) -> str:
    lines = [
        f"{result.name}: hottest {result.hottest_c:.0f} °C at {clock(result.hottest_at_s)}, limit {result.limit_c:.0f} °C"
    ]
    lines += [
        f"  from {clock(leg.from_s)} {leg.name}: hottest {leg.hottest_c:.0f} °C, ends at {leg.end_c:.0f} °C"
        for leg in result.legs
    ]
    lines += ["", *(f"{clock(event.time_s)} {printed(event.text)}" for event in result.events), ""]
    if result.coolant_in_bottle_l + result.coolant_on_ground_l > 0.05:
        lines.append(
            f"Coolant: {result.coolant_in_bottle_l:.1f} L in the bottle, {result.coolant_on_ground_l:.1f} L lost"
        )
    lines += [f"Caution: {printed(text)}" for text in result.cautions]
    lines += [f"Guessed: {printed(text)}" for text in result.guessed]
    lines.append("A design aid: tested parts, local codes and a licensed technician come first.")
    return "\n".join(lines)
