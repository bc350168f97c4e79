"""Several placed links changed at once: hidden, shown, renamed, moved, put into a category."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from tools.world.actors import CommandLine
from tools.world.world import World

from tests.conftest import Sides
from tests.service.campus import read_shell
from vennpair.client import VennPair

TWO = ("Practice set 1A", "Practice set 1B")


def links(world: World, sides: Sides) -> list[dict[str, Any]]:
    rows = read_shell(world, sides.context_id)["links"]
    return [each for each in rows if each["kind"] == "lti_link"]


def test_placed_links_take_what_is_said_outright_and_nothing_else(
    world: World, cli: CommandLine, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-CHG")
    graded = [each for each in venn.items(pairing, kind="graded") if each["due_at"]][:4]
    venn.wait(venn.deploy(pairing, [each["id"] for each in graded])[0]["job"])
    before = links(world, sides)

    def change(*words: str) -> Any:
        made = cli.json("deploy", sides.label, *TWO, *words)
        assert made["shells"][0]["change"] == 2, made["shells"][0]["rows"]
        assert made["rollouts"][0]["job"]["state"] == "done"
        return links(world, sides)

    hidden = change("--update", "--hidden")
    assert [each["visible"] for each in hidden] == [False, False, True, True]
    updated = cli.json("deploy", sides.label, *TWO, "--update")
    assert updated["shells"][0]["change"] == 0, "an update alone shows nothing that was hidden"
    assert change("--update", "--visible") == before
    later = change("--update", "--shown-from", "2027-01-12T08:00")
    assert [bool(each["shown_from"]) for each in later] == [True, True, False, False]
    assert change("--update", "--shown-before", "7") != later

    renamed = change("--update", "--title", "{number}. {title}")
    assert [each["title"] for each in renamed[:2]] == [
        f"{number}. {title}" for number, title in enumerate(TWO, start=1)
    ]
    moved = change("--move", "--folder", "Looked over")
    folders = [each["folder"] for each in moved]
    assert sorted(folders) == ["", "", "Looked over", "Looked over"]
    change("--update", "--category", "Practice at home")
    columns = read_shell(world, sides.context_id)["columns"]
    assert [each["category"] for each in columns].count("Practice at home") == 2
    refused = cli("deploy", sides.label, *TWO, "--update", "--visible", "--hidden")
    assert refused.status == 2


def test_one_item_goes_into_a_folder_of_its_own(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-CHF")
    graded = [each for each in venn.items(pairing, kind="graded") if each["due_at"]][:3]
    items = [each["id"] for each in graded]
    wishes = {items[1]: {"folder": "Second thoughts"}}
    venn.wait(venn.deploy(pairing, items, folder="Homework", wishes=wishes)[0]["job"])
    assert {each["title"]: each["folder"] for each in links(world, sides)} == {
        graded[0]["shown_title"]: "Homework",
        graded[1]["shown_title"]: "Second thoughts",
        graded[2]["shown_title"]: "Homework",
    }


def test_whoever_began_it_is_told_once_when_all_has_ended(
    venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    (one, lead), (other, second) = new_pairing("HYD 210-NT1"), new_pairing("HYD 210-NT2")
    graded = [each["id"] for each in venn.items(lead, kind="graded") if each["due_at"]][:2]
    made = venn.deploy(lead, graded, sections=[{"pairing": second}])
    for each in made:
        venn.wait(each["job"])
    told = [each["sentence"] for each in venn.notices() if one.label in each["sentence"]]
    assert told[0].startswith(f"{one.label}: 2 items placed and read back")
    assert f"{other.label}: 2 items placed and read back" in told[0]
    assert told[0].endswith("Turn the relay on, so that scores go to the gradebook.")
    assert [each for each in told if "items placed" in each] == told[:1]
    assert told[1].startswith(f"{one.label}: content was read: ")


def test_readiness_does_not_ask_again_what_was_decided(
    venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    _, pairing = new_pairing("HYD 210-DEC")

    def undated() -> str:
        return {each["code"]: each["state"] for each in venn.readiness(pairing)}["undated"]

    assert undated() == "warn"
    open_ = [each["id"] for each in venn.items(pairing, kind="graded") if not each["due_at"]]
    venn.wait(venn.deploy(pairing, open_, undated="link")[0]["job"])
    assert undated() == "ok"


def test_one_command_for_several_shells_goes_on_where_one_refuses(
    cli: CommandLine, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    (one, first), (other, _) = new_pairing("HYD 210-SV1"), new_pairing("HYD 210-SV2")
    item = next(each["id"] for each in venn.items(first, kind="graded") if each["due_at"])
    venn.wait(venn.deploy(first, [item])[0]["job"])
    ran = cli("relay", "on", one.label, "--also", other.label, "--also", one.label)
    assert ran.out.count(one.label) >= 1
    assert venn.pairing(first)["relay_on"]
    both = cli("learner-view", other.label, "--also", one.label, "--format", "json")
    refused, opened = both.json["shells"]
    assert (refused["shell"], refused["exit"], refused["error"]["code"]) == (
        other.label,
        6,
        "nothing_to_do",
    )
    assert opened["exit"] == 0
    assert opened["result"]["rows"][0]["opens"] == "yes"
    assert both.status == 6
    compared = cli.json("reconcile", one.label, "--also", other.label)
    assert [each["shell"] for each in compared["shells"]] == [one.label, other.label]
    nightly = cli.json("schedule", one.label, "--nightly", "--also", other.label)
    assert all(each["result"]["nightly"] for each in nightly["shells"])
    assert cli("reconcile", one.label, "--also", other.label, "--report", "x.csv").status == 2


def test_bringing_in_and_deploying_give_the_same_links_and_columns(
    world: World, cli: CommandLine, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    (one, brought), (other, deployed) = new_pairing("HYD 210-BR1"), new_pairing("HYD 210-BR2")
    content = next(iter(venn.imports(brought)))["id"]
    venn.wait(venn.deliver(brought, content, everything=True, folder="Course")["job"])
    graded = [each["id"] for each in venn.items(deployed, kind="graded") if each["due_at"]]
    venn.wait(venn.deploy(deployed, graded)[0]["job"])
    columns = [read_shell(world, side.context_id)["columns"] for side in (one, other)]
    assert columns[0] == columns[1]
    assert len({each["category"] for each in columns[0]}) > 1
    titles = [each["title"] for each in columns[0]]

    def facts(side: Sides) -> list[tuple[str, str, bool]]:
        rows = [each for each in links(world, side) if each["title"] in titles]
        return sorted((each["title"], each["due"], each["visible"]) for each in rows)

    assert facts(one) == facts(other)
    named = cli("deploy", other.label, "--unit", "Unit 1", "--dry-run")
    assert "left out, as content is brought in and not placed as a link" in named.err
