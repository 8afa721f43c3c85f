"""How a command ends when something is wrong."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import NoReturn

import typer

from ebbrin.ground.errors import FieldProblem


def fail(
    message: str, problems: list[FieldProblem] | None = None, options: Mapping[str, str] | None = None
) -> NoReturn:
    """Print what is wrong and end with 1. ``options`` says with which of them a field is given: what is wrong is told where
    it was typed."""
    typer.echo(message, err=True)
    for entry in problems or []:
        field = entry.path.strip("/").partition("/")[0]
        typer.echo(f"  {(options or {}).get(field) or entry.path or '/'}: {entry.message}", err=True)
    raise typer.Exit(1)


def unread(file: Path, error: OSError | UnicodeDecodeError | json.JSONDecodeError) -> NoReturn:
    """End with 1 and why a file cannot be read."""
    if isinstance(error, UnicodeDecodeError):
        why = f"its byte {error.start} is no UTF-8 text"
    elif isinstance(error, json.JSONDecodeError):
        why = f"it is no JSON at line {error.lineno}, column {error.colno} ({error.msg})"
    else:
        why = (error.strerror or str(error)).lower()
    fail(f"{file} cannot be read: {why}.")
