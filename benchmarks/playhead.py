"""How smoothly the play head runs over a long recorded drive, in Debian's Chromium.

Start Ebbrin first, then: .venv/bin/python benchmarks/playhead.py
"""

from __future__ import annotations

import os
import sys
from math import sin
from pathlib import Path

from playwright.sync_api import sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from benchmarks.keystroke import ADDRESS, FLAGS, demo_builds

ROWS = 14_400
FRAMES = 200

RUN = """(frames) => new Promise((done) => {
  const head = document.querySelector('[aria-label="Play head"]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  const end = Number(head.max);
  const took = [];
  let n = 0;
  const step = () => {
    const began = performance.now();
    set.call(head, String(Math.round((end * n) / frames)));
    head.dispatchEvent(new Event('input', { bubbles: true }));
    requestAnimationFrame(() => setTimeout(() => {
      took.push(performance.now() - began);
      n += 1;
      if (n < frames) step(); else done(took);
    }, 0));
  };
  step();
})"""


def recorded() -> bytes:
    """Four hours of rows, invented."""
    head = "time [s],speed [km/h],engine speed [rpm],altitude [m],ambient [°C]\n"
    rows = (
        f"{i},{60 + 40 * sin(i / 40):.1f},{1500 + 500 * sin(i / 40):.0f},{300 + 99 * sin(i / 300):.1f},28\n"
        for i in range(ROWS)
    )
    return (head + "".join(rows)).encode()


def main() -> None:
    """Measure and print."""
    build = demo_builds()["Linnet"]
    with sync_playwright() as tools:
        flags = FLAGS.split() + (["--no-sandbox"] if os.geteuid() == 0 else [])
        browser = tools.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{ADDRESS}/builds/{build}?drive=1")
        page.get_by_role("region", name="What happens").wait_for(timeout=120_000)
        page.get_by_role("group", name="Drives").get_by_role("button", name="Duplicate").click()
        page.get_by_role("button", name="again", pressed=True).wait_for()
        file = {"name": "long.csv", "mimeType": "text/csv", "buffer": recorded()}
        page.get_by_label("Recorded drive").set_input_files(file)  # type: ignore[arg-type]
        page.locator(f'[aria-label="Play head"][max="{ROWS - 1}"]').wait_for(timeout=120_000)
        page.wait_for_timeout(1500)
        took = sorted(page.evaluate(RUN, FRAMES))
        page.get_by_role("group", name="Drives").get_by_role("button", name="Remove").click()
        page.wait_for_timeout(1500)
        browser.close()
    print("| what | figure |")
    print("|---|---|")
    print(f"| play head over {ROWS} rows, one move drawn, middle of {FRAMES} | {took[FRAMES // 2]:.0f} ms |")
    print(f"| the same, p95 | {took[int(FRAMES * 0.95)]:.0f} ms |")


if __name__ == "__main__":
    main()
