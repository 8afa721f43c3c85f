"""The application: routes, errors, guard and page put together."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

from ebbrin.api import curves, drive, page, problems, pulse, routes, shelf, sizing
from ebbrin.api.guard import Guard
from ebbrin.api.lanes import Lanes
from ebbrin.api.pulse import Pulse
from ebbrin.service.builds import BuildService
from ebbrin.service.recordings import RecordingService
from ebbrin.service.runs import RunService
from ebbrin.service.shelf import ShelfService
from ebbrin.store.database import Database

ROUTERS = (pulse.router, routes.router, curves.router, shelf.router, sizing.router, drive.router)


def create_app(
    database_url: str, page_folder: Path | None = None, instance: str = "", told: Path | None = None
) -> FastAPI:
    """The application on a migrated database, with the built page if ``page_folder`` is given.

    Parameters
    ----------
    instance : name of this very process's start, which health says.
    told : file in which the keeper says how old the newest backup is.
    """
    database = Database(database_url)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        database.close()

    app = FastAPI(
        title="Ebbrin",
        version="1",
        description="Sizes the cooling system of a modified or swapped engine.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
        lifespan=lifespan,
    )
    app.state.database = database
    app.state.lanes = Lanes()
    app.state.pulse = Pulse(database, instance, told)
    app.state.builds = BuildService(database)
    app.state.shelf = ShelfService(database)
    app.state.runs = RunService(database)
    app.state.recordings = RecordingService(database)
    problems.install(app)
    for router in ROUTERS:
        app.include_router(router)
    page.install_unknown(app, ROUTERS)
    if page_folder is not None:
        page.install(app, page_folder)
    app.add_middleware(GZipMiddleware, minimum_size=1500)
    app.add_middleware(Guard)
    return app
