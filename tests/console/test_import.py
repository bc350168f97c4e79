"""Importing in the console: a file is sent, chosen from, looked into, brought in and taken out, by
clicks and by keys.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tests.service.test_content import standing
from tools.world.chromium import LOOKS, choose, come_in, fits, new_page, violations
from tools.world.world import World

from vennpair.client import VennPair
from vennpair.standins.foreign import write_foreign

FILE = {"name": "handbook.imscc", "mimeType": "application/zip", "buffer": write_foreign()}
expect.set_options(timeout=60_000)  # a machine in a slow phase takes three times as long


@pytest.fixture(scope="module")
def sides(new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    return new_pairing("HYD 210-WIM")[0]


@pytest.fixture
def page(chrome: Browser, world: World, sides: Sides) -> Iterator[Page]:
    made = new_page(chrome)
    troubles: list[str] = []
    made.on("pageerror", lambda trouble: troubles.append(str(trouble)))
    come_in(made, world, sides.context_id)
    made.get_by_role("link", name="Content", exact=True).click()
    yield made
    made.context.close()
    assert troubles == []


def tick(page: Page, title: str) -> None:
    """Choose an entry by its mark; pressing the rest of the line looks at it."""
    page.get_by_title(f"Select {title}", exact=True).first.click()


def test_a_file_is_chosen_from_brought_in_and_taken_out_again(
    world: World, page: Page, sides: Sides
) -> None:
    before = standing(world, sides)
    page.get_by_label("Cartridge to upload").set_input_files(FILE)
    page.get_by_role("button", name="Choose what to import").click()
    expect(page.get_by_role("heading", name="Field Station Handbook")).to_be_visible()
    expect(page.get_by_role("link", name="5 cannot be imported")).to_be_visible()
    page.get_by_role("link", name="check 7").click()
    expect(page.get_by_role("treeitem", name=re.compile("Map symbols"))).to_have_count(0)
    page.get_by_role("treeitem", name=re.compile("Water model")).click()
    expect(page.get_by_text("so the link would open without credentials")).to_be_visible()
    page.get_by_role("link", name="check 7").click()
    page.get_by_role("treeitem", name=re.compile("How to get there")).click()
    expect(page.frame_locator("iframe").get_by_text("River Tarn")).to_be_visible()
    assert standing(world, sides) == before
    tick(page, "Refresher: reading a map")
    tick(page, "Your report")
    choose(page, "Folder of the shell", "a new folder")
    page.get_by_label("Title of the new folder").fill("Station")
    choose(page, "Review folders", "hidden")
    expect(page.get_by_text("Will import 4 new; into a new folder “Station”.")).to_be_visible()
    page.get_by_role("button", name="Import", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="4 made")).to_be_visible()
    expect(page.get_by_role("link", name="3 in the shell")).to_be_visible()
    assert [row[1:] for row in standing(world, sides)[-7:-2]] == [
        ("Station", "folder", "True"),
        ("Refresher: reading a map", "folder", "False"),
        ("Map symbols", "page", "False"),
        ("Map quiz", "assessment", "False"),
        ("Your report", "assignment", "True"),
    ]
    page.get_by_role("button", name="Remove again …").click()
    page.get_by_role("button", name="Remove 4").click()
    expect(page.get_by_role("status").filter(has_text="4 taken out")).to_be_visible()
    assert standing(world, sides)[:-2] == before[:-2]


def test_names_and_matches_are_set_and_links_written_as_a_file(page: Page) -> None:
    page.get_by_role("link", name="Rivers and Groundwater, 3rd ed.").first.click()
    tick(page, "Unit 1: Where rivers begin")
    page.get_by_role("button", name=re.compile("Rename 6")).click()
    page.get_by_label("Pattern for titles").fill("{number}. {title}")
    expect(page.get_by_text("3. Practice set 1A")).to_be_visible()
    page.get_by_role("button", name="Rename", exact=True).click()
    page.get_by_role("treeitem", name=re.compile(re.escape("3. Practice set 1A"))).click()
    page.get_by_role("combobox", name=re.compile("Opens at the publisher")).click()
    page.get_by_role("option", name="Unit 9 quiz (20 points)").click()
    expect(page.get_by_text("known by the instructor's correction")).to_be_visible()
    page.get_by_label("Name in the shell").fill("First practice")
    page.keyboard.press("Enter")
    expect(page.get_by_role("treeitem", name=re.compile("First practice"))).to_be_visible()
    page.get_by_role("button", name="Links only").click()
    with page.expect_download() as saved:
        page.get_by_role("link", name=re.compile("Save .*thin.imscc")).click()
    assert saved.value.path().read_bytes().startswith(b"PK")


def test_the_page_of_an_import_has_no_accessibility_violation(
    chrome: Browser, world: World, sides: Sides, venn: VennPair
) -> None:
    pairing = next(each["pairing"] for each in venn.shells() if each["label"] == sides.label)
    made = next(
        each for each in venn.imports(str(pairing)) if each["title"] == "Field Station Handbook"
    )
    entry = next(each for each in venn.entries(str(pairing), made["id"], kind="assessment"))
    page = new_page(chrome)
    come_in(page, world, sides.context_id)
    page.goto(
        f"{world.url('vennpair')}/pairings/{pairing}/content/imports/{made['id']}?entry={entry['id']}"
    )
    expect(page.get_by_role("heading", name="Map quiz")).to_be_visible()
    tick(page, "Refresher: reading a map")
    expect(page.get_by_text("Will import")).to_be_visible()
    for scheme, width in LOOKS:
        page.emulate_media(color_scheme=scheme)
        page.set_viewport_size({"width": width, "height": 800})
        assert violations(page) == [], (scheme, width)
        assert fits(page), (scheme, width)
    page.context.close()
