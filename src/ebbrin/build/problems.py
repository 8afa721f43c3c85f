"""Validation errors in words: where, what is wrong, and what is allowed."""

from __future__ import annotations

from collections.abc import Sequence
from types import UnionType
from typing import Any, Union, get_args, get_origin

from pydantic import BaseModel, ValidationError
from pydantic.fields import FieldInfo

from ebbrin.build.build import Build
from ebbrin.build.resolve import bounds, extra
from ebbrin.ground.errors import EbbrinError, FieldProblem
from ebbrin.ground.paths import pointer
from ebbrin.ground.quantities import QUANTITIES, unit_of
from ebbrin.ground.words import capital, counted

CUSTOM = (
    *("louvre_length_mm", "rows", "scale_mm", "curve", "staging"),
    *("on_c", "full_on_c", "full_off_c", "engine_speed_by", "case_id", "legs", "version"),
    *("drained_l", "observation", "value", "cause", "id"),
)
"""Types of the document's own checks, and of a finding's; all but the last name the field that is wrong."""
LONGEST_SAID = 40
"""Letters of a word given in place of one that is known, up to which it is said again."""

FORMS = (
    ("string_pattern_mismatch", "may have letters, digits, - and _ alone"),
    ("string", "must be text"),
    ("uuid", "must be a UUID, such as 00000000-0000-4000-8000-000000000000"),
    ("bool", "must be true or false"),
    ("int", "must be a whole number"),
    ("float", "must be a number"),
    ("finite_number", "must be a number"),
    ("decimal", "must be a number"),
    ("list", "must be a list"),
    ("tuple", "must be a list"),
    ("dict", "must be an object with fields"),
    ("model", "must be an object with fields"),
    ("date", "must be a date and time, such as 2026-03-01T09:30:00Z"),
)
"""What a value of the wrong form must be, by how the kind of error begins."""
ENDINGS = (
    *(
        ("_ml_h", "leak"),
        ("_kpa", "pressure"),
        ("_rpm", "rotation"),
        ("_mm", "length"),
        ("minutes", "minutes"),
    ),
    *(("_c", "temperature"), ("_k", "temperature_difference"), ("_l", "volume"), ("_m", "altitude")),
    *(("_s", "duration"), ("_w", "electric_power"), ("_share", "share"), ("strength", "share")),
)
"""Quantities by how a field's name ends, for those that do not state theirs."""


def model_in(annotation: Any) -> type[BaseModel] | None:
    """The model inside an annotation such as list[Case] or Fan | None."""
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    if get_origin(annotation) in (list, Union, UnionType) or get_args(annotation):
        return next((m for m in map(model_in, get_args(annotation)) if m), None)
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
        model = model_in(info.annotation)
    return info


def _number(value: float) -> str:
    return f"{value:.0f}" if 1e6 <= abs(value) < 1e15 and value == int(value) else f"{value:g}"


def _typed(value: Any, times: float) -> str:
    """A number as it was given, also one that no number here can be."""
    try:
        return _number(times * float(value))
    except OverflowError:
        return "far too large"


def allowed_range(info: FieldInfo) -> tuple[float, float] | None:
    """Lowest and highest value of a number, the lowest also where it must be more than that; None where it has no range."""
    low, high = bounds(info)
    low = max(low, _above(info))
    return None if low == float("-inf") or high == float("inf") else (low, high)


def _above(info: FieldInfo) -> float:
    """What a number must be more than."""
    return float(next((m.gt for m in info.metadata if hasattr(m, "gt")), float("-inf")))


def _named(loc: Sequence[Any], info: FieldInfo | None) -> str:
    """What a value is called: its field's title, else its field's name in words."""
    if info and info.title:
        return info.title
    name = next((part for part in reversed(loc) if isinstance(part, str)), "")
    return capital(name.replace("_", " ")) if name.replace("_", "").isalnum() else "This value"


