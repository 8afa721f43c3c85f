"""Bodies that the routes answer with."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from ebbrin.build.build import Build
from ebbrin.build.part import Words
from ebbrin.features.judge import Verdict
from ebbrin.features.workshop.service import Stored, Summary
from ebbrin.features.workshop.store import Heading
from ebbrin.ground.words import Text


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
    readable: bool = Field(
        description="False where what is stored is no build any more; the sentence says why. It is kept."
    )
    archived: bool = Field(description="Whether it is put away.")


class Archived(BaseModel):
    """Whether a build is put away."""

    archived: bool


class WorkshopSettings(BaseModel):
    """What holds for all builds of this workshop."""

    model_config = ConfigDict(extra="forbid")

    currency: Words = Field(
        default="",
        max_length=8,
        title="Currency",
        description="Written after prices, such as € or kr; empty for none.",
    )


class RevisionHeading(BaseModel):
    """One revision of a build, without its document."""

    revision: int
    saved_at: datetime
    revision_name: str | None = Field(description="What somebody called this revision.")


class RevisionName(BaseModel):
    """What to call a revision."""

    name: Words = Field(max_length=120, description="Empty to take the name away.")


def stored_body(stored: Stored) -> StoredBuild:
    """The body of a stored build."""
    return StoredBuild.model_validate(vars(stored))


def summary_body(summary: Summary) -> BuildSummary:
    """The body of a line of the list."""
    return BuildSummary.model_validate(vars(summary))


def heading_body(heading: Heading) -> RevisionHeading:
    """The body of a revision in a list."""
    return RevisionHeading(revision=heading.number, saved_at=heading.created_at, revision_name=heading.name)
