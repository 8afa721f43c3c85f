"""Every error of the application gets the one body."""

from __future__ import annotations

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from ebbrin.bridge.refusal import NotPhysical
from ebbrin.build.build import Build
from ebbrin.build.problems import model_in, problem
from ebbrin.core.base import DomainError
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.problems import problem_response, rendered
from ebbrin.ground.words import counted


def _ours(request: Request, error: Exception) -> Response:
    assert isinstance(error, EbbrinError)
    return rendered(error, request.method)


def _domain(_: Request, error: Exception) -> Response:
    assert isinstance(error, DomainError)
    return rendered(NotPhysical(error))


def _asked(request: Request) -> type[BaseModel]:
    """What the address that was asked takes as its body; a build where it takes none."""
    field = getattr(request.scope.get("route"), "body_field", None)
    return (field and model_in(field.field_info.annotation)) or Build


def _invalid(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    found = error.errors()
    if any(e["type"] == "json_invalid" for e in found):
        detail = "The body is not JSON: " + str(found[0].get("ctx", {}).get("error", "cannot be read")) + "."
        return problem_response(422, "not-json", "Not JSON", detail)
    if any(e["loc"][:1] != ("body",) for e in found):
        where = ", ".join(str(e["loc"][-1]) for e in found)
        return problem_response(422, "bad-request", "Bad request", f"Not understood: {where}.")
    root = _asked(request)
    problems = [problem(e, prefix=1, root=root) for e in found]
    of_build = root is Build or all(e["loc"][1:2] == ("build",) for e in found)
    of, title = ("the build", "The build") if of_build else ("what was sent", "What was sent")
    detail = f"{counted(len(problems), 'value', 'values')} of {of} cannot be used."
    return problem_response(422, "invalid-build", f"{title} is not valid", detail, problems)


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


def install(app: FastAPI) -> None:
    """Give every error of ``app`` the one body."""
    app.add_exception_handler(EbbrinError, _ours)
    app.add_exception_handler(DomainError, _domain)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
