"""The HTTP interface: documents in and out, conflicts, bad bodies, the guard."""

from __future__ import annotations

import asyncio
import json
import threading
import time
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient
from starlette.exceptions import HTTPException

from ebbrin.api import routes
from ebbrin.document.build import Build
from tests.builds import linnet, plain_build

pytestmark = pytest.mark.database


def document(build: Build | None = None) -> dict[str, Any]:
    return (build or linnet()).model_dump(mode="json")


def assert_problem(response: Any, status: int, kind: str) -> dict[str, Any]:
    assert response.status_code == status
    assert response.headers["content-type"] == "application/problem+json"
    body: dict[str, Any] = response.json()
    assert body["type"] == f"urn:ebbrin:{kind}"
    assert body["detail"]
    return body


def test_health(client: TestClient) -> None:
    assert client.get("/api/v1/health").json() == {"status": "ok", "database": True}


def test_schema_is_that_of_the_build(client: TestClient) -> None:
    schema = client.get("/api/v1/schema/build").json()
    width = schema["$defs"]["Radiator"]["properties"]["width_mm"]
    assert width["quantity"] == "length"
    assert width["needed"] is True
    assert "site" in schema["properties"]


def test_build_is_stored_and_comes_back(client: TestClient) -> None:
    made = client.post("/api/v1/builds", json=document())
    assert made.status_code == 201
    assert made.headers["etag"] == '"1"'
    back = client.get(made.headers["location"])
    assert back.json()["build"] == document()
    assert back.headers["etag"] == '"1"'


def test_list_names_the_worst_case(client: TestClient) -> None:
    client.post("/api/v1/builds", json=document())
    unfinished = document(plain_build())
    unfinished["variants"][0]["engine"]["displacement_l"] = None
    client.post("/api/v1/builds", json=unfinished)
    draft, done = client.get("/api/v1/builds").json()
    assert done["worst_case"] == "Paddock queue, idle"
    assert done["verdict"] == "tight"
    assert draft["verdict"] is None
    assert "displacement" in draft["sentence"][0]


def test_saving_adds_a_revision(client: TestClient) -> None:
    made = client.post("/api/v1/builds", json=document())
    url, changed = made.headers["location"], document()
    changed["variants"][0]["radiator"]["depth_mm"] = 60
    saved = client.put(url, json=changed, headers={"If-Match": '"1"'})
    assert saved.headers["etag"] == '"2"'
    revisions = client.get(f"{url}/revisions").json()
    assert [r["revision"] for r in revisions] == [2, 1]
    assert revisions[1]["build"] == document()


def test_edit_of_an_old_revision_gets_both_versions(client: TestClient) -> None:
    url = client.post("/api/v1/builds", json=document()).headers["location"]
    theirs, mine = document(), document()
    theirs["notes"], mine["notes"] = "theirs", "mine"
    client.put(url, json=theirs, headers={"If-Match": '"1"'})
    body = assert_problem(client.put(url, json=mine, headers={"If-Match": '"1"'}), 412, "conflict")
    assert body["current"]["build"]["notes"] == "theirs"
    assert body["current"]["revision"] == 2
    assert body["yours"]["notes"] == "mine"
    assert client.get(url).json()["build"]["notes"] == "theirs"


def test_saving_blindly_is_refused(client: TestClient) -> None:
    url = client.post("/api/v1/builds", json=document()).headers["location"]
    assert_problem(client.put(url, json=document()), 428, "http")
    assert_problem(client.put(url, json=document(), headers={"If-Match": "*"}), 400, "http")
    assert client.get(url).headers["etag"] == '"1"'


def test_unknown_build_is_said_to_be(client: TestClient) -> None:
    nobody = "/api/v1/builds/00000000-0000-4000-8000-000000000000"
    assert_problem(client.get(nobody), 404, "unknown-build")
    assert_problem(client.get(f"{nobody}/revisions"), 404, "unknown-build")
    assert_problem(client.put(nobody, json=document(), headers={"If-Match": '"1"'}), 404, "unknown-build")
    assert_problem(client.get("/api/v1/builds/not-an-id"), 422, "bad-request")
    assert_problem(client.get("/api/v1/nothing"), 404, "http")


