"""The built page on a real server and database, in Debian's Chromium."""

from __future__ import annotations

import gc
import os
import socket
import threading
import time
import warnings
from collections.abc import Callable, Generator, Iterator
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from playwright.sync_api import Browser, BrowserContext, Page, ViewportSize, expect

from ebbrin.app.cluster import Cluster
from ebbrin.app.web import create_app
from ebbrin.build.build import Build
from ebbrin.demo import demo_builds
from ebbrin.features.cause import witnesses
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.store import Database
from oracles.builds import linnet
from tests.conftest import TEMPLATE

# A busy machine is slow, not wrong: speed is measured in benchmarks/, never here. One that gave its time to others for
# minutes has let 180 s pass.
PATIENCE = 600_000  # ms
expect.set_options(timeout=PATIENCE)

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

GO = "(to) => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')); }"
"""Goes to another address of the page, as its links do."""
SET = """() => JSON.stringify([innerWidth, matchMedia('print').matches, document.documentElement.className,
  Object.entries(localStorage).filter(([key]) => !/[0-9a-f]{8}-[0-9a-f]{4}/.test(key)).sort()])"""
"""What is set beyond one build: units, keys, night, paper, a phone's screen."""

ANSWERS = "Four answers"
DESK: ViewportSize = {"width": 1280, "height": 800}
Goer = Callable[[str, str], Page]
Opener = Callable[[int], Page]
"""Opens a demo build of one's own, by its number."""

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
            self._server = self._thread = None
            # Connections that a browser still held open when its loop ended are nobody's mistake: let go of here, not in
            # the middle of another test.
            with warnings.catch_warnings():
                warnings.simplefilter("ignore", ResourceWarning)
                gc.collect()


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    arguments = [
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        # What runs for a second or two is not worth making quicker: a twelfth of the processor's time.
        "--js-flags=--no-opt,--no-maglev",
    ]
    if os.geteuid() == 0:
        arguments.append("--no-sandbox")
    return browser_type_launch_args | {"executable_path": BROWSER, "args": arguments}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    # What the page keeps in the browser is let in by the test that is about it alone.
    return browser_context_args | {
        "viewport": DESK,
        "reduced_motion": "reduce",
        "service_workers": "block",
    }


@pytest.fixture(scope="session")
def live(cluster: Cluster) -> Iterator[LiveServer]:
    # Tests wait for what a server at work does behind the scenes: beside three other helpers it would give way for minutes.
    witnesses.NICE = 0
    server = LiveServer(cluster.ensure_database(f"browser_{os.getpid()}", template=TEMPLATE))
    server.start()
    yield server
    server.stop()


def drawn(page: Page) -> None:
    """Waits until a build's page is there: its answers come before the rest of it."""
    expect(page.locator("main[aria-busy=true]")).to_have_count(0)


def until(page: Page, holds: str, *given: Any) -> None:
    """Waits until an expression of the page's, or a function of what is given, is true. Playwright's own way asks the page
    itself to look again, which its policy forbids wherever the first look is too early."""
    deadline = time.monotonic() + PATIENCE / 1000
    while not page.evaluate(holds, *given):
        assert time.monotonic() < deadline, holds
        page.wait_for_timeout(20)


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


class OnePage:
    """A page that goes from test to test as its reader goes from build to build: to load it anew takes most of the time.
    Where a test has failed, or left more behind than its build, the next one gets a page of its own."""

    def __init__(self, browser: Browser, arguments: dict[str, Any]) -> None:
        self._browser, self._arguments = browser, arguments
        self._page: Page | None = None
        self._set = ""

    def at(self, address: str, shows: str) -> Page:
        """The page at an address of its server, once the region is there by which its view is known."""
        page = self._page
        if page is None:
            context = self._browser.new_context(**self._arguments)
            context.set_default_timeout(PATIENCE)
            page = self._page = context.new_page()
            page.goto(address)
        else:
            page.evaluate("document.querySelector('main').setAttribute('data-left', '')")
            page.evaluate(GO, address)
            expect(page.locator("main[data-left]")).to_have_count(0)
        page.get_by_role("region", name=shows).wait_for()
        drawn(page)
        self._set = self._set or page.evaluate(SET)
        return page

    def leave(self, fresh: bool) -> None:
        """Give the page up unless it is as good as a new one."""
        page = self._page
        if page is None:
            return
        if fresh or page.is_closed() or page.evaluate(SET) != self._set or len(page.context.pages) > 1:
            self._page, self._set = None, ""
            page.context.close()
        else:
            page.unroute_all(behavior="ignoreErrors")


@pytest.fixture(scope="session")
def one_page(browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[OnePage]:
    shared = OnePage(browser, browser_context_args)
    yield shared
    shared.leave(fresh=True)


PASSED = pytest.StashKey[bool]()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    report = yield
    if report.when == "call":
        item.stash[PASSED] = report.passed
    return report


@pytest.fixture
def fresh(one_page: OnePage) -> None:
    """Nothing was done on the page before."""
    one_page.leave(fresh=True)


@pytest.fixture
def went(one_page: OnePage, live: LiveServer, request: pytest.FixtureRequest) -> Iterator[Goer]:
    """Goes to an address, on the page that tests share, and waits for the region by which its view is known."""
    yield lambda address, shows: one_page.at(live.address + address, shows)
    one_page.leave(fresh=not request.node.stash.get(PASSED, False))


@pytest.fixture
def opened(went: Goer, live: LiveServer) -> Opener:
    """Opens a demo build of one's own, by its number."""
    return lambda number: went(f"/builds/{stored(live, demo_builds()[number])}", ANSWERS)


@pytest.fixture
def bench(went: Goer, build_id: str) -> Page:
    """The workbench, open on that build."""
    return went(f"/builds/{build_id}", ANSWERS)


@pytest.fixture
def context(context: BrowserContext) -> BrowserContext:
    """Actions wait as long as expectations do."""
    context.set_default_timeout(PATIENCE)
    return context
