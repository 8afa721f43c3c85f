"""Addresses, the job line, narrow screens, and what those need who do not see the page or press single keys."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Request, expect

from oracles.builds import linnet
from tests.browser.accessibility import MEASURED, TARGET, WIDTHS, grave
from tests.browser.conftest import (
    ANSWERS,
    DESK,
    GO,
    PATIENCE,
    ROOMS,
    VARIANT,
    VIEWS,
    Goer,
    LiveServer,
    drawn,
    stored,
    until,
)

LOOKS = 20  # by then a busy machine has drawn what was still to be drawn


def answers(page: Page) -> None:
    page.get_by_role("region", name="Four answers").wait_for()
    drawn(page)


class Walked:
    """One page that goes from view to view as its reader would, without being loaded anew."""

    def __init__(self, page: Page, build: str) -> None:
        self.page, self.build = page, build
        self.asked: set[Request] = set()
        page.on("request", lambda asked: self.asked.add(asked))
        page.on("requestfinished", lambda asked: self.asked.discard(asked))
        page.on("requestfailed", lambda asked: self.asked.discard(asked))

    def to(self, address: str) -> Page:
        """Goes there. Each view has a title, which it sets once it is drawn; until then the last one may still stand."""
        self.page.set_viewport_size(DESK)  # whatever the last test left
        if not self.page.url.endswith(address):
            self.page.evaluate("document.title = ''")
            self.page.evaluate(GO, address)
            expect(self.page).not_to_have_title("")
        self.still()
        return self.page

    def still(self, looks: int = 3) -> None:
        """Wait until nothing was asked of the server at so many looks; what only listens does not count."""
        quiet = 0
        while quiet < looks:
            self.page.wait_for_timeout(100)
            waiting = any(asked.resource_type != "eventsource" for asked in list(self.asked))
            quiet = 0 if waiting else quiet + 1


@pytest.fixture(scope="module")
def walked(browser: Browser, browser_context_args: dict[str, Any], live: LiveServer) -> Iterator[Walked]:
    context = browser.new_context(**browser_context_args)
    context.set_default_timeout(PATIENCE)
    page = context.new_page()
    found = Walked(page, f"/builds/{stored(live, linnet())}/{VARIANT}")
    page.goto(live.address + found.build)
    answers(page)
    yield found
    context.close()


@pytest.mark.parametrize("view", [*ROOMS, *VIEWS])
def test_axe_finds_nothing_serious_in_any_view_none_scrolls_sideways_and_every_target_can_be_hit(
    walked: Walked, view: str
) -> None:
    page = walked.to(ROOMS.get(view) or walked.build + VIEWS[view])
    page.get_by_role("main").wait_for()
    wrong, looks = grave(page), 1
    while wrong and looks < LOOKS:  # what is still to be drawn is not what is wrong
        walked.still()
        wrong, looks = grave(page), looks + 1
    assert wrong == []
    for width, height in WIDTHS.items():
        page.set_viewport_size({"width": width, "height": height})
        walked.still(looks=1)
        found, looks = page.evaluate(MEASURED, TARGET), 1
        while any(found.values()) and looks < LOOKS:
            walked.still()
            found, looks = page.evaluate(MEASURED, TARGET), looks + 1
        assert (found["page"], found["main"]) == (0, 0), f"{width} px"
        assert found["small"] == [], f"{width} px"
        assert found["over"] == [], f"{width} px"


def test_axe_finds_what_has_no_name_or_cannot_be_read(walked: Walked) -> None:
    page = walked.to(ROOMS["home"])
    page.evaluate(
        """() => {
        const bad = Object.assign(document.createElement('div'), { id: 'bad' });
        const pale = Object.assign(document.createElement('p'), { textContent: 'pale' });
        Object.assign(pale.style, { color: '#bbb', background: '#fff' });
        bad.append(document.createElement('button'), pale);
        document.querySelector('main').prepend(bad);
        }"""
    )
    found = grave(page)
    page.evaluate("document.getElementById('bad').remove()")
    assert {line.split(":")[0] for line in found} == {"button-name", "color-contrast"}


@pytest.mark.parametrize(("width", "scrolls"), [(1280, "main"), (390, "html")])
def test_a_view_begins_at_its_top_and_going_back_leads_to_where_it_was_left(
    bench: Page, width: int, scrolls: str
) -> None:
    page = bench
    page.set_viewport_size({"width": width, "height": 800})
    page.get_by_role("button", name="edit as rows").wait_for()

    def top() -> float:
        return float(page.evaluate(f"Math.round(document.querySelector('{scrolls}').scrollTop)"))

    page.evaluate(f"document.querySelector('{scrolls}').scrollTop = 200")
    until(page, f"document.querySelector('{scrolls}').scrollTop > 150")
    left = top()
    page.keyboard.press("j")  # the same view, of another case
    expect(page).to_have_url(re.compile("case="))
    assert top() == left
    drive = page.get_by_role("navigation", name="The job").get_by_role("link", name=re.compile("^Drive"))
    drive.evaluate("(link) => link.click()")  # without being scrolled to first
    page.get_by_role("region", name="Drive it").wait_for()
    expect(page.get_by_role("main")).not_to_have_attribute("aria-busy", "true")
    assert top() == 0
    page.go_back()
    answers(page)
    until(page, f"Math.abs(document.querySelector('{scrolls}').scrollTop - {left}) < 2")
    page.set_viewport_size(DESK)


def test_back_forward_and_a_pasted_link_show_the_same(page: Page, live: LiveServer, build_id: str) -> None:
    build = f"{live.address}/builds/{build_id}"
    page.goto(build)
    answers(page)
    expect(page).to_have_url(f"{build}/{VARIANT}")
    page.get_by_role("navigation", name="The job").get_by_role("link", name=re.compile("^Size")).click()
    expect(page.get_by_role("heading", name="Size it")).to_be_visible()
    expect(page).to_have_title("Size it – Linnet – Ebbrin")
    page.get_by_role("button", name="With full shroud").click()
    expect(page).to_have_url(f"{build}/shroud/size")
    page.go_back()
    expect(page).to_have_url(f"{build}/{VARIANT}/size")
    expect(page.get_by_role("button", name="As found")).to_have_attribute("aria-pressed", "true")
    page.go_back()
    expect(page.get_by_role("region", name=re.compile("Coolant loop"))).to_be_visible()
    page.go_forward()
    expect(page.get_by_role("heading", name="Size it")).to_be_visible()
    other = page.context.new_page()
    other.goto(f"{build}/shroud/stations/air?case=hill")
    expect(other.get_by_role("button", name="With full shroud")).to_have_attribute("aria-pressed", "true")
    expect(other.get_by_role("region", name="Air: grille, fan, shroud")).to_be_visible()
    expect(other.get_by_role("region", name="Verdicts").get_by_role("button", pressed=True)).to_contain_text(
        "Hill run"
    )


def test_looking_through_cases_and_variants_by_key_leaves_no_trail(went: Goer, build_id: str) -> None:
    page = went(f"/builds/{build_id}/{VARIANT}/cases", ANSWERS)
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Coolant loop in Paddock queue, idle")).to_be_visible()
    for keys in ("j", "j", "k", "]", "["):
        page.keyboard.press(keys)
    expect(page).to_have_url(re.compile(r"\?case="))
    page.go_back()
    expect(page.get_by_role("heading", name="What it must survive")).to_be_visible()


@pytest.mark.parametrize(
    ("below", "said"),
    [
        ("/gone", "has no variant “gone”"),
        (f"/{VARIANT}/stations/gearbox", "has no place “stations/gearbox”"),
        (f"/{VARIANT}/cases/moon", "has no case “moon”"),
    ],
)
def test_an_address_at_which_nothing_stands_says_so(
    page: Page, live: LiveServer, build_id: str, below: str, said: str
) -> None:
    page.goto(f"{live.address}/builds/{build_id}{below}")
    expect(page.get_by_role("main")).to_contain_text(said)
    page.evaluate(GO, "/nowhere")
    expect(page.get_by_role("heading", name="Nothing stands at this address")).to_be_visible()


def test_an_address_of_before_leads_where_it_did(page: Page, live: LiveServer, build_id: str) -> None:
    build = f"{live.address}/builds/{build_id}"
    page.goto(f"{build}?variant=shroud&station=air&case=hill")
    expect(page).to_have_url(f"{build}/shroud/stations/air?case=hill")
    expect(page.get_by_role("region", name="Air: grille, fan, shroud")).to_be_visible()


def test_a_removed_variant_gives_way_to_another_and_undo_brings_it_back(
    went: Goer, live: LiveServer, build_id: str
) -> None:
    build = f"{live.address}/builds/{build_id}"
    page = went(f"/builds/{build_id}/sealed", ANSWERS)
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page).to_have_url(f"{build}/shroud")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Front sealed, ring")).to_be_visible()


def test_single_keys_can_be_switched_off(page: Page, live: LiveServer, build_id: str) -> None:
    # WCAG 2.1.4, character key shortcuts.
    page.goto(f"{live.address}/builds/{build_id}")
    answers(page)
    page.keyboard.press("?")
    page.get_by_label("Single letters are commands").uncheck()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("z")
    page.keyboard.press("Control+k")
    expect(page.get_by_role("dialog", name="What to do")).to_be_visible()
    expect(page).to_have_url(re.compile(f"/{VARIANT}$"))
    page.reload()
    answers(page)
    page.keyboard.press("d")
    page.keyboard.press("Control+k")
    expect(page.get_by_role("dialog", name="What to do")).to_be_visible()
    expect(page).to_have_url(re.compile(f"/{VARIANT}$"))


def test_tab_reaches_the_answer_at_once_and_a_changed_verdict_is_said(
    page: Page, live: LiveServer, build_id: str
) -> None:
    page.goto(f"{live.address}/builds/{build_id}")
    answers(page)
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to the answer")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()
    verdict = page.get_by_role("status", name="Verdict")
    expect(verdict).to_contain_text(re.compile("As found tight, .* in ten"))
    page.keyboard.press("]")
    expect(verdict).to_contain_text("With full shroud fails")


def test_the_palette_has_levers_that_can_be_tried(bench: Page) -> None:
    page = bench
    page.get_by_role("region", name="What would help").get_by_text("A full shroud").wait_for()
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Command").fill("lever full shroud")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/as-found-full-shroud$"))


def test_on_a_phone_the_ladder_is_a_band_that_opens(bench: Page) -> None:
    page = bench
    page.set_viewport_size({"width": 390, "height": 844})
    band = page.get_by_role("button", name=re.compile(r"^Ladder: top hose 96, limit 108"))
    band.click()
    expect(page.get_by_role("region", name="Ladder of temperatures")).to_contain_text("boils, cap on")
    page.keyboard.press("Escape")
    page.get_by_role("link", name=re.compile("^Drive")).click()
    expect(page.get_by_role("heading", name="Drive it")).to_be_visible()
    page.set_viewport_size(DESK)


def test_a_view_on_paper_shows_all_of_it(bench: Page) -> None:
    page = bench
    page.emulate_media(media="print")
    tall = page.evaluate("document.documentElement.scrollHeight")
    assert tall > 1000  # the whole view, not what a screen has room for
    expect(page.get_by_role("navigation", name="The job")).to_be_hidden()
    assert len(page.pdf()) > 10_000
    page.emulate_media(media="screen")


COVERED = """() => {
  const all = [...document.querySelectorAll('main button, main a, main input, main select, main summary')];
  const bad = [];
  for (const e of all) {
    e.focus();
    if (document.activeElement !== e) continue;
    const box = e.getBoundingClientRect();
    const at = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
    if (!at || !(e.contains(at) || at.contains(e) || e.closest('label')?.contains(at)))
      bad.push((e.getAttribute('aria-label') ?? e.textContent ?? '').slice(0, 40));
  }
  return { looked: all.length, bad };
}"""


@pytest.mark.parametrize("view", ["cause", "radiator station", "plan", "parts", "rows", "drive"])
def test_on_a_phone_nothing_covers_what_has_the_focus(walked: Walked, view: str) -> None:
    page = walked.to(walked.build + VIEWS[view])
    page.set_viewport_size({"width": 390, "height": 844})
    walked.still()
    found, looks = page.evaluate(COVERED), 1
    while found["looked"] <= 5 and looks < LOOKS:  # until its first question is answered a view is a word
        walked.still()
        found, looks = page.evaluate(COVERED), looks + 1
    assert found["looked"] > 5
    assert found["bad"] == []
