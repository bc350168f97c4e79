"""Three sections from fresh shells to live ones by clicks: how many it takes, and that all of it is
taken back by two.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import Browser, Page, expect
from tests.conftest import Sides
from tests.service.campus import read_shell
from tools.world.actors import CommandLine
from tools.world.chromium import come_in, fits, new_page, violations
from tools.world.world import World

from vennpair.client import VennPair

expect.set_options(timeout=60_000)
LIVE_MS = 240_000  # a machine in a slow phase takes three times as long


def looked_at(page: Page) -> None:
    for width in (400, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        assert violations(page) == []
        assert fits(page)


def test_three_sections_are_live_within_a_dozen_clicks(
    world: World,
    chrome: Browser,
    venn: VennPair,
    cli: CommandLine,
    new_sides: Callable[[str], Sides],
) -> None:
    sides = [new_sides(f"HYD 210-C{number}") for number in (1, 2, 3)]
    list(venn.courses(sides[0].label, refresh=True))
    before = [read_shell(world, each.context_id) for each in sides]
    page = new_page(chrome)
    come_in(page, world, sides[0].context_id)
    clicks: list[str] = []

    def click(role: str, name: str) -> None:
        clicks.append(name)
        page.get_by_role(role, name=name, exact=True).first.click()  # type: ignore[arg-type]

    expect(page.get_by_role("heading", name="Set up", exact=True)).to_be_visible()
    row = page.get_by_role("listitem").filter(has_text=sides[1].label)
    expect(row.get_by_role("checkbox")).to_be_checked()
    # Other tests of this world leave shells unpaired; the page ticks what fits.
    ticked = page.get_by_role("checkbox", checked=True).all_inner_texts()
    for each in {each.strip() for each in ticked}:
        if not each.startswith(tuple(side.label for side in sides)):
            page.get_by_role("checkbox", name=each, exact=True).click()
    looked_at(page)
    click("button", "I agree: pair 3 sections")
    expect(page.get_by_role("heading", name="What will happen")).to_be_visible()
    looked_at(page)
    clicks.append("Place them with a column")
    page.get_by_text("Place them with a column").click()
    expect(page.get_by_text("32 links with 32 columns")).to_have_count(3)
    expect(page.get_by_text("96 new links in all")).to_be_visible()
    click("button", "Set up 3 sections")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    looked_at(page)
    expect(
        page.get_by_text("3 sections are live: 96 links placed, 96 opened as a learner")
    ).to_be_visible(timeout=LIVE_MS)
    words = re.compile("32 links placed; 32 links opened as a test learner")
    expect(page.get_by_text(words)).to_have_count(3)
    looked_at(page)
    assert len(clicks) <= 12
    by_page = [read_shell(world, each.context_id) for each in sides]
    assert [len(each["columns"]) for each in by_page] == [32] * 3
    page.get_by_role("button", name="Undo all of it").click()
    page.get_by_role("button", name="Undo all of it").last.click()
    expect(page.get_by_text("Everything was undone.")).to_be_visible(timeout=LIVE_MS)
    assert [read_shell(world, each.context_id) for each in sides] == before
    page.context.close()
    label = sides[0].label
    assert cli("set-up", label, "--agree", "--undated", "column").status == 0
    assert read_shell(world, sides[0].context_id) == by_page[0], "page and command do the same"
