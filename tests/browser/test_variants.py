"""Variants, levers, chances and undo, as a builder uses them."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import GO, Opener
from tests.browser.test_workbench import expect_saved, field, open_station, row

pytestmark = [pytest.mark.browser, pytest.mark.database]

LINNET, MULE, BRIGADE = range(3)


def variants(page: Page):  # type: ignore[no-untyped-def]
    return page.get_by_role("region", name="Variants", exact=True)


def answers(page: Page):  # type: ignore[no-untyped-def]
    return page.get_by_role("region", name="Four answers")


def test_brigade_is_fixed_with_a_shroud_through_the_levers(opened: Opener) -> None:
    page = opened(BRIGADE)
    expect(row(page, "Parade at walking pace")).to_contain_text("fails")
    levers = page.get_by_role("region", name="What would help")
    best = levers.locator("div").filter(has_text=re.compile("^A full shroud"))
    expect(levers).to_contain_text("A full shroud")
    best.get_by_role("button", name="try").first.click()
    expect(variants(page)).to_contain_text("As found + a full shroud")
    expect(answers(page)).to_contain_text("holds 2 of 3 cases")
    expect(row(page, "Parade at walking pace")).to_contain_text("tight")
    expect_saved(page)
    page.reload()
    pressed = variants(page).get_by_role("button", pressed=True)
    expect(pressed).to_contain_text("As found + a full shroud")


def test_mule_recovers_on_the_pass(opened: Opener) -> None:
    page = opened(MULE)
    expect(row(page, "The pass, 2200 m")).to_contain_text("Never settles")
    variants(page).get_by_role("button", name="Compare").click()
    table = page.get_by_role("region", name="Variants side by side")
    passes = table.get_by_role("row", name=re.compile("^The pass"))
    expect(passes).to_contain_text("never settles")
    expect(passes).to_contain_text("holds")
    expect(table).to_contain_text("Core width")
    expect(table).to_contain_text("720 mm")
    variants(page).get_by_role("button", name="Bigger core and fans").click()
    page.keyboard.press("Escape")
    expect(answers(page)).to_contain_text("holds every case")


def test_variants_are_duplicated_renamed_and_removed(opened: Opener) -> None:
    page = opened(LINNET)
    variants(page).get_by_role("button", name="Duplicate").click()
    name = page.get_by_label("Name of the variant")
    expect(name).to_have_value("As found again")
    name.fill("Trial")
    name.press("Enter")
    trial = variants(page).get_by_role("button", name="Trial")
    expect(trial).to_have_attribute("aria-pressed", "true")
    open_station(page, "Radiator core")
    field(page, "Core width").fill("700")
    expect(answers(page)).to_contain_text("700 × 360 × 42 mm")
    variants(page).get_by_role("button", name="As found").click()
    expect(answers(page)).to_contain_text("560 × 360 × 42 mm")
    trial.click()
    variants(page).get_by_role("button", name="Remove").click()
    expect(trial).to_have_count(0)
    expect_saved(page)
    page.get_by_role("button", name="Undo").click()
    expect(variants(page)).to_contain_text("Trial")


def test_what_was_done_is_undone_and_redone(opened: Opener) -> None:
    page = opened(LINNET)
    undo, redo = (page.get_by_role("button", name=word) for word in ("Undo", "Redo"))
    expect(undo).to_be_disabled()
    open_station(page, "Cap and limits")
    field(page, "Cap pressure").fill("90")
    expect(answers(page)).to_contain_text("90 kPa")
    undo.click()
    expect(field(page, "Cap pressure")).to_have_value("110")
    expect(answers(page)).to_contain_text("110 kPa")
    redo.click()
    expect(field(page, "Cap pressure")).to_have_value("90")
    page.get_by_role("heading", name="Cap and limits").focus()
    page.keyboard.press("Control+Z")
    expect(field(page, "Cap pressure")).to_have_value("110")
    page.keyboard.press("Control+Shift+Z")
    expect(field(page, "Cap pressure")).to_have_value("90")


def test_chances_come_and_the_guess_that_weighs_most_is_first(opened: Opener) -> None:
    page = opened(LINNET)
    expect(page.get_by_role("region", name="Duty cases")).to_contain_text("by 400 samples")
    chance = row(page, "Liaison road").get_by_role("button", name="ninety-nine days in a hundred")
    chance.click()
    expect(row(page, "Liaison road")).to_contain_text("99\u00a0%")  # nothing is certain
    measure = page.get_by_role("region", name="What to measure first")
    expect(measure).to_contain_text("Heat at idle and light load would settle")
    measure.get_by_role("button").filter(has_text="Tubes blocked").click()
    expect(page.get_by_role("heading", name="Radiator core")).to_be_visible()


def test_answers_are_copied_as_text(opened: Opener) -> None:
    page = opened(LINNET)
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    variants(page).get_by_role("button", name="Copy answers").click()
    expect(variants(page).get_by_role("button", name="Copied")).to_be_visible()
    text = page.evaluate("navigator.clipboard.readText()")
    assert text.startswith("Linnet, As found: tight")
    assert "Cap: 110 kPa – 29 K left to boiling; 48 kPa would do" in text
    assert text.rstrip().endswith("licensed technician come first.")


def test_an_earlier_revision_is_put_back(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Cap and limits")
    field(page, "Cap pressure").fill("90")
    expect(answers(page)).to_contain_text("90 kPa")
    expect_saved(page)
    page.get_by_role("button", name="history of the build").click()
    revisions = page.get_by_role("list", name="Revisions")
    expect(revisions.get_by_role("listitem")).to_have_count(2)
    page.get_by_role("button", name="Compare revision 1").click()
    expect(page.get_by_label("What differs")).to_contain_text("Cap pressure")
    page.get_by_role("button", name="Put back revision 1").click()
    expect(answers(page)).to_contain_text("110 kPa")
    expect(revisions.get_by_role("listitem")).to_have_count(3)


def test_a_build_goes_out_as_a_file_and_comes_in_again(opened: Opener, tmp_path: Path) -> None:
    page = opened(MULE)
    page.get_by_role("button", name="history of the build").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Export as a file").click()
    assert download.value.suggested_filename == "Mule.ebbrin.json"
    file = tmp_path / "mule.json"
    download.value.save_as(file)
    document = json.loads(file.read_text())
    document["name"] = "Mule, abroad"
    file.write_text(json.dumps(document))
    page.evaluate(GO, "/")
    page.get_by_label("File with a build").set_input_files(file)
    answers(page).wait_for()
    expect(page.get_by_label("Name of the build")).to_have_value("Mule, abroad")
    document["variants"][0]["radiator"]["width_mm"] = 5
    file.write_text(json.dumps(document))
    page.evaluate(GO, "/")
    page.get_by_label("File with a build").set_input_files(file)
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("/variants/0/radiator/width_mm: Core width is 5 mm; it must lie within")
    file.write_text("not json")
    page.get_by_label("File with a build").set_input_files(file)
    expect(alert).to_contain_text("is not JSON")


def test_a_case_of_a_kind_comes_with_its_values(opened: Opener) -> None:
    page = opened(LINNET)
    page.get_by_role("button", name="+ case").click()
    page.get_by_role("button", name="Cold morning").click()
    expect(page.get_by_role("heading", name="Case: Cold morning")).to_be_visible()
    expect(field(page, "Ambient")).to_have_value("−15")
    page.get_by_role("button", name="Back to the loop").click()
    expect(row(page, "Cold morning")).to_be_visible()


def test_stations_draw_heat_against_their_flow(opened: Opener) -> None:
    page = opened(LINNET)
    open_station(page, "Pump")
    drawn = page.get_by_role("img", name=re.compile("^Heat against coolant: at the limit the core sheds"))
    expect(drawn).to_be_visible()
    expect(page.get_by_text("More flow never sheds less")).to_be_visible()
    page.get_by_label("Units").select_option("us")
    expect(drawn).to_have_accessible_name(re.compile("gal/min that it gets"))
