"""ebbrin parts, plan and mix: lists and pours without a server."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError

from ebbrin.bridge.reading import explained, read_build
from ebbrin.build.build import Build
from ebbrin.build.problems import problem
from ebbrin.features.fit.mixing import Mix, MixQuestion, mix
from ebbrin.features.fit.parts import PartsList, parts_list
from ebbrin.features.fit.plan import Plan, planned
from ebbrin.features.fit.situation import SCHOOL_WORDS, School
from ebbrin.features.shelf import shipped
from ebbrin.ground.command import fail
from ebbrin.ground.words import Text, counted, in_sentence, printed, share

File = Annotated[Path, typer.Argument(help="A build document (JSON).")]
Variant = Annotated[str | None, typer.Option(help="Id of the chosen variant; the last if left out.")]
Standing = Annotated[
    str | None, typer.Option(help="Id of the variant in the car; as the build says if left out.")
]
SchoolName = Annotated[str, typer.Option(help=f"What is renewed with it: {', '.join(SCHOOL_WORDS)}.")]
AsJson = Annotated[bool, typer.Option("--json", help="The whole answer as JSON.")]
MIX_OPTIONS = {
    "volume_l": "--volume",
    "now_share": "--now",
    "want_share": "--want",
    "drained_l": "--drained",
    "product_share": "--product",
    "kind": "--kind",
    "coldest_c": "--coldest",
}
CAUTION = "A design aid: tested parts, local codes and a licensed technician come first."


def _asked(file: Path, variant: str | None, standing: str | None, school: str) -> tuple[Build, str, School]:
    if school not in SCHOOL_WORDS:
        fail(f"There is no school {school}; it is one of {', '.join(SCHOOL_WORDS)}.")
    with explained(file):
        build = read_build(file)
    if standing is not None:
        build = build.model_copy(update={"standing": standing})
    return build, variant or build.variants[-1].id, school


def parts_of_file(
    file: File,
    variant: Variant = None,
    standing: Standing = None,
    school: SchoolName = "usual",
    as_json: AsJson = False,
) -> None:
    """List parts and materials of a job. Exits 0 with a list, 1 if the build cannot be read, 2 on a bad call."""
    build, chosen, by = _asked(file, variant, standing, school)
    with explained(file):
        found = parts_list(build, chosen, by, shipped())
        lines = [] if as_json else _against(planned(build, chosen, by).against)
    typer.echo(found.model_dump_json(indent=2) if as_json else _list(found, lines))


def _against(found: list[Text]) -> list[str]:
    return [f"  mind: {printed(text)}" for text in found]


def _list(found: PartsList, against: list[str]) -> str:
    lines = [printed(found.does), *against, ""]
    for line in found.lines:
        price = "" if line.price is None else f"  {line.price:.0f}"
        lines.append(f"  {line.kind:<8} {line.title}: {printed(line.amount)}{price}  ({printed(line.why)})")
    sums = ", ".join(f"{name} {total:.0f}" for name, total in found.totals.items())
    without = f" Without {', '.join(found.unpriced)}: no price known." if found.unpriced else ""
    return "\n".join(
        [
            *lines,
            "",
            f"Sum {found.total:.0f} (by school: {sums}). Prices are rough figures.{without}",
            CAUTION,
        ]
    )


def plan_of_file(
    file: File,
    variant: Variant = None,
    standing: Standing = None,
    school: SchoolName = "usual",
    as_json: AsJson = False,
) -> None:
    """Plan a job step by step. Exits 0 with a plan, 1 if the build cannot be read, 2 on a bad call."""
    build, chosen, by = _asked(file, variant, standing, school)
    with explained(file):
        found = planned(build, chosen, by)
    typer.echo(found.model_dump_json(indent=2) if as_json else _plan(found))


def _plan(found: Plan) -> str:
    lines = [printed(found.does), *_against(found.against)]
    if found.steps:
        lines.append(
            f"{counted(len(found.steps), 'step', 'steps')}, {found.minutes / 60.0:.1f} hours alone, {found.minutes_by_two / 60.0:.1f} by two."
        )
    if found.unknown:
        lines.append(f"Not known of the car: {'; '.join(in_sentence(name) for name in found.unknown)}.")
    if found.tools:
        lines.append(f"Tools: {', '.join(found.tools)}.")
    stage = ""
    titles = {one.stage: one.title for one in found.stages}
    for step in found.steps:
        if step.stage != stage:
            stage = step.stage
            lines += ["", titles[step.stage]]
        lines.append(f"  {step.number:>2}  {printed(step.title)}  ({step.minutes:.0f} min)")
        lines += [f"      ! {printed(caution)}" for caution in step.cautions]
        lines += [f"      {printed(text)}" for text in step.how]
    return "\n".join([*lines, "", CAUTION])


def mix_for(
    volume: Annotated[float, typer.Option(help="All coolant in the system, litres.")],
    now: Annotated[float, typer.Option(help="Strength now, per cent by volume; 0 for water.")],
    want: Annotated[float, typer.Option(help="Strength wanted, per cent by volume.")],
    drained: Annotated[
        float | None, typer.Option(help="Litres drained; the least that does it if left out.")
    ] = None,
    product: Annotated[
        float, typer.Option(help="Strength of what is poured, per cent; 100 for concentrate.")
    ] = 100.0,
    kind: Annotated[str, typer.Option(help="ethylene_glycol or propylene_glycol.")] = "ethylene_glycol",
    coldest: Annotated[float | None, typer.Option(help="Coldest air that it must stand, °C.")] = None,
    as_json: AsJson = False,
) -> None:
    """Say what to pour for a wanted strength. Exits 0 if it can be reached, 3 if it cannot, 1 if a number makes no sense,
    2 on a bad call."""
    try:
        question = MixQuestion.model_validate(
            {
                "kind": kind,
                "volume_l": volume,
                "now_share": now / 100.0,
                "want_share": want / 100.0,
                "drained_l": drained,
                "product_share": product / 100.0,
                "coldest_c": coldest,
            }
        )
    except ValidationError as error:
        wrong = [problem(dict(e), root=MixQuestion) for e in error.errors()]
        fail("This cannot be asked:", wrong, MIX_OPTIONS)
    found = mix(question)
    typer.echo(found.model_dump_json(indent=2) if as_json else _mix(found))
    if not found.possible:
        raise typer.Exit(3)


def _freezes(value: float | None) -> str:
    return "where no table says it" if value is None else f"at {value:.0f} °C"


def _mix(found: Mix) -> str:
    lines = [
        printed(found.lead),
        f"Freezes {_freezes(found.freezes_now_c)} now, {_freezes(found.freezes_wanted_c)} then.",
        *([f"Mind: {printed(found.frost)}"] if found.frost else []),
    ]
    if len(found.rounds) > 1:
        lines.append("In rounds: " + ", ".join(printed([share(one.strength)]) for one in found.rounds) + ".")
    return "\n".join([*lines, *(printed(note) for note in found.notes)])
