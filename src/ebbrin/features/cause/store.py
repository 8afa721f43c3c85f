"""The tables of cases and of what was found in them."""

from __future__ import annotations

from uuid import UUID

from sqlalchemy import ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from ebbrin.ground.journal import EntryColumns, JournalColumns, JournalStore
from ebbrin.ground.store import Base


class CaseRow(JournalColumns, Base):
    """A case of one build, or of any car."""

    __tablename__ = "cases"


class FindingRow(EntryColumns, Base):
    """One thing that was found or done in a case."""

    __tablename__ = "findings"

    case_id: Mapped[UUID] = mapped_column(ForeignKey("cases.id", ondelete="CASCADE"), index=True)


class CaseStore(JournalStore[CaseRow, FindingRow]):
    """The aggregate of cases."""

    rows, entry_rows, of = CaseRow, FindingRow, "case_id"
