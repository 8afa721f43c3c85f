"""Reading a build from a file, and saying what is wrong with it."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NoReturn

import typer
from pydantic import ValidationError

from ebbrin.core.base import DomainError
from ebbrin.document.build import Build
from ebbrin.document.from_core import refusal
from ebbrin.document.problems import FieldProblem, missing_problem, problem
from ebbrin.document.resolve import MissingValues


def read_build(file: Path) -> Build:
    """The build in a file; - reads standard input."""
    try:
        raw = sys.stdin.read() if str(file) == "-" else file.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        fail(f"{file} cannot be read: {error}")
    return Build.model_validate_json(raw)


@contextmanager
def explained(file: Path) -> Iterator[None]:
    """Ends the command with what is wrong with the file, if anything is."""
    try:
        yield
    except ValidationError as error:
        fail(f"{file} is not a valid build:", [problem(dict(e)) for e in error.errors()])
    except MissingValues as error:
        fail(f"{file} lacks what an answer needs:", [missing_problem(m) for m in error.missing])
    except KeyError as error:
        fail(f"{file} has no variant {error}")
    except DomainError as error:
        fail(f"{file} cannot be computed: {refusal(error)}")


def fail(message: str, problems: list[FieldProblem] | None = None) -> NoReturn:
    """Print what is wrong and end with 1."""
    typer.echo(message, err=True)
    for entry in problems or []:
        typer.echo(f"  {entry.path or '/'}: {entry.message}", err=True)
    raise typer.Exit(1)
