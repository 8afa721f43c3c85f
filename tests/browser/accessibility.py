"""What axe finds of a page, by day and by night, and whether it fits every width."""

from __future__ import annotations

from axe_playwright_python.base import AXE_SCRIPT
from playwright.sync_api import Page, expect

from tests.browser.conftest import DESK, until

GRAVE = """(options) => axe.run(document, options).then((found) => found.violations
  .filter((v) => ['serious', 'critical'].includes(v.impact))
  .map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`))"""


# A finger sees no title: but for keys, which stand in their sheet, what one says must be said elsewhere as well.
ONLY_TITLED = """() => [...document.querySelectorAll('[title]')].filter((e) => {
    const by = ['aria-describedby', 'aria-labelledby'].flatMap((name) => (e.getAttribute(name) ?? '').split(' '));
    const said = [e.textContent, e.getAttribute('aria-label'), ...by.map((id) => document.getElementById(id)?.textContent)];
    return !/^(.{1,3}|Escape|.*Ctrl\\+.*)$/.test(e.title) && !said.join(' ').toLowerCase().includes(e.title.toLowerCase());
  }).map((e) => `only in a title: ${e.title}`)"""


def grave(page: Page) -> list[str]:
    """What axe finds of a page that is serious or worse, and what is said in a title alone; by night only colours are other
    ones."""
    found = [*_found(page), *page.evaluate(ONLY_TITLED)]
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


WIDTHS = {390: 844, 820: 1180, 1280: 800}
TARGET = 44
MEASURED = """(target) => {
  const main = document.querySelector('main'), page = document.documentElement;
  const small = [...document.querySelectorAll('button, a, input, select')].filter((e) => {
    const own = e.getBoundingClientRect(), label = e.closest('label')?.getBoundingClientRect();
    if (own.width === 0 || own.bottom < 0 || e.type === 'range') return false;
    return Math.max(own.height, label?.height ?? 0) < target - 0.5;
  });
  const words = [...document.querySelectorAll('svg text')].map((e) => [e.ownerSVGElement, e.textContent, e.getBoundingClientRect()]);
  const over = words.flatMap(([svg, said, a], n) => words.slice(n + 1)
    .filter(([other, , b]) => other === svg && Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2
      && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 3)
    .map(([, too]) => `${said} / ${too}`));
  return {
    over,
    page: page.scrollWidth - page.clientWidth,
    main: main.scrollWidth - main.clientWidth,
    small: small.map((e) => (e.getAttribute('aria-label') ?? e.textContent).slice(0, 40)),
  };
}"""


def fits_every_width(page: Page) -> None:
    """Waits until the page, as it stands, scrolls sideways at no width; back at the desk."""
    for width, height in WIDTHS.items():
        page.set_viewport_size({"width": width, "height": height})
        until(
            page,
            f"(target) => {{ const at = ({MEASURED})(target); return at.page === 0 && at.main === 0; }}",
            TARGET,
        )
    page.set_viewport_size(DESK)
