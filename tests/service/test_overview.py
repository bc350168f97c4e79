"""The start page and the search: what needs somebody, and nothing of anybody else's."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from tools.world import at_campus
from tools.world.actors import CommandLine, arrive
from tools.world.asked import QUERIES
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair


def codes(venn: VennPair, shell: str) -> list[str]:
    return [need["code"] for need in venn.today()["needs"] if need["shell"] == shell]


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    return new_pairing("HYD 210-TDY")


def test_each_state_of_a_shell_says_what_to_do_next(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides], pairing: tuple[Sides, str]
) -> None:
    sides, pairing_id = pairing
    # Other tests of this world leave shells in every state; what is asked here is of these ones.
    needs = venn.today()["needs"]
    before = next((need["count"] for need in needs if need["code"] == "unpaired"), 0)
    new_sides("HYD 210-TDU")
    after = next(need for need in venn.today()["needs"] if need["code"] == "unpaired")
    assert (after["count"], after["link"]) == (before + 1, "/set-up")
    assert codes(venn, sides.label) == ["nothing_placed"]
    item = next(iter(venn.items(pairing_id, kind="graded")))["id"]
    venn.wait(venn.deploy(pairing_id, [item], folder="Homework")[0]["job"])
    assert codes(venn, sides.label) == ["relay_off"]
    venn.change_pairing(pairing_id, relay_on=True)
    assert codes(venn, sides.label) == []
    venn.change_pairing(pairing_id, state="paused")
    assert codes(venn, sides.label) == ["paused"]
    venn.change_pairing(pairing_id, state="live")
    copy = at_campus.add_shell(world, "HYD 210-TDC")
    at_campus.copy_shell(world, sides.context_id, copy["context_id"])
    arrive(world, copy["context_id"])
    found = next(need for need in venn.today()["needs"] if need["shell"] == "HYD 210-TDC")
    assert (found["code"], found["level"]) == ("shell_copied", "urgent")
    assert found["link"].endswith("/copied")


def test_days_are_fourteen_and_the_number_of_queries_does_not_grow(venn: VennPair) -> None:
    answer = venn._http.get("/today")
    assert [len(answer.json()["days"]), int(answer.headers[QUERIES]) <= 22] == [14, True]


def test_search_finds_shells_items_and_learners_and_only_ones_own(
    world: World, venn: VennPair, pairing: tuple[Sides, str]
) -> None:
    sides, pairing_id = pairing
    shell = next(each for each in venn.search(sides.label) if each["kind"] == "shell")
    assert (shell["title"], shell["link"]) == (sides.label, f"/pairings/{pairing_id}")
    placed = next(iter(venn.placements(pairing_id)))["title"]
    items = [each for each in venn.search(f"{placed} {sides.label}") if each["kind"] == "item"]
    assert sides.label in {each["detail"] for each in items}
    assert venn.search("x") == []
    with VennPair(world.url("vennpair")) as nobody, pytest.raises(Refusal) as refused:
        nobody.search(sides.label)
    assert refused.value.status == 401
    with pytest.raises(Refusal, match="no query parameter"):
        venn._get(list[object], "/search", {"words": "tarn"})


def test_the_command_says_the_same_and_exits_by_urgency(venn: VennPair, cli: CommandLine) -> None:
    urgent = any(need["level"] == "urgent" for need in venn.today()["needs"])
    said = cli("today")
    assert said.status == int(urgent)
    assert all(need["what"][:12] in said.out for need in venn.today()["needs"][:2])
    found = cli("search", "HYD", "210-TDY")
    assert (found.status, "HYD 210-TDY" in found.out) == (0, True)


def test_the_console_speaks_the_language_of_the_launch_until_somebody_chooses(
    world: World, venn: VennPair
) -> None:
    assert venn.me()["language"] == ""
    changed = venn._http.patch("/me", json={"language": "es"})
    assert (changed.status_code, changed.json()["language"]) == (200, "es")
    wrong = venn._http.patch("/me", json={"language": "not a language"})
    assert wrong.status_code == 400
    assert venn._http.patch("/me", json={"language": ""}).json()["language"] == ""
