"""Drive it, as a person does: legs, a fault, the course, its events."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.accessibility import grave
from tests.browser.conftest import Opener
from tests.browser.test_workbench import expect_saved

pytestmark = [pytest.mark.browser, pytest.mark.database]

LINNET, MULE = 0, 1


def drive_it(page: Page) -> Locator:
    page.get_by_role("link", name=re.compile("^Drive")).click()
    view = page.get_by_role("region", name="Drive it")
    expect(view.get_by_role("region", name="What happens")).to_be_visible()
    return view


def rows(text: str) -> bytes:
    """A recorded drive with one cell of its third row set."""
    head = "time [s],speed [km/h],engine speed [rpm],gradient [%],ambient [°C],boost [kPa]\n"
    body = [f"{10 * i},{40 + i % 20},{1500 + 20 * (i % 20)},1,28,9" for i in range(90)]
    body[2] = f"20,{text},1540,1,28,9"
    return (head + "\n".join(body) + "\n").encode()


def test_mule_boils_with_a_dead_fan_and_the_play_head_moves_loop_and_ladder(opened: Opener) -> None:
    page = opened(MULE)
    view = drive_it(page)
    view.get_by_label("Minutes of leg 1").fill("20")
    view.get_by_label("Fan does not turn").check()
    happens = view.get_by_role("region", name="What happens")
    boils = happens.get_by_role("button", name="boils, and coolant is pushed out").first
    expect(boils).to_be_visible()
    expect(view.get_by_text("Never open a hot cap")).to_be_visible()
    expect(view.get_by_text("without fault")).to_be_visible()
    boils.click()
    ladder = page.get_by_role("region", name="Ladder of temperatures")
    expect(ladder).to_contain_text("engine 12")
    expect(ladder).to_contain_text("bottom")
    loop = view.get_by_role("img", name="Loop at this moment")
    expect(loop).to_contain_text("wide open")
    expect(loop).to_contain_text("fan off")
    # The keyboard moves the play head to the cold start.
    head = view.get_by_role("slider", name="Play head")
    head.focus()
    page.keyboard.press("Home")
    expect(head).to_have_attribute("aria-valuetext", "00:00")
    expect(loop).to_contain_text("shut")
    expect(view).to_contain_text("A dashboard gauge would read “cold”.")
    # The hand drags it on the chart; then it plays by itself.
    picture = view.get_by_role("img", name="Coolant leaving the engine over time")
    picture.scroll_into_view_if_needed()
    chart = picture.bounding_box()
    assert chart is not None
    page.mouse.move(chart["x"] + 0.3 * chart["width"], chart["y"] + 80)
    page.mouse.down()
    page.mouse.move(chart["x"] + 0.5 * chart["width"], chart["y"] + 90)
    page.mouse.up()
    dragged = int(head.input_value())
    assert dragged > 600
    view.get_by_role("button", name="Play", exact=True).click()
    expect(head).not_to_have_attribute("aria-valuetext", f"{dragged // 60:02d}:{dragged % 60:02d}")
    view.get_by_role("button", name="Pause").click()
    # What was set up is kept with the build.
    expect(page.get_by_text("saved ")).to_be_visible()
    page.reload()
    view = page.get_by_role("region", name="Drive it")
    expect(view.get_by_label("Minutes of leg 1")).to_have_value("20")
    expect(view.get_by_role("checkbox", name="Fan does not turn")).to_be_checked()
    # And undone like anything else.
    view.get_by_role("checkbox", name="Fan does not turn").uncheck()
    page.get_by_role("button", name="Undo").click()
    expect(view.get_by_role("checkbox", name="Fan does not turn")).to_be_checked()


def test_every_step_is_exported_with_units(opened: Opener, tmp_path: Path) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    with page.expect_download() as waiting:
        view.get_by_role("button", name="Export as CSV").click()
    path = tmp_path / "drive.csv"
    waiting.value.save_as(path)
    lines = path.read_text(encoding="utf-8").splitlines()
    assert lines[0].startswith("time [s],metal [°C],engine out [°C],top hose [°C]")
    assert len(lines) > 10_000


def test_legs_are_added_changed_and_removed_and_nonsense_is_kept_apart(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    legs = view.get_by_role("region", name="Legs").get_by_role("listitem")
    before = legs.count()
    view.get_by_role("button", name="+ leg").click()
    view.get_by_role("button", name="Repeat the last leg").click()
    expect(legs).to_have_count(before + 1)
    minutes = view.get_by_label(f"Minutes of leg {before + 1}")
    minutes.fill("for ever")
    expect(minutes).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_text("1 field cannot be read yet")).to_be_visible()
    # What cannot be read goes along with its leg, and is there after a reload.
    view.get_by_role("button", name=f"Move leg {before + 1} up").click()
    expect(minutes).not_to_have_value("for ever")
    expect_saved(page)
    page.reload()
    moved = view.get_by_label(f"Minutes of leg {before}", exact=True)
    expect(moved).to_have_value("for ever")
    moved.fill("90 s")
    expect(moved).not_to_have_attribute("aria-invalid", "true")
    moved.blur()
    expect(moved).to_have_value("1.5")
    expect(minutes).not_to_have_attribute("aria-invalid", "true")
    view.get_by_role("button", name=f"Remove leg {before + 1}").click()
    expect(legs).to_have_count(before)
    # A template brings legs of their own.
    view.get_by_role("button", name="+ leg").click()
    view.get_by_role("button", name="Climb").click()
    expect(legs).to_have_count(before + 4)
    view.get_by_role("button", name=f"Edit leg {before + 3}, Climb of 8 %").click()
    gradient = view.get_by_label("Gradient", exact=True)
    expect(gradient).to_have_value("8")
    gradient.fill("steep")
    expect(gradient).to_have_attribute("aria-invalid", "true")
    gradient.fill("10")
    view.get_by_role("textbox", name="Name").fill("The last bend")
    expect(view.get_by_role("button", name=f"Edit leg {before + 3}, The last bend")).to_be_visible()
    view.get_by_role("button", name=f"Move leg {before + 3} up").click()
    expect(view.get_by_role("button", name=f"Edit leg {before + 2}, The last bend")).to_be_visible()


def test_a_case_is_changed_for_one_leg_alone(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    view.get_by_label("Leg 2", exact=True).select_option(label="… changed for this leg alone")
    view.get_by_label("Ambient", exact=True).fill("45")
    expect(view.get_by_role("button", name="Edit leg 2, Paddock queue, idle")).to_be_visible()
    ladder = page.get_by_role("region", name="Ladder of temperatures")
    expect(ladder).to_contain_text("engine")
    # The build's own case is as it was.
    view.get_by_label("As in a case of the build").select_option(label="Paddock queue, idle")
    expect(view.get_by_label("Leg 2", exact=True)).to_have_value("queue")
    view.get_by_role("button", name="Back to the loop").click()
    page.get_by_role("button", name="Edit Paddock queue, idle").click()
    expect(page.get_by_label("Ambient", exact=True).last).to_have_value("")


def test_a_recording_is_followed_once_every_row_can_be_read(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    file = view.get_by_label("Recorded drive")
    bad = {"name": "lane.csv", "mimeType": "text/csv", "buffer": rows("fast")}
    file.set_input_files(bad)  # type: ignore[arg-type]
    refused = view.get_by_role("list", name="Rows that cannot be read")
    expect(refused).to_contain_text("Line 4, speed [km/h]: Speed is “fast”, which is no number.")
    expect(view.get_by_role("region", name="Legs")).to_be_visible()
    good = {"name": "lane.csv", "mimeType": "text/csv", "buffer": rows("42")}
    file.set_input_files(good)  # type: ignore[arg-type]
    # The hand goes on while the file is read: what it did stays.
    drives = view.get_by_role("group", name="Drives")
    drives.get_by_role("button", name="Duplicate").click()
    expect(drives.get_by_role("button", pressed=True)).to_contain_text(", again")
    mine = drives.get_by_role("button", name="Queue, hill run and soak", exact=True)
    mine.click()
    expect(mine).to_have_attribute("aria-pressed", "true")
    recording = view.get_by_role("region", name="Recording")
    expect(recording).to_contain_text("90 rows over 14:50")
    view.get_by_label("Recorded drive").set_input_files(good)  # type: ignore[arg-type]
    expect(recording).to_contain_text("Columns that are not read: boost [kPa]")
    head = view.get_by_role("slider", name="Play head")
    expect(head).to_have_attribute("max", "890")
    expect(view.get_by_role("region", name="Legs")).to_have_count(0)
    recording.get_by_role("button", name="Back to legs").click()
    expect(view.get_by_role("region", name="Legs")).to_be_visible()


def test_each_fault_says_what_it_alone_would_come_to(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    breaks = view.get_by_role("region", name="What breaks")
    breaks.get_by_role("button", name="What would each do?").click()
    expect(breaks.get_by_text("Thermostat stuck shut")).to_contain_text("by itself up to 130 °C, runs dry")
    expect(breaks.get_by_text("Thermostat stuck open")).to_contain_text("by itself up to 1")
    expect(breaks.get_by_text("Thermostat stuck open")).to_contain_text("no worse than without it")
    breaks.get_by_role("button", name="Hide what each does").click()
    expect(breaks.get_by_text("by itself up to")).to_have_count(0)


def test_drives_are_named_duplicated_and_removed(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    drives = view.get_by_role("group", name="Drives")
    drives.get_by_role("button", name="Duplicate").click()
    again = drives.get_by_role("button", name="Queue, hill run and soak, again")
    expect(again).to_have_attribute("aria-pressed", "true")
    drives.get_by_role("button", name="Rename").click()
    drives.get_by_label("Name of the drive").fill("In August")
    page.keyboard.press("Enter")
    expect(drives.get_by_role("button", name="In August")).to_be_visible()
    drives.get_by_role("button", name="Remove").click()
    expect(drives.get_by_role("button", name="In August")).to_have_count(0)
    expect(drives.get_by_role("button", name="Remove")).to_be_disabled()


def test_axe_finds_nothing_serious_in_a_drive(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    view.get_by_label("Core silted").check()
    expect(view.get_by_role("slider", name="How bad: Core silted")).to_be_visible()
    assert grave(page) == []
    assert page.evaluate("document.documentElement.scrollWidth - innerWidth") == 0
