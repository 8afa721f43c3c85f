"""Tables: builds and their revisions, the parts of the workshop's own shelf, both only ever added to; sizings; and recordings."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    DateTime,
    Float,
    ForeignKey,
    Index,
    Integer,
    PrimaryKeyConstraint,
    String,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Root of the tables."""


class BuildRow(Base):
    """A build; all that changes stands in its revisions."""

    __tablename__ = "builds"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


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


class ShelfRow(Base):
    """One version of a part. The newest one says whether the part still stands on the shelf."""

    __tablename__ = "shelf_parts"
    __table_args__ = (PrimaryKeyConstraint("id", "version", name="shelf_parts_pkey"),)

    id: Mapped[str] = mapped_column(String(64))
    version: Mapped[int] = mapped_column(Integer)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    removed: Mapped[bool] = mapped_column(Boolean, server_default=false())
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)


class RunRow(Base):
    """One sizing: what was asked, how far it is, and what came of it. ``attempt`` rises each time that a worker
    takes it up; only the worker of the last attempt may write."""

    __tablename__ = "runs"
    __table_args__ = (
        Index(
            "runs_one_open", "build_id", unique=True, postgresql_where=text("state IN ('waiting', 'running')")
        ),
    )

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    state: Mapped[str] = mapped_column(String(16))
    progress: Mapped[float] = mapped_column(Float, server_default="0")
    attempt: Mapped[int] = mapped_column(Integer, server_default="0")
    message: Mapped[str | None] = mapped_column(String(500))
    question: Mapped[dict[str, Any]] = mapped_column(JSONB)
    result: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    finished_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class RecordingRow(Base):
    """One recorded drive."""

    __tablename__ = "recordings"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
