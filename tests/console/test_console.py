"""The console in Chromium: from the campus's shell page to the score in the gradebook, by clicks
and by keys.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tools.world import at_campus
from tools.world.actors import type_over
from tools.world.browser import Browser as HttpBrowser
from tools.world.chromium import (
    LOOKS,
    OF_COLORS,
    come_in,
    fits,
    follow,
    new_page,
    shown,
    violations,
)
from tools.world.hold import until
from tools.world.world import ADMINISTRATOR, PASSWORD, PUBLISHER, World

from vennpair.client import VennPair
from vennpair.standins.tarnfield import section

LEARNER = section(2)[0]
expect.set_options(timeout=60_000)  # a machine in a slow phase takes three times as long


@pytest.fixture(scope="module")
def sides(new_sides: Callable[[str], Sides]) -> Sides:
    return new_sides("HYD 210-WEB")


@pytest.fixture
def page(chrome: Browser) -> Iterator[Page]:
    made = new_page(chrome)
    troubles: list[str] = []
    made.on("pageerror", lambda trouble: troubles.append(str(trouble)))
    yield made
    made.context.close()
    assert troubles == []


def test_the_whole_chain_by_clicks(
    world: World, page: Page, chrome: Browser, sides: Sides, venn: VennPair
) -> None:
    come_in(page, world, sides.context_id)
    own = page.get_by_role("listitem").filter(has_text=sides.label)
    own.get_by_role("link", name="Search all courses").click()
    row = page.get_by_role("row", name=re.compile(sides.label))
    row.get_by_role("button", name=re.compile("Pair with")).click()
    expect(
        page.get_by_role("heading", name=re.compile("your agreement, asked once"))
    ).to_be_visible()
    page.get_by_role("button", name="I agree: pair them").click()
    expect(
        page.get_by_role("heading", name=re.compile("Rivers and Groundwater, 3rd ed."))
    ).to_be_visible()
    expect(page.get_by_text("The relay is off: no score reaches the gradebook.")).to_be_visible()
    page.get_by_role("button", name="Turn it on").click()
    page.get_by_role("link", name="Content", exact=True).click()
    page.get_by_role("button", name="Import from Kestrelbrook Press").click()
    expect(page.get_by_role("status").filter(has_text="61 new")).to_be_visible(timeout=60_000)
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("treeitem", name=re.compile("Unit 1: Where rivers begin · graded")).click()
    page.get_by_text("a new folder", exact=True).click()
    page.get_by_label("Title of the new folder").fill("Homework")
    expect(page.get_by_text("Will make 3 links, 3 with a new column.")).to_be_visible()
    page.get_by_role("button", name="Deploy", exact=True).click()
    expect(page.get_by_text("3 items placed and read back")).to_be_visible(timeout=60_000)
    expect(
        page.get_by_role("treeitem", name=re.compile("Practice set 1A.*placed")).first
    ).to_be_visible()

    learner = new_page(chrome)
    learner.goto(world.url("campus"))
    learner.locator(f"form:has(input[value='{LEARNER.email}']) button").click()
    learner.goto(f"{world.url('campus')}/shells/{sides.context_id}")
    learner.get_by_role("button", name="Practice set 1A").click()
    expect(learner.get_by_role("heading", name="Practice set 1A")).to_be_visible()
    for group in learner.get_by_role("group").all():
        group.get_by_role("radio").first.check()
    learner.get_by_role("button", name="Hand in").click()
    score = learner.get_by_role("status").inner_text()
    assert "was reported to your course" in score
    points = re.search(r"Your score: (\S+) of 10", score)
    assert points is not None
    page.get_by_role("link", name="Relay", exact=True).click()
    expect(page.get_by_role("cell", name="in the gradebook", exact=True)).to_be_visible(
        timeout=60_000
    )
    learner.goto(f"{world.url('campus')}/shells/{sides.context_id}/gradebook")
    expect(learner.get_by_role("cell", name=points[1], exact=True)).to_be_visible()
    learner.context.close()


def test_a_typed_over_score_is_found_explained_and_linked(
    world: World, page: Page, sides: Sides
) -> None:
    name = f"{LEARNER.given} {LEARNER.family}"
    type_over(world, sides.context_id, "Practice set 1A", "9.75", name)
    come_in(page, world, sides.context_id)
    page.get_by_role("button", name="Compare now").click()
    middle = page.get_by_role("link", name="1 score on both sides")
    expect(middle).to_be_visible(timeout=60_000)
    expect(page.get_by_text("1 does not agree")).to_be_visible()
    middle.click()
    expect(page).to_have_url(re.compile(r"reconcile\?scope=cell&side=both"))
    expect(page.get_by_text("Typed over in the gradebook after our score")).to_be_visible()
    expect(page.get_by_text("1 of 1 score does not agree.")).to_be_visible()
    page.go_back()
    expect(middle).to_be_visible()


def test_the_matrix_is_walked_by_keys_and_a_cell_leads_to_its_findings(
    world: World, page: Page, sides: Sides
) -> None:
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Reconcile", exact=True).click()
    matrix = page.get_by_role("application", name=re.compile("Matrix of 6 learners"))
    matrix.focus()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"placement=[0-9a-f-]+&person=[0-9a-f-]+"))
    story = page.get_by_role("region", name="History of this score")
    expect(story.get_by_role("heading", name="Ulf Byrne, Practice set 1A")).to_be_visible()
    expect(story.get_by_role("listitem").filter(has_text="the gradebook took it")).to_be_visible()
    expect(page.get_by_role("heading", name="Selected findings")).to_be_visible()
    page.get_by_role("link", name="show all").click()
    expect(page.get_by_role("heading", name="All open findings")).to_be_visible()
    expect(story).not_to_be_visible()


PAGES = (
    *("", "/content", "/deploy", "/deploy/placed", "/deploy/changes", "/deploy/rollouts"),
    *("/relay", "/reconcile", "/activity"),
    *(f"/reconcile?view={view}" for view in ("scatter", "trend", "ready")),
)
# Text as some need it, at the narrowest of the looks (WCAG 2.2, 1.4.12).
SPACED = (
    "* { line-height: 1.5 !important; letter-spacing: 0.12em !important;"
    " word-spacing: 0.16em !important } p { margin-bottom: 2em !important }"
)
PLACES = (
    "",
    "shells",
    "operations",
    "help/deploying",
    "access",
    "nowhere",
    "accounts",
    "notices",
    "set-up",
    "agreement",
    "files",
)


def test_no_page_has_an_accessibility_violation_or_scrolls_sideways(
    world: World, chrome: Browser, sides: Sides
) -> None:
    page = new_page(chrome)
    come_in(page, world, sides.context_id)
    shown(page)
    base = page.url
    for address in (
        *(f"{base}{each}" for each in PAGES),
        *(f"{world.url('vennpair')}/{each}" for each in PLACES),
    ):
        follow(page, address)
        for scheme, width in LOOKS:
            page.emulate_media(color_scheme=scheme)
            page.set_viewport_size({"width": width, "height": 800})
            only = OF_COLORS if scheme == "dark" else ()
            assert violations(page, only) == [], (address, scheme, width)
            assert fits(page), (address, scheme, width)
        spaced = page.add_style_tag(content=SPACED)
        assert fits(page), (address, "spaced")
        spaced.evaluate("style => style.remove()")
    page.context.close()


def test_nobody_is_led_to_the_sign_in_page_and_back(
    world: World, page: Page, venn: VennPair, sides: Sides
) -> None:
    pairing = next(each["pairing"] for each in venn.shells() if each["label"] == sides.label)
    page.goto(f"{world.url('vennpair')}/pairings/{pairing}/reconcile")
    expect(page.get_by_role("heading", name="Come in from your course")).to_be_visible()
    page.get_by_label("User name, usually your email address").fill("maren.holt@tarnfield.example")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("The name or the password is not right.")
    page.get_by_label("Password").fill("rivers-and-groundwater")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(f"/pairings/{pairing}/reconcile"))
    expect(page.get_by_text("1 of 1 score does not agree.")).to_be_visible()


def test_a_cartridge_that_is_none_is_refused_with_what_to_do(
    world: World, page: Page, sides: Sides
) -> None:
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Content", exact=True).click()
    page.get_by_label("Cartridge to upload").set_input_files(
        {"name": "essay.imscc", "mimeType": "application/zip", "buffer": b"not a zip"}
    )
    expect(page.get_by_role("alert")).to_contain_text("The file is not a zip archive")
    expect(page.get_by_text("Practice set 1A")).to_be_visible()


def test_a_copied_shell_is_pointed_right_in_two_clicks(
    world: World, page: Page, venn: VennPair, sides: Sides
) -> None:
    made = at_campus.add_shell(world, "HYD 210-WCP")
    at_campus.copy_shell(world, sides.context_id, made["context_id"])
    come_in(page, world, made["context_id"])
    expect(
        page.get_by_role("heading", name=re.compile("HYD 210-WCP is a copy of HYD 210-WEB"))
    ).to_be_visible()
    page.get_by_role("button", name=re.compile("point the links there.*Same")).click()
    expect(page.get_by_role("radio", name=re.compile("^Update dates"))).to_be_checked()
    expect(page.get_by_role("button", name="Set up 1 section")).to_be_enabled()
    learner = campus_browser(world, made["learner"])
    until(
        lambda: (
            learner.open_link(world.url("campus"), made["context_id"], "Practice set 1A").status
            == 200
        ),
        lambda: learner.page.words,
    )


def campus_browser(world: World, email: str) -> HttpBrowser:
    made = HttpBrowser()
    made.sign_in(world.url("campus"), email)
    return made


@pytest.mark.usefixtures("no_account")
def test_an_account_is_linked_by_clicks_and_shown(world: World, page: Page, sides: Sides) -> None:
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Accounts").click()
    # Other tests may have left publishers of their own.
    publisher = page.get_by_role("listitem").filter(has_text=PUBLISHER)
    publisher.get_by_role("button", name=re.compile("^Link")).click()
    # Our own page has a button of this name too, for as long as it is still there.
    expect(page.get_by_role("heading", name="Which account is yours?")).to_be_visible()
    page.get_by_role("button", name="Maren Holt").click()
    page.wait_for_url(f"{world.url('vennpair')}/accounts")
    expect(page.get_by_text("maren.holt@tarnfield.example ·")).to_be_visible()
    publisher.get_by_role("button", name="Undo").click()
    expect(publisher.get_by_text("Not linked yet.")).to_be_visible()


def test_ending_shows_first_what_it_does_and_can_be_left(
    world: World, page: Page, sides: Sides, venn: VennPair
) -> None:
    come_in(page, world, sides.context_id)
    page.get_by_role("button", name="Pause, end, or withdraw your agreement").click()
    page.get_by_role("button", name="End …").click()
    expect(page.get_by_text("You can undo this until")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    assert next(each["state"] for each in venn.shells() if each["label"] == sides.label) == "live"


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_connections_are_checked_by_an_administrator_without_a_violation(
    world: World, chrome: Browser, scheme: str
) -> None:
    page = new_page(chrome, color_scheme=scheme)
    page.goto(f"{world.url('vennpair')}/connections")
    page.locator("input").first.fill(ADMINISTRATOR)
    page.locator("input[type=password]").fill(PASSWORD)
    page.locator("button[type=submit]").click()
    expect(page.get_by_role("heading", name="Connections")).to_be_visible()
    campus = page.get_by_role("article").filter(has_text="Tarnfield Campus")
    campus.get_by_role("button", name="Check the connection").click()
    expect(campus.get_by_text("Last opened")).to_be_visible()
    page.get_by_text("Connect a course platform").click()
    page.get_by_role("button", name="Create a registration link").click()
    expect(page.get_by_text(f"{world.url('vennpair')}/lti/register/")).to_be_visible()
    assert violations(page) == []
    page.context.close()
