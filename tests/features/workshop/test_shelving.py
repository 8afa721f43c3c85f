"""Builds put away, brought back and copied; what a workshop has set; sizings and recordings that are let go."""

from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient

from ebbrin.features.size.runs import RunService
from oracles.builds import linnet

pytestmark = pytest.mark.database


def stored(client: TestClient, **changes: Any) -> str:
    build = linnet().model_copy(update=changes)
    return str(client.post("/api/v1/builds", json=build.model_dump(mode="json")).json()["id"])


def line(client: TestClient, build_id: str) -> dict[str, Any]:
    return next(one for one in client.get("/api/v1/builds").json() if one["id"] == build_id)


def test_a_build_is_put_away_and_brought_back_as_it_was(client: TestClient) -> None:
    build = stored(client)
    before = line(client, build)
    assert before["archived"] is False
    assert client.put(f"/api/v1/builds/{build}/archived", json={"archived": True}).json() == {
        "archived": True
    }
    # A kept judgement knows of it too.
    assert line(client, build) == before | {"archived": True}
    assert client.get(f"/api/v1/builds/{build}").status_code == 200
    client.put(f"/api/v1/builds/{build}/archived", json={"archived": True})
    client.put(f"/api/v1/builds/{build}/archived", json={"archived": False})
    assert line(client, build) == before
    missing = client.put(f"/api/v1/builds/{uuid4()}/archived", json={"archived": True})
    assert missing.status_code == 404
    assert client.put(f"/api/v1/builds/{build}/archived", json={"archived": "perhaps"}).status_code == 422


def test_a_copy_is_a_build_of_its_own_and_made_once(client: TestClient) -> None:
    build = stored(client)
    key = {"Idempotency-Key": str(uuid4())}
    made = client.post(f"/api/v1/builds/{build}/copy", headers=key)
    assert made.status_code == 201
    copy = made.json()
    assert copy["id"] != build
    assert copy["build"]["name"] == "Linnet, copy"
    assert copy["build"]["variants"] == client.get(f"/api/v1/builds/{build}").json()["build"]["variants"]
    assert client.post(f"/api/v1/builds/{build}/copy", headers=key).json()["id"] == copy["id"]
    assert client.post(f"/api/v1/builds/{uuid4()}/copy").status_code == 404


def test_the_longest_name_can_be_copied(client: TestClient) -> None:
    made = client.post(f"/api/v1/builds/{stored(client, name='x' * 120)}/copy").json()
    assert len(made["build"]["name"]) == 120
    assert made["build"]["name"].endswith(", copy")


def test_a_workshop_has_one_currency(client: TestClient) -> None:
    assert client.get("/api/v1/settings").json() == {"currency": ""}
    assert client.put("/api/v1/settings", json={"currency": " kr "}).json() == {"currency": "kr"}
    assert client.get("/api/v1/settings").json() == {"currency": "kr"}
    assert client.put("/api/v1/settings", json={"currency": "much too long"}).status_code == 422
    assert client.put("/api/v1/settings", json={"colour": "red"}).status_code == 422
    client.put("/api/v1/settings", json={"currency": ""})


def test_a_sizing_is_let_go_and_the_one_before_it_is_the_newest(client: TestClient) -> None:
    build = stored(client)
    asked = {"build": linnet().model_dump(mode="json"), "variant": "as-found", "wishes": {}}
    first, second = (
        client.post(f"/api/v1/builds/{build}/sizings", json=asked).json()["id"] for _ in range(2)
    )
    assert client.delete(f"/api/v1/sizings/{second}").status_code == 204
    assert client.get(f"/api/v1/sizings/{second}").status_code == 404
    assert client.get(f"/api/v1/builds/{build}/sizings/newest").json()["id"] == first
    assert client.delete(f"/api/v1/sizings/{second}").status_code == 404
    # A worker that takes it up finds nothing to do.
    RunService(client.app.state.database).work(second)  # type: ignore[attr-defined]


def test_a_recording_is_let_go_and_a_drive_on_it_says_so(client: TestClient) -> None:
    rows = "time [s],speed [km/h],engine speed [rpm],gradient [%],ambient [°C]\n"
    rows += "".join(f"{10 * i},{40 + i},{1500 + 10 * i},0.5,28\n" for i in range(30))
    headers = {"Content-Type": "text/csv"}
    kept = client.post("/api/v1/recordings?name=Hill", content=rows.encode(), headers=headers).json()[
        "recording"
    ]
    drive = {"id": "hill", "recording": kept}
    question = {"build": linnet().model_dump(mode="json"), "variant": "as-found", "drive": drive}
    assert client.post("/api/v1/drive", json=question).status_code == 200
    assert client.delete(f"/api/v1/recordings/{kept['id']}").status_code == 204
    refused = client.post("/api/v1/drive", json=question)
    assert refused.status_code == 404
    assert "Read its file in again" in refused.json()["detail"]
    assert client.delete(f"/api/v1/recordings/{kept['id']}").status_code == 404
