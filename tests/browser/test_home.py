"""The list of builds: searched, sorted, copied, put away and brought back."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from oracles.builds import linnet
from tests.browser.conftest import LiveServer, stored


@pytest.fixture
def home(page: Page, live: LiveServer) -> Page:
    for name in ("Wren one", "Wren two", "Heron"):
        stored(live, linnet().model_copy(update={"name": name}))
    page.goto(live.address)
    return page


def lines(page: Page) -> Locator:
    return page.get_by_role("list", name="Builds").get_by_role("listitem")


def test_builds_are_searched_sorted_copied_and_put_away(home: Page) -> None:
    home.get_by_label("Search builds").fill("wren")
    expect(lines(home)).to_have_count(2)
    home.get_by_label("Order of builds").select_option("name")
    expect(lines(home).first).to_contain_text("Wren one")
    home.get_by_role("button", name="Copy Wren two").click()
    expect(lines(home)).to_have_count(3)
    expect(lines(home).last).to_contain_text("Wren two, copy")
    home.get_by_role("button", name="Put away Wren two, copy").click()
    expect(lines(home)).to_have_count(2)
    home.get_by_role("button", name=re.compile("put away$")).filter(has_text=re.compile(r"\d")).click()
    expect(lines(home)).to_have_count(1)
    home.get_by_role("button", name="Bring back Wren two, copy").click()
    expect(lines(home)).to_have_count(0)
    home.get_by_role("button", name="back to the others").click()
    expect(lines(home)).to_have_count(3)
    home.get_by_label("Search builds").fill("nobody")
    expect(home.get_by_text("No build has that")).to_be_visible()


def test_prices_are_in_the_workshops_currency(bench: Page) -> None:
    page = bench
    page.keyboard.press("u")
    field = page.get_by_label("Prices of this workshop are in")
    field.fill("kr")
    field.press("Tab")
    page.reload()
    page.get_by_role("region", name="Four answers").wait_for()
    page.keyboard.press("u")
    expect(field).to_have_value("kr")
    field.fill("")
    field.press("Tab")
    page.keyboard.press("Escape")


def test_words_say_what_they_mean_where_they_stand_and_in_one_list(bench: Page) -> None:
    page = bench
    word = page.get_by_role("button", name=re.compile("^air to spare"))
    word.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("tooltip")).to_contain_text("before the case reaches its limit")
    page.keyboard.press("Escape")
    expect(page.get_by_role("tooltip")).to_have_count(0)
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Command").fill("words")
    page.keyboard.press("Enter")
    words = page.get_by_role("dialog", name="Words")
    expect(words).to_contain_text("as much heat to the coolant as brake power")
    expect(words.get_by_role("term").first).to_be_visible()
    page.keyboard.press("Escape")
