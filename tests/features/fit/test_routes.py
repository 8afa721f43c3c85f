"""Jobs, photos and answers over HTTP, and the commands."""

import io
import json
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from typer.testing import CliRunner

from ebbrin.app.commands import app as commands
from ebbrin.demo import demo_builds
from ebbrin.features.fit.demo import load_demo_jobs
from ebbrin.features.fit.photos import LONGEST, MOST_BYTES, NoPhoto, small_and_clean
from oracles.builds import plain_build
from tests.features.fit.conftest import mule

API = "/api/v1"
AT = "2026-05-14T09:30:00+02:00"


def entry(kind: str, **more: Any) -> dict[str, Any]:
    return {"id": str(uuid4()), "at": AT, "kind": kind, **more}


def stored(client: TestClient) -> str:
    body = client.post(f"{API}/builds", json=mule().model_dump(mode="json")).json()
    return str(body["id"])


def begun(client: TestClient, build_id: str) -> str:
    job_id = str(uuid4())
    answer = client.post(f"{API}/builds/{build_id}/jobs", json={"id": job_id})
    assert answer.status_code == 201, answer.text
    return job_id


def add(client: TestClient, job_id: str, *entries: dict[str, Any]) -> dict[str, Any]:
    answer = client.post(f"{API}/jobs/{job_id}/entries", json={"entries": list(entries)})
    assert answer.status_code == 200, answer.text
    body: dict[str, Any] = answer.json()
    return body


def test_plan_parts_and_their_file(client: TestClient) -> None:
    question = {"build": mule().model_dump(mode="json"), "variant": "core-fans", "school": "usual"}
    plan = client.post(f"{API}/fit/plan", json=question).json()
    assert plan["steps"][0]["number"] == 1
    assert {step["id"] for step in plan["steps"]} <= plan["titles"].keys()
    listed = client.post(f"{API}/fit/parts", json=question).json()
    assert listed["total"] == pytest.approx(sum(line["price"] or 0 for line in listed["lines"]))
    text = client.post(f"{API}/fit/parts/csv?currency=EUR", json=question).text
    assert text.splitlines()[0] == "kind,part,amount,why,price [EUR],price from,state,paid [EUR]"
    noted = {"cap": {"state": "here", "paid": 21.5}}
    text = client.post(f"{API}/fit/parts/csv", json={**question, "noted": noted}).text
    assert next(line for line in text.splitlines() if "Pressure cap" in line).endswith(",here,21.50")
    answer = client.post(f"{API}/fit/parts/csv", json={**question, "noted": {"cap": {"paid": -1}}})
    assert answer.json()["errors"][0]["path"] == "/noted/cap/paid"
    answer = client.post(f"{API}/fit/plan", json={**question, "variant": "nobody"})
    assert answer.status_code == 404
    answer = client.post(f"{API}/fit/plan", json={**question, "school": "some"})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"] == "/school"


def test_mix_filling_hold_and_cap_answer(client: TestClient) -> None:
    assert client.post(f"{API}/fit/mix", json={"volume_l": 9.5, "now_share": 0.33, "want_share": 0.5}).json()[
        "possible"
    ]
    assert (
        client.post(f"{API}/fit/water-left", json={"volume_l": 10, "left_l": 2.5}).json()["flushes_needed"]
        == 2
    )
    assert client.post(f"{API}/fit/refractometer", json={"freezing_c": -20}).json()["strength"] > 0.3
    answer = client.post(f"{API}/fit/refractometer", json={"freezing_c": -58})
    assert answer.status_code == 422
    document = mule().model_dump(mode="json")
    found = client.post(f"{API}/fit/filling", json={"build": document, "variant": "core"}).json()
    assert found["opens"]["low_s"] <= found["opens"]["likely_s"] <= found["opens"]["high_s"]
    readings = [{"at_s": 300 * n, "pressure_kpa": 100 - n} for n in range(5)]
    held = {"build": document, "variant": "core", "readings": readings}
    assert client.post(f"{API}/fit/hold", json=held).json()["fall_kpa"] == pytest.approx(4.0)
    backwards = {**held, "readings": [*readings[:2], readings[0]]}
    assert "not later" in client.post(f"{API}/fit/hold", json=backwards).json()["errors"][0]["message"]
    assert client.post(f"{API}/fit/cap", json={"mark_kpa": 103, "lifts_kpa": 80}).json()["verdict"] == "fail"