def test_evaluate_judges_without_storing(client: TestClient) -> None:
    answer = client.post("/api/v1/evaluate", json=document()).json()
    assert answer["worst_case_id"] == "queue"
    assert answer["cases"][0]["id"] == "queue"
    assert answer["answers"]["cap"]["fitted"] == 110
    assert client.get("/api/v1/builds").json() == []


def test_evaluate_names_what_is_missing(client: TestClient) -> None:
    build = document(plain_build())
    build["variants"][0]["radiator"]["width_mm"] = None
    body = assert_problem(client.post("/api/v1/evaluate", json=build), 422, "values-needed")
    (error,) = body["errors"]
    assert error["path"] == "/variants/0/radiator/width_mm"
    assert (error["low"], error["high"]) == (100, 2000)


def test_evaluate_refuses_an_unknown_variant(client: TestClient) -> None:
    assert_problem(client.post("/api/v1/evaluate?variant=other", json=document()), 404, "http")


@pytest.mark.parametrize(
    ("path", "value", "message"),
    [
        (("cap", "pressure_kpa"), 9000, "Cap pressure is 9000 kPa; it must lie within 0 to 250 kPa."),
        (("cap", "pressure_kpa"), "16 psi", "must be a number within 0 to 250 kPa"),
        (("cap", "colour"), "red", "no field of this name"),
        (("engine", "kind"), None, "Kind must be one of"),
    ],
)
def test_bad_field_is_named_with_its_range(
    client: TestClient, path: tuple[str, str], value: Any, message: str
) -> None:
    build = document()
    build["variants"][0][path[0]][path[1]] = value
    body = assert_problem(client.post("/api/v1/evaluate", json=build), 422, "invalid-build")
    assert body["errors"][0]["path"] == f"/variants/0/{path[0]}/{path[1]}"
    assert message in body["errors"][0]["message"]


@pytest.mark.parametrize(
    ("content", "kind"),
    [
        (b"{", "not-json"),
        (b"[]", "invalid-build"),
        (b"", "invalid-build"),
        (b"null", "invalid-build"),
        (b'{"cases": NaN}', "invalid-build"),
    ],
)
def test_nonsense_bodies_are_refused_in_words(client: TestClient, content: bytes, kind: str) -> None:
    response = client.post("/api/v1/evaluate", content=content, headers={"Content-Type": "application/json"})
    assert_problem(response, 422, kind)


def test_body_has_a_limit(client: TestClient) -> None:
    huge = document() | {"notes": "x" * 1_000_001}
    assert_problem(client.post("/api/v1/evaluate", json=huge), 413, "too-large")

    def stream() -> Any:
        for _ in range(20):
            yield b" " * 100_000

    assert_problem(client.post("/api/v1/evaluate", content=stream()), 413, "too-large")


def test_only_this_machine_and_its_own_page_may_ask(client: TestClient) -> None:
    assert_problem(client.get("/api/v1/health", headers={"Host": "evil.example"}), 421, "wrong-host")
    foreign = client.post("/api/v1/builds", json=document(), headers={"Origin": "http://evil.example"})
    assert_problem(foreign, 403, "wrong-origin")
    own = client.post("/api/v1/builds", json=document(), headers={"Origin": "http://127.0.0.1:8600"})
    assert own.status_code == 201


def test_every_answer_carries_the_security_headers(client: TestClient) -> None:
    for response in (client.get("/api/v1/health"), client.get("/api/v1/nothing")):
        policy = response.headers["content-security-policy"]
        assert "default-src 'none'" in policy
        assert "unsafe" not in policy
        assert response.headers["x-content-type-options"] == "nosniff"


def test_away_database_is_said_to_be_away() -> None:
    from ebbrin.api.app import create_app

    app = create_app("postgresql+psycopg://nobody:x@127.0.0.1:1/none")
    with TestClient(app, base_url="http://127.0.0.1:8600") as client:
        assert_problem(client.get("/api/v1/builds"), 503, "no-database")
        assert client.get("/api/v1/health").status_code == 503
        assert client.post("/api/v1/evaluate", json=document()).status_code == 200


def test_openapi_describes_problems(client: TestClient) -> None:
    spec = client.get("/api/v1/openapi.json").json()
    assert "application/problem+json" in json.dumps(spec["paths"]["/api/v1/evaluate"])
    assert set(spec["paths"]) >= {"/api/v1/builds", "/api/v1/evaluate", "/api/v1/builds/{build_id}/revisions"}


