"""Reading a build from a file, and saying what is wrong with it."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from pydantic import ValidationError

from ebbrin.bridge.refusal import refusal
from ebbrin.build.build import Build
from ebbrin.build.problems import InvalidDocument
from ebbrin.build.resolve import MissingValues
from ebbrin.core.base import DomainError
from ebbrin.ground.command import fail, unread
from ebbrin.ground.errors import EbbrinError


def read_build(file: Path) -> Build:
    """The build in a file; - reads standard input."""
    try:
        raw = sys.stdin.read() if str(file) == "-" else file.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        unread(file, error)
    return Build.model_validate_json(raw)


@contextmanager
def explained(file: Path) -> Iterator[None]:
    """Ends the command with what is wrong with the file, if anything is."""
    try:
        yield
    except ValidationError as error:
        fail(f"{file} is not a valid build:", InvalidDocument(error).fields)
    except MissingValues as error:
        fail(f"{file} lacks what an answer needs:", error.fields)
    except EbbrinError as error:
        fail(f"{file}: {error.detail}", error.fields)
    except DomainError as error:
        fail(f"{file} cannot be computed: {refusal(error)}")
