"""Starting and stopping: known by a lock and an instance, whatever was killed, twice at once, or newer."""

from __future__ import annotations

import json
import os
import re
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.request import Request, urlopen

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import create_engine, text

from ebbrin.app import keeper, places, serve
from ebbrin.app.cluster import Cluster
from ebbrin.app.places import Instance, StartError
from ebbrin.app.web import create_app
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.store import Database
from ebbrin.ground.version import version
from oracles.builds import linnet
from oracles.processes import child

pytestmark = pytest.mark.database
LONG = 600.0  # s; the machine may be busy


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Place:
    """A state folder and a port of one's own, with ./start's words."""

    def __init__(self, state: Path) -> None:
        self.state, self.port = state, free_port()

    def begin(self, *words: str, said: str = "") -> subprocess.Popen[str]:
        process = subprocess.Popen(
            [sys.executable, "-m", "ebbrin.app.serve", *words],
            env=os.environ | {"EBBRIN_STATE": str(self.state), "EBBRIN_PORT": str(self.port)},
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
        )  # fmt: skip
        assert process.stdin is not None
        process.stdin.write(said)
        process.stdin.close()
        process.stdin = None
        return process

    def tell(self, *words: str, said: str = "") -> tuple[int, str]:
        process = self.begin(*words, said=said)
        out, _ = process.communicate(timeout=LONG)
        return process.returncode, out

    def instance(self) -> Instance:
        found = places.holder(self.state)
        assert found is not None
        return found


@pytest.fixture
def place() -> Iterator[Place]:
    with tempfile.TemporaryDirectory(prefix="ebbrin-start-") as name:
        os.chmod(name, 0o755)
        found = Place(Path(name) / "state")
        yield found
        found.tell("down")
        for folder in found.state.glob("postgres*"):
            Cluster(folder).stop()


def tell_database(url: str, statement: str) -> None:
    engine = create_engine(url)
    with engine.begin() as owner:
        owner.execute(text(statement))
    engine.dispose()


def until(true: Callable[[], bool]) -> None:
    end = time.monotonic() + LONG
    while not true():
        assert time.monotonic() < end
        time.sleep(0.1)


def test_whatever_is_killed_comes_back_and_stopping_stops_all(place: Place) -> None:
    code, said = place.tell("up")
    assert code == 0, said
    assert "demo workshop loaded (3 builds)" in said
    first = place.instance()
    assert (first.port, first.version) == (place.port, version())
    code, again = place.tell("up")
    assert (code, "runs already" in again) == (0, True)
    # What was compiled ahead is what the server's user asks for, though it may run another Python of that kind.
    question = Request(
        f"http://127.0.0.1:{place.port}/api/v1/evaluate",
        data=linnet().model_dump_json().encode(),
        headers={"Content-Type": "application/json"},
    )
    with urlopen(question, timeout=LONG) as answer:
        assert json.load(answer)["verdict"] == "tight"
    assert len(list((keeper.cache_of(place.state) / "compiled").iterdir())) == 1
    # Its processes run as an ordinary user where root started it, and others see neither log nor lock.
    server = child(first.keeper, "run")
    assert server is not None
    if os.geteuid() == 0:
        assert Path(f"/proc/{server}").stat().st_uid != 0
    assert (place.state / "lock").stat().st_mode & 0o077 == 0
    assert (place.state / "backups").stat().st_mode & 0o077 == 0
    # The server is killed: the keeper starts another of the same instance.
    os.kill(server, signal.SIGKILL)
    until(lambda: child(first.keeper, "run") not in (None, server) and places.well(first))
    # The database is killed: the keeper starts it again.
    postgres = places.cluster_of(place.state).process()
    assert postgres is not None
    os.kill(postgres, signal.SIGKILL)
    until(lambda: places.cluster_of(place.state).process() not in (None, postgres) and places.well(first))
    # The keeper is killed: its children leave the port; the next start is another instance.
    os.kill(first.keeper, signal.SIGKILL)
    code, said = place.tell("up")
    assert code == 0, said
    second = place.instance()
    assert second.name != first.name
    assert places.well(second)
    assert not places.well(first)
    code, said = place.tell("down")
    assert (code, "stopped" in said) == (0, True)
    assert places.holder(place.state) is None
    assert places.cluster_of(place.state).process() is None
    assert places.health(place.port) is None
    assert "nothing was running" in place.tell("down")[1]
    log = (place.state / "logs" / "keeper.log").read_text()
    assert re.search(
        r"^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d,\d+ ERROR ebbrin.keeper: the server ended with -9", log, re.M
    )


def test_two_starts_at_once_are_one(place: Place) -> None:
    both = [place.begin("up") for _ in range(2)]
    said = sorted(process.communicate(timeout=LONG)[0] for process in both)
    assert [process.returncode for process in both] == [0, 0], said
    assert sum("runs already" in text for text in said) == 1
    assert sum("ready  " in text for text in said) == 1


