"""What axe finds of a page, by day and by night."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect


def grave(page: Page) -> list[str]:
    """What axe finds of a page that is serious or worse; by night only colours are other ones."""
    found = _found(page, None)
    page.emulate_media(color_scheme="dark")
    expect(page.locator("html")).to_have_class("dark")
    found += _found(page, {"runOnly": ["color-contrast"]})
    page.emulate_media(color_scheme="light")
    expect(page.locator("html")).to_have_class("light")
    return found


def _found(page: Page, only: dict[str, list[str]] | None) -> list[str]:
    return [
        f"{v['id']}: {v['nodes'][0]['html'][:160]}"
        for v in Axe().run(page, options=only).response["violations"]
        if v["impact"] in ("serious", "critical")
    ]
