"""The shelf over HTTP: taken in row by row, kept in versions, given back as it came."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

pytestmark = pytest.mark.database

GOOD = """part,id,name,width_mm,height_mm,depth_mm,pressure_kpa
radiator,second-hand,Out of the white van,610,402,42,
cap,red-cap,The red one,,,,110
"""


def take_in(client: TestClient, text: str, form: str = "csv") -> Any:
    answer = client.post(f"/api/v1/shelf/import?form={form}", content=text.encode())
    assert answer.status_code == 200, answer.text
    return answer.json()


def own(client: TestClient) -> dict[str, Any]:
    return {part["id"]: part for part in client.get("/api/v1/shelf").json()["own"]}


def test_shelf_starts_with_generic_parts_of_every_kind(client: TestClient) -> None:
    body = client.get("/api/v1/shelf").json()
    assert {part["part"] for part in body["shipped"]} == {
        *("radiator", "fan", "pump", "thermostat", "cap", "coolant")
    }
    assert body["own"] == []


def test_good_rows_are_kept_and_bad_ones_named_with_line_and_column(client: TestClient) -> None:
    taken = take_in(client, GOOD + "radiator,third,Bent,wide,400,40,\n\ncap,,No id,,,,90\n")
    assert taken["added"] == ["second-hand", "red-cap"]
    assert [(row["where"], row["column"]) for row in taken["refused"]] == [
        ("line 4", "width_mm"),
        ("line 6", "id"),
    ]
    assert "must be a number within 100 to 2000 mm" in taken["refused"][0]["message"]
    assert own(client)["second-hand"]["values"] == {"width_mm": 610, "height_mm": 402, "depth_mm": 42}


def test_a_changed_part_gets_a_version_and_an_equal_one_none(client: TestClient) -> None:
    take_in(client, GOOD)
    again = take_in(client, GOOD.replace("110", "103"))
    assert (again["changed"], again["unchanged"]) == (["red-cap"], 1)
    assert own(client)["red-cap"]["version"] == 2
    assert take_in(client, GOOD.replace("110", "103"))["unchanged"] == 2


@pytest.mark.parametrize("form", ["csv", "json"])
def test_what_is_exported_comes_back_unchanged(client: TestClient, form: str) -> None:
    take_in(client, GOOD)
    answer = client.get(f"/api/v1/shelf/export?form={form}")
    assert f'filename="shelf.{form}"' in answer.headers["content-disposition"]
    taken = take_in(client, answer.text, form)
    assert taken["added"] == taken["changed"] == taken["refused"] == []
    assert taken["unchanged"] == len(client.get("/api/v1/shelf").json()["shipped"]) + 2
    only_own = client.get(f"/api/v1/shelf/export?form={form}&own=true").text
    assert "second-hand" in only_own
    assert "stat-82" not in only_own


def test_a_part_that_ships_is_not_changed_by_an_import(client: TestClient) -> None:
    row = "part,id,name,opens_c\nthermostat,stat-82,Mine,80\n"
    refused = take_in(client, row)["refused"]
    assert refused[0]["column"] == "id"
    assert "give yours an id of its own" in refused[0]["message"]
    assert own(client) == {}


def test_a_removed_part_can_be_put_back(client: TestClient) -> None:
    take_in(client, GOOD)
    assert client.put("/api/v1/shelf/red-cap/removed").status_code == 204
    assert "red-cap" not in own(client)
    assert client.put("/api/v1/shelf/red-cap/removed?removed=false").status_code == 204
    assert own(client)["red-cap"]["version"] == 1
    client.put("/api/v1/shelf/red-cap/removed")
    assert take_in(client, GOOD)["added"] == ["red-cap"]
    answer = client.put("/api/v1/shelf/never-was/removed")
    assert answer.status_code == 404
    assert "no part never-was of its own" in answer.json()["detail"]


def test_text_that_is_not_utf_8_is_refused_by_its_line(client: TestClient) -> None:
    body = b"part,id,name,pressure_kpa\ncap,a,A,90\ncap,b,M\xfcller,90\n"
    answer = client.post("/api/v1/shelf/import?form=csv", content=body)
    assert answer.status_code == 422
    assert answer.json()["detail"] == "Line 3 is not UTF-8; save the file as UTF-8 and try again."


@pytest.mark.parametrize("part_id", ["%00", "a" * 5000, "%ED%A0%80", "a%20b"])
def test_an_id_that_no_part_has_is_refused(client: TestClient, part_id: str) -> None:
    answer = client.put(f"/api/v1/shelf/{part_id}/removed")
    assert answer.status_code == 422
    assert answer.json()["type"] == "urn:ebbrin:bad-request"
