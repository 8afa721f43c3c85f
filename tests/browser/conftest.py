"""The built page on a real server and database, in Debian's Chromium."""

from __future__ import annotations

import os
import socket
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from playwright.sync_api import BrowserContext, Page, expect

from ebbrin.app.cluster import Cluster
from ebbrin.app.web import create_app
from ebbrin.build.build import Build
from ebbrin.demo import demo_builds
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.store import Database
from oracles.builds import linnet
from tests.conftest import TEMPLATE

# A busy machine is slow, not wrong: speed is measured in benchmarks/, never here.
expect.set_options(timeout=60_000)

VIEWS = {
    "loop": "",
    "describe": "/describe",
    **{
        f"{name} station": f"/stations/{name}"
        for name in ("engine", "coolant", "radiator", "air", "flow", "thermostat", "cap")
    },
    "rows": "/cases",
    "case": "/cases/hill",
    "size": "/size",
    "drive": "/drive",
    "compare": "/compare",
    "history": "/history",
    "cause": "/cause",
    "plan": "/fit",
    **{name: f"/fit/{name}" for name in ("parts", "car", "mix", "fill", "prove")},
}
"""Every view of the demo's first build, by its address below the variant."""
ROOMS = {"home": "/", "shelf": "/shelf", "any car": "/cause", "road": "/road", "practice": "/practice"}
"""The views that belong to no build."""
VARIANT = "as-found"

BROWSER = "/usr/bin/chromium-headless-shell"
"""Debian's Chromium without windows: it takes two thirds of the processor's time of the one with."""
PAGE = Path(__file__).parents[2] / "web" / "dist"


class LiveServer:
    """Ebbrin on a port of its own; it can be stopped and started again on the same one."""

    def __init__(self, database_url: str) -> None:
        self._url = database_url
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port: int = probe.getsockname()[1]
        self._server: uvicorn.Server | None = None
        self._thread: threading.Thread | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        config = uvicorn.Config(
            create_app(self._url, PAGE),
            host="127.0.0.1",
            port=self.port,
            log_level="error",
            timeout_graceful_shutdown=1,
        )
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        deadline = time.monotonic() + 60
        while not self._server.started and time.monotonic() < deadline:
            time.sleep(0.02)
        assert self._server.started

    def stop(self) -> None:
        if self._server is not None and self._thread is not None:
            self._server.should_exit = True
            self._thread.join(timeout=10)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    arguments = [
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
    ]
    if os.geteuid() == 0:
        arguments.append("--no-sandbox")
    return browser_type_launch_args | {"executable_path": BROWSER, "args": arguments}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    # What the page keeps in the browser is let in by the test that is about it alone.
    return browser_context_args | {
        "viewport": {"width": 1280, "height": 800},
        "reduced_motion": "reduce",
        "service_workers": "block",
    }


@pytest.fixture(scope="session")
def live(cluster: Cluster) -> Iterator[LiveServer]:
    server = LiveServer(cluster.ensure_database(f"browser_{os.getpid()}", template=TEMPLATE))
    server.start()
    yield server
    server.stop()


def stored(live: LiveServer, build: Build) -> str:
    """A build put into a server's database; its id."""
    database = Database(live._url)
    made = BuildService(database).create(build)
    database.close()
    return str(made.id)


@pytest.fixture
def build_id(live: LiveServer) -> str:
    """A demo build that belongs to one test alone."""
    return stored(live, linnet())


@pytest.fixture
def opened(page: Page, live: LiveServer) -> Callable[[int], Page]:
    """Opens a demo build of one's own, by its number."""

    def open_(number: int) -> Page:
        page.goto(f"{live.address}/builds/{stored(live, demo_builds()[number])}")
        page.get_by_role("region", name="Four answers").wait_for()
        return page

    return open_


@pytest.fixture
def bench(page: Page, live: LiveServer, build_id: str) -> Page:
    """The workbench, open on that build."""
    page.goto(f"{live.address}/builds/{build_id}")
    page.get_by_role("region", name="Four answers").wait_for()
    return page


@pytest.fixture(autouse=True)
def patient(context: BrowserContext) -> None:
    """Actions wait as long as expectations do."""
    context.set_default_timeout(60_000)
