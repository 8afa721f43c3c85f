"""How a command ends when something is wrong."""

from __future__ import annotations

from typing import NoReturn

import typer

from ebbrin.ground.errors import FieldProblem


def fail(message: str, problems: list[FieldProblem] | None = None) -> NoReturn:
    """Print what is wrong and end with 1."""
    typer.echo(message, err=True)
    for entry in problems or []:
        typer.echo(f"  {entry.path or '/'}: {entry.message}", err=True)
    raise typer.Exit(1)
