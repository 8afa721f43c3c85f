"""Whether Ebbrin can work: it answers within two seconds, whatever the database does."""

from __future__ import annotations

import asyncio
import json
from contextlib import suppress
from datetime import datetime
from pathlib import Path

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field, ValidationError
from starlette.concurrency import run_in_threadpool

from ebbrin.ground.store import Database
from ebbrin.ground.version import version

router = APIRouter(prefix="/api/v1")
PATIENCE = 1.5  # how long the database is waited for, s


class Backups(BaseModel):
    """Copies of the whole database that are made by themselves, one a day."""

    made_at: datetime | None = Field(description="When the newest was made; null where there is none.")
    kept: int = Field(description="How many there are.")


class Health(BaseModel):
    """Whether Ebbrin can work."""

    status: str = Field(description="“ok”, or what is wrong, in words.")
    database: bool
    instance: str = Field(description="Name of this start of the server; no other has it.")
    version: str
    backups: Backups | None = Field(description="Null where Ebbrin does not look after the database itself.")


class Pulse:
    """Asks the database, one question at a time."""

    def __init__(self, database: Database, instance: str, told: Path | None) -> None:
        self._database, self._instance, self._told = database, instance, told
        self._asked: asyncio.Task[bool] | None = None

    async def take(self) -> Health:
        """How things stand."""
        if self._asked is None or self._asked.done():
            self._asked = asyncio.create_task(run_in_threadpool(self._database.ping))
        done, _ = await asyncio.wait({self._asked}, timeout=PATIENCE)
        answers = bool(done) and self._asked.result()
        return Health(
            status="ok" if answers else "The database does not answer.",
            database=answers,
            instance=self._instance,
            version=version(),
            backups=self._backups(),
        )

    def _backups(self) -> Backups | None:
        if self._told is not None:
            with suppress(OSError, ValueError, ValidationError):
                return Backups.model_validate(json.loads(self._told.read_text()))
        return None


@router.get("/health", responses={503: {"model": Health, "description": "The database does not answer."}})
async def health(request: Request, response: Response) -> Health:
    """Whether the server and its database answer; 503 where the database does not."""
    pulse: Pulse = request.app.state.pulse
    found = await pulse.take()
    response.status_code = 200 if found.database else 503
    return found
