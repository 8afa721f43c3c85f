"""Generic parts that ship with Ebbrin, as open data. All figures are round and invented after common sizes."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from ebbrin.features.shelf import file as form
from ebbrin.features.shelf.parts import ShelfPart

FOLDER = Path(__file__).parent


@cache
def shipped() -> tuple[ShelfPart, ...]:
    """Every part that ships, by file and row.

    Raises
    ------
    ValueError
        If a shipped file does not fit its own form.
    """
    parts = []
    for path in sorted(FOLDER.glob("*.csv")):
        for entry in form.read(path.read_text(encoding="utf-8"), "csv"):
            if entry.part is None:
                raise ValueError(f"{path.name}, {entry.where}: {entry.problems[0].message}")
            parts.append(entry.part)
    return tuple(parts)
