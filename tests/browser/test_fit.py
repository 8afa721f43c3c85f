"""Fitting and filling as a person does: at the desk, on a phone at the car, with the server gone in between, by two."""

import re
from collections.abc import Callable, Iterator
from typing import Any

import httpx2
import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from ebbrin.demo import demo_builds
from tests.browser.accessibility import grave
from tests.browser.conftest import GO, PATIENCE, Goer, LiveServer, stored, until

pytestmark = pytest.mark.long
MULE, CHOSEN = 1, "core-fans"
DONE = re.compile("^(Done|Passed)[,:]")


@pytest.fixture
def mule_id(live: LiveServer) -> str:
    """A Mule of one's own, no job begun."""
    return stored(live, demo_builds()[MULE])


def plan_at(live: LiveServer, build_id: str, part: str = "") -> str:
    return f"{live.address}/builds/{build_id}/{CHOSEN}/fit{part}"


@pytest.fixture
def desk(went: Goer, mule_id: str) -> Page:
    return went(f"/builds/{mule_id}/{CHOSEN}/fit", "Step")


@pytest.fixture
def phone(browser: Browser, live: LiveServer, mule_id: str) -> Iterator[Page]:
    """A phone, on which the page may keep its own files."""
    context = browser.new_context(
        viewport={"width": 390, "height": 844},
        has_touch=True,
        service_workers="allow",
        reduced_motion="reduce",
    )
    context.set_default_timeout(PATIENCE)
    page = context.new_page()
    page.goto(plan_at(live, mule_id, "/parts"))
    page.get_by_role("region", name="To buy").wait_for()
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    yield page
    context.close()


def card(page: Page) -> Locator:
    return page.get_by_role("region", name="Step", exact=True)


def at(page: Page, step: str) -> Locator:
    found = page.locator(f"[data-step-card={step}]")
    expect(found).to_be_visible()
    return found


def tick(page: Page) -> str:
    """Tick the step that is shown; which it was."""
    step = str(card(page).get_attribute("data-step-card"))
    card(page).get_by_role("button", name=DONE).click()
    expect(page.locator(f"[data-step-card={step}]")).to_have_count(0)
    return step


def tick_until(page: Page, step: str) -> None:
    for _ in range(80):
        if card(page).get_attribute("data-step-card") == step:
            return
        tick(page)
    raise AssertionError(f"{step} never came")


def entries(live: LiveServer, build_id: str) -> list[dict[str, Any]]:
    jobs = httpx2.get(f"{live.address}/api/v1/builds/{build_id}/jobs").json()
    return [one for job in jobs for one in job["entries"]]


def done(live: LiveServer, build_id: str) -> list[str]:
    return [one["step"] for one in entries(live, build_id) if one["kind"] in ("ticked", "skipped")]


def test_mule_s_radiator_from_the_list_to_the_second_heat_cycle(
    phone: Page, live: LiveServer, mule_id: str
) -> None:
    radiator = phone.locator("[data-line=radiator]")
    radiator.get_by_label("Radiator: state").select_option("here")
    radiator.get_by_role("button", name="Radiator: what was paid").click()
    radiator.get_by_label("Radiator: price paid").fill("498,50")
    radiator.get_by_role("button", name="Paid").click()
    expect(radiator).to_contain_text("Price: paid")
    phone.get_by_role("link", name="Work plan").click()
    phone.get_by_role("button", name="Start this job").click()
    expect(phone.get_by_role("button", name="Start this job")).to_have_count(0)
    tick_until(phone, "cap_off")
    expect(card(phone)).to_contain_text("Never open it hot")
    tick_until(phone, "block_drain")
    card(phone).get_by_role("button", name="skip, why").click()
    phone.get_by_label("Why is it left out?").fill("The plug will not move")
    phone.get_by_role("button", name="Leave it out").click()
    tick_until(phone, "mix")
    expect(card(phone).get_by_role("note")).to_contain_text("third of the old coolant")
    # Ticked on a low screen, where a step's title has gone: the next one begins at its own top.
    phone.set_viewport_size({"width": 390, "height": 300})
    title = card(phone).get_by_role("heading", level=1)
    title.evaluate("(h) => { document.documentElement.scrollTop += h.getBoundingClientRect().bottom + 2 }")
    expect(title).not_to_be_in_viewport()
    card(phone).get_by_role("button", name=DONE).evaluate("(button) => button.click()")
    expect(phone.locator("[data-step-card=mix]")).to_have_count(0)
    until(phone, "document.querySelector('[data-step-card] h1').getBoundingClientRect().top >= 0")
    phone.set_viewport_size({"width": 390, "height": 844})
    tick_until(phone, "idle")
    card(phone).get_by_role("button", name="Start the clock").click()
    expect(card(phone).get_by_role("timer")).to_contain_text("00:0")
    expect(card(phone)).to_contain_text("expected 1")
    # The phone is locked, the page is thrown away, and the server goes.
    expect(card(phone)).not_to_contain_text("to be sent")
    live.stop()
    try:
        phone.reload()
        expect(at(phone, "idle").get_by_role("timer")).not_to_contain_text("00:00")
        card(phone).get_by_role("button", name="Upper hose is warm").click()
        expect(card(phone)).to_contain_text("Upper hose is warm after")
        card(phone).get_by_role("button", name="It opened now").click()
        card(phone).get_by_label("Went in").fill("0.6")
        card(phone).get_by_role("button", name="Write down").click()
        expect(card(phone)).to_contain_text("Went in: 0.6")
        expect(card(phone)).to_contain_text("3 wait to be sent")
        expect(phone.get_by_role("status").filter(has_text="does not answer")).to_contain_text(
            "kept in this browser"
        )
        tick(phone)
        phone.reload()
        at(phone, "fan_watch")
    finally:
        live.start()
    expect(card(phone)).not_to_contain_text("to be sent")
    tick_until(phone, "second_cycle")
    tick(phone)
    expect(card(phone)).not_to_contain_text("to be sent")
    found = entries(live, mule_id)
    assert len({one["id"] for one in found}) == len(found)
    steps = done(live, mule_id)
    assert len(set(steps)) == len(steps)
    assert steps[-1] == "second_cycle"
    moments = [one["event"] for one in found if one["kind"] == "moment"]
    assert moments == ["upper_warm", "opens"]
    assert [one["value"] for one in found if one["kind"] == "reading"] == [0.6]
    assert [one["price"] for one in found if one.get("price")] == [498.5]
    proved = [(one["proof"], one["verdict"]) for one in found if one["kind"] == "proof"]
    assert proved == [("first_cycle", "pass"), ("second_cycle", "pass")]


