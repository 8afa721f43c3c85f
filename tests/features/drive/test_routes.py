"""Drives and recordings through the API: driven at once, kept, and refused in words."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import pytest
from fastapi.testclient import TestClient

from oracles.builds import linnet

pytestmark = pytest.mark.database

QUESTION: dict[str, Any] = {"build": linnet().model_dump(mode="json"), "variant": "as-found"}


def test_a_drive_answers_at_once_and_as_a_file(client: TestClient) -> None:
    asked = QUESTION | {"drive": {"id": "d", "legs": [{"case_id": "road", "duration_s": 120}]}}
    course = client.post("/api/v1/drive", json=asked)
    assert course.status_code == 200
    points = course.json()["points"]
    assert len({len(values) for values in points.values() if values is not None}) == 1
    each = client.post("/api/v1/drive/faults", json=asked).json()
    assert {"fault", "hottest_c", "time_to_limit_s", "boils", "runs_dry", "lost_l", "worse"} == set(each[0])
    file = client.post("/api/v1/drive/csv", json=asked)
    assert file.headers["content-type"].startswith("text/plain")
    assert len(file.text.splitlines()) == 1 + 480
    asked["drive"]["legs"][0]["case_id"] = "moon"
    lost = client.post("/api/v1/drive", json=asked)
    assert (lost.status_code, lost.json()["detail"]) == (
        422,
        "Leg 1 is as in the case moon, which the build does not have.",
    )
    asked["drive"]["legs"] = []
    refused = client.post("/api/v1/drive", json=asked)
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["message"] == "A drive needs a leg or a recording."
    asked["drive"]["legs"] = [{"case_id": "road"}]
    other = client.post("/api/v1/drive", json=asked | {"variant": "moon"})
    assert (other.status_code, other.json()["detail"]) == (404, "The build has no variant moon.")


def test_a_recording_is_kept_and_driven(client: TestClient) -> None:
    rows = "".join(f"{10 * i},{40 + i},{1500 + 10 * i},0.5,28\n" for i in range(30))
    head = "time [s],speed [km/h],engine speed [rpm],gradient [%],ambient [°C],boost [kPa]\n"
    text = head.replace(",boost [kPa]", "") + rows
    taken = client.post("/api/v1/recordings", params={"name": "Lane"}, content=text.encode())
    assert taken.status_code == 200
    kept = taken.json()["recording"]
    assert (kept["name"], kept["rows"], kept["lasts_s"]) == ("Lane", 30, 290.0)
    asked = QUESTION | {"drive": {"id": "d", "name": "Logged", "recording": kept}}
    course = client.post("/api/v1/drive", json=asked).json()
    assert [leg["name"] for leg in course["legs"]] == ["Lane"]
    assert course["points"]["time_s"][-1] == 290.0
    # Another machine does not have it.
    asked["drive"]["recording"]["id"] = str(UUID(int=7))
    lost = client.post("/api/v1/drive", json=asked)
    assert (lost.status_code, lost.json()["type"]) == (404, "urn:ebbrin:unknown-recording")


def test_a_recording_with_a_bad_row_is_not_kept(client: TestClient) -> None:
    text = "time [s];speed [km/h];rpm [rpm];gradient [%];ambient [°C]\n0;50;1500;0;28\n1;;1500;0;28\n2;50;1500;0;28\n"
    taken = client.post("/api/v1/recordings", params={"name": "Lane"}, content=text.encode()).json()
    assert taken["recording"] is None
    assert [(r["where"], r["column"]) for r in taken["refused"]] == [("line 3", "speed [km/h]")]
    nameless = client.post("/api/v1/recordings", params={"name": "a\x00b"}, content=text.encode())
    assert nameless.status_code == 422
    broken = client.post("/api/v1/recordings", params={"name": "Lane"}, content=b"time [s]\n\xff\n")
    assert broken.status_code == 422
    assert "Line 2 is not UTF-8" in broken.json()["detail"]


def test_every_fault_is_not_driven_over_a_very_long_recording(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    rows = "".join(f"{t},50,2000,25,0\n" for t in range(40))
    text = "time [s],speed [km/h],engine speed [rpm],ambient [°C],gradient [%]\n" + rows
    headers = {"Content-Type": "text/csv"}
    kept = client.post("/api/v1/recordings?name=Long", content=text.encode(), headers=headers).json()
    drive = {"id": "d", "legs": [], "recording": kept["recording"]}
    monkeypatch.setattr("ebbrin.features.drive.service.MOST_ROWS_OF_EACH", 30)
    refused = client.post("/api/v1/drive/faults", json=QUESTION | {"drive": drive})
    assert refused.status_code == 422
    assert "at most 30 rows of a recording, and Long has 40" in refused.json()["detail"]
    assert client.post("/api/v1/drive", json=QUESTION | {"drive": drive}).status_code == 200
