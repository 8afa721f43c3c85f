"""The routes of fitting, filling and proving, and of the jobs that are kept."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Request
from pydantic import Field
from starlette.responses import PlainTextResponse, Response, StreamingResponse

from ebbrin.build.build import Build
from ebbrin.build.part import Identifier, Part, Words
from ebbrin.features.fit.filling import Filling, FillQuestion, filling
from ebbrin.features.fit.jobs import Entries, JobBody, Jobs, NewJob
from ebbrin.features.fit.mixing import Mix, MixQuestion, mix
from ebbrin.features.fit.parts import PartsList, parts_list
from ebbrin.features.fit.parts_csv import Noted, as_csv
from ebbrin.features.fit.plan import Plan, planned
from ebbrin.features.fit.proving import (
    CapQuestion,
    CapResult,
    GaugeQuestion,
    HoldQuestion,
    HoldResult,
    SimulatedReading,
    cap,
    gauge,
    hold,
)
from ebbrin.features.fit.refractometer import Refractometer, RefractometerQuestion, refractometer
from ebbrin.features.fit.situation import School
from ebbrin.features.fit.ten_years import TenYears, YearsQuestion, ten_years
from ebbrin.features.fit.waterless import WaterLeft, WaterQuestion, water_left
from ebbrin.features.shelf import ShelfPart, ShelfService
from ebbrin.ground.errors import Busy
from ebbrin.ground.kept import KeptRoute
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1")
questions = APIRouter(prefix="/api/v1/fit", route_class=KeptRoute)
"""What is answered from the question alone."""
MOST_WATCHERS = 60
MOST_NOTED = 400
STILL_THERE = 15.0  # s between signs of life on a stream
STREAM_ENDS = 600.0  # s; the browser opens a new one by itself


class FitQuestion(Part):
    """A job: to which variant, by which school. What stands in the car is said by the build."""

    build: Build
    variant: Identifier
    school: School = Field(default="usual")


class PartsFileQuestion(FitQuestion):
    """A job whose list becomes a file, with what was noted of its lines in the shop."""

    noted: dict[Annotated[str, Field(max_length=40)], Noted] = Field(
        default={}, max_length=MOST_NOTED, title="Noted", description="By the lines' ids."
    )


def _jobs(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


def _shelf(request: Request) -> ShelfService:
    shelf: ShelfService = request.app.state.shelf
    return shelf


KeptJobs = Annotated[Jobs, Depends(_jobs)]
Shelf = Annotated[ShelfService, Depends(_shelf)]


@questions.post("/plan", responses=possible(404, 413, 422, 503))
async def work_plan(question: FitQuestion, request: Request) -> Plan:
    """The work plan from the variant that stands in the car to the chosen one. Stores nothing."""
    return await lanes(request).answers.run(
        request, planned, question.build, question.variant, question.school
    )


def _listed(question: FitQuestion, shelf: ShelfService) -> PartsList:
    given, own = shelf.parts()
    parts: list[ShelfPart] = [*own, *given]
    return parts_list(question.build, question.variant, question.school, parts)


@router.post("/fit/parts", responses=possible(404, 413, 422, 503))
async def parts(question: FitQuestion, request: Request, shelf: Shelf) -> PartsList:
    """Parts and materials of a job, with prices of the shelf."""
    return await lanes(request).answers.run(request, _listed, question, shelf)


@router.post("/fit/parts/csv", responses=possible(404, 413, 422, 503), response_class=PlainTextResponse)
async def parts_csv(
    question: PartsFileQuestion,
    request: Request,
    shelf: Shelf,
    currency: Annotated[Words, Query(max_length=8)] = "",
) -> str:
    """The same as CSV, with what was noted."""
    return await lanes(request).answers.run(
        request, lambda: as_csv(_listed(question, shelf), currency, question.noted)
    )


@questions.post("/mix", responses=possible(413, 422, 503))
def what_to_pour(question: MixQuestion) -> Mix:
    """What to pour for a wanted strength; an impossible wish is answered with what is possible."""
    return mix(question)


@questions.post("/water-left", responses=possible(413, 422, 503))
def water_in_waterless(question: WaterQuestion) -> WaterLeft:
    """Water that stays where a waterless coolant goes in."""
    return water_left(question)


@questions.post("/refractometer", responses=possible(413, 422, 503))
def read_refractometer(question: RefractometerQuestion) -> Refractometer:
    """Freezing point and strength, both ways, with the instrument's error."""
    return refractometer(question)


