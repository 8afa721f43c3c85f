"""What axe finds of a page, by day and by night."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect


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
    # What is in order is not written out: describing it takes most of axe's time.
    answer = Axe().run(page, options={"resultTypes": ["violations"], **only}).response
    return [
        f"{v['id']}: {v['nodes'][0]['html'][:160]}"
        for v in answer["violations"]
        if v["impact"] in ("serious", "critical")
    ]
