"""The job done as a person does it, in a real browser."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Page, Route, expect
from sqlalchemy import create_engine
from sqlalchemy import text as sql

from tests.browser.conftest import VARIANT, LiveServer

pytestmark = [pytest.mark.browser, pytest.mark.database]


def row(page: Page, name: str):  # type: ignore[no-untyped-def]
    return page.get_by_role("row").filter(has_text=name)


def field(page: Page, label: str):  # type: ignore[no-untyped-def]
    return page.get_by_label(label, exact=True)


def open_station(page: Page, name: str) -> None:
    page.get_by_role("button", name=name).first.click()


def expect_saved(page: Page) -> None:
    expect(page.locator('[data-save="saved"]')).to_be_visible()


def test_change_of_the_core_changes_the_verdict_and_stays(bench: Page) -> None:
    expect(row(bench, "Liaison road")).to_contain_text("holds")
    open_station(bench, "Radiator core")
    field(bench, "Core width").fill("300")
    field(bench, "Core height").fill("8 in")
    strip = bench.get_by_role("region", name="Verdicts")
    expect(strip.get_by_role("button", name="Liaison road")).to_contain_text("fails")
    expect_saved(bench)
    bench.reload()
    expect(field(bench, "Core width")).to_have_value("300")
    expect(field(bench, "Core height")).to_have_value("203.2")
    bench.get_by_role("button", name="Back to the loop").click()
    expect(row(bench, "Liaison road")).to_contain_text("fails")
    expect(row(bench, "Liaison road")).to_contain_text("Too hot by")


def test_units_typed_with_the_number_are_understood(bench: Page) -> None:
    open_station(bench, "Cap and limits")
    field(bench, "Cap pressure").fill("16 psi")
    answers = bench.get_by_role("region", name="Four answers")
    expect(answers).to_contain_text("110 kPa")
    field(bench, "Highest top hose").fill("219 F")
    expect(bench.get_by_role("region", name="Ladder of temperatures")).to_contain_text("104 limit")
    bench.get_by_label("Units").select_option("us")
    expect(field(bench, "Cap pressure")).to_have_value("16")
    expect(answers).to_contain_text("16.0 psi")
    field(bench, "Margin below boiling").fill("18")
    expect_saved(bench)
    bench.get_by_label("Units").select_option("metric")
    expect(field(bench, "Margin below boiling")).to_have_value("10")


def test_nonsense_keeps_text_message_and_last_valid_result(bench: Page) -> None:
    open_station(bench, "Radiator core")
    answers = bench.get_by_role("region", name="Four answers")
    width = field(bench, "Core width")
    width.fill("wide as a barn")
    expect(bench.get_by_role("alert")).to_contain_text("“wide as a barn” is not a number")
    expect(width).to_have_attribute("aria-invalid", "true")
    expect(answers).to_contain_text("560 × 360 × 42 mm")
    expect(bench.get_by_text("last valid result")).to_be_visible()
    width.fill("5 mm")
    expect(bench.get_by_role("alert")).to_contain_text("Core width must lie within 100 to 2000 mm.")
    width.fill("600 parsec")
    expect(bench.get_by_role("alert")).to_contain_text("“parsec” is not a unit that fits here")
    width.fill("600")
    expect(bench.get_by_role("alert")).to_have_count(0)
    expect(answers).to_contain_text("600 × 360 × 42 mm")


def test_values_that_exclude_each_other_are_told_beside_the_field(bench: Page) -> None:
    open_station(bench, "Thermostat")
    field(bench, "Fan on at").fill("85")
    expect(bench.get_by_role("alert").first).to_contain_text("must go on at least 0.5 K above")
    expect(bench.get_by_text("Not saved yet, but kept in this browser")).to_be_visible()
    field(bench, "Fan off at").fill("80")
    expect(bench.get_by_role("alert")).to_have_count(0)
    expect_saved(bench)


def test_invalid_text_survives_a_reload_and_a_stopped_server(bench: Page, live: LiveServer) -> None:
    open_station(bench, "Radiator core")
    field(bench, "Core depth").fill("55")
    expect_saved(bench)
    field(bench, "Core width").fill("half a met")
    live.stop()
    field(bench, "Core height").fill("444")
    expect(bench.get_by_text("The server does not answer.")).to_be_visible()
    expect(bench.get_by_text("kept in this browser")).to_be_visible()
    live.start()
    bench.reload()
    expect(field(bench, "Core width")).to_have_value("half a met")
    expect(bench.get_by_role("alert")).to_contain_text("is not a number")
    expect(field(bench, "Core height")).to_have_value("444")
    expect_saved(bench)
    bench.reload()
    expect(field(bench, "Core height")).to_have_value("444")
    expect(field(bench, "Core width")).to_have_value("half a met")


def test_edits_are_saved_when_the_server_comes_back(bench: Page, live: LiveServer) -> None:
    open_station(bench, "Radiator core")
    live.stop()
    field(bench, "Core depth").fill("66")
    expect(bench.get_by_text("The server does not answer.")).to_be_visible()
    live.start()
    expect_saved(bench)
    expect(bench.get_by_text("The server does not answer.")).to_have_count(0)
    expect(bench.get_by_role("region", name="Four answers")).to_contain_text("560 × 360 × 66 mm")


def test_two_tabs_lose_nothing(bench: Page, live: LiveServer) -> None:
    other = bench.context.new_page()
    other.goto(bench.url)
    other.get_by_role("region", name="Four answers").wait_for()
    # The second tab edits while it cannot reach the server; the first saves meanwhile.
    other.route(
        "**/api/v1/builds/*",
        lambda route: route.abort() if route.request.method == "PUT" else route.continue_(),
    )
    open_station(other, "Radiator core")
    field(other, "Core depth").fill("80")
    expect(other.get_by_text("The server does not answer.")).to_be_visible()
    open_station(bench, "Radiator core")
    field(bench, "Core width").fill("610")
    expect_saved(bench)
    other.unroute("**/api/v1/builds/*")
    expect(other.get_by_text("was saved elsewhere while you edited")).to_be_visible()
    other.get_by_role("button", name="Go on with mine").click()
    expect_saved(other)
    expect(field(bench, "Core depth")).to_have_value("80")
    expect(field(bench, "Core width")).to_have_value("560")
    assert sizes(bench, live) == [(560, 80), (610, 42), (560, 42)]


def address_of(page: Page, live: LiveServer) -> str:
    return f"{live.address}/api/v1/builds/{page.url.split('/builds/')[1].split('/')[0]}"


def sizes(page: Page, live: LiveServer) -> list[tuple[float, float]]:
    """Width and depth of the first variant's core in every revision, the newest first."""
    address = address_of(page, live)
    found = []
    for heading in page.request.get(f"{address}/revisions").json():
        whole = page.request.get(f"{address}/revisions/{heading['revision']}").json()
        radiator = whole["build"]["variants"][0]["radiator"]
        found.append((radiator["width_mm"], radiator["depth_mm"]))
    return found


