"""The routes of builds and their revisions."""

from __future__ import annotations

import re
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Depends, Header, Path, Query, Request, Response
from starlette.exceptions import HTTPException

from ebbrin.build.build import Build
from ebbrin.features.workshop.bodies import (
    Archived,
    BuildSummary,
    RevisionHeading,
    RevisionName,
    StoredBuild,
    WorkshopSettings,
    heading_body,
    stored_body,
    summary_body,
)
from ebbrin.features.workshop.service import BuildService, Stored
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1")


def _service(request: Request) -> BuildService:
    service: BuildService = request.app.state.builds
    return service


Service = Annotated[BuildService, Depends(_service)]
Number = Annotated[int, Path(ge=1, le=999_999_999)]
SaveId = Annotated[
    UUID | None,
    Header(
        alias="Idempotency-Key",
        description="Made by who saves: the same save sent twice is stored once, and answered the same.",
    ),
]


def _answer(response: Response, stored: Stored) -> StoredBuild:
    response.headers["ETag"] = f'"{stored.revision}"'
    return stored_body(stored)


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
def create_build(build: Build, service: Service, response: Response, save_id: SaveId = None) -> StoredBuild:
    """Store a new build."""
    stored = service.create(build, save_id)
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
    save_id: SaveId = None,
) -> StoredBuild:
    """Add a revision. 412 with both versions if somebody saved in between; 428 without If-Match."""
    if if_match is None:
        raise HTTPException(428, "Send If-Match with the ETag of the revision that was edited.")
    number = re.fullmatch(r'"([1-9][0-9]{0,8})"', if_match.strip())
    if number is None:
        raise HTTPException(400, 'If-Match must be one ETag such as "3".')
    return _answer(response, service.save(build_id, int(number[1]), build, save_id))


@router.get("/builds/{build_id}/revisions", responses=possible(404, 422, 503))
def list_revisions(
    build_id: UUID,
    service: Service,
    before: Annotated[int | None, Query(ge=1, le=999_999_999, description="Only those below it.")] = None,
) -> list[RevisionHeading]:
    """Revisions of a build without their documents, the newest first, some 50 at a time."""
    return [heading_body(heading) for heading in service.revisions(build_id, before)]


@router.get("/builds/{build_id}/revisions/{number}", responses=possible(404, 422, 503))
def open_revision(build_id: UUID, number: Number, service: Service) -> StoredBuild:
    """One revision of a build, whole."""
    return stored_body(service.open_revision(build_id, number))


@router.put("/builds/{build_id}/archived", responses=possible(404, 413, 422, 503))
def archive_build(build_id: UUID, archived: Archived, service: Service) -> Archived:
    """Put a build away, or bring it back. It stays as it is, with all its revisions."""
    service.archive(build_id, archived.archived)
    return archived


@router.post("/builds/{build_id}/copy", status_code=201, responses=possible(404, 422, 503))
def copy_build(build_id: UUID, service: Service, response: Response, save_id: SaveId = None) -> StoredBuild:
    """A new build with the newest document of this one."""
    stored = service.copy(build_id, save_id)
    response.headers["Location"] = f"/api/v1/builds/{stored.id}"
    return _answer(response, stored)


@router.get("/settings", responses=possible(503))
def workshop_settings(service: Service) -> WorkshopSettings:
    """What holds for all builds of this workshop."""
    return WorkshopSettings(currency=service.settings().get("currency", ""))


@router.put("/settings", responses=possible(413, 422, 503))
def set_workshop(settings: WorkshopSettings, service: Service) -> WorkshopSettings:
    """Set it."""
    service.set("currency", settings.currency.strip())
    return workshop_settings(service)


@router.get("/builds/{build_id}/document", responses=possible(404, 422, 503))
def stored_document(build_id: UUID, service: Service) -> dict[str, Any]:
    """The newest document as it is stored, also where it cannot be read as a build any more."""
    return service.document(build_id)


@router.put("/builds/{build_id}/revisions/{number}/name", responses=possible(404, 413, 422, 503))
def name_revision(
    build_id: UUID,
    number: Number,
    name: RevisionName,
    service: Service,
) -> RevisionHeading:
    """Call a revision something, such as "before the pass"; the document itself never changes."""
    return heading_body(service.name_revision(build_id, number, name.name))
