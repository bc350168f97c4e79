"""Every page by keyboard alone: all that can be used is reached by Tab, in sight and marked."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Browser, Page
from tests.conftest import Sides
from tests.console.test_console import PAGES, PLACES
from tools.world.chromium import come_in, fits, follow, new_page, quiet, shown, violations
from tools.world.world import World

MOST_STOPS, TRIES = 400, 3
# What can be used on a page: one stop for each, but one for all radio buttons of a group, and none
# for what a widget moves through with arrows (tabindex -1) or guards a dialog (aria-hidden).
USABLE = """() => {
    const stops = new Set()
    document.querySelectorAll('[data-stop]').forEach((each) => delete each.dataset.stop)
    const found = 'a[href], button, input, select, textarea, summary, [tabindex]'
    for (const each of document.querySelectorAll(found)) {
        if (each.tabIndex < 0 || each.disabled || each.closest('[aria-hidden=true], [inert]')) continue
        if (!each.checkVisibility({ visibilityProperty: true }) || !each.getClientRects().length) continue
        if (each.type === 'radio' && each.name) {
            const group = document.getElementsByName(each.name)
            const on = [...group].find((one) => one.checked) ?? group[0]
            if (each !== on) continue
        }
        each.dataset.stop = String(stops.size)
        stops.add(each)
    }
    return stops.size
}"""
# Where the focus is: which stop, whether it is in sight, and whether anything shows that it is
# there. The page notes it itself before each further Tab, so that nobody needs to ask in between.
FOCUS = """() => {
    const at = document.activeElement
    if (!at || at === document.body) return null
    const box = at.getBoundingClientRect()
    const seen = box.bottom > 0 && box.right > 0 && box.top < innerHeight && box.left < innerWidth
    let marked = false
    for (let each = at, up = 0; each && up < 4; each = each.parentElement, up += 1) {
        const style = getComputedStyle(each)
        const outlined = style.outlineStyle !== 'none' && parseFloat(style.outlineWidth) > 0
        marked ||= outlined || style.boxShadow !== 'none'
        for (const inner of each.querySelectorAll(':scope > [class*=border], :scope > [class*=box]'))
            marked ||= getComputedStyle(inner).boxShadow !== 'none'
    }
    return { stop: at.dataset.stop ?? null, seen, marked, html: at.outerHTML.slice(0, 140) }
}"""
NOTE = f"""() => {{
    const focus = {FOCUS}
    window.stops = []
    window.onTab ??= (event) => event.key === 'Tab' && window.stops.push(focus())
    addEventListener('keydown', window.onTab, true)
    document.activeElement?.blur()
    getSelection()?.removeAllRanges()
}}"""
NOTED = f"() => [...window.stops.slice(1), ({FOCUS})()]"


def walked(page: Page) -> tuple[int, dict[str, dict[str, Any]]]:
    """Walk a page, again where it was drawn again meanwhile, as when a list has come."""
    for _ in range(TRIES):
        quiet(page)
        usable, met = walk(page)
        if page.evaluate("() => document.querySelectorAll('[data-stop]').length") == usable:
            break
    return usable, met


def walk(page: Page) -> tuple[int, dict[str, dict[str, Any]]]:
    """Press Tab from the top of a page until it comes round; return how much can be used, and where
    the focus was.
    """
    usable = page.evaluate(USABLE)
    page.evaluate(NOTE)
    for _ in range(usable + 1):
        page.keyboard.press("Tab")
    met: dict[str, dict[str, Any]] = {}
    while len(noted := page.evaluate(NOTED)) < MOST_STOPS:
        for at in noted:
            if at is None or at["stop"] in met:
                return usable, met
            met[at["stop"]] = at
        met = {}
        page.keyboard.press("Tab")  # there is more than was counted
    raise AssertionError(f"{page.url} does not come round: {noted[-3:]}")


@pytest.fixture(scope="module")
def sides(new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    # A name is somebody's own, and may be one long word.
    return new_pairing("HYD210Grundwasserneubildungsratenbestimmungsgleichung")[0]


# 320 px are 1,280 at 400 percent (WCAG 2.2, 1.4.10).
@pytest.mark.parametrize(
    ("language", "width", "colors"),
    [("en-US", 1280, "none"), ("es-MX", 320, "none"), ("en-US", 1280, "active")],
    ids=["wide", "Spanish and zoomed", "forced colors"],
)
def test_every_page_is_used_by_keyboard_alone(
    world: World, chrome: Browser, sides: Sides, language: str, width: int, colors: str
) -> None:
    page = new_page(chrome, width, locale=language, forced_colors=colors)
    come_in(page, world, sides.context_id)
    shown(page)
    base = page.url
    for address in (
        *(f"{base}{each}" for each in PAGES),
        *(f"{world.url('vennpair')}/{each}" for each in PLACES),
    ):
        follow(page, address)
        usable, met = walked(page)
        assert len(met) >= usable, (address, unmet(page, met))
        assert [each["html"] for each in met.values() if not each["seen"]] == [], address
        assert [each["html"] for each in met.values() if not each["marked"]] == [], address
        if language != "en-US":
            assert fits(page), address
            assert violations(page) == [], address
    page.context.close()


def unmet(page: Page, met: dict[str, dict[str, Any]]) -> list[str]:
    """Return what Tab did not come to."""
    return page.evaluate(
        """(met) => [...document.querySelectorAll('[data-stop]')]
            .filter((each) => !met.includes(each.dataset.stop))
            .map((each) => each.outerHTML.slice(0, 140))""",
        list(met),
    )
