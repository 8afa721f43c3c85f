"""ebbrin size: which parts would do, without a server."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError

from ebbrin.bridge.reading import explained, read_build
from ebbrin.build.problems import problem
from ebbrin.core.studies.chance import HOLDS_FROM
from ebbrin.features.shelf import ShelfPart, read, shipped
from ebbrin.features.size.answers import (
    FaceOption,
    Requirement,
    SizedPart,
    Sizing,
    SizingQuestion,
    Solution,
    Wishes,
)
from ebbrin.ground.command import fail, unread
from ebbrin.ground.errors import FieldProblem
from ebbrin.ground.words import capital, counted, in_days, in_percent, pressure, printed

OPTIONS = {
    "chance_share": "--chance",
    "margin_k": "--margin",
    "budget": "--budget",
    "electric_w": "--watts",
    "keep": "--keep",
    "cores": "--cores",
    "coolant": "--coolant",
}


def size_file(
    file: Annotated[Path, typer.Argument(help="A build document (JSON); - reads standard input.")],
    variant: Annotated[str | None, typer.Option(help="Id of the variant; the first if left out.")] = None,
    chance: Annotated[
        float, typer.Option(help="Least chance that all cases stay below their limits, 0.5 to 0.99.")
    ] = HOLDS_FROM,
    margin: Annotated[
        float | None,
        typer.Option(help="Instead of a chance: every case keeps this much below its limit [K]."),
    ] = None,
    budget: Annotated[float | None, typer.Option(help="In the shelf's money.")] = None,
    watts: Annotated[float | None, typer.Option(help="Most electric power of fans and pump [W].")] = None,
    keep: Annotated[str, typer.Option(help="Parts that stay, such as radiator,fan.")] = "",
    cores: Annotated[str, typer.Option(help="any, shelf or made.")] = "any",
    coolant: Annotated[str, typer.Option(help="fitted, water, glycol, waterless or any.")] = "fitted",
    shelf: Annotated[
        Path | None, typer.Option(help="Your own parts (CSV or JSON) beside those that ship.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="The whole answer as JSON.")] = False,
) -> None:
    """Say what the cases ask for and which parts would do. Exits 0 if something fits, 3 if nothing does, 1 if
    it could not be computed, 2 on a bad call."""
    from ebbrin.features.size.service import size

    parts = [*shipped(), *(_own_parts(shelf) if shelf else [])]
    try:
        wishes = Wishes.model_validate(
            {
                "by": "chance" if margin is None else "margin",
                **({"chance_share": chance} if margin is None else {"margin_k": margin}),
                "budget": budget,
                "electric_w": watts,
                "keep": [slot.strip() for slot in keep.split(",") if slot.strip()],
                "cores": cores,
                "coolant": coolant,
            }
        )
    except ValidationError as error:
        wrong = [problem(dict(e), root=Wishes) for e in error.errors()]
        fail("These wishes cannot be used:", wrong, OPTIONS)
    with explained(file):
        build = read_build(file)
        question = SizingQuestion.model_construct(
            build=build, variant=variant or build.variants[0].id, wishes=wishes
        )
        result = size(question, parts, _told)
    assert result is not None
    if sys.stderr.isatty():
        typer.echo("\r" + " " * 20 + "\r", err=True, nl=False)
    typer.echo(result.model_dump_json(indent=2) if as_json else _report(result))
    if not result.solutions:
        raise typer.Exit(3)


def _own_parts(path: Path) -> list[ShelfPart]:
    try:
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        unread(path, error)
    found = read(text, "json" if path.suffix == ".json" else "csv")
    wrong = [
        FieldProblem(f"{entry.where}{p.path}", p.message)
        for entry in found
        if not entry.part
        for p in entry.problems
    ]
    if wrong:
        fail(f"{path} has parts that do not fit the shelf's form:", wrong)
    return [entry.part for entry in found if entry.part]


def _told(share: float) -> bool:
    if sys.stderr.isatty():
        typer.echo(f"\r  {share:4.0%} searched", err=True, nl=False)
    return True


def _report(result: Sizing) -> str:
    lines = _requirement(result.requirement)
    lines += [
        "",
        f"{counted(result.combinations, 'combination', 'combinations')}, {len(result.front)} that no other beats.",
    ]
    for solution in result.solutions:
        lines += _solution(solution)
    if result.obstacles:
        lines += ["", "Nothing fits. What would have to give:"]
        lines += [f"  {printed(obstacle.text)}" for obstacle in result.obstacles]
    if result.solutions:
        lines += ["", "Elsewhere, chance of each:"]
        for move in result.moves:
            shown = "  ".join(f"{in_percent(share):>9}" for share in move.chances)
            lines.append(f"  {move.hotter_k:+4.0f} K, {move.higher_m:+5.0f} m:  {shown}")
    lines += ["", *(printed(text) for text in result.taken), printed(result.caution)]
    return "\n".join(lines)


def _requirement(required: Requirement) -> list[str]:
    lines = ["What the cases ask for:"]
    lines += [_face(face, i == required.chosen) for i, face in enumerate(required.faces)]
    lines += [
        f"  {need.name}: {need.heat_kw:.1f} kW at {need.allowed_c:.0f} °C in air of {need.ambient_c + need.hotter_k:.0f} °C, "
        f"{need.heat_per_degree_kw_per_k:.2f} kW/K; air {need.air_m3_per_s:.2f} m³/s at {need.air_pa:.0f} Pa, "
        f"coolant {need.coolant_l_per_min:.0f} L/min at {printed([pressure(need.coolant_kpa)])}"
        for need in required.cases
    ]
    if required.chosen is None:
        return lines
    stats = ", ".join(f"{t:.0f}" for t in required.thermostats_c)
    lines.append(f"  Thermostats that work: {f'{stats} °C' if stats else 'none'}")
    if required.fan_on_c is not None:
        lines.append(f"  Fan on at {required.fan_on_c:.0f}, off at {required.fan_off_c:.0f} °C")
    lines.append(f"  Cap: {_caps(required.cap_lowest_kpa, required.cap_highest_kpa)}.")
    for title, texts in (
        ("Ask for", required.ask),
        ("Measure", required.measure),
        ("Refuse", required.refuse),
        *([("Mind", required.cautions)] if required.cautions else []),
    ):
        lines += [f"{title}:", *(f"  {printed(text)}" for text in texts)]
    return lines


def _caps(lowest: float | None, highest: float | None) -> str:
    """Which caps do, as the page says it; gauge [kPa]."""
    if highest == 0.0:
        return "an open one" if lowest == 0.0 else "an open one at most, and that is not enough"
    low = "none does" if lowest is None else printed([pressure(lowest)])
    return f"at least {low}, at most {'none' if highest is None else printed([pressure(highest)])}"


def _face(face: FaceOption, chosen: bool) -> str:
    mark = "*" if chosen else " "
    if face.face_m2 is None:
        return f"{mark} With {printed(face.air)} no core is large enough."
    room = "" if face.in_room else ", more than there is room for"
    return f"{mark} With {printed(face.air)} {face.face_m2:.3f} m² of face{room}."


def _way(part: SizedPart) -> str:
    """Whether a part is new or stays; a shroud that comes off is neither."""
    if part.slot == "shroud" and part.new and not part.price:
        return "changed"
    return "new" if part.new else "stays"


def _price(part: SizedPart) -> str:
    if part.price is None or _way(part) == "changed":
        return ""
    if part.unpriced and part.price <= 0.0:
        return " (no price known)"
    return f" ({'about ' if part.unpriced else ''}{part.price:.0f})"


def _solution(solution: Solution) -> list[str]:
    titles = ", ".join(printed(title) for title in solution.titles)
    lines = [
        "",
        f"{capital(titles)}: {solution.verdict} {in_days(solution.chance_share)} ({in_percent(solution.chance_share)}), {solution.margin_k:.1f} K in hand, "
        f"price {solution.cost:.0f}, {solution.electric_w:.0f} W, {solution.face_m2:.3f} m²",
    ]
    lines += [
        f"  {_way(part):7} {part.slot.replace('_', ' '):10} {printed(part.text)}" + _price(part)
        for part in solution.parts
    ]
    lines += [f"  mind: {printed(text)}" for text in solution.cautions]
    return [*lines, f"  {printed(solution.limit)}", *(f"  {printed(text)}" for text in solution.neighbours)]
