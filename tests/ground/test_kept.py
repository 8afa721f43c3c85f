"""Answers that are kept: the same as anew, of the same question alone, and not for ever."""

from __future__ import annotations

import json

import pytest
from fastapi import APIRouter, FastAPI
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.app.web import create_app
from ebbrin.ground.kept import Kept, KeptRoute
from oracles.builds import linnet

JSON = {"Content-Type": "application/json"}
NOWHERE = "postgresql+psycopg://nobody@127.0.0.1:9/none"


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 40)), max_size=60))
def test_what_is_kept_is_what_was_given_last_and_never_more_than_there_is_room_for(
    given: list[tuple[int, int]],
) -> None:
    kept, last = Kept(room=100), dict[bytes, bytes]()
    for name, size in given:
        key, answer = bytes([name]), bytes([name]) * size
        kept.keep(key, answer)
        last[key] = answer
        assert kept.find(key) == answer
        found = {k: kept.find(k) for k in last}
        assert all(value in (None, last[k]) for k, value in found.items())
        assert sum(len(value) for value in found.values() if value) <= 100


def test_what_was_asked_for_longest_ago_gives_way() -> None:
    kept = Kept(room=10)
    kept.keep(b"a", b"aaaa")
    kept.keep(b"b", b"bbbb")
    assert kept.find(b"a") == b"aaaa"
    kept.keep(b"c", b"cccc")
    assert (kept.find(b"a"), kept.find(b"b"), kept.find(b"c")) == (b"aaaa", None, b"cccc")
    kept.keep(b"d", b"d" * 11)  # larger than all the room: it is answered, and takes nobody's place
    assert (kept.find(b"a"), kept.find(b"c"), kept.find(b"d")) == (b"aaaa", b"cccc", None)


def counting() -> tuple[TestClient, list[str]]:
    """An application with one kept route, and what it was really asked."""
    asked: list[str] = []
    router = APIRouter(route_class=KeptRoute)

    @router.post("/double/{name}")
    def double(name: str, body: list[int], by: int = 2) -> list[int]:
        asked.append(name)
        if name == "fails":
            raise ValueError("a mistake of ours")
        return [by * one for one in body]

    app = FastAPI()
    app.state.kept = Kept()
    app.include_router(router)
    return TestClient(app, raise_server_exceptions=False), asked


def test_the_same_question_is_answered_once_and_another_one_anew() -> None:
    client, asked = counting()
    first = client.post("/double/a", json=[1, 2])
    again = client.post("/double/a", json=[1, 2])
    assert (first.status_code, first.json(), first.headers["content-type"]) == (
        again.status_code, again.json(), again.headers["content-type"],
    ) == (200, [2, 4], "application/json")  # fmt: skip
    assert asked == ["a"]
    assert client.post("/double/a", json=[1, 3]).json() == [2, 6]
    assert client.post("/double/a?by=3", json=[1, 2]).json() == [3, 6]
    assert client.post("/double/b", json=[1, 2]).json() == [2, 4]
    assert asked == ["a", "a", "a", "b"]


def test_what_was_refused_or_failed_is_asked_again() -> None:
    client, asked = counting()
    for _ in range(2):
        assert client.post("/double/a", json=["no number"]).status_code == 422
        assert client.post("/double/fails", json=[1]).status_code == 500
    assert asked == ["fails", "fails"]
    assert (
        client.post("/double/a", content=b"[1, 2]", headers={"Content-Type": "text/plain"}).status_code == 422
    )
    client.post("/double/a", content=b"[1, 2]", headers=JSON)
    # What is kept for a question does not answer one that is put wrongly.
    assert (
        client.post("/double/a", content=b"[1, 2]", headers={"Content-Type": "text/plain"}).status_code == 422
    )


@pytest.mark.parametrize(
    ("path", "query"),
    [
        ("evaluate", "variant=as-found"),
        ("uncertainty", "variant=as-found"),
        ("curves/air", "variant=as-found&case=hill"),
        ("curves/coolants", "variant=as-found&case=hill"),
        ("levers/fan_flow", "variant=as-found"),
    ],
)
def test_a_kept_answer_is_the_one_that_another_application_works_out(path: str, query: str) -> None:
    """Two applications share nothing: were a route's answer not of its question alone, they would differ."""
    body, answers = linnet().model_dump_json(), []
    for asks in (2, 1):
        client = TestClient(create_app(NOWHERE), base_url="http://127.0.0.1:8600")
        answers += [client.post(f"/api/v1/{path}?{query}", content=body, headers=JSON) for _ in range(asks)]
    assert {answer.status_code for answer in answers} == {200}
    assert answers[0].content == answers[1].content == answers[2].content


@pytest.mark.parametrize("path", ["plan", "filling", "mix", "gauge", "ten-years"])
def test_questions_of_fitting_are_answered_alike_by_another_application(path: str) -> None:
    build = json.loads(linnet().model_dump_json())
    question = {
        "plan": {"build": build, "variant": "shroud"},
        "filling": {"build": build, "variant": "shroud"},
        "mix": {"volume_l": 7.0, "now_share": 0.3, "want_share": 0.5},
        "gauge": {"build": build, "variant": "shroud", "minutes": 30, "leak_ml_h": 20, "seed": 4},
        "ten-years": {"volume_l": 7.0},
    }[path]
    answers = []
    for asks in (2, 1):
        client = TestClient(create_app(NOWHERE), base_url="http://127.0.0.1:8600")
        answers += [client.post(f"/api/v1/fit/{path}", json=question) for _ in range(asks)]
    assert {answer.status_code for answer in answers} == {200}, answers[0].text
    assert answers[0].content == answers[1].content == answers[2].content