def test_a_save_whose_answer_is_lost_is_stored_once(bench: Page, live: LiveServer) -> None:
    lost, losing = [], [True]

    def lose(route: Route) -> None:
        if not losing or route.request.method != "PUT":
            route.continue_()
            return
        lost.append(route.fetch().status)  # it arrives, and its answer does not
        route.abort()

    bench.route("**/api/v1/builds/*", lose)
    open_station(bench, "Radiator core")
    field(bench, "Core depth").fill("70")
    expect(bench.get_by_text("The server does not answer.")).to_be_visible()
    field(bench, "Core width").fill("600")
    losing.clear()  # the way itself stays: it may have one in hand
    expect_saved(bench)
    assert lost[0] == 200
    expect(bench.get_by_text("was saved elsewhere")).to_have_count(0)
    assert sizes(bench, live) == [(600, 70), (560, 70), (560, 42)]


def test_undo_keeps_what_another_tab_has_saved(bench: Page, live: LiveServer) -> None:
    open_station(bench, "Radiator core")
    field(bench, "Core depth").fill("70")
    expect_saved(bench)
    other = bench.context.new_page()
    other.goto(bench.url)  # with the station open
    field(other, "Core width").fill("600")
    expect_saved(other)
    expect(field(bench, "Core width")).to_have_value("600")
    bench.get_by_role("button", name="Undo").click()
    expect(field(bench, "Core depth")).to_have_value("42")
    expect(field(bench, "Core width")).to_have_value("600")
    expect_saved(bench)
    assert sizes(bench, live)[0] == (600, 42)


