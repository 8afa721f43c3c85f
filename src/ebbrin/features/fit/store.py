"""The tables of jobs, of what was done in them, and of photos."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from sqlalchemy import DateTime, ForeignKey, LargeBinary, func, select
from sqlalchemy.dialects.postgresql import UUID as PG_UUID
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.features.workshop import UnknownBuild
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.journal import EntryColumns, IdTaken, JournalColumns, JournalStore, UnknownJournal
from ebbrin.ground.store import Base

MOST_PHOTOS = 500
"""Photos of one build."""


class UnknownJob(UnknownJournal):
    """There is no such job."""

    kind, title, what = "unknown-job", "No such job", "job"


class UnknownPhoto(EbbrinError):
    """There is no such photo."""

    status, kind, title = 404, "unknown-photo", "No such photo"

    def __init__(self, photo_id: UUID) -> None:
        super().__init__(f"There is no photo {photo_id}; it may not have been sent yet.")


class PhotosFull(EbbrinError):
    """More photos than a build can hold."""

    status, kind, title = 422, "photos-full", "This build has too many photos"

    def __init__(self) -> None:
        super().__init__(f"A build holds {MOST_PHOTOS} photos; this one was not kept.")


class JobRow(JournalColumns, Base):
    """A job at the car of one build."""

    __tablename__ = "jobs"


class JobEntryRow(EntryColumns, Base):
    """One thing that was done, read or noted in a job."""

    __tablename__ = "job_entries"

    job_id: Mapped[UUID] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), index=True)


class JobStore(JournalStore[JobRow, JobEntryRow]):
    """The aggregate of jobs."""

    rows, entry_rows, of, called, unknown = JobRow, JobEntryRow, "job_id", "job", UnknownJob


class PhotoRow(Base):
    """A photo, as it was made small and clean. It stands in the database and not in a folder: so it is in every backup,
    of the same moment as the entry that shows it, and cannot be lost alone."""

    __tablename__ = "photos"

    id: Mapped[UUID] = mapped_column(PG_UUID(as_uuid=True), primary_key=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("builds.id", ondelete="CASCADE"), index=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    picture: Mapped[bytes] = mapped_column(LargeBinary)


class PhotoStore:
    """Photos of builds."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, photo_id: UUID, build_id: UUID, picture: bytes) -> None:
        """Keep a photo; one that is there already is left as it is.

        Raises
        ------
        UnknownBuild, IdTaken, PhotosFull
        """
        values = {"id": photo_id, "build_id": build_id, "picture": picture}
        try:
            self._session.execute(insert(PhotoRow).values(values).on_conflict_do_nothing())
        except IntegrityError as error:
            self._session.rollback()
            raise UnknownBuild(build_id) from error
        owner = self._session.scalar(select(PhotoRow.build_id).where(PhotoRow.id == photo_id))
        if owner != build_id:
            raise IdTaken("build's photo", photo_id)
        count = self._session.scalar(
            select(func.count()).select_from(PhotoRow).where(PhotoRow.build_id == build_id)
        )
        if (count or 0) > MOST_PHOTOS:
            raise PhotosFull

    def get(self, photo_id: UUID) -> bytes:
        """One photo, a JPEG.

        Raises
        ------
        UnknownPhoto
        """
        picture = self._session.scalar(select(PhotoRow.picture).where(PhotoRow.id == photo_id))
        if picture is None:
            raise UnknownPhoto(photo_id)
        return picture
