"""The HTTP interface: documents in and out, conflicts, bad bodies, the guard."""

from __future__ import annotations

import json
import re
from itertools import product
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient
from sqlalchemy import create_engine, text
from sqlalchemy.exc import OperationalError

from ebbrin.build.build import Build
from oracles.builds import linnet, plain_build

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
    found = client.get("/api/v1/health").json()
    assert (found["status"], found["database"], found["backups"]) == ("ok", True, None)
    assert found["version"].startswith("0.1.0+")


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
    assert "build" not in revisions[1]
    assert client.get(f"{url}/revisions/1").json()["build"] == document()
    assert [r["revision"] for r in client.get(f"{url}/revisions?before=2").json()] == [1]


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
    ("address", "sent", "message"),
    [
        (
            "fit/cap",
            {"mark_kpa": 400},
            "Mark of the cap is 400 kPa; it must lie above 0 kPa and up to 250 kPa.",
        ),
        ("fit/cap", {"mark_kpa": "tight"}, "Mark of the cap must be a number above 0 kPa and up to 250 kPa."),
        ("fit/filling", {"ambient_c": 1e30}, "Air of the day is 1e+30 °C; it must lie within -30 to 50 °C."),
        ("fit/mix", {"want_share": 0.95}, "Strength wanted is 95 %; it must lie within 0 to 70 %."),
        ("fit/water-left", {"flushes": 1.5}, "Flushes must be a whole number within 0 to 10."),
        ("fit/hold", {"readings": []}, "Readings must have at least 3 entries."),
        ("fit/refractometer", {}, "Give a freezing point or a strength, one of both."),
        ("fit/parts", {"school": "none"}, "School must be one of 'bad', 'usual' or 'all', not “none”."),
        ("diagnosis", {"hourly_rate": 0}, "Hourly rate is 0; it must lie above 0 and up to 100000."),
        ("diagnosis", {"variant": ""}, "Variant must not be empty."),
        ("diagnosis", {"evidence": []}, "Evidence must be an object with fields."),
        ("drive", {"variant": "x" * 65}, "Variant must not have more than 64 letters."),
        ("cases", {"id": "mine"}, "Id must be a UUID, such as 00000000-0000-4000-8000-000000000000."),
    ],
)
def test_what_no_build_is_is_refused_by_its_own_names(
    client: TestClient, address: str, sent: dict[str, Any], message: str
) -> None:
    body = assert_problem(client.post(f"/api/v1/{address}", json=sent), 422, "invalid-build")
    assert message in [entry["message"] for entry in body["errors"]]
    assert "of what was sent cannot be used" in body["detail"]


def test_nothing_is_refused_in_the_words_of_a_library(client: TestClient) -> None:
    """Every field of every body, sent as what it is not."""
    described = client.get("/api/v1/openapi.json").json()
    schemas = described["components"]["schemas"]
    said: set[str] = set()
    known = {""}  # each body once, wherever it is sent to
    for path, methods in described["paths"].items():
        for method in {"post", "put"} & set(methods):
            body = methods[method].get("requestBody", {}).get("content", {}).get("application/json")
            name = (body or {}).get("schema", {}).get("$ref", "").rpartition("/")[2]
            if name in known:
                continue
            known.add(name)
            address = re.sub(r"{[^}]*}", "00000000-0000-0000-0000-000000000001", path)
            for field, wrong in product(schemas.get(name, {}).get("properties", {}), ("?", -1e9, [], {}, "")):
                answer = client.request(method, address, json={field: wrong})
                if answer.status_code == 422:
                    said |= {entry["message"] for entry in answer.json()["errors"]}
    assert len(said) > 100
    assert [text for text in said if "should" in text or "This value" in text] == []


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
    from ebbrin.app.web import create_app

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
    assert client.get(f"{path}/1").json()["build"] == stored["build"]
    assert client.get(path).json()[0]["revision_name"] == "before the pass"
    assert client.put(f"{path}/1/name", json={"name": ""}).json()["revision_name"] is None
    assert_problem(client.put(f"{path}/7/name", json={"name": "x"}), 404, "unknown-build")
    assert_problem(client.put(f"{path}/1/name", json={"name": "x" * 121}), 422, "invalid-build")


