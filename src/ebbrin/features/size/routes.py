"""Sizings: asked for, looked at and stopped."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Request
from pydantic import BaseModel, Field, ValidationError

from ebbrin.features.size.answers import Sizing, SizingQuestion
from ebbrin.features.size.runs import RunService
from ebbrin.features.size.store import Run, State
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1")


def _service(request: Request) -> RunService:
    service: RunService = request.app.state.runs
    return service


Service = Annotated[RunService, Depends(_service)]


class SizingRun(BaseModel):
    """A sizing as it stands."""

    id: UUID
    build_id: UUID
    state: State
    progress: float = Field(description="Share that is done, 0 to 1.")
    attempt: int = Field(description="How often a worker has taken it up.")
    message: str | None = Field(description="Why it came to nothing.")
    created_at: datetime
    finished_at: datetime | None
    question: SizingQuestion
    result: Sizing | None = Field(description="Once it is done.")


EARLIER = "This was found by an earlier Ebbrin, with other numbers. Find parts again."


def _body(run: Run) -> SizingRun:
    try:
        return SizingRun.model_validate(vars(run))
    except ValidationError:
        # What was stored in an earlier form is kept in the database and shown as what it is.
        return SizingRun.model_validate(vars(run) | {"state": "failed", "message": EARLIER, "result": None})


@router.post("/builds/{build_id}/sizings", status_code=202, responses=possible(404, 413, 422, 503))
def start(build_id: UUID, question: SizingQuestion, service: Service) -> SizingRun:
    """Queue a sizing; one of the same build that is under way is stopped. One that takes under two seconds comes back done,
    where no other waits."""
    return _body(service.start(build_id, question))


@router.get("/builds/{build_id}/sizings/newest", responses=possible(422, 503))
def newest(build_id: UUID, service: Service) -> SizingRun | None:
    """The newest sizing of a build, or null."""
    run = service.newest(build_id)
    return None if run is None else _body(run)


@router.get("/sizings/{run_id}", responses=possible(404, 422, 503))
def find(run_id: UUID, service: Service) -> SizingRun:
    """A sizing as it stands."""
    return _body(service.find(run_id))


@router.post("/sizings/{run_id}/cancel", responses=possible(404, 422, 503))
def cancel(run_id: UUID, service: Service) -> SizingRun:
    """Stop a sizing; one that has ended stays as it is."""
    return _body(service.cancel(run_id))


@router.delete("/sizings/{run_id}", status_code=204, responses=possible(404, 422, 503))
def remove(run_id: UUID, service: Service) -> None:
    """Let go of a sizing and what it found; one that is under way is stopped."""
    service.remove(run_id)