def test_a_job_keeps_every_entry_once_in_the_order_of_arrival(client: TestClient) -> None:
    build_id = stored(client)
    job_id = begun(client, build_id)
    assert client.post(f"{API}/builds/{build_id}/jobs", json={"id": job_id}).status_code == 201
    first, second = entry("ticked", step="park", by="Ada"), entry("skipped", step="block_drain", note="stuck")
    add(client, job_id, first)
    body = add(client, job_id, first, second)
    assert [one["id"] for one in body["entries"]] == [first["id"], second["id"]]
    changed = {**first, "step": "cold"}
    assert add(client, job_id, changed)["entries"][0]["step"] == "park", "what is written is never changed"
    listed = client.get(f"{API}/builds/{build_id}/jobs").json()
    assert [job["id"] for job in listed] == [job_id]
    assert listed[0]["number"] == body["number"]
    # What is taken back stays written; that it no longer counts is said by an entry of its own.
    back = add(client, job_id, entry("taken_back", of=first["id"]))["entries"]
    assert [one["kind"] for one in back] == ["ticked", "skipped", "taken_back"]
    assert back[-1]["of"] == first["id"]


@pytest.mark.parametrize(
    ("wrong", "path"),
    [
        (entry("ticked"), "/entries/0"),
        (entry("skipped", step="park"), "/entries/0"),
        (entry("ticked", step="fly"), "/entries/0"),
        (entry("part", line="radiator"), "/entries/0"),
        (entry("proof", proof="luck", verdict="pass"), "/entries/0/proof"),
        (entry("gauge"), "/entries/0"),
        (entry("gauge", value=2e6), "/entries/0/value"),
        (entry("gauge", value=100, celsius=200), "/entries/0/celsius"),
        (entry("taken_back"), "/entries/0"),
    ],
)
def test_an_entry_that_is_not_whole_is_refused_in_words(
    client: TestClient, wrong: dict[str, Any], path: str
) -> None:
    answer = client.post(f"{API}/jobs/{begun(client, stored(client))}/entries", json={"entries": [wrong]})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"].startswith(path)


def test_a_temperature_that_no_coolant_has_is_refused_with_its_unit(client: TestClient) -> None:
    hot = {"entries": [entry("gauge", value=100, celsius=200)]}
    answer = client.post(f"{API}/jobs/{begun(client, stored(client))}/entries", json=hot)
    assert answer.json()["errors"][0]["message"] == "Coolant is 200 °C; it must lie within -40 to 130 °C."


def test_what_does_not_belong_together_is_refused(client: TestClient) -> None:
    one, other = stored(client), stored(client)
    job_id = begun(client, one)
    assert client.post(f"{API}/builds/{other}/jobs", json={"id": job_id}).status_code == 409
    assert client.post(f"{API}/builds/{uuid4()}/jobs", json={"id": str(uuid4())}).status_code == 404
    answer = client.post(f"{API}/jobs/{uuid4()}/entries", json={"entries": [entry("ticked", step="park")]})
    assert answer.status_code == 404
    assert answer.json()["type"] == "urn:ebbrin:unknown-job"
    mine = entry("ticked", step="park")
    add(client, job_id, mine)
    taken = client.post(f"{API}/jobs/{begun(client, other)}/entries", json={"entries": [mine]})
    assert taken.status_code == 409


def picture(size: tuple[int, int] = (2400, 1200), **more: Any) -> bytes:
    out = io.BytesIO()
    image = Image.effect_noise(size, 60.0).convert("RGB")
    exif = Image.Exif()
    exif[0x010F], exif[0x0112], exif[0xA431] = "a maker", 6, "serial 12345"
    exif.get_ifd(0x8825)[2] = (48.0, 8.0, 1.0)
    image.save(out, "JPEG", exif=exif, comment=b"at the lake", **more)
    return out.getvalue()


def test_a_photo_is_made_small_upright_and_clean() -> None:
    raw = picture()
    assert b"serial 12345" in raw
    clean = small_and_clean(raw)
    assert len(clean) <= MOST_BYTES
    assert b"serial" not in clean
    assert b"lake" not in clean
    with Image.open(io.BytesIO(clean)) as found:
        assert not found.getexif()
        assert max(found.size) <= LONGEST
        assert found.height > found.width, "turned as the camera was held"


def test_a_photo_is_kept_once_and_found_again(client: TestClient) -> None:
    build_id, photo_id = stored(client), str(uuid4())
    put = f"{API}/builds/{build_id}/photos/{photo_id}"
    for _ in range(2):
        assert client.put(put, content=picture(), headers={"Content-Type": "image/jpeg"}).status_code == 204
    found = client.get(f"{API}/photos/{photo_id}")
    assert found.headers["content-type"] == "image/jpeg"
    assert found.content[:2] == b"\xff\xd8"
    assert client.get(f"{API}/photos/{uuid4()}").status_code == 404
    assert client.put(f"{API}/builds/{uuid4()}/photos/{uuid4()}", content=picture()).status_code == 404
    elsewhere = f"{API}/builds/{stored(client)}/photos/{photo_id}"
    assert client.put(elsewhere, content=picture()).status_code == 409


