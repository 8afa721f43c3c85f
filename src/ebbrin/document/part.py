"""What every part of the document shares: strictness, unknown numbers, and conditions of relevance."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from pydantic_core import PydanticCustomError

FAN = {"/air/fan/kind": ["electric", "mechanical"]}
ELECTRIC_FAN, MECHANICAL_FAN = {"/air/fan/kind": ["electric"]}, {"/air/fan/kind": ["mechanical"]}
CONDENSER = {"/air/condenser": [True]}
CONDENSER_RUNS = {"/air/condenser": [True], "/cases/*/air_conditioning": [True]}
ANY_TIMED, ANY_ON_THE_ROAD = {"/cases/*/kind": ["timed"]}, {"/cases/*/load": ["road"]}
TOWED, GEARED = {"/cases/*/tows": [True]}, {"/cases/*/engine_speed_by": ["gearing"]}
STAGED_FAN = {"/air/fan/kind": ["electric"], "/air/fan/staging": ["one_of_two", "slow"]}
LOUVRED, PLAIN = {"/radiator/core_type": ["louvred"]}, {"/radiator/core_type": ["plain"]}
TESTED = {"/radiator/test_point": [True]}
MEASURED = {"/engine/heat_school": ["measured"]}
MEASURED_BY_COOLANT = {**MEASURED, "/engine/measured_by": ["coolant"]}
MEASURED_BY_FUEL = {**MEASURED, "/engine/measured_by": ["fuel"]}
BELT_PUMP, ELECTRIC_PUMP = {"/circuit/pump_drive": ["belt"]}, {"/circuit/pump_drive": ["electric"]}
PUMP, NO_PUMP = {"/circuit/pump_drive": ["belt", "electric"]}, {"/circuit/pump_drive": ["none"]}
Number = float | None
Identifier = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[A-Za-z0-9_-]+$")]


def _storable(text: str) -> str:
    if "\x00" in text:
        raise PydanticCustomError("nul", "the text holds a NUL character, which cannot be stored", {})
    return text


Words = Annotated[str, AfterValidator(_storable)]
Name = Annotated[Words, Field(min_length=1, max_length=120)]


class Part(BaseModel):
    """Unknown names are refused, so that a misspelt field is never silently ignored."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class ShelfRef(Part):
    """Which part of the shelf the values were copied from."""

    id: Identifier
    version: int = Field(ge=1, le=1_000_000)


def from_shelf(what: str) -> Any:
    """The reference of a part to the shelf, null where it was not taken from there."""
    return Field(
        default=None,
        title="From the shelf",
        description=f"Which {what} of the shelf this was copied from; the values stand here and stay.",
        json_schema_extra={"quantity": "shelf"},
    )
