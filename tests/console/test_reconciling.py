"""Reconciling by clicks: what one cause explains, settling with a preview, undo, two files, and all
pairings at once.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tools.world import at_campus
from tools.world.actors import hand_in
from tools.world.chromium import come_in, new_page, quiet, still
from tools.world.differences import until_scores
from tools.world.world import World

from vennpair.client import VennPair
from vennpair.standins.tarnfield import section

LEARNERS = section(2)[:6]
ITEM = "Practice set 1A"
PUBLISHER = (
    "learner_id,learner_email,learner_name,item,score,points,at\n001,,Ada Brook,Quiz"
    " 1,8.5,10,\n002,,Ben Croft,Quiz 1,9,10,\n"
)
GRADEBOOK = "\ufeffStudent number;Name;Quiz 1\r\n;;10\r\n001;Brook, Ada;8,5\r\n002;Croft, Ben;\r\n"
expect.set_options(timeout=60_000)


@pytest.fixture(scope="module")
def sides(world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    made, pairing = new_pairing("HYD 210-WRC")
    wanted = [item["id"] for item in venn.items(pairing) if item["title"] == ITEM]
    venn.wait(venn.deploy(pairing, wanted)[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    for learner in LEARNERS[:3]:
        hand_in(world, learner.email, made.context_id, ITEM, 3)
    until_scores(venn, pairing, accepted=3)
    return made


@pytest.fixture
def page(chrome: Browser, world: World, sides: Sides) -> Iterator[Page]:
    made = new_page(chrome)
    troubles: list[str] = []
    made.on("pageerror", lambda trouble: troubles.append(str(trouble)))
    come_in(made, world, sides.context_id)
    yield made
    made.context.close()
    assert troubles == []


def reconcile(page: Page) -> None:
    page.get_by_role("link", name="Reconcile", exact=True).click()
    page.wait_for_url("**/reconcile")  # the page before has such a button, too
    page.get_by_role("button", name="Compare now").click()


def test_one_cause_is_named_mended_and_taken_back(world: World, page: Page, sides: Sides) -> None:
    at_campus.change_column(world, sides.context_id, ITEM, maximum=20)
    reconcile(page)
    verdict = page.get_by_role("region", name="How the two sides compare")
    expect(verdict).to_contain_text(
        f"All of them have one cause: “{ITEM}” counts 20 points in the gradebook and 10 at the"
        " publisher",
        timeout=60_000,
    )
    expect(
        page.get_by_role(
            "heading", name=re.compile("changed in the gradebook, because points differ 3")
        )
    ).to_be_visible()
    verdict.get_by_role("button", name="Restore the points").click()
    panel = page.get_by_role("region", name="What will be written")
    expect(
        panel.get_by_role("heading", name="1 finding, 1 written to the gradebook")
    ).to_be_visible()
    panel.get_by_role("button", name="Write 1 to the gradebook").click()
    panel.get_by_role("button", name="Close and compare again").click(timeout=60_000)
    expect(verdict).to_contain_text("All 3 scores agree.", timeout=60_000)
    page.get_by_role("link", name="Ready to submit?").or_(
        page.get_by_role("tab", name="Ready to submit?")
    ).click()
    expect(
        page.get_by_role("status").filter(has_text="Ready to submit: all 3 scores")
    ).to_be_visible()
    page.get_by_label("Grades are due on").fill("May 12, 2027")
    page.reload()
    expect(page.get_by_label("Grades are due on")).to_have_value("May 12, 2027")


def test_all_pairings_stand_on_one_page(world: World, page: Page, sides: Sides) -> None:
    page.get_by_role("link", name="Agreement").click()
    # The list comes by pages, and other tests of this world pair shells too.
    page.get_by_label("Search by shell, course or instructor").fill(sides.label)
    expect(page.get_by_role("row")).to_have_count(2)  # the heading, and the one that was searched
    row = page.get_by_role("row", name=re.compile(re.escape(sides.label)))
    expect(row).to_contain_text("100 %")
    row.get_by_role("link", name=sides.label).click()
    expect(page.get_by_role("region", name="How the two sides compare")).to_contain_text(
        "All 3 scores agree."
    )


def test_two_files_are_read_with_a_suggested_layout_and_written_back(
    page: Page, tmp_path: Path
) -> None:
    (tmp_path / "press.csv").write_text(PUBLISHER)
    (tmp_path / "gradebook.csv").write_text(GRADEBOOK, newline="")
    page.get_by_role("link", name="Compare files").click()
    page.get_by_label("The publisher’s scores").first.set_input_files(tmp_path / "press.csv")
    page.get_by_label("The gradebook").first.set_input_files(tmp_path / "gradebook.csv")
    expect(page.get_by_role("alert")).to_contain_text("gradebook.csv")
    page.get_by_role("button", name="Examine it").click()
    expect(page.get_by_label("Correct what is wrong")).to_have_value(
        re.compile('id = "Student number"')
    )
    page.get_by_role("button", name="Compare").click()
    expect(page.get_by_role("status")).to_contain_text("1 of 2 scores do not agree.")
    expect(page.get_by_text("The column would show 9.")).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save gradebook.csv").click()
    assert (
        saved.value.path().read_bytes()
        == GRADEBOOK.replace("002;Croft, Ben;\r\n", "002;Croft, Ben;9\r\n").encode()
    )


def test_an_exported_gradebook_can_stand_for_the_live_one(
    page: Page, sides: Sides, tmp_path: Path
) -> None:
    rows = "".join(
        f",{each.email},,{ITEM},{score},10,\n"
        for each, score in zip(LEARNERS[:3], ("6", "6", "1"), strict=True)
    )
    (tmp_path / "export.csv").write_text(PUBLISHER.splitlines()[0] + "\n" + rows)
    page.get_by_role("link", name="Reconcile", exact=True).click()
    verdict = page.get_by_role("region", name="How the two sides compare")
    expect(verdict).to_contain_text("All 3 scores agree.")
    quiet(page)  # a button that is drawn again under the pointer takes no click
    page.get_by_text("Compare with an exported gradebook instead").click()
    still(page)
    page.get_by_label("The gradebook’s file").set_input_files(tmp_path / "export.csv")
    page.get_by_role("button", name="Compare with this file").click()
    expect(verdict).to_contain_text("with the file export.csv as the gradebook", timeout=60_000)
    expect(verdict).to_contain_text("1 of 3 scores do not agree.")
