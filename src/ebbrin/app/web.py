"""The application: routes, errors, guard and page put together."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

from ebbrin.app import page, problems, pulse
from ebbrin.app.guard import Guard
from ebbrin.app.pulse import Pulse
from ebbrin.features.cause import routes as cause
from ebbrin.features.cause.cases import Cases
from ebbrin.features.cause.service import CauseService
from ebbrin.features.cause.trainer import Trainer
from ebbrin.features.curves import routes as curves
from ebbrin.features.drive import routes as drive
from ebbrin.features.drive.recordings import RecordingService
from ebbrin.features.fit import routes as fit
from ebbrin.features.fit.jobs import Jobs
from ebbrin.features.judge import routes as judge
from ebbrin.features.levers import routes as levers
from ebbrin.features.shelf import routes as shelf
from ebbrin.features.shelf.service import ShelfService
from ebbrin.features.size import routes as size
from ebbrin.features.size.runs import RunService
from ebbrin.features.workshop import routes as workshop
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.kept import Kept
from ebbrin.ground.lanes import Lanes
from ebbrin.ground.store import Database

ROUTERS = (
    *(place.router for place in (pulse, workshop, judge, levers, curves, shelf, size, drive, cause)),
    fit.questions,
    fit.router,
)


@asynccontextmanager
async def _until_closed(app: FastAPI) -> AsyncIterator[None]:
    yield
    app.state.causes.close()
    app.state.database.close()


def put_on(app: FastAPI, database_url: str, instance: str = "", told: Path | None = None) -> None:
    """Give an application a database, and services that know nothing yet; parameters as of ``create_app``."""
    state, database, causes = app.state, Database(database_url), CauseService()
    state.database = database
    state.lanes = Lanes()
    state.kept = Kept()
    state.pulse = Pulse(database, instance, told)
    state.builds = BuildService(database)
    state.shelf = ShelfService(database)
    state.runs = RunService(database)
    state.recordings = RecordingService(database)
    state.causes = causes
    state.trainer = Trainer(causes)
    state.cases = Cases(database)
    state.jobs = Jobs(database)


def create_app(
    database_url: str, page_folder: Path | None = None, instance: str = "", told: Path | None = None
) -> FastAPI:
    """The application on a migrated database, with the built page if ``page_folder`` is given.

    Parameters
    ----------
    instance : name of this very process's start, which health says.
    told : file in which the keeper says how old the newest backup is.
    """
    app = FastAPI(
        title="Ebbrin",
        version="1",
        description="Sizes the cooling system of a modified or swapped engine.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
        lifespan=_until_closed,
    )
    put_on(app, database_url, instance, told)
    problems.install(app)
    for router in ROUTERS:
        app.include_router(router)
    page.install_unknown(app, ROUTERS)
    if page_folder is not None:
        page.install(app, page_folder)
    app.add_middleware(GZipMiddleware, minimum_size=1500)
    app.add_middleware(Guard)
    return app
