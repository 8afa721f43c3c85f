"""Recorded drives: taken in from files and found again."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from ebbrin.build.drive import Drive, RecordingRef
from ebbrin.features.drive import recording_csv as form
from ebbrin.features.drive.recording import Recording, ref_of
from ebbrin.features.drive.recording_csv import Refused
from ebbrin.features.drive.store import Recordings
from ebbrin.ground.store import Database


@dataclass(frozen=True)
class TakenIn:
    """What became of a file: the recording as a drive refers to it, or what was refused; columns left out."""

    recording: RecordingRef | None
    refused: list[Refused]
    ignored: list[str]


class RecordingService:
    """What page and drives do with recordings."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def take_in(self, text: str, name: str) -> TakenIn:
        """Keep a recording from CSV if all of it can be read."""
        read = form.read(text, name)
        if read.recording is None:
            return TakenIn(None, read.refused, read.ignored)
        with self._database.session() as session:
            recording_id = Recordings(session).add(read.recording.model_dump(mode="json", exclude_none=True))
        return TakenIn(ref_of(read.recording, recording_id), [], read.ignored)

    def of(self, drive: Drive) -> Recording | None:
        """The recording of a drive that has one.

        Raises
        ------
        UnknownRecording
        """
        if drive.recording is None:
            return None
        with self._database.session() as session:
            return Recording.model_validate(Recordings(session).get(drive.recording.id))

    def remove(self, recording_id: UUID) -> None:
        """Let go of a recording; drives that follow it say that it is not kept.

        Raises
        ------
        UnknownRecording
        """
        with self._database.session() as session:
            Recordings(session).remove(recording_id)
