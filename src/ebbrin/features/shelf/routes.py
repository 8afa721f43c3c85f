"""The routes under /api/v1/shelf."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from ebbrin.build.part import Identifier
from ebbrin.features.shelf.file import Form
from ebbrin.features.shelf.parts import SLOTS, ShelfKind, ShelfPart
from ebbrin.features.shelf.service import ShelfService
from ebbrin.ground.files import RefusedRow, text_body
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1/shelf")
MEDIA = {"csv": "text/csv; charset=utf-8", "json": "application/json"}
TEXT = {"schema": {"type": "string"}}


class ShelfBody(BaseModel):
    """All parts that can be taken."""

    shipped: list[ShelfPart] = Field(description="Generic parts that come with Ebbrin.")
    own: list[ShelfPart] = Field(description="The workshop's own.")
    fields: dict[ShelfKind, list[str]] = Field(description="Fields of the build that each kind fills.")


class Import(BaseModel):
    """What an import did."""

    added: list[str]
    changed: list[str] = Field(description="Parts that got a new version.")
    unchanged: int
    refused: list[RefusedRow]


def _service(request: Request) -> ShelfService:
    service: ShelfService = request.app.state.shelf
    return service


Service = Annotated[ShelfService, Depends(_service)]


@router.get("", responses=possible(503))
def list_shelf(service: Service) -> ShelfBody:
    """Every part on the shelf."""
    given, own = service.parts()
    return ShelfBody(shipped=given, own=own, fields={kind: list(slot.fields) for kind, slot in SLOTS.items()})


@router.post(
    "/import",
    responses=possible(413, 415, 422, 503),
    openapi_extra={
        "requestBody": {"content": {"text/csv": TEXT, "application/json": TEXT}, "required": True}
    },
)
async def import_parts(
    request: Request,
    service: Service,
    form: Annotated[Form, Query(description="What the body is.")],
) -> Import:
    """Take in every row that fits and name those that do not."""
    text = await text_body(request, MEDIA[form])
    taken = await lanes(request).files.run(request, service.take_in, text, form)
    return Import.model_validate(asdict(taken))


@router.get(
    "/export",
    responses={200: {"content": {"text/csv": TEXT, "application/json": TEXT}}, **possible(422, 503)},
)
def export_parts(
    service: Service,
    form: Annotated[Form, Query(description="What to write.")],
    own: Annotated[bool, Query(description="Only the workshop's own parts.")] = False,
) -> Response:
    """The shelf as a file that the import takes back."""
    name = f"{'own-' if own else ''}shelf.{form}"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(service.as_file(form, own), media_type=MEDIA[form], headers=headers)


@router.put("/{part_id}/removed", status_code=204, responses=possible(404, 422, 503))
def remove_part(
    part_id: Identifier,
    service: Service,
    removed: Annotated[bool, Query(description="False puts it back.")] = True,
) -> None:
    """Take one of the workshop's own parts off the shelf; builds keep what was copied into them."""
    if not service.set_removed(part_id, removed):
        raise HTTPException(404, f"The workshop has no part {part_id} of its own.")
