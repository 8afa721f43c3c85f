"""How long from a keystroke to the changed answer on screen, in Debian's Chromium.

Start Ebbrin first, then: .venv/bin/python benchmarks/keystroke.py
"""

from __future__ import annotations

import gzip
import json
import os
import sys
import urllib.request
from pathlib import Path
from random import random

from playwright.sync_api import Browser, sync_playwright

ADDRESS = f"http://127.0.0.1:{os.environ.get('EBBRIN_PORT', '8600')}"
FLAGS = "--disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync"
ROUNDS, OPENINGS = 40, 8

OPENED = """new MutationObserver((_, observer) => {
  if (!/kPa/.test(document.querySelector('[aria-label="Four answers"]')?.textContent)) return;
  observer.disconnect();
  requestAnimationFrame(() => setTimeout(() => { window.__shown = performance.now(); }));
}).observe(document, { subtree: true, childList: true })"""

WATCH = """(label) => {
  const answers = document.querySelector('[aria-label="Four answers"]');
  const input = [...document.querySelectorAll('label')].find((l) => l.textContent === label).control;
  window.__waits = [];
  let began = 0;
  input.addEventListener('input', () => { began = performance.now(); }, true);
  new MutationObserver(() => requestAnimationFrame(() => {
    if (began) { window.__waits.push(performance.now() - began); began = 0; }
  })).observe(answers, { subtree: true, characterData: true, childList: true });
}"""


def demo_builds() -> dict[str, str]:
    """The builds of the server that is measured, ids by name."""
    try:
        builds = json.load(urllib.request.urlopen(f"{ADDRESS}/api/v1/builds"))
    except OSError:
        sys.exit(f"No Ebbrin answers at {ADDRESS}. Start it first: ./start")
    return {build["name"]: build["id"] for build in builds}


def opened(browser: Browser, address: str) -> float:
    """When a browser that knows nothing of the page has drawn a build's answers, ms after it was told the address."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_init_script(OPENED)
    page = context.new_page()
    page.goto(address)
    page.get_by_role("region", name="Four answers").get_by_text("kPa").first.wait_for()
    # What comes after the answer is not to slow the next opening.
    page.wait_for_timeout(2000)
    shown: float = page.evaluate("window.__shown")
    context.close()
    return shown


def main() -> None:
    """Measure and print."""
    builds = demo_builds()
    with sync_playwright() as tools:
        flags = FLAGS.split() + (["--no-sandbox"] if os.geteuid() == 0 else [])
        browser = tools.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=flags)
        linnet = f"{ADDRESS}/builds/{builds['Linnet']}/as-found"
        openings = sorted(opened(browser, linnet) for _ in range(OPENINGS))
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{linnet}/stations/radiator")
        page.get_by_role("region", name="Four answers").wait_for()
        field = page.get_by_label("Core depth", exact=True)
        field.wait_for()
        page.evaluate(WATCH, "Core depth")
        for i in range(ROUNDS):
            # Never what was answered before, and far enough from the last for another answer.
            field.fill(f"{43 + i + random():.2f}")
            page.wait_for_timeout(500)
        field.fill("42")
        page.wait_for_timeout(1500)
        waits = sorted(page.evaluate("window.__waits"))
        browser.close()
    page_files = Path(__file__).parents[1] / "web" / "dist" / "assets"
    size = sum(len(gzip.compress(f.read_bytes())) for f in page_files.glob("*.js"))
    print("| what | figure |")
    print("|---|---|")
    print(f"| keystroke to changed answer, middle of {len(waits)} | {waits[len(waits) // 2]:.0f} ms |")
    print(f"| the same, p95 | {waits[int(len(waits) * 0.95)]:.0f} ms |")
    print(
        f"| first answer shown after opening a build, nothing of the page known, middle of {OPENINGS} | "
        f"{openings[OPENINGS // 2]:.0f} ms |"
    )
    print(f"| scripts, gzip | {size / 1000:.0f} kB |")


if __name__ == "__main__":
    main()
