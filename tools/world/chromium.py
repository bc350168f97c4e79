"""Debian's Chromium, headless, driven by Playwright."""

from __future__ import annotations

import shutil
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from functools import cache
from typing import Any

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright
from playwright.sync_api import TimeoutError as Late

from tools.world.world import INSTRUCTOR, World

REACHED_MS = 5_000  # for which a list may take to close once an option of it was clicked
QUIET_MS = 60_000
# The same engine; the first is without the windows around a page, and takes a third of the time.
BROWSERS = ("chromium-headless-shell", "chromium")
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

# Every page must be good in each of these: scheme and width.
LOOKS = [(scheme, width) for scheme in ("light", "dark") for width in (1280, 400)]
# What a scheme changes of a page that is good in another one.
OF_COLORS = ("color-contrast", "link-in-text-block")
# As a link does, without loading the console again.
FOLLOW = """(address) => {
    history.pushState({}, '', address)
    dispatchEvent(new PopStateEvent('popstate', { state: {} }))
}"""

# Bring to its end what moves once, until nothing more begins to; what turns for ever (a mark that
# something runs) has no end. A change of colors is drawn, and begins to fade, a frame later.
END_MOVES = """async () => {
    const frame = () => new Promise((drawn) => requestAnimationFrame(drawn))
    for (let still = 0, frames = 0; still < 3 && frames < 60; frames += 1) {
        await frame()
        const moves = document.getAnimations().filter(
            (each) => each.playState !== 'finished' &&
                Number.isFinite(each.effect.getComputedTiming().endTime),
        )
        moves.forEach((each) => each.finish())
        still = moves.length ? 0 : still + 1
    }
}"""


# What a page has asked of the service and not heard to its end.
COUNT_ASKED = """(() => {
    const send = window.fetch
    window.unheard = 0
    window.fetch = (...words) => {
        window.unheard += 1
        return send(...words)
            .then((answer) => answer.clone().arrayBuffer().then(() => answer))
            .finally(() => { window.unheard -= 1 })
    }
})()"""
# Wait until no page is on its way and nothing was asked or is being shown for some frames: an answer
# may lead to a question.
# Returns what it still waits for when it has waited for too long.
QUIET = """async (most) => {
    const frame = () => new Promise((drawn) => requestAnimationFrame(drawn))
    const until = performance.now() + most
    for (let still = 0; still < 6; ) {
        await frame()
        const loading = document.querySelectorAll('.going, .loading').length
        still = window.unheard || loading ? 0 : still + 1
        if (performance.now() > until)
            return `${window.unheard} questions not answered, ${loading} parts not shown`
    }
    return ''
}"""


@contextmanager
def chromium() -> Iterator[Browser]:
    """Start the browser. Raises SystemExit where it is not installed."""
    path = next(filter(None, map(shutil.which, BROWSERS)), None)
    if path is None:
        raise SystemExit(f"no browser is installed; run: apt-get install {BROWSERS[0]}")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=path, args=FLAGS)
        yield browser
        browser.close()


def new_page(browser: Browser, width: int = 1280, height: int = 800, **options: Any) -> Page:
    """Open a page in a context of its own; what moves is still, unless ``options`` say otherwise."""
    options = {"reduced_motion": "reduce"} | options
    page = browser.new_context(viewport={"width": width, "height": height}, **options).new_page()
    page.set_default_timeout(60_000)
    page.add_init_script(COUNT_ASKED)
    return page


_came: dict[tuple[str, ...], tuple[Any, str]] = {}


def come_in(page: Page, world: World, context_id: str, email: str = INSTRUCTOR) -> None:
    """Sign in at the campus and open Venn Pair from a shell, by clicking as a person does; who came to
    a pairing so before is still signed in, and opens that.
    """
    who = (world.url("campus"), world.url("vennpair"), context_id, email)
    if who in _came:
        cookies, led_to = _came[who]
        page.context.add_cookies(cookies)
        if page.context.request.get(f"{world.url('vennpair')}/api/v1/me").ok:
            page.goto(led_to)
            return
    page.goto(world.url("campus"))
    page.locator(f"form:has(input[value='{email}']) button").click()
    page.goto(f"{world.url('campus')}/shells/{context_id}")
    page.locator("#open-tool button").click()
    page.wait_for_url(f"{world.url('vennpair')}/**")
    if "/pairings/" in page.url:
        _came[who] = page.context.cookies(), page.url


def shown(page: Page) -> None:
    """Wait until a page has its heading and nothing of it is still being read."""
    expect(page.get_by_role("heading", level=1).first).to_be_visible()
    expect(page.locator(".going, .loading")).to_have_count(0)


def quiet(page: Page) -> None:
    """Wait until a page of the console has what it asked for and has shown it.

    Raises AssertionError that says what is missing after QUIET_MS.
    """
    missing = page.evaluate(QUIET, QUIET_MS)
    assert not missing, f"{page.url} is not quiet: {missing}"


def still(page: Page) -> None:
    """Wait until a page has what it asked for, and nothing of it moves: what moves away under the
    pointer takes no click.
    """
    quiet(page)
    page.evaluate(END_MOVES)


def follow(page: Page, address: str) -> None:
    """Go to another page of the console as its own links do, and wait until it is there."""
    page.evaluate(FOLLOW, address)
    expect(page).to_have_url(address)
    expect(page.get_by_role("heading", level=1).first).to_be_attached()
    quiet(page)


def choose(page: Page | Locator, name: str, option: str) -> None:
    """Choose an option of a combo box by the names that people see."""
    box = page.get_by_role("combobox", name=name, exact=True)
    box.click()
    whole = page if isinstance(page, Page) else page.page
    _click_away(whole.get_by_role("option", name=option, exact=True))


def pick(page: Page, name: str, entry: str) -> None:
    """Open a menu by its button's name, or a part of it, and choose an entry."""
    quiet(page)
    page.get_by_role("button", name=name).click()
    _click_away(page.get_by_role("menuitem", name=entry))


def _click_away(entry: Locator) -> None:
    """Choose an entry of a list that closes by it."""
    entry.click()
    try:
        entry.wait_for(state="hidden", timeout=REACHED_MS)
    except Late:  # the list was drawn again under the pointer: people click again
        entry.click()


def enter(page: Page | Locator, name: str, words: str) -> None:
    """Enter words into a combo box that takes what is not among its options."""
    box = page.get_by_role("combobox", name=name, exact=True)
    box.click()
    box.fill(words)
    box.press("Enter")


def violations(page: Page, only: Sequence[str] = ()) -> list[tuple[str, str]]:
    """Return what axe finds wrong on a page as it is now: the rule, and the first place.

    With ``only`` these rules are tried and no other.
    """
    page.evaluate(END_MOVES)
    if not page.evaluate("typeof axe === 'object'"):
        page.evaluate(_axe().axe_script)
    # What passes is not told: that is most of the page, again and again.
    asked: dict[str, object] = {"resultTypes": ["violations"]}
    if only:
        asked["runOnly"] = {"type": "rule", "values": list(only)}
    found = page.evaluate("(asked) => axe.run(document, asked)", asked)["violations"]
    return [(each["id"], each["nodes"][0]["html"][:160]) for each in found]


@cache
def _axe() -> Axe:
    return Axe()


def fits(page: Page) -> bool:
    """Say whether a page does not scroll sideways."""
    return bool(page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"))
