"""Sizings through the queue: done once, whatever is killed or restarted meanwhile."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from uuid import UUID

import pytest
from sqlalchemy import create_engine, text

from ebbrin.app.cluster import Cluster
from ebbrin.app.schema import migrate
from ebbrin.build.resolve import MissingValues
from ebbrin.features.size import runs as sizings
from ebbrin.features.size.answers import SizingQuestion, Wishes
from ebbrin.features.size.runs import GAVE_UP, KEPT, MISTAKE, MOST_ATTEMPTS, RunService
from ebbrin.features.size.store import Run, Runs, UnknownRun
from ebbrin.features.workshop.service import BuildService
from ebbrin.features.workshop.store import UnknownBuild
from ebbrin.ground.store import Database
from oracles.builds import edited, linnet

pytestmark = pytest.mark.database

WORKER = """
import asyncio, os, sys
from ebbrin.app import worker
worker.HEARTBEAT, worker.STALLED, worker.LOOK_EVERY = 0.5, 10.0, 0.3
os.nice = lambda _: 0  # beside other tests, a worker that gives way to all of them starves
url, last = sys.argv[1], len(sys.argv) > 2
asyncio.run(worker.serve(url, until_empty=True)) if last else worker.work(lambda: url)
"""
LONG = 600.0  # s; the machine may be busy


@pytest.fixture
def database(database_url: str) -> Iterator[Database]:
    found = Database(database_url)
    yield found
    found.close()


@pytest.fixture
def workers() -> Iterator[Callable[..., subprocess.Popen[bytes]]]:
    started: list[subprocess.Popen[bytes]] = []

    def start(url: str, *words: str) -> subprocess.Popen[bytes]:
        started.append(subprocess.Popen([sys.executable, "-c", WORKER, url, *words]))
        return started[-1]

    yield start
    for process in started:
        if process.poll() is None:
            process.kill()
        process.wait()


def asked(database: Database) -> Run:
    """A sizing of Linnet that takes a second or three."""
    build = linnet()
    stored = BuildService(database).create(build)
    given = Wishes(cores="shelf", keep=["fan", "shroud", "pump"])
    question = SizingQuestion(build=build, variant=build.variants[0].id, wishes=given)
    return RunService(database).start(stored.id, question)


def until(database: Database, run_id: UUID, there: Callable[[Run], bool]) -> Run:
    """The run once it is so."""
    end = time.monotonic() + LONG
    while time.monotonic() < end:
        run = RunService(database).find(run_id)
        if there(run):
            return run
        time.sleep(0.05)
    raise AssertionError(f"still {run.state} at {run.progress:.0%}, attempt {run.attempt}")


def jobs_left(url: str) -> int:
    engine = create_engine(url)
    with engine.connect() as connection:
        found = connection.scalar(text("SELECT count(*) FROM procrastinate_jobs"))
    engine.dispose()
    return int(found or 0)


def test_a_worker_does_what_is_asked_and_empties_the_queue(
    database: Database, database_url: str, workers: Callable[..., subprocess.Popen[bytes]]
) -> None:
    run = asked(database)
    assert (run.state, run.attempt) == ("waiting", 0)
    assert workers(database_url, "last").wait(LONG) == 0
    done = RunService(database).find(run.id)
    assert (done.state, done.attempt, done.progress) == ("done", 1, 1.0)
    assert done.result is not None
    assert done.result["requirement"]["faces"]
    assert RunService(database).newest(run.build_id) == done
    assert jobs_left(database_url) == 0


def test_what_a_killed_worker_had_in_hand_is_done_by_another_once(
    database: Database, database_url: str, workers: Callable[..., subprocess.Popen[bytes]]
) -> None:
    run = asked(database)
    first = workers(database_url)
    until(database, run.id, lambda r: r.progress > 0.0)
    os.kill(first.pid, signal.SIGKILL)
    first.wait()
    left = RunService(database).find(run.id)
    assert (left.state, left.attempt) == ("running", 1)
    workers(database_url)
    workers(database_url)
    done = until(database, run.id, lambda r: r.state == "done")
    # On a starved machine one that lives may be taken for dead too; it is written once even so.
    assert 2 <= done.attempt <= MOST_ATTEMPTS
    until(database, run.id, lambda _: jobs_left(database_url) == 0)
    assert RunService(database).find(run.id) == done


def test_a_database_that_restarts_loses_nothing(
    workers: Callable[..., subprocess.Popen[bytes]],
) -> None:
    with tempfile.TemporaryDirectory(prefix="ebbrin-restart-") as name:
        os.chmod(name, 0o755)
        cluster = Cluster(Path(name) / "pg", durable=True)
        cluster.start()
        try:
            url = cluster.ensure_database("ebbrin")
            migrate(url)
            database = Database(url)
            run = asked(database)
            workers(url)
            until(database, run.id, lambda r: r.progress > 0.0)
            assert cluster.stop()
            time.sleep(0.5)
            cluster.start()
            assert cluster.url("ebbrin") == url  # it takes the port that it had
            done = until(database, run.id, lambda r: r.state == "done")
            assert done.result is not None
            assert 1 <= done.attempt <= MOST_ATTEMPTS
            database.close()
        finally:
            cluster.stop()


def test_a_cancelled_sizing_stops_and_stays_cancelled(
    database: Database, database_url: str, workers: Callable[..., subprocess.Popen[bytes]]
) -> None:
    run = asked(database)
    process = workers(database_url, "last")
    until(database, run.id, lambda r: r.progress > 0.0)
    assert RunService(database).cancel(run.id).state == "cancelled"
    assert process.wait(LONG) == 0
    found = RunService(database).find(run.id)
    assert (found.state, found.result) == ("cancelled", None)
    assert jobs_left(database_url) == 0


def test_a_new_question_stops_the_one_before(database: Database) -> None:
    run = asked(database)
    question = SizingQuestion.model_validate(run.question)
    again = RunService(database).start(run.build_id, question)
    assert RunService(database).find(run.id).state == "cancelled"
    assert RunService(database).newest(run.build_id) == again
    # A worker that meets the old job finds nothing to do.
    RunService(database).work(run.id)
    assert RunService(database).find(run.id).attempt == 0


def test_an_attempt_that_was_taken_over_writes_nothing(database: Database) -> None:
    run = asked(database)
    with database.session() as session:
        runs = Runs(session)
        assert runs.begin(run.id) == 1
        assert runs.begin(run.id) == 2
        assert not runs.tell(run.id, 1, 0.5)
        assert not runs.finish(run.id, 1, {"stale": True})
        assert runs.tell(run.id, 2, 0.5)
        assert runs.finish(run.id, 2, {"fresh": True})
        assert not runs.finish(run.id, 2, {"again": True})
        assert runs.begin(run.id) is None
    assert RunService(database).find(run.id).result == {"fresh": True}


def test_a_sizing_that_kills_its_workers_is_given_up_in_words(database: Database) -> None:
    run = asked(database)
    with database.session() as session:
        for attempt in range(1, MOST_ATTEMPTS + 1):
            assert Runs(session).begin(run.id) == attempt
    RunService(database).work(run.id)
    found = RunService(database).find(run.id)
    assert (found.state, found.message) == ("failed", GAVE_UP)


def test_what_cannot_be_computed_is_said(database: Database) -> None:
    run = asked(database)
    with database.session() as session:
        session.execute(text("UPDATE runs SET question = jsonb_set(question, '{variant}', '\"none-such\"')"))
    RunService(database).work(run.id)
    found = RunService(database).find(run.id)
    assert found.state == "failed"
    assert found.message == "The build has no variant none-such."


def test_a_mistake_of_ours_is_said_where_somebody_waits(
    database: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: Any) -> None:
        raise ZeroDivisionError("no such luck")

    run = asked(database)
    monkeypatch.setattr("ebbrin.features.size.runs.size", broken)
    with pytest.raises(ZeroDivisionError, match="no such luck"):
        RunService(database).work(run.id)
    found = RunService(database).find(run.id)
    assert (found.state, found.message) == ("failed", MISTAKE)


def test_unknown_builds_and_runs_are_named(database: Database) -> None:
    nobody = UUID(int=0)
    build = linnet()
    with pytest.raises(UnknownBuild, match=str(nobody)):
        RunService(database).start(nobody, SizingQuestion(build=build, variant=build.variants[0].id))
    with pytest.raises(UnknownRun, match=str(nobody)):
        RunService(database).find(nobody)
    assert RunService(database).newest(nobody) is None
    lacking = edited(build, variants__0__radiator__width_mm=None)
    stored = BuildService(database).create(lacking)
    with pytest.raises(MissingValues, match="core width"):
        RunService(database).start(stored.id, SizingQuestion(build=lacking, variant=lacking.variants[0].id))


def test_eight_questions_at_once_leave_one_sizing(database: Database) -> None:
    first = asked(database)
    question = SizingQuestion.model_validate(first.question)
    service = RunService(database)
    with ThreadPoolExecutor(8) as pool:
        runs = list(pool.map(lambda _: service.start(first.build_id, question), range(8)))
    states = [service.find(run.id).state for run in [first, *runs]]
    assert sorted(states) == ["cancelled"] * 8 + ["waiting"]
    # And the database itself holds no two.
    engine = create_engine(database._engine.url)
    with engine.begin() as connection, pytest.raises(Exception, match="runs_one_open"):
        connection.execute(text("UPDATE runs SET state = 'waiting'"))
    engine.dispose()


def test_old_sizings_are_let_go(database: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sizings, "TAKEN_UP", 0.0)  # nobody takes them up
    first = asked(database)
    question = SizingQuestion.model_validate(first.question)
    service = RunService(database)
    runs = [first, *(service.start(first.build_id, question) for _ in range(KEPT + 3))]
    with pytest.raises(UnknownRun):
        service.find(runs[0].id)
    assert service.find(runs[-KEPT].id).state == "cancelled"
    assert service.newest(first.build_id) == runs[-1]