def test_a_second_device_sees_a_tick_within_two_seconds(
    desk: Page, browser: Browser, live: LiveServer, mule_id: str
) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, service_workers="block")
    context.set_default_timeout(PATIENCE)
    other = context.new_page()
    other.goto(plan_at(live, mule_id))
    card(other).wait_for()
    desk.get_by_role("button", name="Start this job").click()
    # Both know the job before its first tick.
    expect(other.get_by_role("button", name="Start this job")).to_have_count(0)
    expect(desk.get_by_role("navigation", name="The job")).to_contain_text("step 1 of")
    step = tick(desk)
    assert step == "parts_here"
    expect(other.get_by_role("navigation", name="The job")).to_contain_text("step 2 of")
    tick(other)
    expect(desk.get_by_role("navigation", name="The job")).to_contain_text("step 3 of")
    assert done(live, mule_id)[0] == "parts_here"
    context.close()


def test_what_was_ticked_is_undone_noted_and_photographed(desk: Page, live: LiveServer, mule_id: str) -> None:
    desk.get_by_role("button", name="Start this job").click()
    tick(desk)
    desk.locator("[data-step=parts_here]").click()
    at(desk, "parts_here").get_by_role("button", name="Undo").click()
    expect(card(desk).get_by_role("button", name=re.compile("^Done"))).to_be_visible()
    card(desk).get_by_role("button", name="note").click()
    desk.get_by_label("Note", exact=True).fill("One clamp is missing")
    desk.get_by_role("button", name="Keep it").click()
    expect(card(desk)).to_contain_text("“One clamp is missing”")
    desk.get_by_label("Photo of this step").set_input_files(
        {"name": "a.png", "mimeType": "image/png", "buffer": _png()}
    )
    expect(card(desk).get_by_role("img", name=re.compile("^Taken"))).to_be_visible()
    expect(card(desk)).not_to_contain_text("to be sent")
    desk.reload()
    desk.locator("[data-step=parts_here]").click()
    picture = card(desk).get_by_role("img", name=re.compile("^Taken"))
    expect(picture).to_have_js_property("complete", True)
    expect(picture).to_have_attribute("src", re.compile("^/api/v1/photos/"))
    assert desk.evaluate("(i) => i.naturalWidth", picture.element_handle()) > 0
    kinds = [one["kind"] for one in entries(live, mule_id)]
    assert kinds == ["planned", "ticked", "undone", "note", "photo"]


def _png() -> bytes:
    import io

    from PIL import Image

    out = io.BytesIO()
    Image.effect_noise((320, 200), 40.0).save(out, "PNG")
    return out.getvalue()


def test_a_change_of_the_build_is_shown_and_loses_no_tick(desk: Page, live: LiveServer, mule_id: str) -> None:
    desk.get_by_role("button", name="Start this job").click()
    tick_until(desk, "cold")
    expect(card(desk)).not_to_contain_text("to be sent")
    desk.get_by_role("link", name="The car").click()
    desk.get_by_label("Brace in the way").select_option("yes")
    desk.get_by_label("Airbox in the way").select_option("no")
    desk.get_by_role("link", name="Work plan").click()
    notice = desk.get_by_role("status").filter(has_text="The build has changed since")
    expect(notice).to_contain_text("New in the plan: Brace off; Brace on")
    expect(notice).to_contain_text("No longer in it: Airbox and its ducts off; Airbox on")
    notice.get_by_role("button", name="Take the plan as it is now").click()
    expect(notice).to_have_count(0)
    at(desk, "cold")
    assert len(done(live, mule_id)) == 3


