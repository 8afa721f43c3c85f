"""The routes under /api/v1/curves: what stands beside the fields of a station. They store nothing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, TypeVar

from fastapi import APIRouter, Query
from starlette.exceptions import HTTPException

from ebbrin.api.problems import possible
from ebbrin.document.build import Build
from ebbrin.document.curves import AirLines, Conditions, Coolants, FlowLines, HeatCurves
from ebbrin.service import coolants, curves

router = APIRouter(prefix="/api/v1/curves")
T = TypeVar("T")
VariantId = Annotated[str, Query(description="Id of the variant.")]
CaseId = Annotated[str, Query(description="Id of the case.")]


def _asked(question: Callable[[Build, str, str], T], build: Build, variant: str, case: str) -> T:
    try:
        return question(build, variant, case)
    except KeyError as error:
        raise HTTPException(404, f"The build has no variant or case {error}.") from error


@router.post("/heat", responses=possible(404, 413, 422))
def heat(build: Build, variant: VariantId, case: CaseId) -> HeatCurves:
    """How one case's heat answers to coolant flow and to air."""
    return _asked(curves.heat_curves, build, variant, case)


@router.post("/condition", responses=possible(404, 413, 422))
def condition(build: Build, variant: VariantId, case: CaseId) -> Conditions:
    """What silted tubes, a covered face and scale cost one case."""
    return _asked(curves.condition_costs, build, variant, case)


@router.post("/air", responses=possible(404, 413, 422))
def air(build: Build, variant: VariantId, case: CaseId) -> AirLines:
    """Fan and resistance of each zone of the core."""
    return _asked(curves.air_lines, build, variant, case)


@router.post("/flow", responses=possible(404, 413, 422))
def flow(build: Build, variant: VariantId, case: CaseId) -> FlowLines:
    """Pump and resistances of the coolant."""
    return _asked(curves.flow_lines, build, variant, case)


@router.post("/coolants", responses=possible(404, 413, 422))
def compared(build: Build, variant: VariantId, case: CaseId) -> Coolants:
    """The usual coolants side by side in this build."""
    return _asked(coolants.compare, build, variant, case)
