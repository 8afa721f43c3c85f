"""The workshop's own shelf: every version of every part stays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import (
    Boolean,
    DateTime,
    Integer,
    PrimaryKeyConstraint,
    String,
    false,
    func,
    select,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB, distinct_on
from sqlalchemy.orm import Mapped, Session, mapped_column

from ebbrin.ground.store import Base


class ShelfRow(Base):
    """One version of a part. The newest one says whether the part still stands on the shelf."""

    __tablename__ = "shelf_parts"
    __table_args__ = (PrimaryKeyConstraint("id", "version", name="shelf_parts_pkey"),)

    id: Mapped[str] = mapped_column(String(64))
    version: Mapped[int] = mapped_column(Integer)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    removed: Mapped[bool] = mapped_column(Boolean, server_default=false())
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)


@dataclass(frozen=True)
class OwnPart:
    """The newest version of a part."""

    id: str
    version: int
    removed: bool
    document: dict[str, Any]


class Shelf:
    """The aggregate of own parts."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def lock(self) -> None:
        """Let one import at a time work out the next versions; held to the end of the transaction."""
        self._session.execute(text("LOCK TABLE shelf_parts IN SHARE ROW EXCLUSIVE MODE"))

    def newest(self) -> Sequence[OwnPart]:
        """The newest version of every part, removed ones too, by id."""
        query = select(ShelfRow).ext(distinct_on(ShelfRow.id)).order_by(ShelfRow.id, ShelfRow.version.desc())
        return [OwnPart(r.id, r.version, r.removed, r.document) for r in self._session.scalars(query)]

    def add(self, part_id: str, version: int, document: dict[str, Any]) -> None:
        """One more version of a part."""
        self._session.add(ShelfRow(id=part_id, version=version, document=document))

    def set_removed(self, part_id: str, removed: bool) -> bool:
        """Take the newest version off the shelf or put it back; False if there is no such part."""
        query = select(ShelfRow).where(ShelfRow.id == part_id).order_by(ShelfRow.version.desc()).limit(1)
        row = self._session.scalars(query).first()
        if row is None:
            return False
        row.removed = removed
        return True
