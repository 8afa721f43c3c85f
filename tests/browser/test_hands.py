"""What fingers, keys and those who avoid motion need: drags that are called away, values said in one's unit, the focus kept."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Goer, Opener

pytestmark = pytest.mark.long
LINNET = 0

FRAMES = """(count) => new Promise((done) => {
  const next = (left) => (left ? requestAnimationFrame(() => next(left - 1)) : done());
  next(count);
})"""


def test_a_drag_that_is_called_away_ends(opened: Opener) -> None:
    page = opened(LINNET)
    grip = page.get_by_role("slider", name="Thermostat grip")
    box = grip.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 20, steps=3)
    expect(grip).not_to_have_attribute("aria-valuetext", "82 °C")
    grip.dispatch_event("pointercancel", {"pointerId": 1, "bubbles": True})
    # What was moved before may be drawn after it, on a busy machine some frames later.
    held = ""
    while held != (now := str(grip.get_attribute("aria-valuetext"))):
        held = now
        page.evaluate(FRAMES, 20)
    page.mouse.move(x, y + 60, steps=3)
    page.evaluate(FRAMES, 20)
    expect(grip).to_have_attribute("aria-valuetext", held)
    page.mouse.up()


def test_sliders_say_their_value_in_the_reader_s_unit(opened: Opener) -> None:
    page = opened(LINNET)
    grip = page.get_by_role("slider", name="Thermostat grip")
    expect(grip).to_have_attribute("aria-valuetext", "82 °C")
    page.get_by_label("Units").select_option("us")
    expect(grip).to_have_attribute("aria-valuetext", "180 °F")
    grip.focus()
    page.keyboard.press("ArrowUp")
    expect(grip).to_have_attribute("aria-valuetext", "181 °F")


def test_the_focus_stays_after_a_command(opened: Opener) -> None:
    page = opened(LINNET)
    page.get_by_role("button", name="Cap and limits").first.click()
    field = page.get_by_label("Cap pressure")
    field.focus()
    page.keyboard.press("Control+k")
    expect(page.get_by_role("combobox", name="Command")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(field).to_be_focused()
    page.keyboard.press("Control+k")
    command = page.get_by_role("combobox", name="Command")
    command.fill("units: mixed")
    expect(page.get_by_role("option", name="Units: mixed")).to_be_visible()
    command.press("Enter")
    expect(page.get_by_label("Units")).to_have_value("mixed")
    expect(field).to_be_focused()


def test_arrow_keys_go_through_the_kinds_of_the_shelf(went: Goer) -> None:
    page = went("/shelf", "Files")
    page.get_by_role("tab", name="Radiators").focus()
    for name in ("Fans", "Pumps"):
        page.keyboard.press("ArrowRight")
        tab = page.get_by_role("tab", name=name)
        expect(tab).to_be_focused()
        expect(tab).to_have_attribute("aria-selected", "true")
    page.keyboard.press("Tab")
    expect(page.get_by_role("tab").and_(page.locator(":focus"))).to_have_count(0)


def test_play_stands_still_between_its_steps_for_those_who_avoid_motion(opened: Opener) -> None:
    page = opened(LINNET)
    assert page.evaluate("matchMedia('(prefers-reduced-motion: reduce)').matches")
    page.keyboard.press("g")
    view = page.get_by_role("region", name="Drive it")
    head = view.get_by_role("slider", name="Play head")
    head.focus()
    page.keyboard.press("Home")
    expect(head).to_have_attribute("aria-valuetext", "00:00")
    view.get_by_role("button", name="Play", exact=True).click()
    expect(head).not_to_have_attribute("aria-valuetext", "00:00")
    view.get_by_role("button", name="Pause").click()
    end, at = float(str(head.get_attribute("max"))), float(head.input_value())
    # A twenty-fourth of the drive at a time, and nothing between.
    assert at / (end / 24) == pytest.approx(round(at / (end / 24)), abs=0.02)
