"""Deploying in Chromium: three sections in one go, by clicks and by keys; drift mended.

The picker in the platform.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides, paired
from tests.service.campus import read_shell
from tools.world import at_campus
from tools.world.chromium import choose, come_in, enter, new_page, violations
from tools.world.hold import until
from tools.world.world import INSTRUCTOR, World

from vennpair.client import VennPair

expect.set_options(timeout=60_000)


@pytest.fixture
def page(chrome: Browser) -> Iterator[Page]:
    made = new_page(chrome)
    troubles: list[str] = []
    made.on("pageerror", lambda trouble: troubles.append(str(trouble)))
    yield made
    made.context.close()
    assert troubles == []


@pytest.fixture(scope="module")
def three(
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    new_sides: Callable[[str], Sides],
) -> list[tuple[Sides, str]]:
    """Three sections; of the last one's homework course nothing was read yet."""
    last = new_sides("HYD 210-W3")
    return [*(new_pairing(f"HYD 210-W{number}") for number in (1, 2)), (last, paired(venn, last))]


def test_three_sections_are_deployed_from_one_page(
    world: World, page: Page, three: list[tuple[Sides, str]]
) -> None:
    come_in(page, world, three[0][0].context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    choose(page, "Due date", "with a date")
    choose(page, "Kind", "graded")
    page.get_by_role("tree", name="Items of the homework course").focus()
    page.keyboard.press("Control+a")
    expect(page.get_by_role("radio", name="a folder for each unit, by its name")).to_be_checked()
    choose(page, "Learners", "see them before they are due")
    page.get_by_label("Days before").fill("10")
    page.get_by_role("button", name=re.compile("Sections and dates")).click()
    for (sides, _), days in zip(three[1:], ("7", "49"), strict=True):
        page.get_by_role("checkbox", name=sides.label, exact=True).click()
        page.get_by_label(f"Days for {sides.label}").fill(days)
        page.get_by_label(f"Days for {sides.label}").press("Tab")
    expect(
        page.get_by_text("Will make 93 links, 93 with a new column in 3 shells.")
    ).to_be_visible()
    asked = f"Folder of Unit 2: Flow and channels in {three[2][0].label}"
    enter(page, asked, "Second week")
    folder = page.get_by_role("combobox", name=asked)
    expect(
        page.get_by_role("cell").filter(has=folder).get_by_text("new", exact=True)
    ).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Show the plan").click()
    plan = page.get_by_label(f"Plan for {three[2][0].label}")
    first = plan.get_by_role("row").nth(1)
    expect(first).to_contain_text("Practice set 1A")
    expect(first).to_contain_text("Mar 9, 11:59")
    page.get_by_role("button", name="Deploy", exact=True).click()
    for _ in three:
        expect(page.get_by_text("31 items placed and read back")).to_have_count(3, timeout=60_000)
    for (sides, _), due in zip(three, ("2027-01-19", "2027-01-26", "2027-03-09"), strict=True):
        found = read_shell(world, sides.context_id)
        links = [each for each in found["links"] if each["kind"] == "lti_link"]
        assert (
            len(links),
            len(found["columns"]),
            links[0]["title"],
            links[0]["due"][:10],
            links[0]["folder"],
        ) == (31, 31, "Practice set 1A", due, "Unit 1: Where rivers begin")
        assert [each["title"] for each in found["columns"]] == [each["title"] for each in links]
        assert len({each["folder"] for each in links}) == 9
        assert {each["title"]: each["folder"] for each in links}["Practice set 2A"] == (
            "Second week" if due == "2027-03-09" else "Unit 2: Flow and channels"
        )


def test_all_of_a_folder_are_hidden_at_once(
    world: World, page: Page, three: list[tuple[Sides, str]]
) -> None:
    sides = three[0][0]
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("link", name="Placed items", exact=True).click()
    page.get_by_role("checkbox", name="Select all of Unit 1: Where rivers begin").click()
    page.get_by_role("button", name="Change 3").click()
    panel = page.get_by_role("region", name="Change 3 links")
    expect(panel.get_by_text("shown → hidden")).to_have_count(3)
    assert violations(page) == []
    panel.get_by_role("button", name="Change 3 links").click()
    expect(page.get_by_text("3 links changed and read back").first).to_be_visible()
    links = read_shell(world, sides.context_id)["links"]
    hidden = [each["title"] for each in links if not each["visible"]]
    assert hidden == ["Practice set 1A", "Practice set 1B", "Unit 1 quiz"]


def test_one_item_gets_what_the_others_do_not(
    world: World, page: Page, three: list[tuple[Sides, str]]
) -> None:
    sides = three[2][0]
    essay = "Essay outline: a well in dry years"
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_label("Search by title or unit").fill("essay")
    page.get_by_role("treeitem", name=re.compile(essay)).click()
    page.get_by_role("treeitem", name=re.compile("Second week")).click()
    choose(page, "Where in Second week", "after Practice set 2A")
    page.get_by_role("button", name=re.compile("Item by item")).click()
    table = page.get_by_role("region", name="Item by item")
    expect(table.get_by_text("has no due date, so it is left out until you say")).to_be_visible()
    for label, value in (
        (f"Due date of {essay}", "Mar 20, 2027, 11:59 PM"),
        (f"Title of {essay}", "Essay"),
    ):
        table.get_by_label(label).fill(value)
        table.get_by_label(label).press("Tab")
    enter(table, f"Category of {essay}", "Essays")
    choose(table, f"Whether learners see {essay}", "do not see it")
    expect(page.get_by_text("Will make 1 link, 1 with a new column.")).to_be_visible()
    expect(table.get_by_text("has no due date")).to_have_count(0)
    assert violations(page) == []
    page.get_by_role("button", name="Deploy", exact=True).click()
    expect(page.get_by_text("1 item placed and read back")).to_be_visible(timeout=60_000)
    # The words may be those of a rollout before; the order in the shell comes last.
    wanted = ["Practice set 2A", "Essay", "Practice set 2B"]

    def there() -> list[str]:
        links = read_shell(world, sides.context_id)["links"]
        return [each["title"] for each in links if each["folder"] == "Second week"][:3]

    until(lambda: there() == wanted, there)
    found = read_shell(world, sides.context_id)
    column = next(each for each in found["columns"] if each["title"] == "Essay")
    link = next(each for each in found["links"] if each["title"] == "Essay")
    assert (column["points"], column["category"], column["end"], link["due"], link["visible"]) == (
        "25",
        "Essays",
        "2027-03-20T23:59:00-05:00",
        "2027-03-20T23:59:00-05:00",
        False,
    )
    # Each folder is named once.
    expect(page.get_by_role("treeitem", name=re.compile("Second week"))).to_have_count(1)


def test_items_are_dragged_into_place_seen_there_and_left_out_again(
    world: World, page: Page, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, _ = new_pairing("HYD 210-W5")
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    outline = page.get_by_role("tree", name="Outline of the shell")
    target = outline.get_by_role("treeitem", name=re.compile("Week 1"))
    expect(target).to_be_visible()
    item = page.get_by_role("treeitem", name=re.compile("^Practice set 1A"))
    item.hover()
    page.mouse.down()
    for _ in range(2):  # a browser begins a drag with the second move
        target.hover()
    assert violations(page) == []
    page.mouse.up()
    coming = outline.get_by_role("treeitem", name=re.compile("Practice set 1A.*will be placed"))
    expect(coming).to_be_visible()
    expect(page.get_by_text("Will make 1 link, 1 with a new column.")).to_be_visible()
    assert violations(page) == []
    # Looking elsewhere loses nothing of it.
    page.get_by_role("link", name="Content", exact=True).click()
    page.get_by_role("link", name="Deploy", exact=True).click()
    expect(page.get_by_text("Your choices from before are still here.")).to_be_visible()
    expect(coming).to_be_visible()
    coming.get_by_role("button", name=re.compile("Leave it out")).click()
    expect(coming).to_have_count(0)
    # The same by keys: choose on the left, Enter leads to the right, Space chooses the place.
    page.get_by_role("tree", name="Items of the homework course").focus()
    for key in ("ArrowDown", "ArrowDown", "Space", "Enter"):
        page.keyboard.press(key)
    expect(outline).to_be_focused()
    for key in ("ArrowDown", "Space"):
        page.keyboard.press(key)
    expect(outline.get_by_text("will be placed")).to_be_visible()


def test_drift_is_seen_and_mended_with_one_button(
    world: World, page: Page, three: list[tuple[Sides, str]]
) -> None:
    sides = three[0][0]
    at_campus.change_column(world, sides.context_id, "Practice set 1B", maximum=25)
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("link", name=re.compile("Changes")).click()
    page.get_by_role("button", name="Check now").click()
    expect(page.get_by_text("25 points")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Restore as placed").click()
    expect(page.get_by_text("Done.", exact=True)).to_be_visible()
    assert {
        each["title"]: each["points"] for each in read_shell(world, sides.context_id)["columns"]
    }["Practice set 1B"] == "10"
    page.get_by_role("button", name="Check now").click()
    expect(page.get_by_text("Nothing has changed since placing")).to_be_visible()


def test_links_are_moved_by_keys_and_a_rollout_is_undone(
    world: World, page: Page, three: list[tuple[Sides, str]]
) -> None:
    sides = three[1][0]
    come_in(page, world, sides.context_id)
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("link", name="Placed items", exact=True).click()
    page.get_by_label(re.compile("Select Practice set 1A")).focus()
    page.keyboard.press("Alt+ArrowDown")
    expect(page.get_by_text("put in order")).to_be_visible()
    assert [
        each["title"]
        for each in read_shell(world, sides.context_id)["links"]
        if each["folder"].startswith("Unit 1")
    ][:2] == ["Practice set 1B", "Practice set 1A"]
    first = page.get_by_role("listitem").filter(has_text="points").first
    expect(first).to_contain_text("Practice set 1B")
    # What moved keeps the focus, so the keys go on with it.
    expect(page.get_by_label(re.compile("Select Practice set 1A"))).to_be_focused()
    page.get_by_label(re.compile("Select Practice set 1B")).press("Alt+End")
    expect(page.get_by_text("put in order")).to_have_count(2)
    assert [
        each["title"]
        for each in read_shell(world, sides.context_id)["links"]
        if each["folder"].startswith("Unit 1")
    ] == ["Practice set 1A", "Unit 1 quiz", "Practice set 1B"]
    page.get_by_role("link", name="Rollouts").click()
    placed = page.get_by_role("listitem").filter(has_text="Placed")
    placed.get_by_role("button", name="Undo …").click()
    expect(page.get_by_text("31 of 31 will be undone.")).to_be_visible()
    placed.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_text("31 links removed").first).to_be_visible(timeout=60_000)
    assert read_shell(world, sides.context_id)["columns"] == []


def test_the_picker_works_from_the_platform(
    world: World, page: Page, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, _ = new_pairing("HYD 210-W4")
    page.goto(world.url("campus"))
    page.locator(f"form:has(input[value='{INSTRUCTOR}']) button").click()
    page.goto(f"{world.url('campus')}/shells/{sides.context_id}")
    page.locator("#pick button").click()
    expect(page.get_by_role("heading", name=f"Add homework to {sides.label}")).to_be_visible()
    page.get_by_role("treeitem", name=re.compile("Unit 1: Where rivers begin · graded")).click()
    expect(page.get_by_text(f"Will add 3 links to {sides.label}, 3 with a column.")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("heading", name=f"Added to {sides.label}")).to_be_visible()
    assert [each["points"] for each in read_shell(world, sides.context_id)["columns"]] == [
        "10",
        "10",
        "20",
    ]
