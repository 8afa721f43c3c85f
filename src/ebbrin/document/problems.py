"""Validation errors in words: where, what is wrong, and what is allowed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from types import UnionType
from typing import Any, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from ebbrin.document.build import Build
from ebbrin.document.resolve import Missing, bounds, extra

# The document's unit of each quantity, as it is written after a number.
UNITS: dict[str, str] = {
    "temperature": " °C",
    "temperature_difference": " K",
    "pressure": " kPa",
    "air_pressure": " Pa",
    "length": " mm",
    "small_length": " mm",
    "fin_pitch": " mm",
    "area": " m²",
    "volume": " L",
    "displacement": " L",
    "mass": " kg",
    "power": " kW",
    "electric_power": " W",
    "rotation": " rpm",
    "speed": " km/h",
    "altitude": " m",
    "acceleration": " m/s²",
    "airflow": " m³/s",
    "coolant_flow": " L/min",
    "density": " kg/m³",
    "heat_capacity": " kJ/K",
    "duration": " s",
    "leg_duration": " s",
    "angle": "°",
    "head": " m",
    "velocity": " m/s",
    "voltage": " V",
    "fuel_flow": " kg/h",
}


CUSTOM = (
    *("louvre_length_mm", "rows", "scale_mm", "curve", "staging"),
    *("on_c", "full_on_c", "full_off_c", "engine_speed_by", "case_id", "legs", "version", "id"),
)
"""Types of the document's own checks; all but the last name the field that is wrong."""


@dataclass(frozen=True)
class FieldProblem:
    """One thing wrong: ``path`` is a JSON pointer into what was sent; ``low`` and ``high`` the allowed
    range in the document's unit, where there is one."""

    path: str
    message: str
    low: float | None = None
    high: float | None = None


def pointer(loc: Sequence[Any]) -> str:
    """JSON pointer (RFC 6901) of a location."""
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in loc)


def _model_in(annotation: Any) -> type[BaseModel] | None:
    """The model inside an annotation such as list[Case] or Fan | None."""
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    if get_origin(annotation) in (list, Union, UnionType) or get_args(annotation):
        return next((m for m in map(_model_in, get_args(annotation)) if m), None)
    return None


def field_at(loc: Sequence[Any], root: type[BaseModel] = Build) -> FieldInfo | None:
    """The field at a location within a build, or within another ``root``, if there is one."""
    model: type[BaseModel] | None = root
    info: FieldInfo | None = None
    for part in loc:
        if isinstance(part, int):
            continue
        if model is None or part not in model.model_fields:
            return None
        info = model.model_fields[part]
        model = _model_in(info.annotation)
    return info


def _number(value: float) -> str:
    return f"{value:g}"


def _typed(value: Any) -> str:
    """A number as it was given, also one that no number here can be."""
    try:
        return _number(float(value))
    except OverflowError:
        return "far too large"


def _range(info: FieldInfo) -> tuple[float, float] | None:
    low, high = bounds(info)
    return None if low == float("-inf") or high == float("inf") else (low, high)


def _message(error: dict[str, Any], info: FieldInfo | None) -> str:
    kind, title = error["type"], (info.title if info and info.title else "This value")
    allowed = _range(info) if info else None
    if kind == "extra_forbidden":
        return "There is no field of this name; check its spelling against the schema."
    if kind == "missing":
        return f"{title} is missing." if info and info.title else "This field is missing."
    if allowed is not None and info is not None:
        unit = UNITS.get(str(extra(info).get("quantity")), "")
        span = f"{_number(allowed[0])} to {_number(allowed[1])}{unit}"
        if kind in ("greater_than_equal", "less_than_equal"):
            return f"{title} is {_typed(error['input'])}{unit}; it must lie within {span}."
        return f"{title} must be a number within {span}, or left unknown."
    if kind == "literal_error":
        return f"{title} must be one of {error['ctx']['expected']}."
    return f"{title}: {error['msg']}."


def problem(error: dict[str, Any], prefix: int = 0, root: type[BaseModel] = Build) -> FieldProblem:
    """One of pydantic's errors in words; ``prefix`` parts of its location are the envelope's."""
    loc = tuple(error["loc"])[prefix:]
    info = field_at(loc, root)
    custom = error["type"] in CUSTOM
    if custom:
        tail = () if error["type"] == "id" else (error["type"],)
        return FieldProblem(pointer((*loc, *tail)), f"{error['msg']}.")
    allowed = _range(info) if info else None
    low, high = allowed or (None, None)
    return FieldProblem(pointer(loc), _message(error, info), low, high)


def missing_problem(missing: Missing) -> FieldProblem:
    """A value without which there is no answer."""
    message = f"{missing.title} is needed for an answer. {missing.description}"
    return FieldProblem(missing.path, message, missing.low, missing.high)
