"""One body for every error: application/problem+json (RFC 9457)."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from ebbrin.api.schemas import stored_body
from ebbrin.core.base import DomainError
from ebbrin.document.from_core import refusal
from ebbrin.document.problems import FieldProblem, missing_problem, problem
from ebbrin.document.resolve import MissingValues
from ebbrin.service.builds import Conflict
from ebbrin.service.drive import NoDrive
from ebbrin.store.errors import StoreUnavailable, UnknownBuild, UnknownRecording, UnknownRun

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
) -> JSONResponse:
    """A problem body with its media type."""
    body = {
        "type": f"urn:ebbrin:{kind}",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": [asdict(error) for error in errors or []],
        **jsonable_encoder(more),
    }
    return JSONResponse(body, status_code=status, media_type=MEDIA_TYPE)


def _invalid(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    found = error.errors()
    if any(e["type"] == "json_invalid" for e in found):
        detail = "The body is not JSON: " + str(found[0].get("ctx", {}).get("error", "cannot be read")) + "."
        return problem_response(422, "not-json", "Not JSON", detail)
    if any(e["loc"][:1] != ("body",) for e in found):
        where = ", ".join(str(e["loc"][-1]) for e in found)
        return problem_response(422, "bad-request", "Bad request", f"Not understood: {where}.")
    problems = [problem(e, prefix=1) for e in found]
    detail = f"{len(problems)} value{'s' if len(problems) > 1 else ''} of the build cannot be used."
    return problem_response(422, "invalid-build", "The build is not valid", detail, problems)


def _missing(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, MissingValues)
    problems = [missing_problem(m) for m in error.missing]
    detail = "One value is needed." if len(problems) == 1 else f"{len(problems)} values are needed."
    return problem_response(422, "values-needed", "More is needed for an answer", detail, problems)


def _domain(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, DomainError)
    said = refusal(error)
    return problem_response(422, "not-physical", "This cannot be computed", f"{said[0].upper()}{said[1:]}.")


def _conflict(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, Conflict)
    detail = (
        f"You edited revision {error.based_on}; revision {error.current.revision} was saved meanwhile. "
        "Nothing is overwritten: choose one of both versions, or save yours on top."
    )
    return problem_response(
        412,
        "conflict",
        "Somebody saved in between",
        detail,
        based_on=error.based_on,
        current=stored_body(error.current).model_dump(mode="json"),
        yours=error.yours.model_dump(mode="json"),
    )


def _unknown(_: Request, error: Exception) -> JSONResponse:
    return problem_response(404, "unknown-build", "No such build", f"{error}.")


def _unknown_run(_: Request, error: Exception) -> JSONResponse:
    return problem_response(404, "unknown-run", "No such sizing", f"{error}.")


def _unknown_recording(_: Request, __: Exception) -> JSONResponse:
    detail = "The recording of this drive is not kept on this machine. Read its file in again."
    return problem_response(404, "unknown-recording", "No such recording", detail)


def _no_drive(_: Request, error: Exception) -> JSONResponse:
    return problem_response(422, "no-drive", "This cannot be driven", str(error))


def _unavailable(_: Request, __: Exception) -> JSONResponse:
    detail = "The database does not answer. Nothing was changed; try again in a moment."
    return problem_response(503, "no-database", "Storage is away", detail)


def _http(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    return problem_response(error.status_code, "http", "Request refused", str(error.detail))


def _crash(_: Request, __: Exception) -> JSONResponse:
    return problem_response(500, "internal", "Ebbrin made a mistake", "It is in the log; your input is kept.")


def install(app: FastAPI) -> None:
    """Give every error of ``app`` the one body."""
    for kind, handler in (
        (RequestValidationError, _invalid),
        (MissingValues, _missing),
        (DomainError, _domain),
        (Conflict, _conflict),
        (UnknownBuild, _unknown),
        (UnknownRun, _unknown_run),
        (UnknownRecording, _unknown_recording),
        (NoDrive, _no_drive),
        (StoreUnavailable, _unavailable),
        (HTTPException, _http),
        (Exception, _crash),
    ):
        app.add_exception_handler(kind, handler)
