"""Sizings and the queue that workers take them from, written in one transaction so that neither lacks the other."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID, uuid4

from sqlalchemy import (
    DateTime,
    Float,
    ForeignKey,
    Index,
    Integer,
    String,
    delete,
    func,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.features.workshop import BuildRow, UnknownBuild
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.store import Base

State = Literal["waiting", "running", "done", "failed", "cancelled"]
QUEUE, TASK = "sizing", "size"
OPEN: tuple[State, ...] = ("waiting", "running")


class UnknownRun(EbbrinError):
    """There is no such sizing."""

    status, kind, title = 404, "unknown-run", "No such sizing"

    def __init__(self, run_id: UUID) -> None:
        super().__init__(f"there is no sizing {run_id}.")


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


@dataclass(frozen=True)
class Run:
    """One sizing as it stands."""

    id: UUID
    build_id: UUID
    state: State
    progress: float
    attempt: int
    message: str | None
    question: dict[str, Any]
    result: dict[str, Any] | None
    created_at: datetime
    finished_at: datetime | None


def _run(row: RunRow) -> Run:
    return Run(
        row.id,
        row.build_id,
        row.state,  # type: ignore[arg-type]
        row.progress,
        row.attempt,
        row.message,
        row.question,
        row.result,
        row.created_at,
        row.finished_at,
    )


class Runs:
    """The aggregate of sizings."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, build_id: UUID, question: dict[str, Any]) -> Run:
        """A new sizing, and its job in the queue.

        Raises
        ------
        UnknownBuild
        """
        row = RunRow(id=uuid4(), build_id=build_id, state="waiting", question=question)
        self._session.add(row)
        try:
            self._session.flush()
        except IntegrityError as error:
            self._session.rollback()
            raise UnknownBuild(build_id) from error
        self._session.refresh(row)
        self._enqueue(row.id)
        return _run(row)

    def alone(self, build_id: UUID) -> None:
        """Let one request at a time begin a sizing of a build; held to the end of the transaction.

        Raises
        ------
        UnknownBuild
        """
        query = select(BuildRow.id).where(BuildRow.id == build_id).with_for_update(key_share=True)
        if self._session.scalars(query).first() is None:
            raise UnknownBuild(build_id)

    def only_one(self) -> bool:
        """Whether no more than one sizing waits or runs, of all builds."""
        query = select(func.count()).where(RunRow.state.in_(("waiting", "running")))
        return self._session.scalars(query).one() <= 1

    def prune(self, build_id: UUID, kept: int) -> None:
        """Let go of sizings of a build that have ended but for the ``kept`` newest."""
        newest = (
            select(RunRow.id)
            .where(RunRow.build_id == build_id)
            .order_by(RunRow.created_at.desc())
            .limit(kept)
        )
        old = delete(RunRow).where(
            RunRow.build_id == build_id, RunRow.state.not_in(OPEN), RunRow.id.not_in(newest)
        )
        self._session.execute(old)

    def _enqueue(self, run_id: UUID) -> None:
        # The queue library's own function, which its other writers call too.
        job = "ROW(:queue, :task, 0, NULL, NULL, CAST(:args AS jsonb), NULL)::procrastinate_job_to_defer_v1"
        args = {"queue": QUEUE, "task": TASK, "args": json.dumps({"run_id": str(run_id)})}
        self._session.execute(text(f"SELECT procrastinate_defer_jobs_v1(ARRAY[{job}])"), args)

    def get(self, run_id: UUID) -> Run:
        """One sizing.

        Raises
        ------
        UnknownRun
        """
        row = self._session.get(RunRow, run_id)
        if row is None:
            raise UnknownRun(run_id)
        return _run(row)

    def remove(self, run_id: UUID) -> None:
        """Let go of a sizing; one that is under way is stopped by that.

        Raises
        ------
        UnknownRun
        """
        row = self._session.get(RunRow, run_id)
        if row is None:
            raise UnknownRun(run_id)
        self._session.delete(row)

    def newest(self, build_id: UUID) -> Run | None:
        """The newest sizing of a build."""
        query = select(RunRow).where(RunRow.build_id == build_id).order_by(RunRow.created_at.desc()).limit(1)
        row = self._session.scalars(query).first()
        return None if row is None else _run(row)

    def begin(self, run_id: UUID) -> int | None:
        """Take a sizing up; the attempt, or None where there is nothing left to do."""
        change = (
            update(RunRow)
            .where(RunRow.id == run_id, RunRow.state.in_(OPEN))
            .values(state="running", attempt=RunRow.attempt + 1, progress=0.0)
            .returning(RunRow.attempt)
        )
        return self._session.scalar(change)

    def tell(self, run_id: UUID, attempt: int, progress: float) -> bool:
        """Note how far an attempt is; False where it is no longer wanted."""
        return self._write(run_id, attempt, progress=progress)

    def finish(self, run_id: UUID, attempt: int, result: dict[str, Any]) -> bool:
        """Keep the result of an attempt; False where it is no longer wanted."""
        return self._write(run_id, attempt, state="done", progress=1.0, result=result, finished_at=func.now())

    def fail(self, run_id: UUID, attempt: int, message: str) -> bool:
        """Say why an attempt came to nothing; False where it is no longer wanted."""
        return self._write(run_id, attempt, state="failed", message=message[:500], finished_at=func.now())

    def _write(self, run_id: UUID, attempt: int, **values: Any) -> bool:
        mine = (RunRow.id == run_id, RunRow.attempt == attempt, RunRow.state == "running")
        found = self._session.execute(update(RunRow).where(*mine).values(**values).returning(RunRow.id))
        return found.first() is not None

    def cancel(self, build_id: UUID, run_id: UUID | None = None) -> None:
        """Stop one sizing of a build, or all of them, wherever they are; those that have ended stay."""
        mine = [RunRow.build_id == build_id, RunRow.state.in_(OPEN)]
        if run_id is not None:
            mine.append(RunRow.id == run_id)
        self._session.execute(update(RunRow).where(*mine).values(state="cancelled", finished_at=func.now()))
