"""Records a server's answers to the page, for tests of the page that need no server: python -m oracles.recorder.

The page is led through its places with a demo build; each answer is kept by what was asked: method, path and query. What
is recorded is of the day's form as long as tests/app/test_recorded_answers.py says so.
"""

from __future__ import annotations

import json
import os
import re
import sys
from contextlib import suppress
from pathlib import Path
from time import sleep
from typing import Any
from urllib.request import Request, urlopen
from uuid import NAMESPACE_URL, uuid5

from playwright.sync_api import Error, Page, Response, sync_playwright

ANSWERS = Path(__file__).parents[1] / "web" / "src" / "testing" / "answers.json"
BROWSER = "/usr/bin/chromium-headless-shell"
BUILD, VARIANT = "Mule", "as-found"
PLACES = (
    "/", "/shelf", "/cause", "/practice",
    *(f"/builds/mule/{VARIANT}{below}" for below in (
        "", "/describe", "/stations/engine", "/stations/coolant", "/stations/radiator", "/stations/air",
        "/stations/flow", "/stations/thermostat", "/stations/cap", "/cases", "/size", "/drive", "/compare", "/history",
        "/cause", "/fit", "/fit/parts", "/fit/mix", "/fit/fill", "/fit/prove",
    )),
)  # fmt: skip


def asked(method: str, url: str) -> str:
    """What an answer is kept by: what was asked, without the server's own address."""
    return f"{method} {re.sub(r'^[a-z]+://[^/]+/api/v1', '', url)}"


def id_of(name: str) -> str:
    """A build's id in what is recorded: the same each time."""
    return str(uuid5(NAMESPACE_URL, name))


def record(address: str) -> dict[str, Any]:
    """The last answer to everything that the page asks in its places, builds by ids that are the same each time."""
    with urlopen(f"{address}/api/v1/builds", timeout=30) as answer:
        ids = {build["id"]: build["name"] for build in json.load(answer)}
    mule = next(i for i, name in ids.items() if name == BUILD)
    kept: dict[str, Any] = {}

    def keep(response: Response) -> None:
        if "/api/v1/" in response.url and response.ok and "json" in response.headers.get("content-type", ""):
            with suppress(Error):  # of a place that was left before its answer came
                kept[asked(response.request.method, response.url)] = response.json()

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=BROWSER, args=["--no-sandbox", "--disable-gpu"])
        page: Page = browser.new_context(service_workers="block").new_page()
        page.on("response", keep)
        for place in PLACES:
            page.goto(address + place.replace("/mule/", f"/{mule}/"))
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(2500)
        browser.close()
    kept |= sized(address, mule, kept[f"GET /builds/{mule}"]["build"])
    text = json.dumps(kept)
    for i, name in ids.items():
        text = text.replace(i, id_of(name))
    found: dict[str, Any] = json.loads(text)
    return dict(sorted(found.items()))


def sized(address: str, build_id: str, build: dict[str, Any]) -> dict[str, Any]:
    """What a sizing of a build is answered with when it is done, by what was asked."""
    document = json.dumps({"build": build, "variant": VARIANT}).encode()
    url = f"{address}/api/v1/builds/{build_id}/sizings"
    asks = Request(url, document, {"Content-Type": "application/json"}, method="POST")
    with urlopen(asks, timeout=60) as answer:
        run = json.load(answer)
    while run["state"] in ("waiting", "running"):
        sleep(0.5)
        with urlopen(f"{address}/api/v1/sizings/{run['id']}", timeout=60) as answer:
            run = json.load(answer)
    return {asked("POST", url): run}


def main() -> int:
    """Record from the server at EBBRIN_PORT."""
    answers = record(f"http://127.0.0.1:{os.environ.get('EBBRIN_PORT', '8600')}")
    ANSWERS.write_text(json.dumps(answers, indent=0, ensure_ascii=False) + "\n", encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
