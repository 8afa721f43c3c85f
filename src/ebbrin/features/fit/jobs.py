"""Jobs at the car: what was ticked, timed, read, noted and proved, written one after another. Where that leaves a job is
worked out by whoever shows it, because it must be known without a connection, too."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any, Literal, Self
from uuid import UUID

from pydantic import AwareDatetime, Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.part import Identifier, Part, Words
from ebbrin.features.fit.photos import small_and_clean
from ebbrin.features.fit.situation import School
from ebbrin.features.fit.store import JobStore, PhotoStore
from ebbrin.features.fit.table import ProofKind, table
from ebbrin.features.workshop import UnknownBuild
from ebbrin.ground.journal import StoredEntry, StoredJournal, UnknownOwner
from ebbrin.ground.store import Database
from ebbrin.ground.words import Answer

MOST_LISTED, MOST_AT_ONCE = 50, 200
EntryKind = Literal[
    "planned", "ticked", "undone", "skipped", "started", "stopped", "moment", "reading", "note", "photo", "part", "gauge", "proof", "taken_back",
]  # fmt: skip
PartState = Literal["to_get", "here", "fitted"]
NEEDS: dict[str, tuple[str, ...]] = {
    "planned": ("plan",),
    "ticked": ("step",),
    "undone": ("step",),
    "skipped": ("step", "note"),
    "started": ("step",),
    "stopped": ("step",),
    "moment": ("step", "event"),
    "reading": ("step", "reading", "value"),
    "note": ("note",),
    "photo": ("photo",),
    "part": ("line", "state"),
    "gauge": ("value",),
    "proof": ("proof", "verdict"),
    "taken_back": ("of",),
}
"""What an entry of each kind must say."""


class PlannedFor(Part):
    """What a plan was made for: which revision of the build, from which variant to which, by which school; its steps."""

    revision: int = Field(ge=1, le=1_000_000)
    standing: Identifier
    variant: Identifier
    school: School
    steps: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=200)]


class JobEntry(Part):
    """One thing that was done, read or noted. ``needs`` of its kind must be there."""

    id: UUID = Field(description="Made by who wrote it: sent twice it is kept once.")
    at: AwareDatetime = Field(description="When, by the clock of who wrote it.")
    kind: EntryKind
    by: Words = Field(default="", max_length=40, title="By", description="Whose hand, if they said.")
    step: Words | None = Field(default=None, max_length=40)
    plan: PlannedFor | None = None
    event: Words | None = Field(default=None, max_length=40, description="Such as opens, fan_on.")
    reading: Words | None = Field(default=None, max_length=60)
    value: float | None = Field(
        default=None, ge=-1e6, le=1e6, description="In the document's unit of its quantity."
    )
    quantity: Words | None = Field(default=None, max_length=40)
    celsius: float | None = Field(
        default=None,
        ge=-40,
        le=130,
        title="Coolant",
        description="Of the coolant at a reading of the gauge.",
        json_schema_extra={"quantity": "temperature"},
    )
    line: Words | None = Field(default=None, max_length=40, description="Of the parts list.")
    state: PartState | None = None
    price: float | None = Field(default=None, ge=0, le=1e7, description="Paid, in the workshop's money.")
    photo: UUID | None = None
    proof: ProofKind | None = None
    verdict: Literal["pass", "fail", "doubt"] | None = None
    figures: dict[Annotated[str, Field(max_length=40)], float] = Field(
        default={}, max_length=20, description="What a proof came to, in the document's units."
    )
    note: Words = Field(default="", max_length=2000, title="Note")
    of: UUID | None = Field(
        default=None, description="Which entry of the job is taken back: it stands, and no longer counts."
    )

    @model_validator(mode="after")
    def is_whole(self) -> Self:
        """An entry of a kind says what that kind needs; a step is one of the table."""
        for name in NEEDS[self.kind]:
            if getattr(self, name) in (None, ""):
                raise PydanticCustomError(name, "An entry of this kind needs its {name}", {"name": name})
        if self.step is not None and self.step not in _step_ids():
            raise PydanticCustomError("step", "There is no step {step}", {"step": self.step})
        return self


def _step_ids() -> frozenset[str]:
    return frozenset(row.id for row in table().step)


class NewJob(Part):
    """A job to begin."""

    id: UUID = Field(description="Made by who begins it: begun twice it is begun once.")


class Entries(Part):
    """What was done, the first first."""

    entries: Annotated[list[JobEntry], Field(min_length=1, max_length=MOST_AT_ONCE)]


class JobBody(Answer):
    """A job with all that was done in it, in the order of arrival."""

    id: UUID
    build_id: UUID | None
    created_at: datetime
    number: int = Field(description="Of its newest entry: it grows with each.")
    entries: list[JobEntry]


def _body(job: StoredJournal) -> JobBody:
    return JobBody(
        id=job.id,
        build_id=job.build_id,
        created_at=job.created_at,
        number=job.number,
        entries=[
            JobEntry.model_validate({**one.what, "id": one.id, "at": one.at, "kind": one.kind})
            for one in job.entries
        ],
    )


class Bell:
    """Rings for those who watch a build's jobs. One process serves them all, so it need not go through the database."""

    def __init__(self) -> None:
        self._waiting: dict[UUID, set[asyncio.Queue[int]]] = defaultdict(set)
        self._loops: dict[asyncio.Queue[int], asyncio.AbstractEventLoop] = {}

    @property
    def watchers(self) -> int:
        """How many watch."""
        return len(self._loops)

    def watch(self, build_id: UUID) -> asyncio.Queue[int]:
        """A queue that gets the number of a job's newest entry whenever one came in."""
        queue: asyncio.Queue[int] = asyncio.Queue()
        self._loops[queue] = asyncio.get_running_loop()
        self._waiting[build_id].add(queue)
        return queue

    def leave(self, build_id: UUID, queue: asyncio.Queue[int]) -> None:
        """Watch no more."""
        self._loops.pop(queue, None)
        self._waiting[build_id].discard(queue)
        if not self._waiting[build_id]:
            del self._waiting[build_id]

    def ring(self, build_id: UUID | None, number: int) -> None:
        """Tell those who watch, from any thread."""
        for queue in list(self._waiting.get(build_id, ())) if build_id else []:
            loop = self._loops.get(queue)
            if loop is not None and not loop.is_closed():
                loop.call_soon_threadsafe(queue.put_nowait, number)


