"""The routes under /api/v1."""

from __future__ import annotations

import asyncio
import re
import threading
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Depends, Header, Path, Query, Request, Response
from pydantic import ValidationError
from starlette.concurrency import run_in_threadpool
from starlette.exceptions import HTTPException

from ebbrin.api.problems import possible
from ebbrin.api.schemas import BuildSummary, Health, RevisionName, StoredBuild, stored_body, summary_body
from ebbrin.document.build import Build
from ebbrin.document.problems import problem
from ebbrin.document.result import Evaluation, Uncertainty
from ebbrin.service.builds import BuildService, Stored
from ebbrin.service.evaluate import evaluate
from ebbrin.service.levers import pull
from ebbrin.service.uncertainty import uncertainty
from ebbrin.store.database import Database

router = APIRouter(prefix="/api/v1")
LOOK_AGAIN = 0.05  # how often a long request looks whether its caller has gone, s
CLIENT_GONE = 499


def _service(request: Request) -> BuildService:
    service: BuildService = request.app.state.builds
    return service


Service = Annotated[BuildService, Depends(_service)]


def _answer(response: Response, stored: Stored) -> StoredBuild:
    response.headers["ETag"] = f'"{stored.revision}"'
    return stored_body(stored)


@router.get("/health", responses=possible(503))
def health(request: Request) -> Health:
    """Whether the server and its database answer."""
    database: Database = request.app.state.database
    answers = database.ping()
    if not answers:
        raise HTTPException(503, "The database does not answer.")
    return Health(status="ok", database=answers)


@router.get("/schema/build")
def build_schema() -> dict[str, Any]:
    """JSON Schema of the build document."""
    return Build.model_json_schema()


@router.get("/builds", responses=possible(503))
def list_builds(service: Service) -> list[BuildSummary]:
    """All builds, the one changed last first, each with its worst case. Many that were never looked at are judged
    over several requests: those that are left say so."""
    return [summary_body(summary) for summary in service.summaries()]


@router.post("/builds", status_code=201, responses=possible(413, 422, 503))
def create_build(build: Build, service: Service, response: Response) -> StoredBuild:
    """Store a new build."""
    stored = service.create(build)
    response.headers["Location"] = f"/api/v1/builds/{stored.id}"
    return _answer(response, stored)


@router.get("/builds/{build_id}", responses=possible(404, 422, 503))
def open_build(build_id: UUID, service: Service, response: Response) -> StoredBuild:
    """The newest revision of a build; its ETag is what a save is based on."""
    return _answer(response, service.open(build_id))


@router.put("/builds/{build_id}", responses=possible(400, 404, 412, 413, 422, 428, 503))
def save_build(
    build_id: UUID,
    build: Build,
    service: Service,
    response: Response,
    if_match: Annotated[str | None, Header(description="ETag of the revision that was edited.")] = None,
) -> StoredBuild:
    """Add a revision. 412 with both versions if somebody saved in between; 428 without If-Match."""
    if if_match is None:
        raise HTTPException(428, "Send If-Match with the ETag of the revision that was edited.")
    number = re.fullmatch(r'"([1-9][0-9]{0,8})"', if_match.strip())
    if number is None:
        raise HTTPException(400, 'If-Match must be one ETag such as "3".')
    return _answer(response, service.save(build_id, int(number[1]), build))


@router.get("/builds/{build_id}/revisions", responses=possible(404, 422, 503))
def list_revisions(build_id: UUID, service: Service) -> list[StoredBuild]:
    """All revisions of a build, the newest first."""
    return [stored_body(stored) for stored in service.revisions(build_id)]


@router.put("/builds/{build_id}/revisions/{number}/name", responses=possible(404, 413, 422, 503))
def name_revision(
    build_id: UUID,
    number: Annotated[int, Path(ge=1, le=999_999_999)],
    name: RevisionName,
    service: Service,
) -> StoredBuild:
    """Call a revision something, such as "before the pass"; the document itself never changes."""
    return stored_body(service.name_revision(build_id, number, name.name))


@router.post("/evaluate", responses=possible(404, 413, 422))
def evaluate_build(
    build: Build,
    variant: Annotated[str | None, Query(description="Id; the first if left out.")] = None,
    levers: Annotated[bool, Query(description="Also what each single change would buy.")] = True,
) -> Evaluation:
    """Judge one variant over all cases. Stores nothing."""
    try:
        return evaluate(build, variant, levers)
    except KeyError as error:
        raise HTTPException(404, f"The build has no variant {variant}.") from error


@router.post("/levers/{lever}", responses=possible(404, 413, 422))
def pull_lever(
    lever: str, build: Build, variant: Annotated[str, Query(description="Id of the variant to start from.")]
) -> Build:
    """The build with one more variant, in which one thing has been changed. Stores nothing."""
    try:
        return pull(build, variant, lever)
    except KeyError as error:
        raise HTTPException(404, f"There is no variant {variant} or no lever {lever}.") from error
    except ValidationError as error:
        problems = [problem(dict(e)) for e in error.errors()]
        detail = " ".join(entry.message for entry in problems)
        raise HTTPException(422, f"This change would leave what a build may hold. {detail}") from error


@router.post("/uncertainty", responses=possible(404, 413, 422))
async def chances_of_build(
    build: Build,
    request: Request,
    variant: Annotated[str | None, Query(description="Id; the first if left out.")] = None,
) -> Uncertainty:
    """How sure the verdict on one variant is, by sampling what is guessed or scatters. Stores nothing. Takes
    up to a second; hanging up stops it."""
    gone = threading.Event()
    work = asyncio.create_task(
        run_in_threadpool(uncertainty, build, variant, proceed=lambda _share: not gone.is_set())
    )
    while not (await asyncio.wait({work}, timeout=LOOK_AGAIN))[0]:
        if await request.is_disconnected():
            gone.set()
    try:
        found = await work
    except KeyError as error:
        raise HTTPException(404, f"The build has no variant {variant}.") from error
    if found is None:
        raise HTTPException(CLIENT_GONE, "Nobody waits for the answer.")
    return found