def test_a_build_that_cannot_be_read_is_mended(page: Page, live: LiveServer, build_id: str) -> None:
    engine = create_engine(live._url)
    with engine.begin() as connection:
        connection.execute(
            sql(
                "UPDATE revisions SET document = jsonb_set(document, '{site,ambient_c}', '61') WHERE build_id = :id"
            ),
            {"id": build_id},
        )
    engine.dispose()
    page.goto(live.address)
    line = page.get_by_role("listitem").filter(has=page.locator(f"a[href='/builds/{build_id}']"))
    expect(line).to_contain_text("Cannot be read: /site/ambient_c: Ambient is 61 °C")
    line.get_by_role("link").click()
    expect(page.get_by_role("heading", name="This build cannot be read any more")).to_be_visible()
    with page.expect_download() as got:
        page.get_by_role("button", name="Export it as it is").click()
    assert json.loads(got.value.path().read_text())["site"]["ambient_c"] == 61
    ambient = page.get_by_label("Ambient")
    ambient.fill("75")
    page.get_by_role("button", name="Save it mended").click()
    expect(page.get_by_role("alert").last).to_contain_text("What you typed is still here")
    ambient.fill("45")
    page.get_by_role("button", name="Save it mended").click()
    expect(page.get_by_role("region", name="Four answers")).to_be_visible()


def test_a_clean_tab_follows_the_other(bench: Page) -> None:
    other = bench.context.new_page()
    other.goto(bench.url)
    open_station(other, "Radiator core")
    open_station(bench, "Radiator core")
    field(other, "Core depth").fill("58")
    expect(field(bench, "Core depth")).to_have_value("58")


def test_draft_of_a_closed_tab_is_taken_over(bench: Page) -> None:
    bench.route(
        "**/api/v1/builds/*",
        lambda route: route.abort() if route.request.method == "PUT" else route.continue_(),
    )
    open_station(bench, "Radiator core")
    field(bench, "Core depth").fill("47")
    expect(bench.get_by_text("The server does not answer.")).to_be_visible()
    address = bench.url
    bench.close()
    after = bench.context.new_page()
    after.goto(address)
    expect(after.get_by_text("Edits from before were found")).to_be_visible()
    expect(field(after, "Core depth")).to_have_value("47")
    expect_saved(after)


def test_new_build_is_described_from_nothing(page: Page, live: LiveServer) -> None:
    page.goto(live.address)
    page.get_by_role("button", name="Begin the build").click()
    expect(page.get_by_role("alert")).to_contain_text("Give the build a name first.")
    page.get_by_label("What is it called?").fill("Kestrel")
    page.get_by_role("button", name="Begin the build").click()
    page.get_by_role("heading", name="What an answer needs").wait_for()
    for label, text in (
        ("Displacement", "2.0"),
        ("Rated power", "150 hp"),
        ("Core width", "24 in"),
        ("Core height", "400"),
        ("Core depth", "40 mm"),
    ):
        field(page, label).press_sequentially(text)
    page.get_by_role("button", name="See the answer").click()
    expect(page.get_by_role("region", name="Four answers")).to_be_visible()
    expect(page.get_by_role("row")).to_have_count(4)
    expect(page.get_by_role("complementary", name="Worth knowing")).to_contain_text("What to measure first")
    page.get_by_role("button", name="+ case").click()
    page.get_by_role("button", name="Stationary work").click()
    field(page, "Name").fill("Stationary, pumping")
    field(page, "Load from").select_option("power")
    field(page, "Brake power").fill("40 hp")
    expect_saved(page)
    page.get_by_role("link", name="Ebbrin, all builds").click()
    line = page.get_by_role("listitem").filter(has_text="Kestrel").first
    expect(line).to_contain_text(re.compile("holds|tight|fails"))
    expect(line).to_contain_text("worst:")


