"""The workbench as a builder uses it: shelf, stations, grips, what-if, keys, units, revisions."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.accessibility import grave
from tests.browser.conftest import ANSWERS, DESK, GO, Goer, LiveServer, Opener
from tests.browser.test_variants import BRIGADE, LINNET, MULE, answers, variants
from tests.browser.test_workbench import expect_saved, field, open_station, row

pytestmark = [pytest.mark.browser, pytest.mark.database]


BROKEN = """part,id,name,width_mm,height_mm,depth_mm,pressure_kpa
radiator,white-van,Out of the white van,700,440,56,
radiator,bent,Bent,wide,400,40,
cap,red-cap,The red one,,,,1100
"""


def figure(page: Page, name: str):  # type: ignore[no-untyped-def]
    return page.get_by_role("img", name=re.compile(name))


def test_a_broken_shelf_file_is_named_row_by_row_and_its_good_rows_are_used(
    opened: Opener, went: Goer, live: LiveServer, tmp_path: Path
) -> None:
    page = opened(MULE)
    build = page.url.removeprefix(live.address)
    went("/shelf", "Files")
    path = tmp_path / "parts.csv"
    path.write_text(BROKEN, encoding="utf-8")
    page.get_by_label("Shelf file").set_input_files(path)
    status = page.get_by_role("region", name="Files").get_by_role("status")
    expect(status).to_contain_text("2 not taken in")
    refused = page.get_by_role("list", name="Rows that were not taken in")
    expect(refused).to_contain_text("Line 3, width_mm: Core width must be a number")
    expect(refused).to_contain_text("Line 4, pressure_kpa: Cap pressure is 1100 kPa")
    table = page.get_by_role("table", name="Radiators")
    expect(table).to_contain_text("Out of the white van")
    # The good row is taken into a build, and the build remembers where it came from.
    went(build, ANSWERS)
    open_station(page, "Radiator core")
    page.get_by_label("From the shelf").select_option(label="Out of the white van")
    expect(answers(page)).to_contain_text("700 × 440 × 56 mm")
    expect(page.get_by_text("As on the shelf.")).to_be_visible()
    field(page, "Core depth").fill("58")
    expect(page.get_by_text("Taken from there and changed here since.")).to_be_visible()
    expect_saved(page)
    went("/shelf", "Files")
    page.get_by_role("button", name="Take Out of the white van off the shelf").click()
    expect(table).not_to_contain_text("Out of the white van")
    page.get_by_role("button", name="Put it back").click()
    expect(table).to_contain_text("Out of the white van")


def test_a_fitted_part_is_put_on_the_shelf(opened: Opener) -> None:
    page = opened(BRIGADE)
    open_station(page, "Radiator core")
    page.get_by_role("button", name="put this one on the shelf").click()
    page.get_by_label("Name on the shelf, Radiator core").fill("Tall brass core")
    page.get_by_role("button", name="Put it there").click()
    shelf = page.get_by_label("From the shelf")
    expect(shelf.locator("option", has_text="Tall brass core")).to_have_count(1)


def test_mule_is_recovered_on_the_pass_with_parts_from_the_shelf(opened: Opener) -> None:
    page = opened(MULE)
    variants(page).get_by_role("button", name="Duplicate").click()
    page.get_by_label("Name of the variant").fill("From the shelf")
    page.keyboard.press("Enter")
    open_station(page, "Radiator core")
    page.get_by_label("From the shelf").select_option(value="alu-780x500x56")
    page.get_by_role("heading", name="Radiator core").click()
    page.keyboard.press("a")
    page.get_by_label("From the shelf").select_option(value="pair-330")
    field(page, "Shroud").select_option("full")
    page.keyboard.press("Escape")
    expect(row(page, "The pass, 2200 m")).to_contain_text("holds")
    expect(answers(page)).to_contain_text("holds every case")
    # As found is as it was.
    variants(page).get_by_role("button", name="As found").click()
    expect(row(page, "The pass, 2200 m")).to_contain_text("Never settles")


@pytest.mark.parametrize(
    ("station", "names"),
    [
        ("engine", ["Heat by school: Energy balance", "Heat in each case: Paddock queue"]),
        ("coolant", ["Freezing and boiling of ethylene glycol"]),
        ("radiator", ["Core to scale: 560 mm wide", "Heat against air"]),
        ("air", ["Fan and resistance: the fan passes", "Heat against air"]),
        ("flow", ["Pump and resistances", "Heat against coolant"]),
    ],
)
def test_each_station_draws_its_own_physics(opened: Opener, station: str, names: list[str]) -> None:
    page = opened(LINNET)
    page.evaluate(GO, f"{page.url}/stations/{station}")
    for name in names:
        expect(figure(page, name)).to_be_visible()


def test_a_core_that_does_not_fit_the_car_is_drawn_and_said_so(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Radiator core")
    field(page, "Room for the core, width").fill("540")
    expect(figure(page, "too large for the car in width")).to_be_visible()
    expect(page.get_by_text("The core is 560 mm wide; the car has room for 540 mm.")).to_be_visible()


def test_condition_is_dragged_and_says_what_it_costs(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Radiator core")
    costs = page.get_by_role("region", name="What its condition costs")
    expect(costs).to_contain_text("costs nothing")
    costs.get_by_label("Tubes blocked").fill("0.3")
    expect(field(page, "Tubes blocked").and_(page.locator("[data-path]"))).to_have_value("30")
    expect(costs.locator("div", has_text=re.compile("^Tubes blocked")).first).to_contain_text(
        re.compile(r"costs \d\.\d\skW")
    )


def test_candidates_say_why_and_are_fitted_with_one_press(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Cap and limits")
    caps = page.get_by_role("list", name="Caps")
    first = caps.get_by_role("listitem").filter(has_text="48 kPa")
    expect(first).to_contain_text("The lowest that keeps the margin to boiling")
    first.get_by_role("button", name="fit it").click()
    expect(field(page, "Cap pressure")).to_have_value("48")
    expect(first).to_contain_text("fitted")
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "Cap pressure")).to_have_value("110")


def test_ladder_grips_are_dragged_and_moved_by_keys(opened: Opener) -> None:
    page = opened(LINNET)
    grip = page.get_by_role("slider", name="Thermostat grip")
    expect(grip).to_have_attribute("aria-valuetext", "82 °C")
    grip.focus()
    page.keyboard.press("ArrowDown")
    expect(grip).to_have_attribute("aria-valuetext", "81 °C")
    box = grip.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 40)  # in one step: what it is then, it stays
    page.mouse.up()
    expect(grip).not_to_have_attribute("aria-valuetext", "81 °C")
    lower = int(str(grip.get_attribute("aria-valuenow")).split(".")[0])
    assert 70 <= lower < 80
    expect(answers(page)).to_contain_text(f"{lower} °C")
    # A fan's grips stop short of each other.
    on = page.get_by_role("slider", name="Fan-on grip")
    on.focus()
    for _ in range(4):
        page.keyboard.press("PageDown")
    expect(on).to_have_attribute("aria-valuetext", "93 °C")
    expect_saved(page)


def test_another_site_is_tried_and_saved_only_when_told(opened: Opener) -> None:
    page = opened(LINNET)
    expect_saved(page)
    page.get_by_role("button", name="What if").click()
    bar = page.get_by_role("region", name="What if")
    bar.get_by_label("What if the air were").fill("45")
    expect(bar.get_by_role("status")).to_contain_text("fails")
    expect(bar.get_by_role("status")).to_contain_text(
        re.compile(r"holds nine days in ten up to about \d+\s°C")
    )
    expect(row(page, "Paddock queue, idle")).to_contain_text("fails")
    expect(page.get_by_label("ambient", exact=True)).to_have_value("32")
    bar.get_by_role("button", name="Put back").click()
    expect(row(page, "Paddock queue, idle")).to_contain_text("tight")
    page.keyboard.press("w")
    bar.get_by_label("at 240 m").fill("1500")
    bar.get_by_role("button", name="Keep it").click()
    expect(page.get_by_label("altitude", exact=True)).to_have_value("1500")
    expect_saved(page)
    page.reload()
    answers(page).wait_for()
    expect(page.get_by_label("altitude", exact=True)).to_have_value("1500")


def test_cases_are_edited_as_rows(opened: Opener) -> None:
    page = opened(LINNET)
    page.get_by_role("button", name="edit as rows").click()
    table = page.get_by_role("table", name="Cases")
    table.get_by_label("Hill run, power").fill("200 hp")
    expect(table.get_by_role("row", name=re.compile("^Hill run"))).to_contain_text("fails")
    table.get_by_label("Hot motorway, ambient").fill("")
    expect(table.get_by_label("Hot motorway, ambient")).to_have_attribute("placeholder", "32")
    expect(table.get_by_label("Paddock queue, idle, power")).to_have_count(0)
    table.get_by_role("button", name="More of Hill run").click()
    expect(field(page, "Brake power")).to_have_value("149.14")


def test_palette_and_keys_reach_everything(opened: Opener) -> None:
    page = opened(LINNET)
    page.keyboard.press("?")
    keys = page.get_by_role("dialog", name="Keys")
    expect(keys).to_contain_text("Radiator core")
    page.keyboard.press("Escape")
    expect(keys).to_have_count(0)
    # A key in the very frame in which a dialog goes is lost in Chromium; no hand is that quick.
    page.wait_for_timeout(300)
    page.keyboard.press("Control+k")
    expect(page.get_by_role("combobox", name="Command")).to_be_focused()
    page.keyboard.type("fan shroud")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Air: grille, fan, shroud")).to_be_focused()
    page.keyboard.press("c")
    expect(page.get_by_role("heading", name="Coolant", exact=True).first).to_be_focused()
    page.keyboard.press("Escape")
    page.keyboard.press("]")
    pressed = variants(page).get_by_role("button", pressed=True)
    expect(pressed).to_contain_text("With full shroud")
    page.keyboard.press("j")
    expect(page.get_by_role("button", pressed=True, name=re.compile("^Show "))).to_have_count(1)
    page.keyboard.press("Control+k")
    expect(page.get_by_role("combobox", name="Command")).to_be_focused()
    page.keyboard.type("nothing like this")
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("Nothing is called that.")


def test_units_are_mixed_and_set_one_by_one(opened: Opener) -> None:
    page = opened(LINNET)
    page.get_by_label("Units").select_option("mixed")
    expect(answers(page)).to_contain_text("16.0 psi")
    expect(answers(page)).to_contain_text("82 °C")
    page.keyboard.press("Escape")
    page.locator("body").click(position={"x": 5, "y": 300})
    page.keyboard.press("u")
    sheet = page.get_by_role("dialog", name="Units")
    sheet.get_by_label("pressure", exact=True).select_option("bar")
    sheet.get_by_role("button", name="Close").click()
    expect(answers(page)).to_contain_text("1.10 bar")
    open_station(page, "Cap and limits")
    field(page, "Cap pressure").fill("0.9")
    expect(answers(page)).to_contain_text("0.90 bar")
    page.reload()
    expect(answers(page)).to_contain_text("0.90 bar")
    page.get_by_label("Units").select_option("us")
    expect(answers(page)).to_contain_text("13.1 psi")
    # 10 K are 18 F°: a difference is not a temperature.
    page.get_by_role("heading", name="Cap and limits").click()
    page.keyboard.press("t")
    field(page, "Wide open after").fill("18 f")
    page.get_by_label("Units").select_option("metric")
    expect(field(page, "Wide open after")).to_have_value("10")


def test_revisions_are_named_and_compared(opened: Opener) -> None:
    page = opened(BRIGADE)
    open_station(page, "Cap and limits")
    field(page, "Cap pressure").fill("28")
    expect_saved(page)
    page.get_by_role("button", name="history of the build").click()
    name = page.get_by_label("Name of revision 1")
    name.fill("as it came")
    name.press("Enter")
    page.get_by_role("button", name="Compare revision 1").click()
    differs = page.locator("dl", has_text="Cap pressure")
    expect(differs).to_contain_text("As found: Cap pressure")
    expect(differs).to_contain_text("then 0 kPa")
    expect(differs).to_contain_text("now 28 kPa")
    page.reload()
    expect(page.get_by_label("Name of revision 1")).to_have_value("as it came")


def test_variants_stand_on_the_ladder_side_by_side(opened: Opener) -> None:
    page = opened(MULE)
    ladder = page.get_by_role("region", name="Ladder of temperatures")
    variants(page).get_by_role("button", name="Compare").click()
    expect(ladder).to_contain_text(re.compile(r"2 Bigger \d+"))
    expect(ladder).to_contain_text(re.compile(r"3 Bigger \d+"))


KEYED = {"palette": "Control+k", "keys": "?", "units": "u", "what if": "w"}


def test_axe_finds_nothing_serious_in_what_lies_above_the_loop_and_on_a_phone(
    bench: Page,
) -> None:
    page = bench
    for keys in KEYED.values():
        page.keyboard.press(keys)
        page.wait_for_load_state("networkidle")
        assert grave(page) == []
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.set_viewport_size({"width": 390, "height": 844})
    page.wait_for_load_state("networkidle")
    assert grave(page) == []
    page.set_viewport_size(DESK)


def test_nothing_moves_while_numbers_change(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Cap and limits")
    page.wait_for_load_state("networkidle")
    page.evaluate(
        """() => { window.__shifts = [];
        new PerformanceObserver((list) => list.getEntries().forEach((e) => window.__shifts.push(e.value)))
          .observe({ type: 'layout-shift', buffered: false }); }"""
    )
    grip = page.get_by_role("slider", name="Thermostat grip")
    for pressure in ("100", "104", "110"):
        field(page, "Cap pressure").fill(pressure)
        expect(answers(page)).to_contain_text(f"{pressure} kPa")
    grip.focus()
    page.keyboard.press("ArrowUp")
    expect(grip).to_have_attribute("aria-valuetext", "83 °C")
    page.wait_for_load_state("networkidle")
    assert sum(page.evaluate("window.__shifts")) < 0.02
