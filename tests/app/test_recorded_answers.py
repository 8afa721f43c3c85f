"""What the page's own tests are answered with is of the day's form: oracles/recorder.py recorded it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

import pytest
from pydantic import BaseModel

import ebbrin.app.web as all_models
from oracles.recorder import ANSWERS, asked

RECORDED: dict[str, Any] = json.loads(ANSWERS.read_text(encoding="utf-8"))
# scripts/generate --check says that this is the application's own.
DESCRIPTION = ANSWERS.parents[1] / "model" / "api" / "openapi.json"
DESCRIBED: dict[str, Any] = json.loads(DESCRIPTION.read_text(encoding="utf-8"))


def models(of: type[BaseModel] = BaseModel) -> Iterator[type[BaseModel]]:
    for model in of.__subclasses__():
        yield model
        yield from models(model)


MODELS = {
    model.__name__: model
    for model in models()
    if model.__module__.startswith(all_models.__name__.split(".")[0])
}


def form_of(what: str) -> dict[str, Any]:
    """Form of an answer, by the interface's own description."""
    method, address = what.split(" ", 1)
    path = "/api/v1" + address.split("?")[0]
    matching = [
        entry[method.lower()]
        for known, entry in DESCRIBED["paths"].items()
        if method.lower() in entry and re.fullmatch(re.sub(r"\{\w+\}", "[^/]+", known), path)
    ]
    # The more is written out, the better it matches: curves/heat before curves/{name}.
    responses = matching[0]["responses"]
    done = next(status for status in responses if status.startswith("2"))
    found: dict[str, Any] = responses[done]["content"]["application/json"]["schema"]
    return found


def check(value: Any, form: dict[str, Any]) -> None:
    """That a value is of a form, with every key that its model has and no other."""
    if form.get("type") == "array":
        for one in value:
            check(one, form["items"])
    elif "$ref" in form:
        model = MODELS[form["$ref"].rsplit("/", 1)[1]]
        read = model.model_validate(value)
        assert keys(read.model_dump(mode="json", by_alias=True)) == keys(value)
    elif value is not None:
        check(value, next(one for one in form["anyOf"] if one != {"type": "null"}))
    else:
        assert {"type": "null"} in form["anyOf"]


def keys(value: Any, at: str = "") -> set[str]:
    """Paths of all keys of a document, items of a list as one."""
    if isinstance(value, dict):
        return {f"{at}/{k}" for k in value} | {p for k, v in value.items() for p in keys(v, f"{at}/{k}")}
    if isinstance(value, list):
        return {p for one in value for p in keys(one, f"{at}/*")}
    return set()


@pytest.mark.parametrize("what", RECORDED)
def test_a_recorded_answer_is_one_that_the_server_gives_today(what: str) -> None:
    check(RECORDED[what], form_of(what))


def test_what_was_asked_is_kept_without_the_server_s_address() -> None:
    assert asked("GET", "http://127.0.0.1:8600/api/v1/builds?x=1") == "GET /builds?x=1"
