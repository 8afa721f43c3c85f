"""What every part of the document shares: strictness, unknown numbers, and conditions of relevance."""

from __future__ import annotations

from typing import Annotated, Any, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationInfo, field_validator
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


def _takes(annotation: Any, kind: type) -> bool:
    """Whether a field of this annotation holds values of a kind."""
    return annotation is kind or kind in get_args(annotation)


class Part(BaseModel):
    """Unknown names are refused, so that a misspelt field is never silently ignored."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    @field_validator("*", mode="before")
    @classmethod
    def _written(cls, value: Any, info: ValidationInfo) -> Any:
        """Yes and no are no numbers, and half a character is no text."""
        if isinstance(value, str):
            try:
                value.encode()
            except UnicodeEncodeError:
                raise PydanticCustomError(
                    "text", "the text holds half a character, which cannot be stored", {}
                ) from None
        elif isinstance(value, bool) and info.field_name is not None:
            field = cls.model_fields[info.field_name]
            extra = field.json_schema_extra
            if isinstance(extra, dict) and "quantity" in extra and not _takes(field.annotation, bool):
                raise PydanticCustomError("no_number", "yes or no is no number", {})
        return value


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