def _unit(info: FieldInfo, loc: Sequence[Any]) -> tuple[float, str]:
    """What a number is multiplied by to be said, and the unit that is written after it: by its quantity where that is
    stated, as in the document, else by its field's name, shares in per cent."""
    stated = extra(info).get("quantity")
    if stated:
        return 1.0, unit_of(str(stated))
    ending = next((quantity for end, quantity in ENDINGS if str(loc[-1]).endswith(end)), "")
    return (100.0, QUANTITIES["share"].unit) if ending == "share" else (1.0, unit_of(ending))


def _form(error: dict[str, Any]) -> str | None:
    """What a value of the wrong form must be, for pydantic's kinds of errors; None for others."""
    kind, context = error["type"], error.get("ctx") or {}
    least, most = context.get("min_length"), context.get("max_length")
    each = "letters" if isinstance(error["input"], str) else "entries"
    if kind in ("string_too_short", "too_short"):
        return "must not be empty" if least == 1 else f"must have at least {least} {each}"
    if kind in ("string_too_long", "too_long"):
        return f"must not have more than {most} {each}"
    if kind in ("greater_than_equal", "less_than_equal", "greater_than", "less_than"):
        words = {"ge": "at least", "le": "at most", "gt": "more than", "lt": "less than"}
        return next(f"must be {words[k]} {_number(v)}" for k, v in context.items() if k in words)
    return next((said for start, said in FORMS if kind.startswith(start)), None)


def _message(error: dict[str, Any], info: FieldInfo | None, loc: Sequence[Any] = ()) -> str:
    kind, title = error["type"], _named(loc, info)
    allowed = allowed_range(info) if info else None
    if kind == "extra_forbidden":
        return "There is no field of this name; check its spelling against the schema."
    if kind == "missing":
        return f"{title} is missing."
    if allowed is not None and info is not None and not isinstance(error["input"], bool):
        times, unit = _unit(info, loc)
        low, high = (_number(times * bound) for bound in allowed)
        span = f"within {low} to {high}{unit}"
        if _above(info) == allowed[0]:
            span = f"above {low}{unit} and up to {high}{unit}"
        if kind in ("greater_than_equal", "less_than_equal", "greater_than"):
            return f"{title} is {_typed(error['input'], times)}{unit}; it must lie {span}."
        unknown = ", or left unknown" if type(None) in get_args(info.annotation) else ""
        return f"{title} must be a {'whole ' if kind.startswith('int') else ''}number {span}{unknown}."
    if kind == "literal_error":
        given = error["input"]
        instead = f", not “{given}”" if isinstance(given, str) and 0 < len(given) <= LONGEST_SAID else ""
        return f"{title} must be one of {error['ctx']['expected']}{instead}."
    form = _form(error)
    if form is not None:
        return f"{title} {form}."
    return f"{title}: {error['msg']}." if loc else f"{error['msg']}."


def problem(error: dict[str, Any], prefix: int = 0, root: type[BaseModel] = Build) -> FieldProblem:
    """One of pydantic's errors in words; ``prefix`` parts of its location are the envelope's."""
    loc = tuple(error["loc"])[prefix:]
    info = field_at(loc, root)
    custom = error["type"] in CUSTOM
    if custom:
        tail = () if error["type"] == "id" else (error["type"],)
        said = error["msg"] if error["msg"].endswith("?") else f"{error['msg']}."
        return FieldProblem(pointer((*loc, *tail)), said)
    allowed = allowed_range(info) if info else None
    low, high = allowed or (None, None)
    return FieldProblem(pointer(loc), _message(error, info, loc), low, high)


class InvalidDocument(EbbrinError):
    """A document that is none of its kind; ``fields`` names every value that is wrong."""

    status, kind, title = 422, "invalid-build", "The build is not valid"

    def __init__(self, error: ValidationError, root: type[BaseModel] = Build, prefix: int = 0) -> None:
        self._fields = [problem(dict(e), prefix, root) for e in error.errors()]
        super().__init__(f"{counted(len(self._fields), 'value', 'values')} of the build cannot be used.")

    @property
    def fields(self) -> list[FieldProblem]:
        """Where, what is wrong, and what is allowed."""
        return self._fields
