"""Bodies that the routes answer with."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, Field

from ebbrin.document.build import Build
from ebbrin.document.result import Text, Verdict
from ebbrin.service.builds import Stored, Summary


class StoredBuild(BaseModel):
    """A build with the revision that it stands at."""

    id: UUID
    revision: int = Field(description="Send it back as If-Match when saving.")
    saved_at: datetime
    build: Build


class BuildSummary(BaseModel):
    """A line of the list of builds."""

    id: UUID
    revision: int
    saved_at: datetime
    name: str
    workshop: str
    verdict: Verdict | None = Field(description="Null while the build cannot be judged yet.")
    worst_case: str | None
    sentence: Text


class Health(BaseModel):
    """Whether Ebbrin can work."""

    status: str
    database: bool


def stored_body(stored: Stored) -> StoredBuild:
    """The body of a stored build."""
    return StoredBuild(id=stored.id, revision=stored.revision, saved_at=stored.saved_at, build=stored.build)


def summary_body(summary: Summary) -> BuildSummary:
    """The body of a line of the list."""
    return BuildSummary.model_validate(vars(summary))
