"""Drives over time, and the recordings that they may follow."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Request
from pydantic import BaseModel, Field
from starlette.responses import PlainTextResponse

from ebbrin.build.drive import RecordingRef
from ebbrin.build.part import Name
from ebbrin.build.resolve import UnknownVariant
from ebbrin.features.drive.answers import DriveCourse, DriveQuestion, FaultOutcome
from ebbrin.features.drive.recording import Recording
from ebbrin.features.drive.recordings import RecordingService
from ebbrin.features.drive.service import as_csv, drive, driven, each_fault
from ebbrin.ground.files import RefusedRow, text_body
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1")


def _service(request: Request) -> RecordingService:
    service: RecordingService = request.app.state.recordings
    return service


Service = Annotated[RecordingService, Depends(_service)]


class RecordingImport(BaseModel):
    """What became of a file."""

    recording: RecordingRef | None = Field(description="As a drive refers to it; null where it was refused.")
    refused: list[RefusedRow]
    ignored: list[str] = Field(description="Columns that are not read.")


def _recorded(question: DriveQuestion, service: RecordingService) -> Recording | None:
    """The recording that a drive follows, once the variant is known to be there."""
    if all(variant.id != question.variant for variant in question.build.variants):
        raise UnknownVariant(question.variant)
    return service.of(question.drive)


@router.post("/drive", responses=possible(404, 413, 422, 503))
async def drive_build(question: DriveQuestion, request: Request, service: Service) -> DriveCourse:
    """A drive over time, with whatever breaks on the way."""
    return await lanes(request).drives.run(request, lambda: drive(question, _recorded(question, service)))


@router.post("/drive/faults", responses=possible(404, 413, 422, 503))
async def drive_each_fault(question: DriveQuestion, request: Request, service: Service) -> list[FaultOutcome]:
    """The same drive with every single fault on top, the hottest first."""
    return await lanes(request).faults.run(
        request, lambda: each_fault(question, _recorded(question, service))
    )


@router.post("/drive/csv", responses=possible(404, 413, 422, 503), response_class=PlainTextResponse)
async def drive_csv(question: DriveQuestion, request: Request, service: Service) -> str:
    """Every step of a drive as CSV, units in the header."""
    return await lanes(request).drives.run(
        request, lambda: as_csv(driven(question, _recorded(question, service)))
    )


@router.post(
    "/recordings",
    responses=possible(413, 415, 422, 503),
    openapi_extra={
        "requestBody": {"content": {"text/csv": {"schema": {"type": "string"}}}, "required": True}
    },
)
async def import_recording(
    request: Request,
    service: Service,
    name: Annotated[Name, Query(description="What it is called.")],
) -> RecordingImport:
    """Keep a recorded drive, if every row of it can be read."""
    text = await text_body(request, "text/csv")
    taken = await lanes(request).files.run(request, service.take_in, text, name)
    return RecordingImport.model_validate(asdict(taken) | {"recording": taken.recording})


@router.delete("/recordings/{recording_id}", status_code=204, responses=possible(404, 422, 503))
def remove_recording(recording_id: UUID, service: Service) -> None:
    """Let go of a recording; drives that follow it say that it is not kept."""
    service.remove(recording_id)
