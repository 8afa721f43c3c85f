"""Cases and what was found in them: written once, never changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, String, func, select
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.features.workshop import UnknownBuild
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.store import Base

MOST_FINDINGS = 1000
"""Findings of one case."""


class UnknownCase(EbbrinError):
    """There is no such case."""

    status, kind, title = 404, "unknown-case", "No such case"

    def __init__(self, case_id: UUID) -> None:
        super().__init__(f"There is no case {case_id}.")


class CaseElsewhere(EbbrinError):
    """An id that is that of another build's case, or a finding's that is another case's."""

    status, kind, title = 409, "id-taken", "This id is taken"

    def __init__(self, what: str, taken: UUID) -> None:
        super().__init__(f"The id {taken} is that of another {what}. Make a new one and send it again.")


class CaseFull(EbbrinError):
    """More findings than a case can hold."""

    status, kind, title = 422, "case-full", "This case is full"

    def __init__(self) -> None:
        super().__init__(f"A case holds {MOST_FINDINGS} findings. Begin a new one; nothing was lost.")


class CaseRow(Base):
    """A case of one build, or of any car."""

    __tablename__ = "cases"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    build_id: Mapped[UUID | None] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class FindingRow(Base):
    """One thing that was found or done in a case, in the order of arrival."""

    __tablename__ = "findings"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    case_id: Mapped[UUID] = mapped_column(ForeignKey("cases.id", ondelete="CASCADE"), index=True)
    number: Mapped[int] = mapped_column(BigInteger, Identity())
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    kind: Mapped[str] = mapped_column(String(16))
    what: Mapped[dict[str, Any]] = mapped_column(JSONB)


@dataclass(frozen=True)
class StoredFinding:
    """One finding: its id, when it was made, by the clock of who made it, and what it is."""

    id: UUID
    at: datetime
    kind: str
    what: dict[str, Any]


@dataclass(frozen=True)
class StoredCase:
    """A case with its findings, the first one first."""

    id: UUID
    build_id: UUID | None
    created_at: datetime
    findings: tuple[StoredFinding, ...]


class CaseStore:
    """The aggregate of cases."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def begin(self, case_id: UUID, build_id: UUID | None) -> StoredCase:
        """A new case; the same one begun twice is begun once.

        Raises
        ------
        UnknownBuild, CaseElsewhere
        """
        try:
            self._session.execute(
                insert(CaseRow).values(id=case_id, build_id=build_id).on_conflict_do_nothing()
            )
        except IntegrityError as error:
            if build_id is None:
                raise
            self._session.rollback()
            raise UnknownBuild(build_id) from error
        found = self.get(case_id)
        if found.build_id != build_id:
            raise CaseElsewhere("car's case", case_id)
        return found

    def get(self, case_id: UUID) -> StoredCase:
        """One case.

        Raises
        ------
        UnknownCase
        """
        row = self._session.get(CaseRow, case_id)
        if row is None:
            raise UnknownCase(case_id)
        return self._with_findings([row])[0]

    def of_build(self, build_id: UUID | None, most: int) -> list[StoredCase]:
        """The cases of a build, or those of any car, the newest first."""
        of = CaseRow.build_id.is_(None) if build_id is None else CaseRow.build_id == build_id
        query = select(CaseRow).where(of).order_by(CaseRow.created_at.desc(), CaseRow.id).limit(most)
        return self._with_findings(list(self._session.scalars(query)))

    def add(self, case_id: UUID, findings: Sequence[StoredFinding]) -> StoredCase:
        """Add findings; one that is there already is left as it is.

        Raises
        ------
        UnknownCase, CaseElsewhere, CaseFull
        """
        if self._session.get(CaseRow, case_id, with_for_update={"key_share": True}) is None:
            raise UnknownCase(case_id)
        for finding in findings:
            self._session.execute(
                insert(FindingRow)
                .values(id=finding.id, case_id=case_id, at=finding.at, kind=finding.kind, what=finding.what)
                .on_conflict_do_nothing()
            )
        ids = [finding.id for finding in findings]
        strange = select(FindingRow.id).where(FindingRow.id.in_(ids), FindingRow.case_id != case_id).limit(1)
        taken = self._session.scalars(strange).first()
        if taken is not None:
            raise CaseElsewhere("case's finding", taken)
        count = self._session.scalar(
            select(func.count()).select_from(FindingRow).where(FindingRow.case_id == case_id)
        )
        if (count or 0) > MOST_FINDINGS:
            raise CaseFull
        return self.get(case_id)

    def _with_findings(self, rows: list[CaseRow]) -> list[StoredCase]:
        query = (
            select(FindingRow)
            .where(FindingRow.case_id.in_([row.id for row in rows]))
            .order_by(FindingRow.number)
        )
        of: dict[UUID, list[StoredFinding]] = {row.id: [] for row in rows}
        for found in self._session.scalars(query):
            of[found.case_id].append(StoredFinding(found.id, found.at, found.kind, found.what))
        return [StoredCase(row.id, row.build_id, row.created_at, tuple(of[row.id])) for row in rows]