def save_key(number: int) -> dict[str, str]:
    return {"Idempotency-Key": f"00000000-0000-4000-8000-{number:012d}"}


def test_a_save_sent_twice_is_stored_once(client: TestClient) -> None:
    made = [client.post("/api/v1/builds", json=document(), headers=save_key(1)) for _ in range(2)]
    assert made[0].json() == made[1].json()
    assert len(client.get("/api/v1/builds").json()) == 1
    url, changed = made[0].headers["location"], document() | {"name": "Other"}
    saved = [client.put(url, json=changed, headers={"If-Match": '"1"'} | save_key(2)) for _ in range(2)]
    assert [s.json()["revision"] for s in saved] == [2, 2]
    # Somebody else saves on top; the late retry is still answered as what it was, and stores nothing.
    client.put(url, json=document(), headers={"If-Match": '"2"'})
    late = client.put(url, json=changed, headers={"If-Match": '"1"'} | save_key(2))
    assert late.json()["revision"] == 2
    assert [r["revision"] for r in client.get(f"{url}/revisions").json()] == [3, 2, 1]


def test_the_id_of_a_save_stands_for_one_document(client: TestClient) -> None:
    made = client.post("/api/v1/builds", json=document(), headers=save_key(3))
    other = document() | {"name": "Other"}
    assert_problem(client.post("/api/v1/builds", json=other, headers=save_key(3)), 422, "save-id-used")
    sent = client.put(made.headers["location"], json=other, headers={"If-Match": '"1"'} | save_key(3))
    assert_problem(sent, 422, "save-id-used")
    assert client.post("/api/v1/builds", json=document(), headers={"Idempotency-Key": "x"}).status_code == 422


def spoil(database_url: str, build_id: str, path: str, value: str) -> None:
    """Store a value that no build may hold, as a version with other ranges would have."""
    engine = create_engine(database_url)
    with engine.begin() as connection:
        connection.execute(
            text("UPDATE revisions SET document = jsonb_set(document, :path, :value) WHERE build_id = :id"),
            {"path": path, "value": value, "id": build_id},
        )
    engine.dispose()


def test_a_document_that_is_none_any_more_hides_no_other(client: TestClient, database_url: str) -> None:
    bad = client.post("/api/v1/builds", json=document()).json()
    client.post("/api/v1/builds", json=document())
    for _ in range(3):
        assert client.get("/api/v1/builds").json()[1]["readable"]  # judged, and kept
    spoil(database_url, bad["id"], "{site,ambient_c}", "61")
    for _ in range(3):  # a busy machine judges one build a time
        good, listed = client.get("/api/v1/builds").json()
    assert (good["readable"], good["verdict"]) == (True, "tight")
    assert (listed["readable"], listed["judged"], listed["verdict"]) == (False, True, None)
    assert "/site/ambient_c" in listed["sentence"][0]
    assert "is 61 °C; it must lie within -40 to 60" in listed["sentence"][0]
    problem = assert_problem(client.get(f"/api/v1/builds/{bad['id']}"), 422, "unreadable")
    assert [e["path"] for e in problem["errors"]] == ["/site/ambient_c"]
    assert problem["document"]["site"]["ambient_c"] == 61
    assert client.get(f"/api/v1/builds/{bad['id']}/document").json() == problem["document"]
    # Mended, it is saved on top; the old revision stays.
    mended = problem["document"] | {"site": problem["document"]["site"] | {"ambient_c": 60}}
    headers = {"If-Match": f'"{problem["revision"]}"'}
    assert client.put(f"/api/v1/builds/{bad['id']}", json=mended, headers=headers).status_code == 200
    assert client.get(f"/api/v1/builds/{bad['id']}").json()["build"]["site"]["ambient_c"] == 60
    assert all(line["readable"] for line in client.get("/api/v1/builds").json())


