"""One body for every error: application/problem+json (RFC 9457)."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from ebbrin.api.lanes import Busy, HungUp, TooLong
from ebbrin.api.schemas import stored_body
from ebbrin.core.base import DomainError
from ebbrin.document.from_core import refusal
from ebbrin.document.problems import FieldProblem, missing_problem, problem
from ebbrin.document.resolve import MissingValues
from ebbrin.service.builds import Conflict, Unreadable
from ebbrin.service.drive import NoDrive
from ebbrin.store.errors import (
    SaveIdUsed,
    StoreBroken,
    StoreBusy,
    StoreFull,
    StoreUnavailable,
    UnknownBuild,
    UnknownRecording,
    UnknownRun,
)

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


def _invalid(_: Request, error: Exception) -> Response:
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


def _missing(_: Request, error: Exception) -> Response:
    assert isinstance(error, MissingValues)
    problems = [missing_problem(m) for m in error.missing]
    detail = "One value is needed." if len(problems) == 1 else f"{len(problems)} values are needed."
    return problem_response(422, "values-needed", "More is needed for an answer", detail, problems)


def _domain(_: Request, error: Exception) -> Response:
    assert isinstance(error, DomainError)
    said = refusal(error)
    return problem_response(422, "not-physical", "This cannot be computed", f"{said[0].upper()}{said[1:]}.")


def _conflict(_: Request, error: Exception) -> Response:
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


def _unknown(_: Request, error: Exception) -> Response:
    return problem_response(404, "unknown-build", "No such build", f"{error}.")


def _unknown_run(_: Request, error: Exception) -> Response:
    return problem_response(404, "unknown-run", "No such sizing", f"{error}.")


def _unknown_recording(_: Request, __: Exception) -> Response:
    detail = "The recording of this drive is not kept on this machine. Read its file in again."
    return problem_response(404, "unknown-recording", "No such recording", detail)


def _no_drive(_: Request, error: Exception) -> Response:
    return problem_response(422, "no-drive", "This cannot be driven", str(error))


def _again(answer: Response, seconds: int) -> Response:
    answer.headers["Retry-After"] = str(seconds)
    return answer


def _unavailable(request: Request, __: Exception) -> Response:
    detail = "The database does not answer. "
    # A change may have arrived although its answer did not.
    detail += (
        "Try again in a moment."
        if request.method in SAFE_METHODS
        else "Whether this was stored is not known; the same sent again is stored once."
    )
    return _again(problem_response(503, "no-database", "Storage is away", detail), 2)


def too_busy(again: int = 2) -> Response:
    """What is said where there is too much to do."""
    detail = "Ebbrin has too much to do just now. Nothing was changed; try again in a moment."
    return _again(problem_response(503, "busy", "Too much to do", detail), again)


def _busy(_: Request, error: Exception) -> Response:
    return too_busy(getattr(error, "again", 2))


def _too_long(_: Request, error: Exception) -> Response:
    assert isinstance(error, TooLong)
    detail = f"This took longer than {error.seconds:.0f} s and was stopped. Try again when there is less to do, or ask for less."
    return _again(problem_response(503, "too-long", "It took too long", detail), 5)


def _hung_up(_: Request, __: Exception) -> Response:
    return problem_response(499, "hung-up", "Nobody waits", "Nobody waits for the answer.")


def _full(_: Request, __: Exception) -> Response:
    detail = "The disk of the database is full. Nothing was changed: make room on it, then try again."
    return problem_response(507, "disk-full", "The disk is full", detail)


def _broken(_: Request, error: Exception) -> Response:
    detail = (
        f"The database is damaged ({error}). Nothing was changed. What does not need this part of it still works; "
        "restore a backup to have all of it: ebbrin restore FILE."
    )
    return problem_response(500, "database-damaged", "The database is damaged", detail)


def _unreadable(_: Request, error: Exception) -> Response:
    assert isinstance(error, Unreadable)
    detail = (
        f"What is stored cannot be read: {error.said}. It is kept as it is; mend the values that are named."
    )
    return problem_response(
        422, "unreadable", "This build cannot be read", detail, error.problems,
        document=error.document, revision=error.revision,
    )  # fmt: skip


def _other_save(_: Request, error: Exception) -> Response:
    return problem_response(
        422, "save-id-used", "Saved before with other content", f"{error}. Nothing was changed."
    )


def method_not_allowed(allowed: list[str]) -> Response:
    """405 with the methods that an address does answer."""
    said = ", ".join(sorted(allowed))
    answer = problem_response(405, "http", "Request refused", f"This address answers {said}.")
    answer.headers["Allow"] = said
    return answer


def _http(_: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    said = str(error.detail)
    if error.status_code == 400 and said.startswith("There was an error parsing"):
        said = (
            "The body cannot be read as JSON: a number in it has too many digits, or it is nested too deeply."
        )
    answer = problem_response(error.status_code, "http", "Request refused", said)
    answer.headers.update(error.headers or {})
    return answer


def crashed() -> Response:
    """What is said of a mistake of ours."""
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
        (StoreBusy, _busy),
        (Busy, _busy),
        (TooLong, _too_long),
        (HungUp, _hung_up),
        (StoreFull, _full),
        (StoreBroken, _broken),
        (Unreadable, _unreadable),
        (SaveIdUsed, _other_save),
        (HTTPException, _http),
    ):
        app.add_exception_handler(kind, handler)
