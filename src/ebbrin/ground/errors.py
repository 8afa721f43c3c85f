"""One tree of what can go wrong above the core. Every error says what it is to a person and to a program.

A route raises it and the one handler answers it; a command prints it. The core knows nothing of this: its DomainError
comes in through ``ebbrin.bridge.refusal``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class FieldProblem:
    """One thing wrong: ``path`` is a JSON pointer into what was sent; ``low`` and ``high`` the allowed
    range in the document's unit, where there is one."""

    path: str
    message: str
    low: float | None = None
    high: float | None = None


class EbbrinError(Exception):
    """Root of Ebbrin's errors.

    Attributes
    ----------
    status : HTTP status of the answer.
    kind : stable name of the kind of problem.
    title : what it is, in a few words.
    again : seconds after which the same may be asked again, where that makes sense.
    """

    status = 500
    kind = "internal"
    title = "Ebbrin made a mistake"
    again: int | None = None

    @property
    def detail(self) -> str:
        """A sentence or two: what is wrong and what to do."""
        return str(self)

    @property
    def fields(self) -> list[FieldProblem]:
        """The fields that are wrong, if that can be said."""
        return []

    @property
    def more(self) -> dict[str, Any]:
        """What a program may want besides."""
        return {}


class NotFound(EbbrinError):
    """Something that was named is not there."""

    status = 404
    kind = "http"
    title = "Request refused"


class StoreError(EbbrinError):
    """Root of what can ail the database."""


class StoreUnavailable(StoreError):
    """The database does not answer. Whether what was sent last was stored is not known."""

    status, kind, title, again = 503, "no-database", "Storage is away", 2

    of_a_change = (
        "The database does not answer. "
        "Whether this was stored is not known; the same sent again is stored once."
    )
    """Said where something was to be stored: it may have arrived although its answer did not."""

    def __init__(self) -> None:
        super().__init__("The database does not answer. Try again in a moment.")


class Busy(EbbrinError):
    """There is too much to do just now; come again in ``again`` [s]."""

    status, kind, title = 503, "busy", "Too much to do"

    def __init__(self, again: int = 2) -> None:
        self.again = again
        super().__init__("Ebbrin has too much to do just now. Nothing was changed; try again in a moment.")


class StoreBusy(StoreError, Busy):
    """The database has too much to do for this now. Nothing was changed."""


class StoreFull(StoreError):
    """The disk of the database is full. Nothing was changed."""

    status, kind, title = 507, "disk-full", "The disk is full"

    def __init__(self) -> None:
        super().__init__(
            "The disk of the database is full. Nothing was changed: make room on it, then try again."
        )


class StoreBroken(StoreError):
    """A table is missing or damaged; ``what`` says which. Nothing was changed."""

    status, kind, title = 500, "database-damaged", "The database is damaged"

    def __init__(self, what: str) -> None:
        self.what = what
        super().__init__(
            f"The database is damaged ({what}). Nothing was changed. What does not need this part of it still "
            "works; restore a backup to have all of it: ebbrin restore FILE."
        )