@pytest.mark.parametrize(
    "raw",
    [b"", b"no picture", b"GIF89a" + bytes(40), picture((400, 300))[:2000], b"\x89PNG\r\n\x1a\n" + bytes(60)],
)
def test_what_is_no_photo_is_said_to_be_none(client: TestClient, raw: bytes) -> None:
    answer = client.put(f"{API}/builds/{stored(client)}/photos/{uuid4()}", content=raw)
    assert answer.status_code == 422
    assert "JPEG, PNG or WebP" in answer.json()["detail"]
    with pytest.raises(NoPhoto):
        small_and_clean(raw)


def test_a_photo_may_be_larger_than_other_bodies_but_not_without_end(client: TestClient) -> None:
    large = picture((3000, 2600), quality=95)
    assert len(large) > 1_000_000
    put = f"{API}/builds/{stored(client)}/photos/{uuid4()}"
    assert client.put(put, content=large).status_code == 204
    assert client.put(put, content=bytes(15_000_001)).status_code == 413


def test_the_demo_stands_half_way_and_is_proven(client: TestClient) -> None:
    builds: Any = client.app.state.builds  # type: ignore[attr-defined]
    jobs: Any = client.app.state.jobs  # type: ignore[attr-defined]
    by_name = {build.name: (build_id, build) for build_id, build in builds.load_demo_when_new().items()}
    assert load_demo_jobs(jobs, dict(by_name.values())) == 2
    mules = client.get(f"{API}/builds/{by_name['Mule'][0]}/jobs").json()[0]["entries"]
    done = {one["step"] for one in mules if one["kind"] in ("ticked", "skipped")}
    planned = mules[0]["plan"]["steps"]
    assert 0.3 < len(done) / len(planned) < 0.7
    linnets = client.get(f"{API}/builds/{by_name['Linnet'][0]}/jobs").json()[0]["entries"]
    holds = [one for one in linnets if one.get("proof") == "hold"]
    assert [one["verdict"] for one in holds] == ["fail", "pass"]
    assert holds[0]["figures"]["leak_ml_h"] > 10 * holds[1]["figures"]["leak_ml_h"]


def run(*arguments: str) -> Any:
    return CliRunner().invoke(commands, list(arguments))


def test_the_commands(tmp_path: Path) -> None:
    file = tmp_path / "mule.json"
    file.write_text(demo_builds()[1].model_dump_json(), encoding="utf-8")
    plan = run("plan", str(file))
    assert plan.exit_code == 0, plan.output
    assert "Fill and bleed" in plan.output
    assert "! Filler open: idle only, never rev." in plan.output
    found = json.loads(run("plan", str(file), "--json", "--variant", "core").output)
    assert found["steps"][0]["id"] == "parts_here"
    parts = run("parts", str(file), "--school", "all")
    assert "Radiator" in parts.output
    assert "mind:" not in parts.output
    for command in ("plan", "parts"):
        assert (
            "mind: By the workbench “Bigger core” fails in"
            in run(command, str(file), "--variant", "core").output
        )
    assert json.loads(run("parts", str(file), "--json").output)["school"] == "usual"
    assert run("parts", str(file), "--school", "none").exit_code != 0
    assert run("plan", str(file), "--variant", "nobody").exit_code != 0
    file.write_text(plain_build().model_dump_json(), encoding="utf-8")
    nothing = run("plan", str(file)).output
    assert nothing.startswith("Nothing is to be changed")
    assert "Tools" not in nothing
    assert "0 steps" not in nothing
    mixed = run("mix", "--volume", "9.5", "--now", "33", "--want", "50", "--drained", "6")
    assert mixed.exit_code == 0
    assert "3.6 L of concentrate" in mixed.output
    impossible = run("mix", "--volume", "9.5", "--now", "33", "--want", "50", "--drained", "1", "--json")
    assert impossible.exit_code == 3
    rounds = run("mix", "--volume", "7", "--now", "30", "--want", "50", "--drained", "1").output
    assert "even pure concentrate gives 40 %" in rounds
    assert "In rounds: 40 %, 48 %, 56 %." in rounds  # the first is what the sentence says
    assert json.loads(impossible.output)["possible"] is False
    assert (
        "no more can be drained"
        in run("mix", "--volume", "5", "--now", "0", "--want", "50", "--drained", "6").output
    )
