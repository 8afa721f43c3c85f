"""Size it, as a person does: wishes in, a few answers out, one press into the workbench."""

from __future__ import annotations

import re
import subprocess
import sys
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.accessibility import fits_every_width, grave
from tests.browser.conftest import LiveServer, Opener

pytestmark = [pytest.mark.browser, pytest.mark.database]

LINNET, MULE, BRIGADE = 0, 1, 2
WORKER = "import asyncio, sys; from ebbrin.app import worker; asyncio.run(worker.serve(sys.argv[1]))"


@pytest.fixture(scope="module")
def worker(live: LiveServer) -> Iterator[subprocess.Popen[bytes]]:
    process = subprocess.Popen([sys.executable, "-c", WORKER, live._url])
    yield process
    process.kill()
    process.wait()


def size_it(page: Page) -> Locator:
    page.get_by_role("link", name=re.compile("^Size")).click()
    return page.get_by_role("region", name="Size it")


def wish(page: Page, name: str, text: str) -> None:
    page.get_by_role("form", name="What it must keep to").get_by_label(name, exact=True).fill(text)


def solutions(page: Page) -> Locator:
    return page.get_by_role("table", name="Solutions").locator("tbody tr")


def test_a_sizing_waits_for_a_worker_and_can_be_stopped(opened: Opener) -> None:
    page = opened(LINNET)
    view = size_it(page)
    view.get_by_role("button", name="Find parts").click()
    expect(view.get_by_role("status", name="Progress")).to_contain_text("Waiting for a worker")
    expect(view.get_by_role("status", name="Progress")).to_contain_text("Start one with ./start")
    view.get_by_role("button", name="Stop").click()
    expect(view).to_contain_text("Stopped. Nothing in the build was changed.")


def test_an_answer_survives_a_reload_and_says_when_it_is_old(
    opened: Opener, request: pytest.FixtureRequest
) -> None:
    page = opened(BRIGADE)
    view = size_it(page)
    page.get_by_label("Cores", exact=True).select_option("shelf")
    wish(page, "Budget", "400")
    view.get_by_role("button", name="Find parts").click()
    expect(view.get_by_role("status", name="Progress")).to_be_visible()
    page.reload()
    request.getfixturevalue("worker")
    expect(solutions(page).first).to_be_visible()
    form = page.get_by_role("form", name="What it must keep to")
    expect(form.get_by_label("Budget", exact=True)).to_have_value("400")
    wish(page, "Budget", "20")
    expect(view.get_by_text("The wishes have changed")).to_be_visible()
    page.reload()  # what was typed and not asked yet is there again
    expect(form.get_by_label("Budget", exact=True)).to_have_value("20")
    expect(view.get_by_text("The wishes have changed")).to_be_visible()
    view.get_by_role("button", name="Find parts").click()
    hindered = view.get_by_role("region", name="Nothing fits")
    expect(hindered).to_contain_text("Budget: 301 instead of 20.")
    page.get_by_label("ambient", exact=True).fill("20")
    expect(view.get_by_text("The build has changed since this was found.")).to_be_visible()


@pytest.mark.usefixtures("worker")
def test_brigade_is_sized_axe_finds_nothing_serious_and_a_solution_is_opened(opened: Opener) -> None:
    page = opened(BRIGADE)
    view = size_it(page)
    page.get_by_label("Cores", exact=True).select_option("shelf")
    view.get_by_role("button", name="Find parts").click()
    expect(solutions(page).first).to_be_visible()
    expect(view.get_by_role("region", name="What the cases ask for")).to_contain_text(
        re.compile(r"\d\.\d\d\sm² of face")
    )
    view.get_by_role("button", name="For the radiator shop").click()
    expect(view).to_contain_text("Copy the specification")
    assert grave(page) == []
    fits_every_width(page)
    # The chart by keyboard: the choice moves along the price.
    first = view.get_by_role("button", name=re.compile(r"^Solution 1:"))
    first.focus()
    order = [view.locator("g[role=button][aria-pressed=true]").get_attribute("aria-label")]
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowLeft")
    order.append(view.locator("g[role=button][aria-pressed=true]").get_attribute("aria-label"))
    assert order[0] != order[1]
    # The cheapest into the workbench, which confirms it.
    solutions(page).get_by_role("button", name="cheapest").click()
    detail = view.get_by_role("region", name=re.compile(r"^Solution \d"))
    expect(detail).to_contain_text("a full shroud")
    detail.get_by_role("button", name="Open in the workbench").click()
    expect(page.get_by_role("region", name="Variants").get_by_role("button", pressed=True)).to_contain_text(
        "Sized, cheapest"
    )
    expect(page.get_by_role("region", name="Four answers")).to_contain_text("holds every case")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("region", name="Variants")).not_to_contain_text("Sized, cheapest")


def test_a_wish_that_cannot_be_read_is_kept_and_said(opened: Opener) -> None:
    page = opened(LINNET)
    view = size_it(page)
    wish(page, "Electric power", "a little")
    expect(view.get_by_role("alert")).to_contain_text("“a little” is not a number")
    expect(view.get_by_role("button", name="Find parts")).to_be_disabled()
    wish(page, "Electric power", "200 W")
    expect(view.get_by_role("button", name="Find parts")).to_be_enabled()
    wish(page, "Width", "22 in")
    page.keyboard.press("Tab")
    form = page.get_by_role("form", name="What it must keep to")
    expect(form.get_by_label("Width", exact=True)).to_have_value("558.8")