def test_a_pressure_hold_is_told_kept_and_leads_to_the_cause(
    desk: Page, live: LiveServer, mule_id: str
) -> None:
    job = "00000000-0000-4000-8000-" + mule_id[-12:]
    httpx2.post(f"{live.address}/api/v1/builds/{mule_id}/jobs", json={"id": job})
    readings = [
        {"id": f"{n:08d}-0000-4000-8000-" + mule_id[-12:], "at": f"2026-05-14T09:{5 * n:02d}:00Z", "kind": "gauge",
         "value": 100 - 4 * n, "quantity": "pressure", "celsius": 18.0}
        for n in range(8)
    ]  # fmt: skip
    httpx2.post(f"{live.address}/api/v1/jobs/{job}/entries", json={"entries": readings})
    desk.goto(plan_at(live, mule_id, "/prove"))
    hold = desk.get_by_role("region", name="Pressure hold")
    expect(hold).to_contain_text("It leaks:")
    expect(hold).to_contain_text("It could have seen no less than")
    hold.get_by_role("button", name="Keep it as a proof: failed").click()
    kept = desk.get_by_role("region", name="Proofs kept")
    expect(kept).to_contain_text("Pressure hold: failed")
    hold.get_by_role("button", name="an engine that cools").click()
    expect(hold).to_contain_text("cooling alone makes")
    expect(hold).not_to_contain_text("It leaks:")
    hold.get_by_role("button", name=re.compile("^Keep it as a proof")).click()
    expect(kept).to_contain_text("before")
    hold.get_by_label("Gauge now").fill("15 psi")
    hold.get_by_label("Coolant now").fill("warm")
    expect(hold.get_by_role("alert")).to_be_visible()
    hold.get_by_label("Coolant now").fill("18")
    hold.get_by_role("button", name="Write it down").click()
    expect(hold).to_contain_text("2 more readings")
    desk.get_by_role("button", name="Second heat cycle: failed").click()
    kept.get_by_role("button", name="look into it").first.click()
    expect(desk.get_by_role("region", name="What was seen")).to_contain_text("it loses coolant")


def test_what_to_pour_is_answered_as_one_types(desk: Page, live: LiveServer, mule_id: str) -> None:
    desk.evaluate(GO, plan_at(live, mule_id, "/mix"))
    # What is in the car is as strong as what is wanted.
    expect(desk.get_by_text("It has 50 % already.")).to_be_visible()
    desk.get_by_label("All coolant").fill("9.5")
    desk.get_by_label("Strength now").fill("33")
    desk.get_by_label("Drained", exact=True).fill("6")
    told = desk.get_by_role("status").filter(has_text="it comes to")
    expect(told).to_contain_text("3.6 L of concentrate and 2.4 L of distilled")
    desk.get_by_label("Drained", exact=True).fill("1")
    expect(desk.get_by_text("even pure concentrate gives")).to_be_visible()
    desk.get_by_label("Drained", exact=True).fill("12")
    expect(desk.get_by_role("alert")).to_contain_text("no more can be drained")
    desk.get_by_label("It shows").fill("-20")
    expect(desk.get_by_role("region", name="Refractometer")).to_contain_text("by volume, between")


def test_a_job_by_keyboard_alone(desk: Page) -> None:
    desk.get_by_role("button", name="Start this job").focus()
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("button", name="Start this job")).to_have_count(0)
    done_button = card(desk).get_by_role("button", name=re.compile("^Done"))
    done_button.focus()
    desk.keyboard.press("Enter")
    at(desk, "find_out")
    desk.locator("[data-step=park]").focus()
    desk.keyboard.press("Space")
    at(desk, "park").get_by_role("button", name="skip, why").focus()
    desk.keyboard.press("Enter")
    expect(desk.get_by_label("Why is it left out?")).to_be_focused()
    desk.keyboard.press("Escape")
    expect(desk.get_by_label("Why is it left out?")).to_have_count(0)


def test_axe_finds_nothing_serious_at_a_step_with_its_clock(desk: Page) -> None:
    desk.get_by_role("button", name="Start this job").click()
    desk.locator("[data-step=idle]").click()
    at(desk, "idle").get_by_role("button", name="Start the clock").click()
    expect(card(desk).get_by_role("timer")).to_be_visible()
    for width in (1280, 390):
        desk.set_viewport_size({"width": width, "height": 844})
        assert grave(desk) == [], width


def test_on_paper_there_is_the_list_and_no_button(opened: Callable[[int], Page], live: LiveServer) -> None:
    page = opened(MULE)
    build_id = page.url.split("/builds/")[1].split("/")[0]
    page.evaluate(GO, plan_at(live, build_id, "/parts"))
    page.get_by_role("region", name="To buy").wait_for()
    page.emulate_media(media="print")
    expect(page.locator("[data-line=radiator]")).to_be_visible()
    expect(page.get_by_role("button", name="CSV")).to_be_hidden()
    expect(page.get_by_role("navigation", name="Fit and fill")).to_be_hidden()
