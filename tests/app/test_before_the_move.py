"""A database that an Ebbrin of before its code was moved has filled is opened unchanged.

before_the_move.ebbrin is a backup that it made of: the demo workshop, Mule saved twice more under an id of a save and
its first revision named, a drive that follows a recording, a part of one's own, a sizing that is done, and the list's
judgements.
"""

from __future__ import annotations

import json
import os
import zipfile
from collections.abc import Iterator
from pathlib import Path
from uuid import UUID

import pytest
from fastapi.testclient import TestClient

from ebbrin.app import backup
from ebbrin.app.cluster import Cluster
from ebbrin.app.web import create_app

pytestmark = pytest.mark.database
FILE = Path(__file__).with_name("before_the_move.ebbrin")
MANIFEST = json.loads(zipfile.ZipFile(FILE).read(backup.MANIFEST))
API = "/api/v1"


@pytest.fixture
def moved(cluster: Cluster, request: pytest.FixtureRequest) -> Iterator[TestClient]:
    """A client on the application over that database, in a database of its own."""
    name = f"before_{os.getpid()}_{abs(hash(request.node.nodeid))}"
    backup.load(FILE, cluster, name)
    app = create_app(cluster.url(name))
    with TestClient(app, base_url="http://127.0.0.1:8600") as client:
        yield client
    app.state.database.close()


def test_everything_that_was_stored_is_there_and_works(moved: TestClient) -> None:
    assert MANIFEST["rows"]["revisions"] == 5
    listed = {line["name"]: line for line in moved.get(f"{API}/builds").json()}
    assert set(listed) == {"Linnet", "Mule, kept from before", "Brigade"}
    assert all(line["readable"] for line in listed.values())
    mule = listed["Mule, kept from before"]
    opened = moved.get(f"{API}/builds/{mule['id']}").json()
    assert opened["revision"] == mule["revision"] == 3
    # The stored document is what it was: nothing was rewritten on the way.
    assert moved.get(f"{API}/builds/{mule['id']}/document").json()["version"] == 4
    assert opened["build"]["version"] == 5
    names = [
        (r["revision"], r["revision_name"]) for r in moved.get(f"{API}/builds/{mule['id']}/revisions").json()
    ]
    assert names == [(3, None), (2, None), (1, "as it came")]


def test_a_save_of_before_is_known_and_a_new_one_goes_on_top(moved: TestClient) -> None:
    mule = next(line for line in moved.get(f"{API}/builds").json() if line["name"].startswith("Mule"))
    path = f"{API}/builds/{mule['id']}"
    second = moved.get(f"{path}/revisions/2").json()["build"]
    sent = {"If-Match": '"1"', "Idempotency-Key": str(UUID("0b0ac1d2-1111-4222-8333-444455556666"))}
    assert moved.put(path, json=second, headers=sent).json()["revision"] == 2
    answer = moved.put(path, json=second | {"name": "Mule, moved"}, headers={"If-Match": '"3"'})
    assert (answer.status_code, answer.json()["revision"]) == (200, 4)


def test_recording_part_and_sizing_of_before_are_used(moved: TestClient) -> None:
    mule = next(line for line in moved.get(f"{API}/builds").json() if line["name"].startswith("Mule"))
    build = moved.get(f"{API}/builds/{mule['id']}").json()["build"]
    variant, drive = build["variants"][0]["id"], next(d for d in build["drives"] if d["recording"])
    course = moved.post(f"{API}/drive", json={"build": build, "variant": variant, "drive": drive})
    assert course.status_code == 200
    assert course.json()["name"] == "Over the hill"
    assert [part["id"] for part in moved.get(f"{API}/shelf").json()["own"]] == ["own-core"]
    run = moved.get(f"{API}/builds/{mule['id']}/sizings/newest").json()
    assert (run["state"], run["message"]) == ("done", None)
    assert run["result"]["solutions"]
    assert moved.post(f"{API}/evaluate", json=build).status_code == 200
