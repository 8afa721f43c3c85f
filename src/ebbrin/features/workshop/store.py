"""Builds and their revisions: one small repository over a session that is passed in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from pydantic import ValidationError
from sqlalchemy import (
    ColumnElement,
    DateTime,
    ForeignKey,
    Integer,
    PrimaryKeyConstraint,
    String,
    func,
    literal_column,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.build.build import Build
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.store import Base


class UnknownBuild(EbbrinError):
    """There is no such build."""

    status, kind, title = 404, "unknown-build", "No such build"

    def __init__(self, build_id: UUID) -> None:
        self.build_id = build_id
        super().__init__(f"there is no build {build_id}.")


class RevisionTaken(EbbrinError):
    """Another writer added that revision first."""

    def __init__(self, build_id: UUID, number: int) -> None:
        self.build_id, self.number = build_id, number
        super().__init__(f"revision {number} of build {build_id} exists already")


class SaveIdUsed(EbbrinError):
    """Another document was saved under the same id of a save."""

    status, kind, title = 422, "save-id-used", "Saved before with other content"

    def __init__(self, save_id: UUID) -> None:
        super().__init__(
            f"The save {save_id} was made before, with another document or for another build. Nothing was changed."
        )


class BuildRow(Base):
    """A build; what it is stands in its revisions. Put away it is only listed apart."""

    __tablename__ = "builds"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    archived_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SettingRow(Base):
    """Something that a workshop has set for all its builds."""

    __tablename__ = "settings"

    name: Mapped[str] = mapped_column(String(40), primary_key=True)
    value: Mapped[str] = mapped_column(String(200))


class RevisionRow(Base):
    """One whole document. (build_id, number) is unique: two writers cannot both add the same number. ``save_id`` is
    made by who saves: the same save sent twice is stored once."""

    __tablename__ = "revisions"
    __table_args__ = (PrimaryKeyConstraint("build_id", "number", name="revisions_pkey"),)

    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="RESTRICT"))
    number: Mapped[int] = mapped_column(Integer)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    name: Mapped[str | None] = mapped_column(String(120))
    save_id: Mapped[UUID | None] = mapped_column(PG_UUID(as_uuid=True), unique=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)


class JudgementRow(Base):
    """What the list says of a build: kept with the revision, the mark of its row, which changes with whatever changes
    the row, and the version of Ebbrin that judged it."""

    __tablename__ = "judgements"

    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), primary_key=True)
    revision: Mapped[int] = mapped_column(Integer)
    mark: Mapped[str] = mapped_column(String(20))
    version: Mapped[str] = mapped_column(String(64))
    line: Mapped[dict[str, Any]] = mapped_column(JSONB)


ROW_MARK: ColumnElement[str] = literal_column("revisions.xmin::text", String)
"""PostgreSQL's own mark of the transaction that has written a row last."""


@dataclass(frozen=True)
class Revision:
    """One stored document."""

    build_id: UUID
    number: int
    created_at: datetime
    name: str | None
    document: dict[str, Any]


@dataclass(frozen=True)
class Heading:
    """A revision without its document: of the newest one of a build also what the document calls it, the mark of its
    row, and what was kept of its judgement by one version of Ebbrin."""

    build_id: UUID
    number: int
    created_at: datetime
    name: str | None
    called: str = ""
    workshop: str = ""
    mark: str = ""
    judged_by: str | None = None
    line: dict[str, Any] | None = None
    archived: bool = False


def _revision(row: RevisionRow) -> Revision:
    return Revision(row.build_id, row.number, row.created_at, row.name, row.document)


def _same(stored: dict[str, Any], document: dict[str, Any]) -> bool:
    """Whether two documents are the same build; the stored one may be of an older version of the format."""
    if stored == document:
        return True
    try:
        return Build.model_validate(stored).model_dump(mode="json") == document
    except ValidationError:
        return False


