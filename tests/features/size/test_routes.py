"""Sizings through the API: asked for, looked at, stopped, and refused in words."""

from __future__ import annotations

from typing import Any
from uuid import UUID, uuid4

import pytest
from fastapi.testclient import TestClient

from ebbrin.features.size.runs import RunService
from ebbrin.features.size.store import Runs
from oracles.builds import edited, linnet

pytestmark = pytest.mark.database


def stored(client: TestClient) -> str:
    return str(client.post("/api/v1/builds", json=linnet().model_dump(mode="json")).json()["id"])


def question(**wishes: Any) -> dict[str, Any]:
    return {"build": linnet().model_dump(mode="json"), "variant": "as-found", "wishes": wishes}


def test_a_sizing_is_queued_done_and_found_again(client: TestClient) -> None:
    build = stored(client)
    assert client.get(f"/api/v1/builds/{build}/sizings/newest").json() is None
    asked = client.post(
        f"/api/v1/builds/{build}/sizings", json=question(cores="shelf", keep=["fan", "shroud", "pump"])
    )
    assert asked.status_code == 202
    run = asked.json()
    assert (run["state"], run["progress"], run["result"]) == ("waiting", 0.0, None)
    RunService(client.app.state.database).work(run["id"])  # type: ignore[attr-defined]
    done = client.get(f"/api/v1/sizings/{run['id']}").json()
    assert (done["state"], done["progress"]) == ("done", 1.0)
    assert done["result"]["requirement"]["ask"]
    assert client.get(f"/api/v1/builds/{build}/sizings/newest").json() == done
    # One that has ended stays as it is.
    assert client.post(f"/api/v1/sizings/{run['id']}/cancel").json() == done


def test_an_answer_of_an_earlier_form_says_so(client: TestClient) -> None:
    build = stored(client)
    run = client.post(f"/api/v1/builds/{build}/sizings", json=question()).json()
    with client.app.state.database.session() as session:  # type: ignore[attr-defined]
        runs = Runs(session)
        attempt = runs.begin(UUID(run["id"]))
        assert attempt is not None
        runs.finish(UUID(run["id"]), attempt, {"front": [{"margin_k": 6.0}]})
    shown = client.get(f"/api/v1/builds/{build}/sizings/newest").json()
    assert (shown["state"], shown["result"]) == ("failed", None)
    assert "Find parts again" in shown["message"]


def test_a_waiting_sizing_is_stopped(client: TestClient) -> None:
    run = client.post(f"/api/v1/builds/{stored(client)}/sizings", json=question()).json()
    assert client.post(f"/api/v1/sizings/{run['id']}/cancel").json()["state"] == "cancelled"


def test_what_cannot_be_sized_is_refused_in_words(client: TestClient) -> None:
    build = stored(client)
    path = f"/api/v1/builds/{build}/sizings"
    nowhere = client.post(f"/api/v1/builds/{uuid4()}/sizings", json=question())
    assert (nowhere.status_code, nowhere.json()["title"]) == (404, "No such build")
    assert client.get(f"/api/v1/sizings/{uuid4()}").json()["title"] == "No such sizing"
    other = client.post(path, json=question() | {"variant": "moon"})
    assert (other.status_code, other.json()["detail"]) == (404, "The build has no variant moon.")
    wrong = client.post(path, json=question(margin_k=400, keep=["wheel"]))
    assert wrong.status_code == 422
    assert {e["path"] for e in wrong.json()["errors"]} >= {"/wishes/margin_k"}
    lacking = edited(linnet(), variants__0__radiator__width_mm=None).model_dump(mode="json")
    needed = client.post(path, json=question() | {"build": lacking})
    assert needed.json()["type"] == "urn:ebbrin:values-needed"
