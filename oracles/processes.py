"""Processes that an Ebbrin has started, found from outside."""

from __future__ import annotations

from pathlib import Path


def child(keeper: int, word: str) -> int | None:
    """A process that the keeper has started."""
    for path in Path("/proc").glob("[0-9]*"):
        try:
            parent = int(path.joinpath("stat").read_text().rpartition(")")[2].split()[1])
            words = path.joinpath("cmdline").read_bytes().split(b"\0")
        except (OSError, ValueError, IndexError):
            continue
        if parent == keeper and word.encode() in words:
            return int(path.name)
    return None