class Jobs:
    """What is done with jobs and photos."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self.bell = Bell()

    def begin(self, job: NewJob, build_id: UUID) -> JobBody:
        """Begin a job.

        Raises
        ------
        UnknownBuild, IdTaken
        """
        try:
            with self._database.session() as session:
                return _body(JobStore(session).begin(job.id, build_id))
        except UnknownOwner as error:
            raise UnknownBuild(error.build_id) from error

    def listed(self, build_id: UUID) -> list[JobBody]:
        """The jobs of a build, the newest first."""
        with self._database.session() as session:
            return [_body(job) for job in JobStore(session).of_build(build_id, MOST_LISTED)]

    def add(self, job_id: UUID, entries: Sequence[JobEntry]) -> JobBody:
        """Add entries to a job; one that is there already is left as it is.

        Raises
        ------
        UnknownJob, IdTaken, JournalFull
        """
        stored = [StoredEntry(one.id, one.at, one.kind, _said(one)) for one in entries]
        with self._database.session() as session:
            body = _body(JobStore(session).add(job_id, stored))
        self.bell.ring(body.build_id, body.number)
        return body

    def keep_photo(self, photo_id: UUID, build_id: UUID, raw: bytes) -> None:
        """Make a photo small and clean, and keep it; sent twice it is kept once.

        Raises
        ------
        NoPhoto, UnknownBuild, IdTaken, PhotosFull
        """
        picture = small_and_clean(raw)
        with self._database.session() as session:
            PhotoStore(session).add(photo_id, build_id, picture)

    def photo(self, photo_id: UUID) -> bytes:
        """One photo, a JPEG.

        Raises
        ------
        UnknownPhoto
        """
        with self._database.session() as session:
            return PhotoStore(session).get(photo_id)


def _said(entry: JobEntry) -> dict[str, Any]:
    """What an entry says, without what it leaves open."""
    return entry.model_dump(mode="json", exclude={"id", "at", "kind"}, exclude_defaults=True)
