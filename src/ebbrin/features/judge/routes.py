"""The routes of the verdict."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request

from ebbrin.build.build import Build
from ebbrin.features.judge.answers import Evaluation, Uncertainty
from ebbrin.features.judge.sampling import uncertainty
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.kept import KeptRoute
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1", route_class=KeptRoute)


@router.post("/evaluate", responses=possible(404, 413, 422, 503))
async def evaluate_build(
    build: Build,
    request: Request,
    variant: Annotated[str | None, Query(description="Id; the first if left out.")] = None,
    levers: Annotated[bool, Query(description="Also what each single change would buy.")] = True,
) -> Evaluation:
    """Judge one variant over all cases. Stores nothing."""
    return await lanes(request).answers.run(request, evaluate, build, variant, levers)


@router.post("/uncertainty", responses=possible(404, 413, 422, 503))
async def chances_of_build(
    build: Build,
    request: Request,
    variant: Annotated[str | None, Query(description="Id; the first if left out.")] = None,
) -> Uncertainty:
    """How sure the verdict on one variant is, by sampling what is guessed or scatters. Stores nothing. Takes
    up to a second; hanging up stops it."""
    return await lanes(request).chances.run(request, uncertainty, build, variant)
