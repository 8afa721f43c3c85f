"""Documents of older versions of the format, brought up step by step to the newest."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic_core import PydanticCustomError

NEWEST = 5


def _from_1(document: dict[str, Any]) -> dict[str, Any]:
    """Version 2 added from_shelf to six parts and the room for the core to the vehicle: all may be absent."""
    return document


def _from_2(document: dict[str, Any]) -> dict[str, Any]:
    """Version 3 added drives to the build and bottle_l to the cap: both may be absent."""
    return document


def _from_3(document: dict[str, Any]) -> dict[str, Any]:
    """Version 4 added the core's condition, what shroud, condenser and intercooler cover, the thermostat's leak,
    diesels with prechambers and circuits without a pump: all may be absent."""
    return document


def _from_4(document: dict[str, Any]) -> dict[str, Any]:
    """Version 5 added the facts of the car and which variant stands in it: both may be absent."""
    return document


STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _from_1,
    2: _from_2,
    3: _from_3,
    4: _from_4,
}
"""What turns a version into the next, by the version that it starts from."""


def brought_up(document: Any) -> Any:
    """A document as the newest version has it; what is no document is left for the model to refuse.

    Raises
    ------
    PydanticCustomError
        If the document was written by a newer Ebbrin.
    """
    if not isinstance(document, dict):
        return document
    version = document.get("version", NEWEST)
    if not isinstance(version, int) or isinstance(version, bool):
        return document
    if version > NEWEST:
        raise PydanticCustomError(
            "version",
            "The file has format version {version}, this Ebbrin reads up to {newest}: open it with a newer Ebbrin",
            {"version": version, "newest": NEWEST},
        )
    while version in STEPS:
        document = STEPS[version](document)
        version += 1
        document = {**document, "version": version}
    return document
