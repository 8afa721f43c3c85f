"""Bodies that the routes answer with."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, Field

from ebbrin.document.build import Build
from ebbrin.document.part import Words
from ebbrin.document.result import Text, Verdict
from ebbrin.service.builds import Stored, Summary


class StoredBuild(BaseModel):
    """A build with the revision that it stands at."""

    id: UUID
    revision: int = Field(description="Send it back as If-Match when saving.")
    saved_at: datetime
    revision_name: str | None = Field(description="What somebody called this revision.")
    build: Build


class BuildSummary(BaseModel):
    """A line of the list of builds."""

    id: UUID
    revision: int
    saved_at: datetime
    name: str
    workshop: str
    judged: bool = Field(description="False while the build is still to be looked at; ask again.")
    verdict: Verdict | None = Field(description="Null while the build cannot be judged yet.")
    chance: float | None = Field(description="Chance that the worst case stays below its limit.")
    worst_case: str | None
    sentence: Text


class RevisionName(BaseModel):
    """What to call a revision."""

    name: Words = Field(max_length=120, description="Empty to take the name away.")


class Health(BaseModel):
    """Whether Ebbrin can work."""

    status: str
    database: bool


def stored_body(stored: Stored) -> StoredBuild:
    """The body of a stored build."""
    return StoredBuild.model_validate(vars(stored))


def summary_body(summary: Summary) -> BuildSummary:
    """The body of a line of the list."""
    return BuildSummary.model_validate(vars(summary))
