"""Debian's Chromium, headless, driven by Playwright."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Browser, Page, sync_playwright

from tools.house.world import INSTRUCTOR, World

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@contextmanager
def chromium() -> Iterator[Browser]:
    """Start the browser. Raises SystemExit where it is not installed."""
    path = shutil.which("chromium")
    if path is None:
        raise SystemExit("chromium is not installed; run: apt-get install chromium")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=path, args=FLAGS)
        yield browser
        browser.close()


def new_page(browser: Browser, width: int = 1280, height: int = 800, **options: Any) -> Page:
    """Open a page in a context of its own."""
    page = browser.new_context(viewport={"width": width, "height": height}, **options).new_page()
    page.set_default_timeout(15_000)
    return page


def come_in(page: Page, world: World, context_id: str, email: str = INSTRUCTOR) -> None:
    """Sign in at the campus and open Venn Pair from a shell, by clicking as a person does."""
    page.goto(world.url("campus"))
    page.locator(f"form:has(input[value='{email}']) button").click()
    page.goto(f"{world.url('campus')}/shells/{context_id}")
    page.locator("#open-tool button").click()
    page.wait_for_url(f"{world.url('vennpair')}/**")
