"""Cases: what was found one after another, and where that leaves them. A case closes when all that was mended is proved
and a drive after the last mend stayed cool, and can be opened again."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.part import Part, Words
from ebbrin.core.cause.tables import CAUSES, NOT_LOOKED, OBSERVATIONS
from ebbrin.features.cause.evidence import nearest, one_of
from ebbrin.features.cause.store import CaseStore
from ebbrin.features.workshop import UnknownBuild
from ebbrin.ground.journal import StoredEntry, StoredJournal, UnknownOwner
from ebbrin.ground.store import Database
from ebbrin.ground.words import Answer

MOST_LISTED = 50
MOST_AT_ONCE = 200


FindingKind = Literal["seen", "taken_back", "mended", "proved", "drove", "note", "opened"]
DROVE = ("cool", "hot")


class CaseFinding(Part):
    """One thing that was found or done. What is seen or taken back names an observation, what is seen its value too; what
    is mended or proved names a cause; a drive after the mend was cool or hot. Taken back with a cause instead it says that
    this was not mended after all: what was noted of that mend no longer counts."""

    id: UUID = Field(description="Made by who found it: sent twice it is kept once.")
    at: AwareDatetime = Field(description="When, by the clock of who found it.")
    kind: FindingKind
    observation: Words | None = Field(default=None, max_length=40)
    value: Words | None = Field(default=None, max_length=40)
    cause: Words | None = Field(default=None, max_length=40)
    measured: Words = Field(
        default="", max_length=400, title="Reading", description="What was read, with its unit."
    )
    note: Words = Field(default="", max_length=2000, title="Note", description="Anything worth keeping.")
    photo: UUID | None = Field(default=None, description="Of the build's photos, which are kept by its jobs.")

    @model_validator(mode="after")
    def is_known(self) -> CaseFinding:
        """What it names must be known, and be what its kind asks for."""
        no_mend = self.kind == "taken_back" and self.observation is None and self.cause is not None
        if self.kind in ("seen", "taken_back") and not no_mend:
            _known("observation", self.observation, list(OBSERVATIONS))
        if self.kind == "seen":
            _known("value", self.value, [*OBSERVATIONS[str(self.observation)].values, NOT_LOOKED])
        if self.kind in ("mended", "proved") or no_mend:
            _known("cause", self.cause, list(CAUSES))
        if self.kind == "drove":
            _known("value", self.value, list(DROVE))
        return self


def _known(field: str, written: str | None, known: list[str]) -> None:
    if written is None:
        raise PydanticCustomError(field, "A finding of this kind needs its {field}", {"field": field})
    if written not in known:
        near = one_of(known) if field == "value" else ", ".join(nearest(written, known))
        said = "it may be {near}" if field == "value" else "perhaps {near}?"
        raise PydanticCustomError(
            field, "There is no {field} {wrong}; " + said, {"field": field, "wrong": written, "near": near}
        )


class NewCase(Part):
    """A case to begin."""

    id: UUID = Field(description="Made by who begins it: begun twice it is begun once.")


class Findings(Part):
    """What was found, the first one first."""

    findings: Annotated[list[CaseFinding], Field(min_length=1, max_length=MOST_AT_ONCE)]


class CaseBody(Answer):
    """A case as it stands."""

    id: UUID
    build_id: UUID | None
    created_at: datetime
    state: Literal["open", "closed"]
    evidence: dict[str, str] = Field(description="What was seen and not taken back, not_looked included.")
    mended: list[str] = Field(description="Causes.")
    proved: list[str] = Field(description="Causes whose mend was proved.")
    drove: Literal["cool", "hot"] | None = Field(description="How the last drive after the mend went.")
    findings: list[CaseFinding]


def as_it_stands(case: StoredJournal) -> CaseBody:
    """A case with what follows from its findings."""
    evidence: dict[str, str] = {}
    mended: list[str] = []
    proved: list[str] = []
    drove: Literal["cool", "hot"] | None = None
    found = [_finding(stored) for stored in case.entries]
    for one in _counting(found):
        seen, cause = str(one.observation), str(one.cause)
        if one.kind == "seen":
            evidence[seen] = str(one.value)
        elif one.kind == "taken_back":
            evidence.pop(seen, None)
        elif one.kind == "mended":
            mended = [*(c for c in mended if c != cause), cause]
            proved, drove = [c for c in proved if c != cause], None
        elif one.kind == "proved":
            proved = [*(c for c in proved if c != cause), cause]
        elif one.kind == "drove":
            drove = "cool" if one.value == "cool" else "hot"
        elif one.kind == "opened":
            drove = None
    closed = bool(mended) and set(mended) <= set(proved) and drove == "cool"
    return CaseBody(
        id=case.id,
        build_id=case.build_id,
        created_at=case.created_at,
        state="closed" if closed else "open",
        evidence=evidence,
        mended=mended,
        proved=proved,
        drove=drove,
        findings=found,
    )


def _counting(found: Sequence[CaseFinding]) -> list[CaseFinding]:
    """The findings without what was noted of a mend that was none after all."""
    kept: list[CaseFinding] = []
    for one in found:
        if one.kind == "taken_back" and one.observation is None:
            kept = [k for k in kept if k.kind not in ("mended", "proved") or k.cause != one.cause]
        else:
            kept.append(one)
    return kept


def _finding(stored: StoredEntry) -> CaseFinding:
    return CaseFinding.model_validate({**stored.what, "id": stored.id, "at": stored.at, "kind": stored.kind})


class Cases:
    """What is done with cases."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def begin(self, case: NewCase, build_id: UUID | None) -> CaseBody:
        """Begin a case.

        Raises
        ------
        UnknownBuild, IdTaken
        """
        try:
            with self._database.session() as session:
                return as_it_stands(CaseStore(session).begin(case.id, build_id))
        except UnknownOwner as error:
            raise UnknownBuild(error.build_id) from error

    def find(self, case_id: UUID) -> CaseBody:
        """One case.

        Raises
        ------
        UnknownJournal
        """
        with self._database.session() as session:
            return as_it_stands(CaseStore(session).get(case_id))

    def listed(self, build_id: UUID | None) -> list[CaseBody]:
        """The cases of a build, or those of any car, the newest first."""
        with self._database.session() as session:
            return [as_it_stands(case) for case in CaseStore(session).of_build(build_id, MOST_LISTED)]

    def add(self, case_id: UUID, findings: Sequence[CaseFinding]) -> CaseBody:
        """Add findings to a case.

        Raises
        ------
        UnknownJournal, IdTaken, JournalFull
        """
        stored = [
            StoredEntry(
                found.id,
                found.at,
                found.kind,
                found.model_dump(mode="json", exclude={"id", "at", "kind"}),
            )
            for found in findings
        ]
        with self._database.session() as session:
            return as_it_stands(CaseStore(session).add(case_id, stored))
