"""A throw-away PostgreSQL for the whole run, started when the first test asks for it."""

from __future__ import annotations

import fcntl
import gc
import os
import re
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from xdist.scheduler import LoadScopeScheduling

from ebbrin.app.cluster import Cluster
from ebbrin.app.schema import migrate
from ebbrin.app.web import create_app, put_on
from ebbrin.ground import store

FOLDER = "EBBRIN_TEST_FOLDER"
TEMPLATE = "ebbrin_template"

settings.register_profile(
    "ebbrin", deadline=None, max_examples=25, suppress_health_check=[HealthCheck.too_slow], derandomize=True
)
settings.load_profile("ebbrin")


MEMORY = Path("/dev/shm")
ROOM = 6_000_000_000  # bytes; a run writes some 2 GB, most of it databases


def _ground() -> Path:
    """Where a run writes: to memory where there is plenty of it, for disks take longer and much of the processor's time."""
    if not os.access(MEMORY, os.W_OK):
        return Path("/var/tmp")
    found = re.search(r"MemAvailable: +(\d+) kB", Path("/proc/meminfo").read_text())
    free = min(1024 * int(found[1]) if found else 0, shutil.disk_usage(MEMORY).free)
    return MEMORY if free > ROOM else Path("/var/tmp")


def pytest_configure(config: pytest.Config) -> None:
    """The first process makes the folder; its helpers inherit it. What is read now stays: it need not be looked through."""
    gc.disable()
    if not hasattr(config, "workerinput"):
        folder = Path(tempfile.mkdtemp(prefix="ebbrin-test-", dir=_ground()))
        folder.chmod(0o755)
        loose = folder / "loose"
        loose.mkdir()
        loose.chmod(0o1777)  # also for what runs as another user
        os.environ |= {FOLDER: str(folder), "TMPDIR": str(loose)}
        tempfile.tempdir = str(loose)


ON_ONE_WORKER = (
    "tests/core/cause/test_witness.py",  # cars that were driven once are known there
    "tests/features/cause/",
    "tests/features/size/test_size.py",  # what was sized once
    "tests/browser/test_sizing.py",  # a worker of Ebbrin's; those that go without at first come first
    "tests/reference/",  # libraries that take seconds to read
)


OTHERS = ("test_page.py", "test_generated.py")
"""Tests that other programs make."""


class _Together(LoadScopeScheduling):  # type: ignore[misc]
    """Tests of the places above go to one helper, others wherever one is free."""

    def _split_scope(self, nodeid: str) -> str:
        return next((place for place in ON_ONE_WORKER if nodeid.startswith(place)), nodeid)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadScopeScheduling | None:
    """Who runs what; groups by marks, as the library has them, no longer reach it with this pytest."""
    return _Together(config, log) if config.getvalue("dist") == "loadscope" else None


def pytest_collection_finish() -> None:
    """From here on what is left over is collected, and what stays is left alone."""
    gc.freeze()
    gc.enable()


def pytest_unconfigure(config: pytest.Config) -> None:
    """The first process stops the server and removes the folder."""
    if not hasattr(config, "workerinput") and FOLDER in os.environ:
        folder = Path(os.environ.pop(FOLDER))
        if (folder / "postgres").exists():
            Cluster(folder / "postgres").stop()
        shutil.rmtree(folder, ignore_errors=True)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What a test needs says what it is."""
    for item in items:
        needs = set(getattr(item, "fixturenames", ()))
        if needs & {"page", "browser", "context"}:
            item.add_marker("browser")
        if needs & {"cluster", "database_url", "client", "place"}:
            item.add_marker("database")
    # What waits for others comes first. The browser keeps an event loop running in its process: what runs loops of its
    # own comes before.
    items.sort(
        key=lambda item: (item.get_closest_marker("browser") is not None, item.path.name not in OTHERS)
    )


@pytest.fixture(scope="session")
def cluster() -> Cluster:
    """The run's cluster, with a migrated template database; one process starts it, the others wait."""
    store.CONNECT_WAIT = 120  # a machine that stands still for a while is not a database that is away
    folder = Path(os.environ[FOLDER])
    cluster = Cluster(folder / "postgres", durable=False)
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not cluster.running():
            cluster.start()
            migrate(cluster.ensure_database(TEMPLATE))
    return cluster


@pytest.fixture
def database_url(cluster: Cluster, request: pytest.FixtureRequest) -> str:
    """A migrated, empty database of one's own."""
    return cluster.ensure_database(f"t_{os.getpid()}_{abs(hash(request.node.nodeid))}", template=TEMPLATE)


@pytest.fixture(scope="session")
def application() -> FastAPI:
    """The real application, whose routes take a third of a second to be read; on no database yet."""
    return create_app("postgresql+psycopg://nobody:x@127.0.0.1:1/none")


@pytest.fixture
def client(application: FastAPI, database_url: str) -> Iterator[TestClient]:
    """A client on the real application with a database and services of its own."""
    put_on(application, database_url)
    with TestClient(application, base_url="http://127.0.0.1:8600", raise_server_exceptions=False) as client:
        yield client
