"""Drive it, as a person does: legs, a fault, the course, its events."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, Page, expect

pytestmark = [pytest.mark.browser, pytest.mark.database]

Opener = Callable[[int], Page]
LINNET, MULE = 0, 1
COMPILED = 120_000  # ms; the first drive of a process may have to be compiled


def drive_it(page: Page) -> Locator:
    page.get_by_role("button", name="Drive it").click()
    view = page.get_by_role("region", name="Drive it")
    expect(view.get_by_role("region", name="What happens")).to_be_visible(timeout=COMPILED)
    return view


def test_mule_boils_with_a_dead_fan_and_the_play_head_moves_the_ladder(opened: Opener) -> None:
    page = opened(MULE)
    view = drive_it(page)
    view.get_by_label("Minutes of leg 1").fill("20")
    view.get_by_label("Fan dead: motor, relay, fuse or switch").check()
    happens = view.get_by_role("region", name="What happens")
    boils = happens.get_by_role("button", name="boils, and coolant is pushed out").first
    expect(boils).to_be_visible()
    expect(view.get_by_text("Never open a hot cap")).to_be_visible()
    expect(view.get_by_text("without fault")).to_be_visible()
    boils.click()
    ladder = page.get_by_role("region", name="Ladder of temperatures")
    expect(ladder).to_contain_text("top 12")
    expect(ladder).to_contain_text("bottom")
    # The keyboard moves the play head to the cold start.
    head = view.get_by_role("slider", name="Play head")
    head.focus()
    page.keyboard.press("Home")
    expect(head).to_have_attribute("aria-valuetext", "00:00")
    expect(view).to_contain_text("bottom hose")
    expect(view).to_contain_text("A dashboard gauge would read “cold”.")
    # What was set up is there again after a reload.
    page.reload()
    view = page.get_by_role("region", name="Drive it")
    expect(view.get_by_label("Minutes of leg 1")).to_have_value("20")
    expect(view.get_by_role("checkbox", name="Fan dead: motor, relay, fuse or switch")).to_be_checked()


def test_every_step_is_exported_with_units(opened: Opener, tmp_path: Path) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    with page.expect_download() as waiting:
        view.get_by_role("button", name="Export as CSV").click()
    path = tmp_path / "drive.csv"
    waiting.value.save_as(path)
    lines = path.read_text(encoding="utf-8").splitlines()
    assert lines[0].startswith("time [s],metal [°C],top hose [°C]")
    assert len(lines) > 10_000


def test_legs_are_added_changed_and_removed_and_nonsense_is_kept_apart(opened: Opener) -> None:
    page = opened(LINNET)
    view = drive_it(page)
    legs = view.get_by_role("region", name="Legs").get_by_role("listitem")
    before = legs.count()
    view.get_by_role("button", name="+ leg").click()
    expect(legs).to_have_count(before + 1)
    minutes = view.get_by_label(f"Minutes of leg {before + 1}")
    minutes.fill("for ever")
    expect(minutes).to_have_attribute("aria-invalid", "true")
    minutes.fill("5")
    view.get_by_role("button", name=f"Remove leg {before + 1}").click()
    expect(legs).to_have_count(before)


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing_serious_in_a_drive(opened: Opener, scheme: str) -> None:
    page = opened(LINNET)
    page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
    view = drive_it(page)
    view.get_by_label("Core silted").check()
    expect(view.get_by_role("slider", name="How bad: Core silted")).to_be_visible()
    found = Axe().run(page).response["violations"]
    grave = [
        f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found if v["impact"] in ("serious", "critical")
    ]
    assert grave == []
    assert page.evaluate("document.documentElement.scrollWidth - innerWidth") == 0