def test_a_missing_table_is_said_and_the_rest_works(client: TestClient, database_url: str) -> None:
    made = client.post("/api/v1/builds", json=document())
    engine = create_engine(database_url)
    with engine.begin() as connection:
        connection.execute(text("DROP TABLE shelf_parts"))
    engine.dispose()
    body = assert_problem(client.get("/api/v1/shelf"), 500, "database-damaged")
    assert "shelf_parts" in body["detail"]
    assert "ebbrin restore" in body["detail"]
    assert client.get(made.headers["location"]).status_code == 200


@pytest.mark.parametrize(
    ("error", "status", "kind", "said"),
    [
        (psycopg.errors.DiskFull(), 507, "disk-full", "disk of the database is full"),
        (psycopg.errors.QueryCanceled(), 503, "busy", "Nothing was changed"),
        (psycopg.errors.LockNotAvailable(), 503, "busy", "Nothing was changed"),
        (psycopg.errors.UndefinedFile("lost"), 500, "database-damaged", "lost"),
        (psycopg.OperationalError("gone"), 503, "no-database", "is not known"),
    ],
)
def test_what_ails_the_database_is_said_as_what_it_is(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, error: Exception, status: int, kind: str, said: str
) -> None:
    def fails(*_: object) -> None:
        raise OperationalError("INSERT", {}, error)

    monkeypatch.setattr("ebbrin.features.workshop.store.Builds.add", fails)
    body = assert_problem(client.post("/api/v1/builds", json=document()), status, kind)
    assert said in body["detail"]
    assert ("Nothing was changed" in body["detail"]) == (kind != "no-database")


def test_a_mistake_of_ours_is_logged_and_carries_the_headers(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def fails(*_: object) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr("ebbrin.features.workshop.store.Builds.add", fails)
    answer = client.post("/api/v1/builds", json=document())
    assert_problem(answer, 500, "internal")
    assert answer.headers["x-content-type-options"] == "nosniff"
    assert "ZeroDivisionError" in caplog.text


def test_addresses_and_methods_are_told_apart(client: TestClient) -> None:
    answer = client.get("/api/v1/evaluate")
    assert_problem(answer, 405, "http")
    assert answer.headers["allow"] == "POST"
    assert_problem(client.delete("/api/v1/builds"), 405, "http")
    assert_problem(client.post("/api/v1/nothing"), 404, "http")
    assert_problem(client.get("/api/v1/nothing"), 404, "http")


def test_a_body_of_another_kind_is_refused(client: TestClient) -> None:
    headers = {"Content-Type": "text/plain"}
    sent = client.post("/api/v1/evaluate", content=json.dumps(document()), headers=headers)
    assert sent.status_code in (415, 422)
    wrong = {"Content-Type": "image/png"}
    assert (
        client.post("/api/v1/shelf/import?form=csv", content="part,id,name\n", headers=wrong).status_code
        == 415
    )
    assert client.post("/api/v1/recordings?name=x", content="a", headers=wrong).status_code == 415


@pytest.mark.parametrize("value", ["true", "1" + 4300 * "0", '"\\ud800"', "1e999", "[]", "{}"])
def test_what_is_no_number_is_refused(client: TestClient, value: str) -> None:
    body = re.sub(r'"depth_mm": [0-9.]+', lambda _: f'"depth_mm": {value}', json.dumps(document()))
    answer = client.post("/api/v1/evaluate", content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code in (400, 422), answer.text
    assert answer.json()["detail"]


@pytest.mark.parametrize("where", ["name", "workshop"])
def test_text_that_cannot_be_written_is_refused(client: TestClient, where: str) -> None:
    body = json.dumps(document() | {where: "half a \ud83d pair"})
    headers = {"Content-Type": "application/json"}
    answer = assert_problem(
        client.post("/api/v1/builds", content=body, headers=headers), 422, "invalid-build"
    )
    assert answer["errors"][0]["path"] == f"/{where}"
