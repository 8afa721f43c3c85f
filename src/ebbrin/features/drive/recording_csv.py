"""A recorded drive as CSV: a header with units, then a row for each moment. docs/drive-format.md explains it."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from typing import Any

from ebbrin.build.drive import MOST_ROWS
from ebbrin.features.drive.recording import COLUMNS, Column, Recording, doubtful
from ebbrin.ground.words import counted

MOST_REFUSED = 20
TRUE, FALSE = {"1", "yes", "true", "on"}, {"0", "no", "false", "off"}


@dataclass(frozen=True)
class Refused:
    """What cannot be read: the line of the file, the column or nothing where all of it is meant, and why."""

    where: str
    column: str
    message: str


@dataclass(frozen=True)
class Read:
    """A file as it was read: the recording, or why there is none; columns that are not for Ebbrin."""

    recording: Recording | None
    refused: list[Refused]
    ignored: list[str]


def read(text: str, name: str) -> Read:
    """A recording from CSV. One bad row refuses the file: nothing is guessed in its place."""
    text = text.removeprefix("\ufeff")
    head = text.partition("\n")[0]
    delimiter = ";" if head.count(";") > head.count(",") else ","
    rows = csv.reader(io.StringIO(text), delimiter=delimiter, strict=True)
    lines: list[tuple[int, list[str]]] = []
    try:
        lines.extend((rows.line_num, cells) for cells in rows if any(cell.strip() for cell in cells))
    except csv.Error as error:
        return _none([Refused(f"line {rows.line_num}", "", f"This cannot be read as CSV: {error}.")])
    if not lines:
        return _none([Refused("line 1", "", "The file is empty; its first row names the columns.")])
    (first, header), *body = lines
    columns, ignored, wrong = _columns(header, f"line {first}")
    if wrong:
        return Read(None, wrong, ignored)
    if not 2 <= len(body) <= MOST_ROWS:
        said = f"A recording has 2 to {MOST_ROWS} rows below its header, this one {len(body)}."
        return Read(None, [Refused(f"line {first}", "", said)], ignored)
    values: dict[str, list[float]] = {column.field: [] for _, column, _ in columns}
    for line, cells in body:
        if len(cells) > len(header):
            said = f"The row has {counted(len(cells), 'cell', 'cells')}, the header {len(header)}."
            wrong.append(Refused(f"line {line}", "", said))
            continue
        for index, column, unit in columns:
            cell = cells[index].strip() if index < len(cells) else ""
            found = _value(cell, column, unit, delimiter)
            if isinstance(found, str):
                wrong.append(Refused(f"line {line}", header[index].strip(), found))
            else:
                values[column.field].append(found)
    if wrong:
        more = [
            Refused(
                "further down",
                "",
                f"{counted(len(wrong) - MOST_REFUSED, 'more cell', 'more cells')} cannot be read.",
            )
        ]
        return Read(None, wrong[:MOST_REFUSED] + (more if len(wrong) > MOST_REFUSED else []), ignored)
    given: dict[str, Any] = values
    recording = Recording(name=name, **given)
    found_odd = doubtful(recording)
    if found_odd is not None:
        at, which, said = found_odd
        return Read(None, [Refused(f"line {body[at][0]}", which, said)], ignored)
    return Read(recording, [], ignored)


def _none(refused: list[Refused]) -> Read:
    return Read(None, refused, [])


def _columns(header: list[str], where: str) -> tuple[list[tuple[int, Column, str]], list[str], list[Refused]]:
    """Columns that are read with their places and units, headers that are not, and what is wrong."""
    found: list[tuple[int, Column, str]] = []
    ignored: list[str] = []
    wrong: list[Refused] = []
    for index, cell in enumerate(header):
        name, _, rest = cell.strip().partition("[")
        unit = rest.rstrip().removesuffix("]").strip()
        column = next((c for c in COLUMNS if name.strip().lower() in map(str.lower, c.names)), None)
        if column is None:
            ignored.append(cell.strip())
        elif unit not in column.units:
            known = " or ".join(f"[{u}]" for u in column.units) if "" not in column.units else "no unit"
            said = f"“{cell.strip()}” needs {known} behind its name."
            wrong.append(Refused(where, cell.strip(), said))
        elif any(column is other for _, other, _ in found):
            wrong.append(Refused(where, cell.strip(), f"There are two columns of {column.names[0]}."))
        else:
            found.append((index, column, unit))
    present = {column.field for _, column, _ in found}
    named = {refused.column.partition("[")[0].strip().lower() for refused in wrong}
    wrong += [
        Refused(where, column.head, f"The header lacks the column {column.head}.")
        for column in COLUMNS
        if column.needed and column.field not in present and not named & {n.lower() for n in column.names}
    ]
    if not wrong and not present & {"gradient_share", "altitude_m", "brake_power_kw"}:
        said = (
            "The header lacks what the engine's work follows from: gradient [%], altitude [m] or power [kW]."
        )
        wrong.append(Refused(where, "gradient [%]", said))
    return found, ignored, wrong


def _value(cell: str, column: Column, unit: str, delimiter: str) -> float | str:
    """A cell in the document's unit, or why it is none."""
    title = column.names[0].capitalize()
    if "" in column.units:
        if cell.lower() in TRUE | FALSE:
            return float(cell.lower() in TRUE)
        return f"{title} is “{cell}”; write 1 for on or 0 for off."
    if cell == "":
        return f"{title} is missing. Nothing is put in its place: fill the cell or leave the row out."
    # A file that separates by semicolons may write decimals with a comma.
    plain = cell.replace(",", ".") if delimiter == ";" else cell
    try:
        number = float(plain)
    except ValueError:
        return f"{title} is “{cell}”, which is no number."
    factor, offset = column.units[unit]
    value = factor * (number + offset)
    if not column.low <= value <= column.high:
        ends = [f"{end / factor - offset:g}" for end in (column.low, column.high)]
        return f"{title} is {number:g} {unit}; it must lie within {ends[0]} to {ends[1]} {unit}."
    return value
