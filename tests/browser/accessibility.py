"""What axe finds of a page, by day and by night."""

from __future__ import annotations

from axe_playwright_python.base import AXE_SCRIPT
from playwright.sync_api import Page, expect

GRAVE = """(options) => axe.run(document, options).then((found) => found.violations
  .filter((v) => ['serious', 'critical'].includes(v.impact))
  .map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`))"""


def grave(page: Page) -> list[str]:
    """What axe finds of a page that is serious or worse; by night only colours are other ones."""
    found = _found(page)
    page.emulate_media(color_scheme="dark")
    expect(page.locator("html")).to_have_class("dark")
    found += _found(page, runOnly=["color-contrast"])
    page.emulate_media(color_scheme="light")
    expect(page.locator("html")).to_have_class("light")
    return found


def _found(page: Page, **only: list[str]) -> list[str]:
    # What is in order is not written out, nor axe read anew for each look: that takes most of its time.
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE_SCRIPT)
    return list(page.evaluate(GRAVE, {"resultTypes": ["violations"], **only}))
