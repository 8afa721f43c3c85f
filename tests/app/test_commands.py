"""The command line judges a file without a server."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest
from typer.testing import CliRunner

from ebbrin.app import places, serve
from ebbrin.app.cluster import Cluster
from ebbrin.app.commands import app
from ebbrin.app.places import StartError
from ebbrin.demo import demo_builds
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.store import Database
from oracles.builds import linnet, plain_build

runner = CliRunner()


@pytest.fixture
def file(tmp_path: Path) -> Path:
    path = tmp_path / "build.json"
    path.write_text(linnet().model_dump_json())
    return path


def test_evaluate_prints_verdict_and_answers(file: Path) -> None:
    done = runner.invoke(app, ["evaluate", str(file)])
    assert done.exit_code == 0
    assert "TIGHT  Paddock queue, idle" in done.output
    assert "Thermostat 82 °C: 82 or 88 °C both work" in done.output
    assert "licensed technician" in done.output


def test_the_program_answers_as_the_command_does_and_ends_with_its_status(file: Path, tmp_path: Path) -> None:
    def ran(*words: object) -> subprocess.CompletedProcess[str]:
        program = [sys.executable, "-m", "ebbrin.app.commands", *map(str, words)]
        return subprocess.run(program, capture_output=True, text=True, check=False)

    done = ran("evaluate", file)
    assert (done.returncode, done.stdout) == (0, runner.invoke(app, ["evaluate", str(file)]).output)
    assert ran("evaluate", tmp_path / "none.json").returncode == 1
    assert ran("evaluate").returncode == 2


def test_evaluate_as_json_is_the_whole_answer(file: Path) -> None:
    done = runner.invoke(app, ["evaluate", str(file), "--json"])
    assert json.loads(done.output)["worst_case_id"] == "queue"


def test_evaluate_prints_bands_levers_and_chances(file: Path) -> None:
    done = runner.invoke(app, ["evaluate", str(file), "--chance"])
    assert done.exit_code == 0
    assert re.search(r"\d kW \([\d.]+ to [\d.]+\), air ", done.output)
    assert "What would help most in Paddock queue, idle:\n  A full shroud: air may be" in done.output
    assert "(nine days in ten)" in done.output
    assert "in 400 samples" in done.output
    assert "of the doubt in Paddock queue, idle.\n  Heat at idle and light load: " in done.output
    both = json.loads(runner.invoke(app, ["evaluate", str(file), "--chance", "--json"]).output)
    assert both["evaluation"]["worst_case_id"] == "queue"
    assert both["uncertainty"]["samples"] == 400


def test_what_is_to_be_minded_of_a_lever_is_printed_below_it() -> None:
    frosty = plain_build(ambient_c=-5, brake_power_kw=70, speed_km_h=40).model_dump_json()
    printed = runner.invoke(app, ["evaluate", "-"], input=frosty).output
    assert re.search(
        r"Plain water: air may be [0-9.]+ K hotter\n    mind: The coolant freezes at 0 °C", printed
    )


def test_evaluate_reads_standard_input() -> None:
    done = runner.invoke(app, ["evaluate", "-"], input=linnet().model_dump_json())
    assert done.exit_code == 0


def test_bad_file_is_said_where_and_why(file: Path, tmp_path: Path) -> None:
    document = json.loads(file.read_text())
    document["variants"][0]["radiator"]["width_mm"] = 5
    file.write_text(json.dumps(document))
    done = runner.invoke(app, ["evaluate", str(file)])
    assert done.exit_code == 1
    assert "/variants/0/radiator/width_mm: Core width is 5 mm" in done.output
    assert runner.invoke(app, ["evaluate", str(tmp_path / "none.json")]).exit_code == 1
    assert (
        "no variant"
        in runner.invoke(app, ["evaluate", "-", "--variant", "x"], input=linnet().model_dump_json()).output
    )


def test_missing_values_are_listed(file: Path) -> None:
    document = json.loads(file.read_text())
    document["variants"][0]["engine"]["displacement_l"] = None
    file.write_text(json.dumps(document))
    done = runner.invoke(app, ["evaluate", str(file)])
    assert done.exit_code == 1
    assert "/variants/0/engine/displacement_l: Displacement is needed" in done.output


def test_port_must_be_one(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("EBBRIN_PORT", "many")
    with pytest.raises(StartError, match="EBBRIN_PORT is 'many'; it must be a port number"):
        serve.port()


def test_down_leaves_foreign_processes_alone(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "server.json").write_text(json.dumps({"pid": 1, "port": 8600}))
    serve.down(tmp_path)
    assert "nothing was running" in capsys.readouterr().out


def test_size_prints_requirement_and_solutions(file: Path) -> None:
    done = runner.invoke(app, ["size", str(file), "--cores", "shelf", "--budget", "200"])
    assert done.exit_code == 0, done.output
    assert "m² of face" in done.output
    assert re.search(r"  Cap: at least \d+ kPa, at most \d+ kPa\.", done.output)
    assert "Plugged tubes" in done.output
    assert "holds nine days in ten (" in done.output
    assert "Elsewhere, chance of each:" in done.output
    assert "licensed technician" in done.output


def test_size_says_what_stands_in_the_way(file: Path) -> None:
    done = runner.invoke(app, ["size", str(file), "--cores", "shelf", "--keep", "radiator", "--margin", "30"])
    assert done.exit_code == 3
    assert "Nothing fits. What would have to give:" in done.output
    assert "instead of 30 K" in done.output


def test_size_asks_for_no_cap_where_the_system_is_open(tmp_path: Path) -> None:
    path = tmp_path / "brigade.json"
    path.write_text(next(b for b in demo_builds() if b.name == "Brigade").model_dump_json())
    done = runner.invoke(app, ["size", str(path), "--cores", "shelf", "--keep", "radiator"])
    assert "  Cap: an open one.\n" in done.output
    assert "none °C" not in done.output


def test_size_names_a_wish_that_cannot_be(file: Path, tmp_path: Path) -> None:
    done = runner.invoke(app, ["size", str(file), "--keep", "wheel"])
    assert done.exit_code == 1
    assert "--keep: " in done.output
    own = tmp_path / "own.csv"
    own.write_text("part,id,name,opens_c\nthermostat,t,T,warm\n")
    done = runner.invoke(app, ["size", str(file), "--shelf", str(own)])
    assert done.exit_code == 1
    assert "line 2" in done.output


def test_drive_tells_what_happens_and_writes_every_step(file: Path, tmp_path: Path) -> None:
    out = tmp_path / "course.csv"
    call = ["drive", str(file), "--drive", "run-and-soak", "--fault", "fan_dead:1:600", "--csv", str(out)]
    done = runner.invoke(app, call)
    assert done.exit_code == 0, done.output
    assert "from 20:00 Paddock queue, idle" in done.output
    assert "thermostat opens, engine out" in done.output
    assert "fan on" not in done.output
    assert len(out.read_text().splitlines()) == 1 + 4 * 3375
    done = runner.invoke(app, ["drive", str(file), "--fault", "gremlins"])
    assert done.exit_code == 1
    assert "--fault is not valid" in done.output
    done = runner.invoke(app, ["drive", str(file), "--drive", "moon"])
    assert done.exit_code == 1
    assert "run-and-soak (Queue, hill run and soak)" in done.output


def test_drive_of_a_build_that_follows_a_recording_asks_for_its_file(file: Path) -> None:
    build = json.loads(file.read_text(encoding="utf-8"))
    kept = {"id": "00000000-0000-0000-0000-000000000001", "name": "Lane", "rows": 9, "lasts_s": 80}
    build["drives"] = [{"id": "d", "recording": kept}]
    file.write_text(json.dumps(build), encoding="utf-8")
    done = runner.invoke(app, ["drive", str(file)])
    assert done.exit_code == 1
    assert "follows the recording Lane; give its file too" in done.output


def test_drive_lists_what_every_fault_would_come_to(file: Path) -> None:
    done = runner.invoke(app, ["drive", str(file), "--every-fault"])
    assert done.exit_code == 0, done.output
    lines = done.output.splitlines()
    assert any("Thermostat stuck shut: over the limit at" in line and "runs dry" in line for line in lines)
    assert float(lines[0].split()[0]) >= float(lines[-1].split()[0])


def test_drive_follows_a_recording_or_names_its_bad_row(file: Path, tmp_path: Path) -> None:
    log = tmp_path / "lane.csv"
    head = "time [s],speed [mph],rpm [rpm],altitude [ft],ambient [°F],oil [bar]\n"
    log.write_text(head + "".join(f"{5 * i},40,2500,{300 + i},80,3\n" for i in range(60)), encoding="utf-8")
    done = runner.invoke(app, ["drive", str(file), "--recording", str(log)])
    assert done.exit_code == 0, done.output
    assert "from 00:00 lane" in done.output
    assert "Not read: oil [bar]" in done.output
    log.write_text(head + "0,40,2500,300,80,3\n5,fast,2500,300,80,3\n", encoding="utf-8")
    done = runner.invoke(app, ["drive", str(file), "--recording", str(log)])
    assert done.exit_code == 1
    assert "line 3 speed [mph]: Speed is “fast”, which is no number." in done.output


def test_drive_as_json_is_the_whole_course(file: Path) -> None:
    course = json.loads(runner.invoke(app, ["drive", str(file), "--json"]).output)
    assert course["name"] == "Queue, hill run and soak"
    assert len(course["points"]["time_s"]) == len(course["points"]["engine_out_c"])
    every = json.loads(runner.invoke(app, ["drive", str(file), "--every-fault", "--json"]).output)
    assert {"fault", "hottest_c", "boils"} <= set(every[0])


def test_drive_cautions_and_accounts_for_what_is_lost() -> None:
    mule = demo_builds()[1].model_dump_json()
    done = runner.invoke(app, ["drive", "-"], input=mule)
    assert done.exit_code == 0, done.output
    assert "boils, and coolant is pushed out" in done.output
    assert "Caution: Stop and let it cool with the engine off" in done.output
    assert "L in the bottle" in done.output


@pytest.mark.parametrize(
    ("call", "said"),
    [
        (["--fault", "debris:2"], "--fault: How bad is 2; it must lie within 0 to 1."),
        (["--variant", "moon"], "no variant"),
        (["--recording", "nowhere.csv"], "nowhere.csv cannot be read"),
    ],
)
def test_drive_refuses_a_bad_call_in_words(file: Path, call: list[str], said: str) -> None:
    done = runner.invoke(app, ["drive", str(file), *call])
    assert done.exit_code in (1, 2)
    assert said in done.output


@pytest.mark.parametrize(
    ("call", "said"),
    [
        ("size FILE --keep wheel", "--keep: Keep must be one of 'radiator', .* not “wheel”"),
        ("size FILE --chance 90", "--chance: Chance that it holds is 90; it must lie within 0.5 to 0.99"),
        ("size FILE --chance nan", "--chance: Chance that it holds must be a number within 0.5 to 0.99\\."),
        ("size FILE --budget -1", "--budget: Budget is -1; it must lie within 0 to 10000000"),
        ("drive FILE --fault debris:much", "--fault: How bad must be a number within 0 to 1\\."),
        ("diagnose --evidence FILE --hourly-rate 0", "--hourly-rate: .* 0; it must lie above 0 and up to"),
        ("mix --volume 7 --now 120 --want 90", "--now: .* 120 %; .* 100 %\\.\n  --want: .* 90 %; .* 70 %"),
        ("mix --volume 7 --now nan --want 50", "--now: Strength now must be a number within 0 to 100 %"),
        ("mix --volume 0 --now 20 --want 50", "--volume: Fill is 0 L; it must lie within 0.1 to 200 L"),
        ("mix --volume 7 --now 20 --want 50 --drained 9", "--drained: Only 7.0 L are in it"),
        ("mix --volume 7 --now 20 --want 50 --drained 0", "--drained: Drained is 0 L; it must lie above 0 L"),
        ("mix --volume 7 --now 20 --want 50 --kind tar", "--kind: Kind of glycol must be .* not “tar”"),
        ("evaluate nowhere.json", "nowhere.json cannot be read: no such file or directory\\."),
        ("diagnose --evidence .", ". cannot be read: is a directory"),
    ],
)
def test_what_is_refused_is_told_by_its_option_and_as_it_was_typed(file: Path, call: str, said: str) -> None:
    if "--evidence FILE" in call:
        file.write_text("{}")
    done = runner.invoke(app, call.replace("FILE", str(file)).split())
    assert done.exit_code == 1
    assert re.search(said, done.output), done.output


def test_a_file_that_is_no_json_is_said_where(tmp_path: Path) -> None:
    seen = tmp_path / "seen.json"
    seen.write_text('{"smell": }')
    done = runner.invoke(app, ["diagnose", "--evidence", str(seen)])
    assert done.exit_code == 1
    assert "cannot be read: it is no JSON at line 1, column 11" in done.output
    seen.write_bytes(b"\xff{}")
    assert "its byte 0 is no UTF-8 text" in runner.invoke(app, ["diagnose", "--evidence", str(seen)]).output


def test_drive_of_a_build_without_drives_says_what_to_give(file: Path) -> None:
    build = json.loads(file.read_text(encoding="utf-8")) | {"drives": []}
    done = runner.invoke(app, ["drive", "-"], input=json.dumps(build))
    assert done.exit_code == 1
    assert "give a recorded one with --recording" in done.output


def test_backup_and_restore_say_what_they_hold_and_ask(
    database_url: str, cluster: Cluster, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    database = Database(database_url)
    BuildService(database).load_demo_when_new()
    database.close()
    name = database_url.rpartition("/")[2]
    monkeypatch.setenv("EBBRIN_STATE", str(tmp_path))
    monkeypatch.setattr("ebbrin.app.backup_command.DATABASE", name)
    monkeypatch.setattr(places, "cluster_of", lambda _state: cluster)
    file = tmp_path / "all.ebbrin"
    said = runner.invoke(app, ["backup", str(file)])
    assert (said.exit_code, "3 builds with 3 revisions" in said.output) == (0, True)
    again = runner.invoke(app, ["backup", str(file)])
    assert (again.exit_code, "is there already" in again.output) == (1, True)
    refused = runner.invoke(app, ["restore", str(file)], input="n\n")
    assert refused.exit_code == 1
    assert "3 builds with 3 revisions" in refused.output
    assert "nothing was changed" in refused.output
    file.write_bytes(file.read_bytes()[:-40])
    broken = runner.invoke(app, ["restore", "--yes", str(file)])
    assert (broken.exit_code, "no whole backup" in broken.output) == (1, True)


def test_a_backup_without_a_database_says_where_it_looked(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("EBBRIN_STATE", str(tmp_path / "none"))
    said = runner.invoke(app, ["backup", str(tmp_path / "x.ebbrin")])
    assert said.exit_code == 1
    assert f"there is no database in {tmp_path / 'none'}" in said.output
