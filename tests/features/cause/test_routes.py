"""Diagnosis and cases over HTTP, and the command."""

import json
from pathlib import Path
from typing import Any
from uuid import uuid4

from fastapi.testclient import TestClient
from typer.testing import CliRunner

from ebbrin.app.commands import app as commands
from ebbrin.demo import demo_builds

AT = "2026-05-14T09:30:00+02:00"


def seen(observation: str, value: str, **more: Any) -> dict[str, Any]:
    return {"id": str(uuid4()), "at": AT, "kind": "seen", "observation": observation, "value": value, **more}


def done(kind: str, **more: Any) -> dict[str, Any]:
    return {"id": str(uuid4()), "at": AT, "kind": kind, **more}


def begun(client: TestClient, build_id: str | None) -> str:
    path = "/api/v1/cases" if build_id is None else f"/api/v1/builds/{build_id}/cases"
    case_id = str(uuid4())
    answer = client.post(path, json={"id": case_id})
    assert answer.status_code == 201, answer.text
    return case_id


def add(client: TestClient, case_id: str, *findings: dict[str, Any]) -> dict[str, Any]:
    answer = client.post(f"/api/v1/cases/{case_id}/findings", json={"findings": list(findings)})
    assert answer.status_code == 200, answer.text
    body: dict[str, Any] = answer.json()
    return body


def build_id(client: TestClient) -> str:
    body = client.post("/api/v1/builds", json=demo_builds()[0].model_dump(mode="json")).json()
    return str(body["id"])


def test_a_question_without_a_build_is_answered_in_the_published_form(client: TestClient) -> None:
    asked = {
        "build": None,
        "variant": None,
        "evidence": {"complaint": "runs_hot", "fuse": "open"},
        "order": "telling",
        "hourly_rate": 30,
    }
    body = client.post("/api/v1/diagnosis", json=asked).json()
    assert set(body) >= {"causes", "sets", "next", "stop", "spoken_by"}
    assert body["causes"][0]["cause"] == "fan_fuse_open"
    assert set(body["causes"][0]) >= {"cause", "chance", "explains", "for", "against"}
    assert set(body["next"][0]) >= {"observation", "bits", "minutes", "money", "danger", "why"}
    assert body["spoken_by"]["state"] == "table"


def test_unknown_evidence_is_refused_with_the_nearest(client: TestClient) -> None:
    answer = client.post("/api/v1/diagnosis", json={"evidence": {"fuze": "open", "relay": "ded"}})
    assert answer.status_code == 422
    assert answer.headers["content-type"].startswith("application/problem+json")
    body = answer.json()
    assert body["nearest"]["fuze"][0] == "fuse"
    assert "dead" in body["nearest"]["ded"]
    assert {field["path"] for field in body["errors"]} == {"/evidence/fuze", "/evidence/relay"}


def test_a_variant_that_is_not_there_is_not_found(client: TestClient) -> None:
    document = demo_builds()[0].model_dump(mode="json")
    answer = client.post("/api/v1/diagnosis", json={"build": document, "variant": "nobody"})
    assert answer.status_code == 404


def test_a_case_goes_from_the_complaint_to_the_proof_and_opens_again(client: TestClient) -> None:
    case_id = begun(client, build_id(client))
    body = add(client, case_id, seen("complaint", "runs_hot"), seen("fuse", "good"), seen("fuse", "open"))
    assert body["evidence"] == {"complaint": "runs_hot", "fuse": "open"}
    assert body["state"] == "open"
    body = add(client, case_id, done("taken_back", observation="fuse"))
    assert body["evidence"] == {"complaint": "runs_hot"}
    assert add(client, case_id, done("mended", cause="fan_fuse_open", note="30 A"))["mended"] == [
        "fan_fuse_open"
    ]
    assert add(client, case_id, done("proved", cause="fan_fuse_open"))["state"] == "open"
    assert add(client, case_id, done("drove", value="hot"))["state"] == "open"
    assert add(client, case_id, done("drove", value="cool"))["state"] == "closed"
    again = add(client, case_id, done("opened", note="hot once more"))
    assert again["state"] == "open"
    assert len(again["findings"]) == 9
    assert client.get(f"/api/v1/cases/{case_id}").json() == again


def test_a_case_stays_open_while_one_of_two_that_were_mended_is_not_proved(client: TestClient) -> None:
    case_id = begun(client, build_id(client))
    one, two = {"cause": "fan_fuse_open"}, {"cause": "thermostat_shut"}
    assert add(client, case_id, done("proved", **one), done("drove", value="cool"))["state"] == "open"
    add(client, case_id, done("mended", **one), done("proved", **one), done("mended", **two))
    body = add(client, case_id, done("drove", value="cool"))
    assert (body["state"], body["mended"], body["proved"]) == (
        "open",
        list(one.values()) + list(two.values()),
        list(one.values()),
    )
    assert add(client, case_id, done("proved", **two))["state"] == "closed"


