"""In Chromium: scores that the publisher never reported are read or come from a file, columns are
shown, a total shows its arithmetic.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tests.service.campus import read_shell
from tools.world import at_press
from tools.world.actors import hand_in
from tools.world.chromium import choose, come_in, new_page, violations
from tools.world.differences import until_scores
from tools.world.world import World

from vennpair.client import VennPair
from vennpair.standins.tarnfield import section

FIRST, SECOND = section(2)[0], section(2)[1]
ITEM, QUIZ = "Practice set 1A", "Unit 1 quiz"
HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"


@pytest.fixture(scope="module")
def live(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> tuple[Sides, str]:
    """A pairing with a practice set and a quiz, the relay on, and one score of each of two
    learners.
    """
    sides, pairing = new_pairing("HYD 210-SRC")
    items = [item["id"] for item in venn.items(pairing) if item["title"] in {ITEM, QUIZ}]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    for each in (FIRST, SECOND):
        hand_in(world, each.email, sides.context_id, ITEM, 2)
    until_scores(venn, pairing, accepted=2)
    return sides, pairing


@pytest.fixture
def page(chrome: Browser, world: World, live: tuple[Sides, str]) -> Iterator[Page]:
    made = new_page(chrome)
    come_in(made, world, live[0].context_id)
    yield made
    made.context.close()


def clean(page: Page) -> None:
    assert violations(page) == []


def test_what_was_never_reported_is_read_or_taken_from_a_file(
    world: World, page: Page, live: tuple[Sides, str], tmp_path: Path
) -> None:
    sides, _ = live
    at_press.answer(world, sides.course, FIRST.email, ITEM, "9", lost=True)
    page.get_by_role("link", name="Relay", exact=True).click()
    page.get_by_text("Where scores come from").click()
    page.get_by_role("button", name="Read now").click()
    expect(page.get_by_text("2 new").first).to_be_visible(timeout=60_000)
    expect(
        page.get_by_role("row", name=re.compile(f"{FIRST.given} {FIRST.family} .*{ITEM} 9 . 10 9"))
    ).to_be_visible(timeout=60_000)
    choose(page, "How results come", "also read every hour")
    expect(page.get_by_text("also read every hour; last read")).to_be_visible()
    given = tmp_path / "scores.csv"
    given.write_text(
        f"{HEADER},{SECOND.email},,{QUIZ},15,20,\n,nobody@elsewhere.example,,{QUIZ},1,20,\n"
    )
    page.get_by_label("Choose a score file from the publisher").set_input_files(given)
    page.get_by_role("button", name="Preview the file").click()
    expect(page.get_by_text("1 of 2 learners are known here.")).to_be_visible()
    page.get_by_role("button", name="Add these 2").click()
    expect(
        page.get_by_text("Added: scores: 1 new, 1 of accounts that nobody in the shell has.")
    ).to_be_visible()
    expect(
        page.get_by_role(
            "row", name=re.compile(f"{SECOND.given} {SECOND.family} .*{QUIZ} 15 . 20 15")
        )
    ).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Show all columns to learners").click()
    expect(page.get_by_text("2 shown to learners")).to_be_visible(timeout=60_000)
    clean(page)


def test_a_total_is_weighed_by_categories_and_shows_its_arithmetic(
    world: World, page: Page, live: tuple[Sides, str]
) -> None:
    page.get_by_role("link", name="Deploy", exact=True).click()
    page.get_by_role("link", name="Placed items", exact=True).click()
    page.get_by_text("One average column").click()
    page.get_by_label("Title of the column").fill("So far")
    choose(page, "How items weigh", "by the weights of categories")
    choose(page, "What missing work counts", "always ignored")
    for name in ("Practice", "Quizzes"):
        page.get_by_role("checkbox", name=name, exact=True).click()
    page.get_by_label("Weight of Quizzes").fill("3")
    clean(page)
    page.get_by_role("button", name="Create the column").click()
    expect(
        page.get_by_text("of Practice, Quizzes, weighted by category, missing work is ignored")
    ).to_be_visible()
    page.get_by_role("button", name="Show the calculation").click()
    page.get_by_text(f"{FIRST.given} {FIRST.family}").click()
    expect(page.get_by_text(f"{ITEM}: 9 of 10")).to_be_visible()
    expect(
        page.get_by_text("90 % of 100 points is 90")
    ).to_be_visible()  # nothing of the quizzes counts yet
    clean(page)
    page.get_by_role("button", name="Send to the gradebook").click()
    expect(page.get_by_text("Done.", exact=True)).to_be_visible(timeout=60_000)
    assert {each["title"] for each in read_shell(world, live[0].context_id)["columns"]} == {
        ITEM,
        QUIZ,
        "So far",
    }
