"""The route of a lever that is pulled."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request

from ebbrin.build.build import Build
from ebbrin.features.levers.service import pull
from ebbrin.ground.kept import KeptRoute
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1", route_class=KeptRoute)


@router.post("/levers/{lever}", responses=possible(404, 413, 422, 503))
async def pull_lever(
    lever: str,
    build: Build,
    request: Request,
    variant: Annotated[str, Query(description="Id of the variant to start from.")],
) -> Build:
    """The build with one more variant, in which one thing has been changed. Stores nothing."""
    return await lanes(request).answers.run(request, pull, build, variant, lever)