def test_a_mend_that_was_none_after_all_no_longer_counts_and_what_was_driven_does(client: TestClient) -> None:
    case_id = begun(client, build_id(client))
    one, two = {"cause": "fan_fuse_open"}, {"cause": "thermostat_shut"}
    add(client, case_id, done("mended", **one), done("proved", **one), done("drove", value="cool"))
    body = add(client, case_id, done("mended", **two), done("proved", **two))
    assert (body["state"], body["drove"]) == ("open", None)
    body = add(client, case_id, done("taken_back", **two))
    assert (body["state"], body["mended"], body["proved"]) == ("closed", ["fan_fuse_open"], ["fan_fuse_open"])
    assert len(body["findings"]) == 6
    wrong = {"findings": [done("taken_back", cause="nothing_such")]}
    assert client.post(f"/api/v1/cases/{case_id}/findings", json=wrong).status_code == 422
    assert (
        client.post(f"/api/v1/cases/{case_id}/findings", json={"findings": [done("taken_back")]}).status_code
        == 422
    )


def test_the_same_finding_sent_twice_is_kept_once_and_nothing_is_changed(client: TestClient) -> None:
    case_id = begun(client, None)
    one = seen("belt", "tight")
    add(client, case_id, one)
    body = add(client, case_id, {**one, "value": "missing"})
    assert body["evidence"] == {"belt": "tight"}
    assert len(body["findings"]) == 1


def test_a_case_begun_twice_is_one_and_ids_of_others_are_refused(client: TestClient) -> None:
    build = build_id(client)
    case_id = begun(client, build)
    assert client.post(f"/api/v1/builds/{build}/cases", json={"id": case_id}).json()["id"] == case_id
    assert client.post("/api/v1/cases", json={"id": case_id}).status_code == 409
    other, one = begun(client, build), seen("belt", "tight")
    add(client, case_id, one)
    assert client.post(f"/api/v1/cases/{other}/findings", json={"findings": [one]}).status_code == 409
    listed = client.get(f"/api/v1/builds/{build}/cases").json()
    assert {case["id"] for case in listed} == {case_id, other}
    assert all(case["id"] != case_id for case in client.get("/api/v1/cases").json())


def test_what_is_not_there_is_said(client: TestClient) -> None:
    nobody = str(uuid4())
    assert client.get(f"/api/v1/cases/{nobody}").status_code == 404
    assert client.post(f"/api/v1/builds/{nobody}/cases", json={"id": str(uuid4())}).status_code == 404
    answer = client.post(f"/api/v1/cases/{nobody}/findings", json={"findings": [seen("belt", "tight")]})
    assert answer.status_code == 404


def test_a_finding_that_says_nothing_known_is_refused_where_it_is_wrong(client: TestClient) -> None:
    case_id = begun(client, None)
    for wrong, path in (
        (seen("belt", "tigt"), "/findings/0/value"),
        (seen("bellt", "tight"), "/findings/0/observation"),
        (done("mended", cause="fuse"), "/findings/0/cause"),
        (done("proved"), "/findings/0/cause"),
        (done("drove", value="fast"), "/findings/0/value"),
    ):
        answer = client.post(f"/api/v1/cases/{case_id}/findings", json={"findings": [wrong]})
        assert answer.status_code == 422
        assert answer.json()["errors"][0]["path"] == path
    assert client.get(f"/api/v1/cases/{case_id}").json()["findings"] == []


def test_a_build_that_goes_takes_its_cases_along(client: TestClient) -> None:
    build = build_id(client)
    case_id = begun(client, build)
    add(client, case_id, seen("belt", "tight"))
    client.app.state.builds.reset_to_demo()  # type: ignore[attr-defined]
    assert client.get(f"/api/v1/builds/{build}/cases").json() == []
    assert client.get(f"/api/v1/cases/{case_id}").status_code == 404


def test_the_command_answers_with_the_same_ids(tmp_path: Path) -> None:
    file = tmp_path / "seen.json"
    file.write_text(json.dumps({"complaint": "runs_hot", "fuse": "open"}))
    found = CliRunner().invoke(commands, ["diagnose", "--evidence", str(file), "--json"])
    assert found.exit_code == 0, found.output
    assert json.loads(found.stdout)["causes"][0]["cause"] == "fan_fuse_open"
    said = CliRunner().invoke(commands, ["diagnose", "--evidence", str(file)])
    assert "A blown fuse leads" in said.output
    assert "?." not in said.output
    file.write_text(json.dumps({"fuze": "open"}))
    refused = CliRunner().invoke(commands, ["diagnose", "--evidence", str(file)])
    assert refused.exit_code == 1
    assert "perhaps fuse" in refused.stderr
    file.write_text(json.dumps({"fuse": "blown"}))
    refused = CliRunner().invoke(commands, ["diagnose", "--evidence", str(file)])
    assert "fuse has no value blown; it may be good, open or not_looked." in refused.stderr
    file.write_text("[]")
    assert CliRunner().invoke(commands, ["diagnose", "--evidence", str(file)]).exit_code == 1