class Builds:
    """The aggregate of a build and its revisions."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, document: dict[str, Any], save_id: UUID | None = None) -> Revision:
        """A new build with its first revision; the one that this save has made already, if it has.

        Raises
        ------
        SaveIdUsed
        """
        before = self._saved(save_id, None, document)
        if before is not None:
            return before
        return self._append(uuid4(), 1, document, save_id)

    def _saved(
        self, save_id: UUID | None, build_id: UUID | None, document: dict[str, Any]
    ) -> Revision | None:
        """The revision that a save has made already.

        Raises
        ------
        SaveIdUsed
            If it was another document, or for another build.
        """
        if save_id is None:
            return None
        row = self._session.scalars(select(RevisionRow).where(RevisionRow.save_id == save_id)).first()
        if row is None:
            return None
        if (
            not _same(row.document, document)
            or (build_id is None and row.number != 1)
            or build_id not in (None, row.build_id)
        ):
            raise SaveIdUsed(save_id)
        return _revision(row)

    def latest(self, build_id: UUID) -> Revision:
        """The newest revision of a build.

        Raises
        ------
        UnknownBuild
        """
        newest = select(RevisionRow).where(RevisionRow.build_id == build_id)
        row = self._session.scalars(newest.order_by(RevisionRow.number.desc()).limit(1)).first()
        if row is None:
            raise UnknownBuild(build_id)
        return _revision(row)

    def revision(self, build_id: UUID, number: int) -> Revision:
        """One revision of a build.

        Raises
        ------
        UnknownBuild
            If there is no such build or revision.
        """
        return _revision(self._row(build_id, number))

    def _row(self, build_id: UUID, number: int) -> RevisionRow:
        row = self._session.get(RevisionRow, (build_id, number))
        if row is None:
            raise UnknownBuild(build_id)
        return row

    def append(
        self, build_id: UUID, based_on: int, document: dict[str, Any], save_id: UUID | None = None
    ) -> Revision:
        """The next revision after ``based_on``; the one that this save has made already, if it has.

        Raises
        ------
        UnknownBuild
        RevisionTaken
            If ``based_on`` is no longer the newest.
        SaveIdUsed
        """
        before = self._saved(save_id, build_id, document)
        if before is not None:
            return before
        newest = self.latest(build_id)
        if newest.number != based_on:
            # The same save, sent twice at once, may have arrived between the two looks.
            before = self._saved(save_id, build_id, document)
            if before is not None:
                return before
            raise RevisionTaken(build_id, based_on + 1)
        return self._append(build_id, based_on + 1, document, save_id)

    def _append(
        self, build_id: UUID, number: int, document: dict[str, Any], save_id: UUID | None
    ) -> Revision:
        row = RevisionRow(build_id=build_id, number=number, document=document, save_id=save_id)
        try:
            # Within a transaction of its own, so that what another has stored meanwhile can be looked at.
            with self._session.begin_nested():
                if number == 1:
                    self._session.add(BuildRow(id=build_id))
                    self._session.flush()
                self._session.add(row)
        except IntegrityError as error:
            before = self._saved(save_id, None if number == 1 else build_id, document)
            if before is not None:
                return before  # the same save, sent twice at once
            diagnosis = getattr(error.orig, "diag", None)
            if getattr(diagnosis, "constraint_name", None) == "revisions_pkey":
                raise RevisionTaken(build_id, number) from error
            raise
        self._session.refresh(row)
        return _revision(row)

    def headings(self, build_id: UUID, before: int | None, most: int) -> Sequence[Heading]:
        """Revisions of a build without their documents, the newest first, at most so many below number ``before``.

        Raises
        ------
        UnknownBuild
        """
        if self._session.get(BuildRow, build_id) is None:
            raise UnknownBuild(build_id)
        query = select(RevisionRow.number, RevisionRow.created_at, RevisionRow.name).where(
            RevisionRow.build_id == build_id
        )
        if before is not None:
            query = query.where(RevisionRow.number < before)
        rows = self._session.execute(query.order_by(RevisionRow.number.desc()).limit(most))
        return [Heading(build_id, number, at, name) for number, at, name in rows]

    def name(self, build_id: UUID, number: int, name: str | None) -> Heading:
        """Give a revision a name, or take it away.

        Raises
        ------
        UnknownBuild
            If there is no such build or revision.
        """
        row = self._row(build_id, number)
        row.name = name
        self._session.flush()
        return Heading(build_id, row.number, row.created_at, row.name)

    def all_latest(self) -> Sequence[Heading]:
        """The newest revision of every build, the one changed last first, with what is kept of its judgement."""
        newest = (
            select(RevisionRow.build_id, func.max(RevisionRow.number).label("number"))
            .group_by(RevisionRow.build_id)
            .subquery()
        )
        query = (
            select(
                RevisionRow.build_id,
                RevisionRow.number,
                RevisionRow.created_at,
                RevisionRow.name,
                RevisionRow.document["name"].astext,
                RevisionRow.document["workshop"].astext,
                ROW_MARK,
                JudgementRow.version,
                JudgementRow.line,
                BuildRow.archived_at,
            )
            .join(BuildRow, BuildRow.id == RevisionRow.build_id)
            .join(
                newest,
                (RevisionRow.build_id == newest.c.build_id) & (RevisionRow.number == newest.c.number),
            )
            .outerjoin(
                JudgementRow,
                (JudgementRow.build_id == RevisionRow.build_id)
                & (JudgementRow.revision == RevisionRow.number)
                & (JudgementRow.mark == ROW_MARK),
            )
            .order_by(RevisionRow.created_at.desc())
        )
        return [
            Heading(
                build_id, number, at, name, called or "", workshop or "", mark, by, line, put_away is not None
            )
            for build_id, number, at, name, called, workshop, mark, by, line, put_away in self._session.execute(
                query
            )
        ]

    def archive(self, build_id: UUID, archived: bool) -> None:
        """Put a build away, or bring it back.

        Raises
        ------
        UnknownBuild
        """
        row = self._session.get(BuildRow, build_id)
        if row is None:
            raise UnknownBuild(build_id)
        if archived and row.archived_at is None:
            row.archived_at = func.now()
        elif not archived:
            row.archived_at = None

    def keep_judgement(self, of: Heading, version: str, line: dict[str, Any]) -> None:
        """Keep what the list says of a build."""
        row = {
            "build_id": of.build_id,
            "revision": of.number,
            "mark": of.mark,
            "version": version,
            "line": line,
        }
        self._session.execute(
            insert(JudgementRow).values(row).on_conflict_do_update(index_elements=["build_id"], set_=row)
        )

    def any(self) -> bool:
        """Whether there is a build at all."""
        return self._session.scalars(select(BuildRow.id).limit(1)).first() is not None

    def remove_all(self) -> None:
        """Empty the store, for setting the demo back."""
        self._session.query(RevisionRow).delete()
        self._session.query(BuildRow).delete()


class Settings:
    """What a workshop has set for all its builds."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def all(self) -> dict[str, str]:
        """Every setting by its name."""
        return {row.name: row.value for row in self._session.scalars(select(SettingRow))}

    def put(self, name: str, value: str) -> None:
        """Set one."""
        row = {"name": name, "value": value}
        self._session.execute(
            insert(SettingRow).values(row).on_conflict_do_update(index_elements=["name"], set_=row)
        )