@questions.post("/filling", responses=possible(404, 413, 422, 503))
async def what_to_expect(question: FillQuestion, request: Request) -> Filling:
    """What the first runs of a build should look like, by its own drives, and which way of filling works."""
    return await lanes(request).drives.run(request, filling, question)


@questions.post("/hold", responses=possible(404, 413, 422, 503))
async def pressure_hold(question: HoldQuestion, request: Request) -> HoldResult:
    """What the readings of a pressure hold say."""
    return await lanes(request).answers.run(request, hold, question)


@questions.post("/gauge", responses=possible(404, 413, 422, 503))
async def simulated_gauge(question: GaugeQuestion, request: Request) -> list[SimulatedReading]:
    """What the simulated gauge shows over a hold: a stand-in for a real one."""
    return await lanes(request).answers.run(request, gauge, question)


@questions.post("/ten-years", responses=possible(413, 422, 503))
def ten_years_of_coolant(question: YearsQuestion) -> list[TenYears]:
    """What each way of keeping a system filled comes to in ten years."""
    return ten_years(question)


@questions.post("/cap", responses=possible(413, 422, 503))
def cap_tester(question: CapQuestion) -> CapResult:
    """What a cap tester says."""
    return cap(question)


@router.get("/builds/{build_id}/jobs", responses=possible(422, 503))
def list_jobs(build_id: UUID, jobs: KeptJobs) -> list[JobBody]:
    """The jobs of a build, the newest first."""
    return jobs.listed(build_id)


@router.post("/builds/{build_id}/jobs", status_code=201, responses=possible(404, 409, 413, 422, 503))
def begin_job(build_id: UUID, job: NewJob, jobs: KeptJobs) -> JobBody:
    """Begin a job of a build; the same id again is the same job."""
    return jobs.begin(job, build_id)


@router.get(
    "/builds/{build_id}/jobs/news",
    responses={200: {"content": {"text/event-stream": {}}}, **possible(422, 503)},
    response_class=StreamingResponse,
)
async def watch_jobs(build_id: UUID, jobs: KeptJobs) -> StreamingResponse:
    """Server-sent events: one whenever something was added to a job of this build."""
    if jobs.bell.watchers >= MOST_WATCHERS:
        raise Busy(30)
    queue = jobs.bell.watch(build_id)

    async def stream() -> AsyncIterator[str]:
        loop = asyncio.get_running_loop()
        ends = loop.time() + STREAM_ENDS
        try:
            yield "retry: 2000\nevent: here\ndata: 0\n\n"
            while loop.time() < ends:
                try:
                    number = await asyncio.wait_for(queue.get(), STILL_THERE)
                except TimeoutError:
                    yield ": still there\n\n"
                    continue
                yield f"event: added\ndata: {number}\n\n"
        finally:
            jobs.bell.leave(build_id, queue)

    return StreamingResponse(stream(), media_type="text/event-stream")


@router.post("/jobs/{job_id}/entries", responses=possible(404, 409, 413, 422, 503))
def add_entries(job_id: UUID, added: Entries, jobs: KeptJobs) -> JobBody:
    """Add what was done; an entry that is there already is left as it is."""
    return jobs.add(job_id, added.entries)


@router.put(
    "/builds/{build_id}/photos/{photo_id}",
    status_code=204,
    responses=possible(404, 409, 413, 422, 503),
    openapi_extra={
        "requestBody": {
            "content": {"image/jpeg": {"schema": {"type": "string", "format": "binary"}}},
            "required": True,
        }
    },
)
async def keep_photo(build_id: UUID, photo_id: UUID, request: Request, jobs: KeptJobs) -> Response:
    """Keep a photo: JPEG, PNG or WebP. It is made small, and stripped of place and serial numbers."""
    raw = await request.body()
    await lanes(request).files.run(request, jobs.keep_photo, photo_id, build_id, raw)
    return Response(status_code=204)


@router.get(
    "/photos/{photo_id}",
    responses={200: {"content": {"image/jpeg": {}}}, **possible(404, 422, 503)},
    response_class=Response,
)
def show_photo(photo_id: UUID, jobs: KeptJobs) -> Response:
    """A photo."""
    # It never changes under its id.
    headers = {"Cache-Control": "private, max-age=31536000, immutable"}
    return Response(jobs.photo(photo_id), media_type="image/jpeg", headers=headers)
