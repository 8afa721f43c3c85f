"""Recorded drives: added once, never changed, until they are let go."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    DateTime,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.store import Base


class UnknownRecording(EbbrinError):
    """There is no such recording."""

    status, kind, title = 404, "unknown-recording", "No such recording"

    def __init__(self) -> None:
        super().__init__("The recording of this drive is not kept on this machine. Read its file in again.")


class RecordingRow(Base):
    """One recorded drive."""

    __tablename__ = "recordings"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)


class Recordings:
    """The aggregate of recordings."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, document: dict[str, Any]) -> UUID:
        """A new recording; its id."""
        recording_id = uuid4()
        self._session.add(RecordingRow(id=recording_id, document=document))
        self._session.flush()
        return recording_id

    def remove(self, recording_id: UUID) -> None:
        """Let go of a recording.

        Raises
        ------
        UnknownRecording
        """
        row = self._session.get(RecordingRow, recording_id)
        if row is None:
            raise UnknownRecording
        self._session.delete(row)

    def get(self, recording_id: UUID) -> dict[str, Any]:
        """One recording.

        Raises
        ------
        UnknownRecording
        """
        row = self._session.get(RecordingRow, recording_id)
        if row is None:
            raise UnknownRecording
        return row.document
