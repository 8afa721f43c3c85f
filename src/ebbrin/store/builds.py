"""Builds and their revisions: one small repository over a session that is passed in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ebbrin.store.errors import RevisionTaken, UnknownBuild
from ebbrin.store.models import BuildRow, RevisionRow


@dataclass(frozen=True)
class Revision:
    """One stored document."""

    build_id: UUID
    number: int
    created_at: datetime
    name: str | None
    document: dict[str, Any]


def _revision(row: RevisionRow) -> Revision:
    return Revision(row.build_id, row.number, row.created_at, row.name, row.document)


class Builds:
    """The aggregate of a build and its revisions."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def add(self, document: dict[str, Any]) -> Revision:
        """A new build with its first revision."""
        build_id = uuid4()
        self._session.add(BuildRow(id=build_id))
        self._session.flush()
        return self._append(build_id, 1, document)

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

    def append(self, build_id: UUID, based_on: int, document: dict[str, Any]) -> Revision:
        """The next revision after ``based_on``.

        Raises
        ------
        UnknownBuild
        RevisionTaken
            If ``based_on`` is no longer the newest.
        """
        newest = self.latest(build_id)
        if newest.number != based_on:
            raise RevisionTaken(build_id, based_on + 1)
        return self._append(build_id, based_on + 1, document)

    def _append(self, build_id: UUID, number: int, document: dict[str, Any]) -> Revision:
        row = RevisionRow(build_id=build_id, number=number, document=document)
        self._session.add(row)
        try:
            self._session.flush()
        except IntegrityError as error:
            self._session.rollback()
            if "revisions_pkey" in str(error.orig):
                raise RevisionTaken(build_id, number) from error
            raise
        self._session.refresh(row)
        return _revision(row)

    def revisions(self, build_id: UUID) -> Sequence[Revision]:
        """All revisions of a build, the newest first.

        Raises
        ------
        UnknownBuild
        """
        query = select(RevisionRow).where(RevisionRow.build_id == build_id)
        rows = self._session.scalars(query.order_by(RevisionRow.number.desc())).all()
        if not rows:
            raise UnknownBuild(build_id)
        return [_revision(row) for row in rows]

    def name(self, build_id: UUID, number: int, name: str | None) -> Revision:
        """Give a revision a name, or take it away.

        Raises
        ------
        UnknownBuild
            If there is no such build or revision.
        """
        row = self._session.get(RevisionRow, (build_id, number))
        if row is None:
            raise UnknownBuild(build_id)
        row.name = name
        self._session.flush()
        return _revision(row)

    def all_latest(self) -> Sequence[Revision]:
        """The newest revision of every build, the one changed last first."""
        newest = (
            select(RevisionRow.build_id, func.max(RevisionRow.number).label("number"))
            .group_by(RevisionRow.build_id)
            .subquery()
        )
        query = select(RevisionRow).join(
            newest,
            (RevisionRow.build_id == newest.c.build_id) & (RevisionRow.number == newest.c.number),
        )
        return [
            _revision(row) for row in self._session.scalars(query.order_by(RevisionRow.created_at.desc()))
        ]

    def remove_all(self) -> None:
        """Empty the store, for setting the demo back."""
        self._session.query(RevisionRow).delete()
        self._session.query(BuildRow).delete()
