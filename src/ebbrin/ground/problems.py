"""One body for every error: application/problem+json (RFC 9457)."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from fastapi.encoders import jsonable_encoder
from fastapi.responses import Response
from pydantic import BaseModel, Field

from ebbrin.ground.errors import Busy, EbbrinError, FieldProblem, StoreUnavailable

SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
MEDIA_TYPE = "application/problem+json"


class ProblemField(BaseModel):
    """One field that is wrong."""

    path: str = Field(description="JSON pointer into what was sent.")
    message: str = Field(description="What is wrong and what to do.")
    low: float | None = None
    high: float | None = None


class Problem(BaseModel):
    """What went wrong."""

    type: str = Field(description="Stable name of the kind of problem.")
    title: str
    status: int
    detail: str
    errors: list[ProblemField] = []


def possible(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """What a route may answer with besides its result, for its description."""
    content = {MEDIA_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}}
    return {status: {"model": Problem, "content": content, "description": "Problem"} for status in statuses}


def problem_response(
    status: int, kind: str, title: str, detail: str, errors: list[FieldProblem] | None = None, **more: Any
) -> Response:
    """A problem body with its media type."""
    body = {
        "type": f"urn:ebbrin:{kind}",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": [asdict(error) for error in errors or []],
        **jsonable_encoder(more),
    }
    # Escaped, so that what cannot be written as UTF-8 can be said.
    return Response(json.dumps(body), status_code=status, media_type=MEDIA_TYPE)


def rendered(error: EbbrinError, method: str = "GET") -> Response:
    """An error as it is answered to a request of that method."""
    detail = error.detail
    if isinstance(error, StoreUnavailable) and method not in SAFE_METHODS:
        detail = error.of_a_change
    answer = problem_response(error.status, error.kind, error.title, detail, error.fields, **error.more)
    if error.again is not None:
        answer.headers["Retry-After"] = str(error.again)
    return answer


def too_busy() -> Response:
    """What is said where there is too much to do."""
    return rendered(Busy())


def method_not_allowed(allowed: list[str]) -> Response:
    """405 with the methods that an address does answer."""
    said = ", ".join(sorted(allowed))
    answer = problem_response(405, "http", "Request refused", f"This address answers {said}.")
    answer.headers["Allow"] = said
    return answer


def crashed() -> Response:
    """What is said of a mistake of ours."""
    return problem_response(500, "internal", "Ebbrin made a mistake", "It is in the log; your input is kept.")
