"""The tool opened by a learner, and an item looked at before it is placed."""

from __future__ import annotations

from collections.abc import Callable

from tools.world import at_campus
from tools.world.actors import hand_in
from tools.world.browser import Browser
from tools.world.differences import until_scores
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from vennpair.client import VennPair
from vennpair.standins.tarnfield import section


def test_a_learner_finds_their_own_links_dates_and_scores_and_nothing_of_others(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-OWN")
    one, other = section(2)[:2]
    campus = world.url("campus")
    learner = Browser()
    learner.sign_in(campus, one.email)
    shell = learner.get(f"{campus}/shells/{sides.context_id}")
    assert not shell.tree.xpath("//form[@id='open-tool']"), "the tool is the instructor's so far"
    key = next(each["id"] for each in venn.shells() if each["label"] == sides.label)
    changed = venn.change_shell_tool(key, on=True, navigation=True, audience="everyone")
    assert changed["job"] is not None
    venn.wait(changed["job"])

    page = learner.open_link(campus, sides.context_id)
    assert page.status == 200, page.words
    assert "Your instructor has placed no homework here yet." in page.words
    graded = [each for each in venn.items(pairing, kind="graded") if each["due_at"]][:3]
    venn.wait(venn.deploy(pairing, [each["id"] for each in graded])[0]["job"])
    hidden = graded[2]
    wishes = {"update": True, "applies": ["visible"], "visible": False}
    venn.wait(venn.deploy(pairing, [hidden["id"]], **wishes)[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    for whom, right in ((one, 4), (other, 1)):
        hand_in(world, whom.email, sides.context_id, graded[0]["shown_title"], right)
    until_scores(venn, pairing, accepted=2)

    page = learner.open_link(campus, sides.context_id)
    rows = {
        row.xpath("string(td[1])"): [" ".join(cell.text_content().split()) for cell in row[1:]]
        for row in page.tree.xpath("//tbody/tr")
    }
    assert rows == {
        graded[0]["shown_title"]: ["Jan 19, 2027 at 11:59 PM", "8 of 10"],
        graded[1]["shown_title"]: ["Jan 21, 2027 at 11:59 PM", "–"],
    }
    assert "2 of 10" not in page.words
    assert hidden["shown_title"] not in page.words
    links = page.tree.xpath("//tbody//a/@href")
    opened = learner.get(f"{world.url('vennpair')}{links[0]}")
    assert opened.status == 200, (opened.url, opened.words[:300])
    assert graded[0]["title"] in opened.words
    assert opened.url.startswith(world.url("press"))

    stranger = Browser()
    assert stranger.get(f"{world.url('vennpair')}{links[0]}").status == 400
    secret = at_campus.outline(world, sides.context_id)
    assert any(row["title"] == hidden["shown_title"] for row in secret)
    placed = {each["title"]: each["id"] for each in venn.placements(pairing)}
    forbidden = learner.get(f"{world.url('vennpair')}/lti/work/{placed[hidden['shown_title']]}")
    assert "Code not_placed" in forbidden.words


def test_an_item_is_looked_at_before_it_is_placed(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-LOOK")
    item = next(iter(venn.items(pairing, kind="graded")))
    address = f"{world.url('vennpair')}/lti/platform/items/{item['id']}"
    assert Browser().get(address).status == 400
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    teacher.open_link(world.url("campus"), sides.context_id)
    page = teacher.get(address)
    assert (page.status, page.url.startswith(world.url("press"))) == (200, True), page.words
    assert item["title"] in page.words
    assert next(iter(venn.items(pairing, kind="graded")))["placed"] == "no"
    learner = Browser()
    learner.sign_in(world.url("campus"), section(2)[0].email)
    assert learner.get(address).status == 400