def test_a_slow_list_does_not_hide_what_was_made_meanwhile(page: Page, live: LiveServer) -> None:
    held: list[Route] = []

    def first_waits(route: Route) -> None:
        if route.request.method == "GET" and not held:
            held.append(route)
        else:
            route.continue_()

    page.route("**/api/v1/builds", first_waits)
    page.goto(live.address)
    page.get_by_label("What is it called?").fill("Plover")
    page.get_by_role("button", name="Begin the build").click()
    page.get_by_role("heading", name="What an answer needs").wait_for()
    page.get_by_role("link", name="Ebbrin, all builds").click()
    line = page.get_by_role("listitem").filter(has_text="Plover")
    expect(line).to_contain_text("Still to be described")
    assert held


def test_unknown_values_are_marked_and_can_be_given_back(bench: Page) -> None:
    open_station(bench, "Thermostat")
    opens = field(bench, "Starts to open")
    opens.fill("")
    expect(opens).to_have_attribute("placeholder", "don’t know: 88")
    expect(bench.get_by_role("region", name="Four answers")).to_contain_text("88 °C")


def test_choosing_a_case_moves_the_loop(bench: Page) -> None:
    loop = bench.get_by_role("region", name="Coolant loop in Paddock queue, idle")
    expect(loop).to_be_visible()
    bench.get_by_role("button", name="Show Hot motorway in the loop").click()
    expect(bench.get_by_role("region", name="Coolant loop in Hot motorway")).to_contain_text("87 °C")


@pytest.mark.usefixtures("fresh")
def test_keyboard_alone_does_the_job(bench: Page) -> None:
    bench.locator("body").press("Tab")
    for _ in range(40):
        if "Radiator core" in (bench.evaluate("document.activeElement.getAttribute('aria-label') || ''")):
            break
        bench.keyboard.press("Tab")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("heading", name="Radiator core")).to_be_focused()
    # Back to the loop, then the shelf's button and list, then the fields.
    for _ in range(6):
        bench.keyboard.press("Tab")
        if bench.evaluate("document.activeElement.dataset.path || ''").endswith("/width_mm"):
            break
    expect(field(bench, "Core width")).to_be_focused()
    bench.keyboard.press("Control+A")
    bench.keyboard.type("27 in")
    expect(bench.get_by_role("region", name="Four answers")).to_contain_text("686 × 360 × 42 mm")
    bench.keyboard.press("Escape")
    expect(bench.get_by_role("region", name=re.compile("Coolant loop"))).to_be_visible()


def test_page_asks_no_other_host_and_breaks_no_policy(page: Page, live: LiveServer, build_id: str) -> None:
    asked: list[str] = []
    complaints: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto(live.address)
    page.get_by_role("list", name="Builds").wait_for()
    page.goto(f"{live.address}/builds/{build_id}/{VARIANT}/stations/engine")
    page.get_by_role("region", name="Four answers").wait_for()
    field(page, "Tune").fill("1.1")
    expect_saved(page)
    assert asked
    assert [url for url in asked if not url.startswith(live.address)] == []
    assert complaints == []
    assert page.evaluate("document.fonts.check(\"16px 'Archivo Variable'\")")