def test_uncertainty_answers_with_chances(client: TestClient) -> None:
    answer = client.post("/api/v1/uncertainty", json=document(plain_build()))
    assert answer.status_code == 200
    body = answer.json()
    assert body["samples"] == 400
    assert 0.0 <= body["chance"] <= min(case["chance"] for case in body["cases"]) <= 1.0
    assert body["verdict"] in ("holds", "tight", "fails")


def test_uncertainty_refuses_as_evaluate_does(client: TestClient) -> None:
    assert_problem(client.post("/api/v1/uncertainty?variant=none", json=document()), 404, "http")
    unfinished = document(plain_build())
    unfinished["variants"][0]["engine"]["displacement_l"] = None
    assert_problem(client.post("/api/v1/uncertainty", json=unfinished), 422, "values-needed")


def test_a_test_point_that_cannot_be_is_said_in_words(client: TestClient) -> None:
    build = document(plain_build())
    tested = {"test_point": True, "test_heat_kw": 900, "test_air_m_per_s": 6, "test_coolant_l_per_min": 60}
    build["variants"][0]["radiator"] |= tested
    body = assert_problem(client.post("/api/v1/evaluate", json=build), 422, "not-physical")
    assert "Heat of the radiator's test comes to 900 kW; it must lie between" in body["detail"]


def test_uncertainty_stops_when_its_caller_hangs_up(monkeypatch: pytest.MonkeyPatch) -> None:
    stopped = threading.Event()

    def slow(_build: Build, _variant: str | None, proceed: Callable[[float], bool]) -> None:
        while proceed(0.5):
            time.sleep(0.01)
        stopped.set()

    class Gone:
        """A request whose caller has hung up."""

        async def is_disconnected(self) -> bool:
            return True

    monkeypatch.setattr(routes, "uncertainty", slow)
    with pytest.raises(HTTPException, match="Nobody waits"):
        asyncio.run(routes.chances_of_build(plain_build(), Gone(), None))  # type: ignore[arg-type]
    assert stopped.is_set()


def test_a_lever_is_pulled_into_a_new_variant(client: TestClient) -> None:
    answer = client.post("/api/v1/levers/full_shroud?variant=as-found", json=document())
    assert answer.status_code == 200
    new = answer.json()["variants"][-1]
    assert new["air"]["shroud"] == "full"
    assert new["name"] == "As found + a full shroud"
    assert_problem(client.post("/api/v1/levers/magic?variant=as-found", json=document()), 404, "http")
    assert_problem(client.post("/api/v1/levers/ram?variant=none", json=document()), 404, "http")
    strong = document(plain_build())
    strong["variants"][0]["cap"]["pressure_kpa"] = 245
    body = assert_problem(client.post("/api/v1/levers/cap_up?variant=v", json=strong), 422, "http")
    assert "Cap pressure is 265 kPa; it must lie within 0 to 250 kPa." in body["detail"]


@pytest.mark.parametrize("which", ["heat", "condition", "air", "flow", "coolants"])
def test_curves_of_every_station_are_answered(client: TestClient, which: str) -> None:
    path = f"/api/v1/curves/{which}?variant=as-found&case="
    answer = client.post(path + "hill", json=document())
    assert answer.status_code == 200
    assert answer.json()["case_id"] == "hill"
    assert_problem(client.post(path + "none", json=document()), 404, "http")


def test_a_revision_can_be_named_and_its_document_stays(client: TestClient) -> None:
    stored = client.post("/api/v1/builds", json=document()).json()
    path = f"/api/v1/builds/{stored['id']}/revisions"
    named = client.put(f"{path}/1/name", json={"name": " before the pass "}).json()
    assert named["revision_name"] == "before the pass"
    assert named["build"] == stored["build"]
    assert client.get(path).json()[0]["revision_name"] == "before the pass"
    assert client.put(f"{path}/1/name", json={"name": ""}).json()["revision_name"] is None
    assert_problem(client.put(f"{path}/7/name", json={"name": "x"}), 404, "unknown-build")
    assert_problem(client.put(f"{path}/1/name", json={"name": "x" * 121}), 422, "invalid-build")
