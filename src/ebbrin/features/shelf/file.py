"""The shelf as CSV and as JSON. docs/shelf-format.md explains both."""

from __future__ import annotations

import csv
import io
import json
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from ebbrin.features.shelf.parts import SLOTS, ShelfPart, read_part
from ebbrin.ground.cells import harmless, plain
from ebbrin.ground.errors import FieldProblem
from ebbrin.ground.words import counted

Form = Literal["csv", "json"]
HEAD = ("part", "id", "version", "name", "note", "price", "mass_kg")
CURVE = "curve"
TEXTS = ("id", "name", "note")
MOST_COLUMNS, MOST_PARTS = 200, 5000
FORMAT, VERSION = "ebbrin-shelf", 1


@dataclass(frozen=True)
class Read:
    """One entry of a file: where it stands, the part, or what is wrong with it."""

    where: str
    part: ShelfPart | None
    problems: list[FieldProblem]


def columns() -> list[str]:
    """Every column that a file may have, in the order in which they are written."""
    fields = [name for slot in SLOTS.values() for name in slot.fields]
    return [*HEAD, *dict.fromkeys(fields)]


def read(text: str, form: Form) -> list[Read]:
    """Every entry of a file; one that does not fit says so and leaves the others alone."""
    return list(_read_csv(text) if form == "csv" else _read_json(text))


def _whole(where: str, message: str) -> Read:
    return Read(where, None, [FieldProblem("", message)])


def _read_csv(text: str) -> Iterator[Read]:
    text = text.removeprefix("\ufeff")
    head = text.partition("\n")[0]
    delimiter = ";" if head.count(";") > head.count(",") else ","
    rows = csv.reader(io.StringIO(text), delimiter=delimiter, strict=True)
    names: list[str] | None = None
    before = taken = 0
    while True:
        try:
            cells = next(rows, None)
        except csv.Error as error:
            yield _whole(
                f"line {rows.line_num}", f"This cannot be read as CSV ({error}); the rows above are read."
            )
            return
        if cells is None:
            break
        line, before = before + 1, rows.line_num
        if not any(cell.strip() for cell in cells) or cells[0].startswith("#"):
            continue
        if names is None:
            names = [cell.strip() for cell in cells]
            lost = [name for name in ("part", "id", "name") if name not in names]
            twice = [name for name, count in Counter(names).items() if name and count > 1]
            if len(names) > MOST_COLUMNS:
                said = f"The header has {len(names)} columns; a shelf has at most {MOST_COLUMNS}."
                yield _whole(f"line {line}", said)
                return
            if lost or twice:
                said = (
                    f"The header lacks the column {lost[0]}."
                    if lost
                    else f"The column {twice[0]} stands twice."
                )
                yield _whole(
                    f"line {line}",
                    f"{said} Its first row names the columns, as in a shelf that was exported (docs/shelf-format.md).",
                )
                return
            continue
        taken += 1
        if taken > MOST_PARTS:
            yield _whole(
                f"line {line}",
                f"Take in at most {MOST_PARTS} parts at a time; those above are read, the rest is not.",
            )
            return
        if len(cells) > len(names):
            yield _whole(
                f"line {line}",
                f"The row has {counted(len(cells), 'cell', 'cells')}, the header {len(names)}.",
            )
            continue
        named = dict(zip(names, cells, strict=False))
        if delimiter == ";":
            # A file that separates by semicolons may write decimals with a comma.
            named = {name: cell if name in TEXTS else _with_points(cell) for name, cell in named.items()}
        yield _entry(f"line {line}", *_from_cells(named))
    if names is None:
        yield _whole("line 1", "The file is empty; its first row names the columns.")


def _with_points(cell: str) -> str:
    """A cell whose numbers have decimal points."""
    return re.sub(r"(?<![\d.,])([+-]?\d+),(\d+)(?![\d.,])", r"\1.\2", cell)


def _from_cells(cells: dict[str, str]) -> tuple[dict[str, Any], list[FieldProblem]]:
    """A row as the model takes it, empty cells left out."""
    filled = {name: plain(cell.strip()) for name, cell in cells.items() if cell.strip()}
    row: dict[str, Any] = {name: cell for name, cell in filled.items() if name in HEAD}
    values: dict[str, Any] = {name: cell for name, cell in filled.items() if name not in HEAD}
    if CURVE not in values:
        return {**row, "values": values}, []
    points = []
    for number, point in enumerate(str(values[CURVE]).split("|"), 1):
        pair = point.split()
        if len(pair) != 2:
            message = f"Point {number} of the curve is “{point.strip()}”; write flow and pressure: 0 190 | 0.4 110 | 0.7 0."
            return row, [FieldProblem("/values/curve", message)]
        points.append({"flow_m3_per_s": pair[0], "pressure_pa": pair[1]})
    return {**row, "values": {**values, CURVE: points}}, []


def _entry(where: str, raw: dict[str, Any], problems: list[FieldProblem]) -> Read:
    if problems:
        return Read(where, None, problems)
    return Read(where, *read_part(raw))


def _read_json(text: str) -> Iterator[Read]:
    try:
        found = json.loads(text)
    except (ValueError, RecursionError) as error:  # a number of too many digits is no JSONDecodeError
        line = f"line {error.lineno}" if isinstance(error, json.JSONDecodeError) else "the file"
        yield _whole(line, "This is not JSON.")
        return
    if (
        not isinstance(found, dict)
        or found.get("format") != FORMAT
        or not isinstance(found.get("parts"), list)
    ):
        yield _whole(
            "the file",
            f'A shelf is an object with "format": "{FORMAT}", "version": {VERSION} and "parts": […].',
        )
        return
    if found.get("version") != VERSION:
        yield _whole(
            "the file", f"Version {found.get('version')} of the shelf's form; this Ebbrin reads {VERSION}."
        )
        return
    if len(found["parts"]) > MOST_PARTS:
        yield _whole(
            "the file", f"The file has {len(found['parts'])} parts; take in at most {MOST_PARTS} at a time."
        )
        return
    for number, entry in enumerate(found["parts"], 1):
        if isinstance(entry, dict):
            yield _entry(f"part {number}", entry, [])
        else:
            yield _whole(f"part {number}", "A part is an object.")


def write(parts: Iterable[ShelfPart], form: Form) -> str:
    """The parts as a file that ``read`` takes back unchanged."""
    if form == "json":
        body = {"format": FORMAT, "version": VERSION, "parts": [p.model_dump(mode="json") for p in parts]}
        return json.dumps(body, indent=1, ensure_ascii=False) + "\n"
    rows = [_cells(part) for part in parts]
    used = [name for name in columns() if name in HEAD or any(name in row for row in rows)]
    out = io.StringIO()
    writer = csv.DictWriter(out, used, restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue()


def _cells(part: ShelfPart) -> dict[str, str]:
    head = part.model_dump(mode="json", include=set(HEAD), exclude_none=True)
    return {name: _cell(value) for name, value in {**head, **part.values}.items()}


def _cell(value: Any) -> str:
    if isinstance(value, list):
        return " | ".join(f"{_number(p['flow_m3_per_s'])} {_number(p['pressure_pa'])}" for p in value)
    if isinstance(value, bool):
        return "true" if value else "false"
    return _number(value) if isinstance(value, float) else harmless(str(value))


def _number(value: float) -> str:
    """As short as it can be and still the same number."""
    short = f"{value:g}"
    return short if float(short) == value else repr(value)
