"""What is around every page: the start page, command search, notices, help, the language; by keys."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tools.world.chromium import come_in, fits, follow, new_page, pick, shown, violations
from tools.world.world import World

from vennpair.client import VennPair

expect.set_options(timeout=60_000)

# How many parts of the page would move.
MOVES = """() => [...document.querySelectorAll('*')].filter((part) =>
  ['transitionDuration', 'animationDuration'].some((each) =>
    getComputedStyle(part)[each].split(',').some((time) => parseFloat(time) > 0))).length"""


@pytest.fixture(scope="module")
def sides(new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    return new_pairing("HYD 210-FRM")[0]


@pytest.fixture
def page(chrome: Browser, world: World, sides: Sides) -> Iterator[Page]:
    made = new_page(chrome)
    troubles: list[str] = []
    made.on("pageerror", lambda trouble: troubles.append(str(trouble)))
    come_in(made, world, sides.context_id)
    shown(made)
    yield made
    made.context.close()
    assert troubles == []


def test_the_start_page_leads_to_what_is_to_be_done(page: Page, world: World, sides: Sides) -> None:
    page.goto(world.url("vennpair"))
    line = page.get_by_role("listitem").filter(has_text=f"{sides.label}: Nothing is placed")
    line.get_by_role("link", name=re.compile("Place items")).click()
    expect(page.get_by_role("tree", name="Items of the homework course")).to_be_visible()


def test_search_opens_from_anywhere_finds_and_goes_by_keys_alone(page: Page, sides: Sides) -> None:
    page.keyboard.press("Control+k")
    box = page.get_by_role("combobox", name=re.compile("Type a shell"))
    expect(box).to_be_focused()
    page.keyboard.type("FRM")
    expect(page.get_by_role("option", name=re.compile(f"Shell.*{sides.label}"))).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile(sides.label))).to_be_visible()
    expect(box).to_have_count(0)
    page.keyboard.press("Control+k")
    page.keyboard.type("relay")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/relay$"))


def test_drawers_hold_the_focus_and_give_it_back(page: Page) -> None:
    for button, heading in (("What is this page?", "About this page"), ("Notices", "Notices")):
        opener = page.get_by_role("button", name=re.compile(re.escape(button)))
        opener.focus()
        page.keyboard.press("Enter")
        drawer = page.get_by_role("dialog").filter(has_text=heading)
        expect(drawer).to_be_visible()
        assert violations(page) == []
        page.keyboard.press("Escape")
        expect(drawer).to_have_count(0)
        expect(opener).to_be_focused()


def test_help_leads_to_the_pages_of_docs_served_with_the_console(page: Page) -> None:
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("button", name="What is this page?").click()
    page.get_by_role("dialog").get_by_role("link", name="Placing items").click()
    expect(page.get_by_role("heading", level=1, name="Placing items")).to_be_visible()
    picture = page.locator("article img").first
    picture.scroll_into_view_if_needed()
    page.wait_for_function("(one) => one.complete", arg=picture.element_handle())
    assert picture.evaluate("(one) => one.naturalWidth") > 0
    pages = page.get_by_role("navigation", name="All help pages")
    pages.get_by_role("link", name="Afterwards", exact=True).click()
    expect(page).to_have_url(re.compile("/help/deploying#afterwards$"))
    expect(page.get_by_role("heading", name="Afterwards", exact=True)).to_be_in_viewport()
    expect(pages.locator("[aria-current=location]")).to_have_text("Afterwards")
    page.locator("article").get_by_role("link", name="term-sheets.md").first.click()
    expect(page.get_by_role("heading", level=1, name="Term sheets")).to_be_visible()
    expect(pages.locator("[aria-current=page]")).to_have_text("Term sheets")
    page.goto(f"{page.url.partition('#')[0]}#100%")  # an address that somebody shortened
    expect(page.get_by_role("heading", level=1, name="Term sheets")).to_be_visible()
    expect(pages.locator("[aria-current=location]")).to_have_count(0)


def test_a_page_whose_script_is_gone_is_told_and_comes_with_a_whole_load(page: Page) -> None:
    lost = re.compile(r"/assets/ActivityPage-[\w-]+\.js$")
    page.route(lost, lambda route: route.fulfill(status=404))
    page.get_by_role("link", name="Activity", exact=True).click()
    said = page.get_by_role("alert").filter(has_text="The page could not be loaded.")
    expect(said).to_be_visible()
    assert violations(page) == []
    page.unroute(lost)
    page.get_by_role("link", name="Relay", exact=True).click()
    expect(page).to_have_url(re.compile("/relay$"))
    expect(said).to_have_count(0)
    page.route(lost, lambda route: route.fulfill(status=404))
    page.get_by_role("link", name="Activity", exact=True).click()
    page.unroute(lost)
    said.get_by_role("link", name="Load the page").click()
    expect(page).to_have_url(re.compile("/activity$"))
    expect(page.get_by_role("link", name="Activity", exact=True)).to_have_attribute(
        "aria-current", "page"
    )
    expect(said).to_have_count(0)


@pytest.fixture
def no_language(venn: VennPair) -> Iterator[None]:
    """Whatever comes of the test, the next one speaks English."""
    yield
    venn._http.patch("/me", json={"language": ""})


def test_what_the_menu_could_not_do_is_said_and_stays_as_it_was(page: Page) -> None:
    refusal = {"code": "busy_now", "detail": "It is busy today.", "remedy": "Wait a little."}
    for address, entry in (("**/api/v1/me", "Español"), ("**/api/v1/sign-out", "Sign out")):
        page.route(
            address,
            lambda route: (
                route.continue_()
                if route.request.method == "GET"
                else route.fulfill(status=409, json=refusal)
            ),
        )
        before = page.url
        pick(page, "profile and settings", entry)
        said = page.get_by_text("It is busy today. Wait a little.").first
        expect(said).to_be_visible()
        assert (page.url, page.evaluate("document.documentElement.lang")) == (before, "en")
        page.get_by_role("button", name="close").first.click()
        expect(page.locator(".n-message")).to_have_count(0)


@pytest.mark.usefixtures("no_language")
def test_a_language_is_chosen_and_kept(page: Page, world: World, venn: VennPair) -> None:
    pick(page, "profile and settings", "Español")
    expect(page.get_by_role("link", name="Espacios").first).to_be_visible()
    assert page.evaluate("document.documentElement.lang") == "es"
    assert venn.me()["language"] == "es"
    base = page.url
    for path in ("", "/content", "/deploy", "/deploy/placed", "/deploy/changes", "/relay"):
        follow(page, f"{base}{path}")
        for width in (1280, 400):
            page.set_viewport_size({"width": width, "height": 800})
            assert violations(page) == [], (path, width)
            assert fits(page), (path, width)
    for path in ("", "shells", "operations", "agreement", "files", "accounts", "access", "set-up"):
        follow(page, f"{world.url('vennpair')}/{path}")
        assert violations(page) == [], path
        assert fits(page), path
        words = page.locator("main").inner_text()
        assert not re.search(r"\b[a-z_]+\.[a-z_]+\.[a-z_]+\b", words), (
            "a key is shown, not its words"
        )


def test_colors_and_density_are_chosen_for_this_browser(page: Page) -> None:
    pick(page, "profile and settings", "Dark")
    assert page.evaluate("document.documentElement.dataset.scheme") == "dark"
    page.reload()
    shown(page)
    assert page.evaluate("document.documentElement.dataset.scheme") == "dark"
    assert violations(page) == []


def test_who_asks_for_less_motion_gets_none(page: Page) -> None:
    assert page.evaluate(MOVES) == 0
    page.emulate_media(reduced_motion="no-preference")
    assert page.evaluate(MOVES) > 0
