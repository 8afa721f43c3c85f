"""Journals: entries that are written once under ids that their writers made, and never changed.

A feature says which two tables hold its journals and their entries; what is done with them is here.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, ClassVar, Generic, TypeVar
from uuid import UUID

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, String, func, select
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapped, Session, declared_attr, mapped_column

from ebbrin.ground.errors import EbbrinError

MOST_ENTRIES = 1000
"""Entries of one journal."""


class UnknownJournal(EbbrinError):
    """There is no such journal."""

    status, kind, title = 404, "unknown-case", "No such case"
    what = "case"

    def __init__(self, journal_id: UUID) -> None:
        super().__init__(f"There is no {self.what} {journal_id}.")


class UnknownOwner(Exception):
    """There is no such build."""

    def __init__(self, build_id: UUID) -> None:
        self.build_id = build_id
        super().__init__(str(build_id))


class IdTaken(EbbrinError):
    """An id that is that of another build's journal, or an entry's that is another journal's."""

    status, kind, title = 409, "id-taken", "This id is taken"

    def __init__(self, what: str, taken: UUID) -> None:
        super().__init__(f"The id {taken} is that of another {what}. Make a new one and send it again.")


class JournalFull(EbbrinError):
    """More entries than a journal can hold."""

    status, kind, title = 422, "case-full", "This case is full"

    def __init__(self, what: str) -> None:
        super().__init__(f"A {what} holds {MOST_ENTRIES} entries. Begin a new one; nothing was lost.")


class JournalColumns:
    """Columns of a table of journals: each of one build, or of any car."""

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())

    @declared_attr
    def build_id(cls) -> Mapped[UUID | None]:  # noqa: N805
        """The build that it is of."""
        return mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)


class EntryColumns:
    """Columns of a table of entries, in the order of arrival."""

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    number: Mapped[int] = mapped_column(BigInteger, Identity())
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    kind: Mapped[str] = mapped_column(String(16))
    what: Mapped[dict[str, Any]] = mapped_column(JSONB)


@dataclass(frozen=True)
class StoredEntry:
    """One entry: its id, when it was made, by the clock of who made it, and what it is."""

    id: UUID
    at: datetime
    kind: str
    what: dict[str, Any]


@dataclass(frozen=True)
class StoredJournal:
    """A journal with its entries, the first one first."""

    id: UUID
    build_id: UUID | None
    created_at: datetime
    entries: tuple[StoredEntry, ...]
    number: int = 0
    """Of the newest entry; 0 without one."""


Row = TypeVar("Row", bound=JournalColumns)
EntryRow = TypeVar("EntryRow", bound=EntryColumns)


class JournalStore(Generic[Row, EntryRow]):
    """The aggregate of journals. A feature's own names its two tables, what the column of an entry's journal is called,
    and how a missing one is said."""

    rows: ClassVar[type[Any]]
    entry_rows: ClassVar[type[Any]]
    of: ClassVar[str]
    called: ClassVar[str] = "case"
    unknown: ClassVar[type[UnknownJournal]] = UnknownJournal

    def __init__(self, session: Session) -> None:
        self._session = session

    def begin(self, journal_id: UUID, build_id: UUID | None) -> StoredJournal:
        """A new journal; the same one begun twice is begun once.

        Raises
        ------
        UnknownOwner, IdTaken
        """
        rows = self.rows
        try:
            self._session.execute(
                insert(rows).values(id=journal_id, build_id=build_id).on_conflict_do_nothing()
            )
        except IntegrityError as error:
            if build_id is None:
                raise
            self._session.rollback()
            raise UnknownOwner(build_id) from error
        found = self.get(journal_id)
        if found.build_id != build_id:
            raise IdTaken(f"car's {self.called}", journal_id)
        return found

    def get(self, journal_id: UUID) -> StoredJournal:
        """One journal.

        Raises
        ------
        UnknownJournal
        """
        row = self._session.get(self.rows, journal_id)
        if row is None:
            raise self.unknown(journal_id)
        return self._with_entries([row])[0]

    def of_build(self, build_id: UUID | None, most: int) -> list[StoredJournal]:
        """The journals of a build, or those of any car, the newest first."""
        rows = self.rows
        of = rows.build_id.is_(None) if build_id is None else rows.build_id == build_id
        query = select(rows).where(of).order_by(rows.created_at.desc(), rows.id).limit(most)
        return self._with_entries(list(self._session.scalars(query)))

    def add(self, journal_id: UUID, entries: Sequence[StoredEntry]) -> StoredJournal:
        """Add entries; one that is there already is left as it is.

        Raises
        ------
        UnknownJournal, IdTaken, JournalFull
        """
        kept, of = self.entry_rows, getattr(self.entry_rows, self.of)
        if self._session.get(self.rows, journal_id, with_for_update={"key_share": True}) is None:
            raise self.unknown(journal_id)
        for entry in entries:
            values = {
                "id": entry.id,
                self.of: journal_id,
                "at": entry.at,
                "kind": entry.kind,
                "what": entry.what,
            }
            self._session.execute(insert(kept).values(values).on_conflict_do_nothing())
        ids = [entry.id for entry in entries]
        strange = select(kept.id).where(kept.id.in_(ids), of != journal_id).limit(1)
        taken = self._session.scalars(strange).first()
        if taken is not None:
            raise IdTaken(f"{self.called}'s entry", taken)
        count = self._session.scalar(select(func.count()).select_from(kept).where(of == journal_id))
        if (count or 0) > MOST_ENTRIES:
            raise JournalFull(self.called)
        return self.get(journal_id)

    def _with_entries(self, rows: list[Any]) -> list[StoredJournal]:
        kept, of = self.entry_rows, self.of
        query = select(kept).where(getattr(kept, of).in_([row.id for row in rows])).order_by(kept.number)
        found: dict[UUID, list[StoredEntry]] = {row.id: [] for row in rows}
        newest: dict[UUID, int] = {}
        for entry in self._session.scalars(query):
            journal = getattr(entry, of)
            found[journal].append(StoredEntry(entry.id, entry.at, entry.kind, entry.what))
            newest[journal] = entry.number
        return [
            StoredJournal(row.id, row.build_id, row.created_at, tuple(found[row.id]), newest.get(row.id, 0))
            for row in rows
        ]