def test_another_version_that_runs_is_replaced(place: Place) -> None:
    place.state.mkdir()
    other = Instance(0, place.port, "older", "0.0.1+00000000")
    holding = (
        "import sys, time, os, dataclasses, json\nfrom pathlib import Path\nfrom ebbrin.app import places\n"
        "made = places.Instance(**json.loads(sys.argv[2]) | {'keeper': os.getpid()})\n"
        "kept = places.hold(Path(sys.argv[1]), made)\nprint('held', flush=True)\ntime.sleep(600)\n"
    )
    process = subprocess.Popen(
        [sys.executable, "-c", holding, str(place.state), json.dumps(vars(other))], stdout=subprocess.PIPE
    )
    assert process.stdout is not None
    process.stdout.readline()
    code, said = place.tell("up")
    process.communicate()
    assert code == 0, said
    assert "replacing    version 0.0.1+00000000" in said
    assert place.instance().version == version()


def test_a_port_that_is_taken_is_said(place: Place, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serve, "FREE_WAIT", 0.1)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", place.port))
        taken.listen()
        with pytest.raises(StartError, match=f"port {place.port} is taken by another program.*EBBRIN_PORT"):
            serve._launch(place.state, place.port)


def test_a_newer_schema_is_left_alone(
    cluster: Cluster, database_url: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:  # fmt: skip
    tell_database(database_url, "UPDATE alembic_version SET version_num = '9999'")
    monkeypatch.setenv("EBBRIN_STATE", str(tmp_path))
    monkeypatch.setattr(places, "cluster_of", lambda _: cluster)
    monkeypatch.setattr(serve, "_database", lambda *_: database_url)
    monkeypatch.setattr(serve, "_launch", lambda *_: pytest.fail("it must not start"))
    assert serve.main(["up"]) == 1
    said = capsys.readouterr().err
    assert "schema 9999" in said
    assert "Nothing was changed. Start the newer Ebbrin, or restore a backup" in said
    database = Database(database_url)
    assert database.schema() == "9999"
    database.close()


@pytest.mark.parametrize(
    ("damage", "words"),
    [
        ("DROP TABLE recordings", "the table recordings is missing"),
        ("DROP TABLE alembic_version", "does not say which version"),
    ],
)
def test_a_damaged_database_is_said_and_the_rest_of_it_is_served(
    cluster: Cluster, database_url: str, tmp_path: Path, capsys: pytest.CaptureFixture[str],
    damage: str, words: str,
) -> None:  # fmt: skip
    database = Database(database_url)
    BuildService(database).load_demo_when_new()
    database.close()
    tell_database(database_url, damage)
    serve._prepare(tmp_path, cluster, database_url)
    said = capsys.readouterr().out
    assert words in said
    assert "what does not need it works" in said
    app = create_app(database_url)
    with TestClient(app, base_url="http://127.0.0.1:8600") as client:
        assert client.get("/api/v1/health").json()["database"] is True
        assert len(client.get("/api/v1/builds").json()) == 3
    app.state.database.close()


def test_setting_back_asks_and_keeps_a_backup(place: Place) -> None:
    code, said = place.tell("fresh", said="no\n")
    assert (code, "nothing was changed" in said) == (0, True)
    code, said = place.tell("fresh", said="yes\n")
    assert code == 0, said
    assert len(list((place.state / "backups").glob("fresh.*.ebbrin"))) == 1


def test_what_an_earlier_version_left_open_is_closed(tmp_path: Path) -> None:
    (tmp_path / "logs").mkdir(mode=0o755)
    (tmp_path / "logs" / "server.log").touch(mode=0o644)
    places.prepared(tmp_path)
    assert (tmp_path / "logs" / "server.log").stat().st_mode & 0o777 == 0o600
    assert (tmp_path / "backups").stat().st_mode & 0o777 == 0o700
    assert (tmp_path / "logs").stat().st_mode & 0o066 == 0


def test_a_state_that_cannot_be_written_is_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    for number, words in ((30, "cannot be written: Read-only file system"), (28, "its disk is full")):

        def refuse(*_: object, number: int = number, **__: object) -> None:
            raise OSError(number, os.strerror(number))

        with monkeypatch.context() as patched:
            patched.setattr(Path, "touch", refuse)
            with pytest.raises(StartError, match=words):
                places.prepared(tmp_path / str(number))


def test_a_worker_whose_keeper_was_gone_before_it_looked_leaves() -> None:
    process = subprocess.Popen(
        [sys.executable, "-m", "ebbrin.app.serve", "work", "-"],
        env=os.environ | {"EBBRIN_PARENT": "1"},  # as if the keeper had been another, which is gone
        stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    process.communicate(b"postgresql+psycopg://nobody:x@127.0.0.1:1/none\n", timeout=LONG)
    assert process.returncode is not None


def test_what_has_ended_and_nobody_asked_after_does_not_live() -> None:
    process = subprocess.Popen([sys.executable, "-c", "pass"])
    until(lambda: not serve._lives(process.pid))
    assert Path(f"/proc/{process.pid}").exists()
    process.wait()
    assert not serve._lives(process.pid)
    assert serve._lives(os.getpid())
