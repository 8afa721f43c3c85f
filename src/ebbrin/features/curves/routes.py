"""The routes under /api/v1/curves: what stands beside the fields of a station. They store nothing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, TypeVar

from fastapi import APIRouter, Query, Request

from ebbrin.build.build import Build
from ebbrin.features.curves import coolants
from ebbrin.features.curves import service as curves
from ebbrin.features.curves.answers import AirLines, Conditions, Coolants, FlowLines, HeatCurves
from ebbrin.ground.kept import KeptRoute
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1/curves", route_class=KeptRoute)
T = TypeVar("T")
VariantId = Annotated[str, Query(description="Id of the variant.")]
CaseId = Annotated[str, Query(description="Id of the case.")]


async def _asked(
    request: Request, question: Callable[[Build, str, str], T], build: Build, variant: str, case: str
) -> T:
    return await lanes(request).answers.run(request, question, build, variant, case)


@router.post("/heat", responses=possible(404, 413, 422, 503))
async def heat(request: Request, build: Build, variant: VariantId, case: CaseId) -> HeatCurves:
    """How one case's heat answers to coolant flow and to air."""
    return await _asked(request, curves.heat_curves, build, variant, case)


@router.post("/condition", responses=possible(404, 413, 422, 503))
async def condition(request: Request, build: Build, variant: VariantId, case: CaseId) -> Conditions:
    """What silted tubes, a covered face and scale cost one case."""
    return await _asked(request, curves.condition_costs, build, variant, case)


@router.post("/air", responses=possible(404, 413, 422, 503))
async def air(request: Request, build: Build, variant: VariantId, case: CaseId) -> AirLines:
    """Fan and resistance of each zone of the core."""
    return await _asked(request, curves.air_lines, build, variant, case)


@router.post("/flow", responses=possible(404, 413, 422, 503))
async def flow(request: Request, build: Build, variant: VariantId, case: CaseId) -> FlowLines:
    """Pump and resistances of the coolant."""
    return await _asked(request, curves.flow_lines, build, variant, case)


@router.post("/coolants", responses=possible(404, 413, 422, 503))
async def compared(request: Request, build: Build, variant: VariantId, case: CaseId) -> Coolants:
    """The usual coolants side by side in this build."""
    return await _asked(request, coolants.compare, build, variant, case)
