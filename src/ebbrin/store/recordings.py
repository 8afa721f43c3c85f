"""Recorded drives: added once, never changed."""

from __future__ import annotations

from typing import Any
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from ebbrin.store.errors import UnknownRecording
from ebbrin.store.models import RecordingRow


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

    def get(self, recording_id: UUID) -> dict[str, Any]:
        """One recording.

        Raises
        ------
        UnknownRecording
        """
        row = self._session.get(RecordingRow, recording_id)
        if row is None:
            raise UnknownRecording(recording_id)
        return row.document
