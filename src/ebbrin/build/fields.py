"""How a field of the document says what it is: label, unit, range, default, and whether that is a guess.

The same words serve the published JSON Schema, the page's editors and error messages.
"""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

When = dict[str, list[Any]]


def _extra(quantity: str, when: When | None, more: dict[str, Any]) -> dict[str, Any]:
    extra: dict[str, Any] = {"quantity": quantity, **more}
    if when:
        extra["relevant_when"] = when
    return extra


def needed(
    title: str, quantity: str, low: float, high: float, description: str, when: When | None = None
) -> Any:
    """A number without which there is no answer. It may be null while the build is being described."""
    extra = _extra(quantity, when, {"needed": True})
    return Field(default=None, title=title, description=description, ge=low, le=high, json_schema_extra=extra)


def assumed(
    title: str,
    quantity: str,
    low: float,
    high: float,
    default: float | str,
    description: str,
    *,
    guess: bool = False,
    when: When | None = None,
) -> Any:
    """A number that may be left as null, "don't know": ``default`` is taken when the build is evaluated.

    A text as ``default`` says in words what it follows from; build/resolve.py computes it.
    """
    extra = _extra(quantity, when, {"assumed": default, "guess": guess})
    return Field(default=None, title=title, description=description, ge=low, le=high, json_schema_extra=extra)


def given(
    title: str,
    quantity: str,
    low: float,
    high: float,
    default: float,
    description: str,
    when: When | None = None,
) -> Any:
    """A number that always has a value."""
    return Field(
        default=default,
        title=title,
        description=description,
        ge=low,
        le=high,
        json_schema_extra=_extra(quantity, when, {}),
    )


def optional(
    title: str,
    quantity: str,
    low: float,
    high: float,
    null_means: str,
    description: str,
    when: When | None = None,
) -> Any:
    """A number whose absence has a meaning of its own, which ``null_means`` says."""
    extra = _extra(quantity, when, {"null_means": null_means})
    return Field(default=None, title=title, description=description, ge=low, le=high, json_schema_extra=extra)


def choice(
    default: Any,
    title: str,
    labels: dict[Any, str],
    description: str,
    when: When | None = None,
    groups: list[tuple[str, list[str]]] | None = None,
) -> Any:
    """One of a few named values, with the words that a page shows for each; many of them stand in ``groups``, in
    the order given."""
    more: dict[str, Any] = {"labels": {str(k): v for k, v in labels.items()}}
    extra = _extra("choice", when, more | ({"groups": groups} if groups else {}))
    return Field(default=default, title=title, description=description, json_schema_extra=extra)


def switch(default: bool, title: str, description: str, when: When | None = None) -> Any:
    """Yes or no."""
    extra = _extra("switch", when, {})
    return Field(default=default, title=title, description=description, json_schema_extra=extra)


def points(title: str, assumed_as: str, description: str, when: When | None = None) -> Any:
    """A curve by its points, or null; ``assumed_as`` says in words what is taken then."""
    extra = _extra("curve", when, {"assumed": assumed_as, "guess": True})
    return Field(default=None, title=title, description=description, json_schema_extra=extra)


def known(part: BaseModel, name: str) -> float:
    """A number of a part, or the number that is assumed for it; for fields whose default is a number."""
    value = getattr(part, name)
    extra = type(part).model_fields[name].json_schema_extra
    return float(extra["assumed"] if value is None and isinstance(extra, dict) else value)  # type: ignore[arg-type]


def fact(title: str, labels: dict[Any, str], description: str, when: When | None = None) -> Any:
    """Something about the car that is so or not, or nobody knows (null)."""
    extra = _extra("fact", when, {"labels": {str(k): v for k, v in labels.items()}})
    return Field(default=None, title=title, description=description, json_schema_extra=extra)
