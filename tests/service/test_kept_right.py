"""After a rollout: each drift found, explained and mended; links seen as a learner; taking back.

The average column.
"""

from __future__ import annotations

import signal
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine, hand_in
from tools.world.differences import until_scores
from tools.world.world import World

from tests.conftest import Sides
from tests.service.campus import read_shell
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

WHO = section(2)[0]
TITLES = ["Practice set 1A", "Practice set 1B", "Unit 1 quiz", "Practice set 2A"]
MOMENT = "2027-01-20T08:00:00-06:00"
LINK_SIDE: dict[str, dict[str, Any]] = {
    "title": {"title": "Else"},
    "visible": {"visible": False},
    "shown_from": {"shown_from": MOMENT},
    "due_at": {"due_at": MOMENT},
    "folder": {"parent": None},
    "audience": {"audience": "instructor"},
    "new_window": {"new_window": True},
    "leads_elsewhere": {"custom": {"placement": "x"}},
}
COLUMN_SIDE: dict[str, dict[str, Any]] = {
    "points": {"maximum": 25},
    "column_title": {"label": "Else"},
    "column_due": {"end": MOMENT},
    "category": {"category": ""},
}
SHELL_SIDE = (*LINK_SIDE, *COLUMN_SIDE, "link_gone", "column_gone")
PRESS_SIDE: dict[str, dict[str, Any]] = {
    "item_title": {"title": "Renamed at the press"},
    "item_points": {"points": 30},
    "item_category": {"category": "Projects"},
    "item_due": {},
    "item_gone": {},
}


def change_shell(world: World, context_id: str, kind: str, title: str) -> None:
    """Do in the shell what one kind of drift is found for."""
    if kind == "link_gone":
        at_campus.delete_entries(world, context_id, title)
    elif kind == "column_gone":
        at_campus.delete_column(world, context_id, title)
    elif kind in LINK_SIDE:
        at_campus.change_entry(world, context_id, title, **LINK_SIDE[kind])
    else:
        at_campus.change_column(world, context_id, title, **COLUMN_SIDE[kind])


def change_press(world: World, course: str, kind: str, title: str) -> None:
    """Do at the press what one kind of drift is found for."""
    if kind == "item_gone":
        at_press.delete_item(world, course, title)
    elif kind == "item_due":
        at_press.delay_item(world, course, title, days=2)
    else:
        at_press.change_item(world, course, title, **PRESS_SIDE[kind])


def look(venn: VennPair, pairing: str) -> list[Any]:
    venn.wait(venn.look_for_drift(pairing))
    return list(venn.watch(pairing)["drifts"])


def deployed(venn: VennPair, made: tuple[Sides, str]) -> tuple[Sides, str]:
    sides, pairing = made
    items = {item["title"]: item["id"] for item in venn.items(pairing, kind="graded")}
    venn.wait(
        venn.deploy(pairing, [items[title] for title in TITLES], folder="Homework", shift_days=7)[
            0
        ]["job"]
    )
    return sides, pairing


@pytest.fixture(scope="module")
def made(venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    """A pairing with every dated item placed, so that each drift has a link of its own."""
    sides, pairing = new_pairing("HYD 210-DRIFT")
    items = [
        item["id"]
        for item in venn.items(pairing, kind="graded")
        if item["due_at"] and item["title"] != "Field sketch"
    ][: len(SHELL_SIDE) + len(PRESS_SIDE)]
    venn.wait(venn.deploy(pairing, items, folder="Homework", shift_days=7)[0]["job"])
    return sides, pairing


def mend(venn: VennPair, pairing: str, found: list[Any]) -> None:
    mended = venn.mend(pairing, found, "follow")
    assert mended is not None
    venn.wait(mended["job"])
    assert look(venn, pairing) == []


def test_every_change_in_the_shell_is_found_explained_and_put_back(
    world: World, venn: VennPair, made: tuple[Sides, str]
) -> None:
    sides, pairing = made
    before = read_shell(world, sides.context_id)
    assert look(venn, pairing) == []
    titles = [each["title"] for each in venn.placements(pairing)]
    for title, kind in zip(titles, SHELL_SIDE, strict=False):
        change_shell(world, sides.context_id, kind, title)
    found = look(venn, pairing)
    wanted = {
        ({"audience": "visible"}.get(kind, kind), title)
        for title, kind in zip(titles, SHELL_SIDE, strict=False)
    }
    assert {(each["kind"], each["title"]) for each in found} == wanted
    assert all(each["side"] == "shell" and each["who"] and each["breaks"] for each in found)
    mend(venn, pairing, found)
    assert read_shell(world, sides.context_id) == before


@pytest.mark.parametrize("kind", ["order", "folder_hidden", "column_order"])
def test_what_is_not_one_link_s_is_found_once_and_put_back(
    world: World, venn: VennPair, made: tuple[Sides, str], kind: str
) -> None:
    sides, pairing = made
    before = read_shell(world, sides.context_id)
    if kind == "folder_hidden":
        at_campus.change_entry(world, sides.context_id, "Homework", visible=False)
    else:
        at_campus.turn_round(world, sides.context_id, "links" if kind == "order" else "columns")
    found = look(venn, pairing)
    assert [each["kind"] for each in found] == [kind]
    mend(venn, pairing, found)
    assert read_shell(world, sides.context_id) == before


def test_every_change_at_the_publisher_is_found_and_followed(
    world: World, venn: VennPair, made: tuple[Sides, str]
) -> None:
    sides, pairing = made
    before = {each["title"]: each for each in read_shell(world, sides.context_id)["columns"]}
    titles = dict(
        zip(
            PRESS_SIDE,
            [each["title"] for each in venn.placements(pairing)][len(SHELL_SIDE) :],
            strict=True,
        )
    )
    for kind, title in titles.items():
        change_press(world, sides.course, kind, title)
    found = look(venn, pairing)
    assert {(each["kind"], each["side"], each["title"]) for each in found} == {
        (kind, "publisher", title) for kind, title in titles.items()
    }
    mend(venn, pairing, found)
    now = read_shell(world, sides.context_id)
    columns = {each["title"]: each for each in now["columns"]}
    assert "Renamed at the press" in columns
    assert columns[titles["item_points"]]["points"] == "30"
    later = datetime.fromisoformat(columns[titles["item_due"]]["end"]) - datetime.fromisoformat(
        before[titles["item_due"]]["end"]
    )
    assert later == timedelta(days=2)  # two days later, and still the section's own seven
    assert columns[titles["item_category"]]["category"] == "Projects"
    assert titles["item_gone"] not in [each["title"] for each in now["links"]]
    assert titles["item_gone"] in columns


def test_what_the_shell_has_may_be_kept_and_is_not_asked_again(
    world: World, venn: VennPair, cli: CommandLine, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = deployed(venn, new_pairing("HYD 210-KEEP"))
    shell = sides.context_id
    at_campus.change_column(world, shell, "Practice set 1B", maximum=25, label="Else")
    at_campus.change_entry(world, shell, "Practice set 1A", visible=False)
    at_campus.delete_entries(world, shell, "Unit 1 quiz")
    at_campus.delete_column(world, shell, "Practice set 2A")
    at_press.change_item(world, sides.course, "Practice set 1A", points=30)
    before = read_shell(world, sides.context_id)
    shown = cli("changes", sides.label)
    assert shown.status == 1
    assert "25 points" in shown.out
    assert "Scores will be wrong" in shown.out
    kept = cli.json("drift", sides.label, "--last", "--keep")
    assert len(kept["drifts"]) == 6
    assert look(venn, pairing) == []
    assert read_shell(world, sides.context_id) == before
    assert {each["placed"] for each in venn.items(pairing) if each["title"] == "Unit 1 quiz"} == {
        "removed"
    }


def test_a_way_that_was_chosen_is_taken_by_itself(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = deployed(venn, new_pairing("HYD 210-WAY"))
    venn.choose_way(pairing, "follow")
    at_campus.change_column(world, sides.context_id, "Practice set 1B", maximum=25)
    venn.wait(venn.look_for_drift(pairing))
    venn.wait(next(each["job"] for each in venn.rollouts(pairing) if each["purpose"] == "mend"))
    assert {
        each["title"]: each["points"] for each in read_shell(world, sides.context_id)["columns"]
    }["Practice set 1B"] == "10"


def rows(venn: VennPair, pairing: str) -> dict[str, Any]:
    check = venn.check_as_learner(pairing)
    venn.wait(check["job"])
    return {row["title"]: row for row in venn.learner_check(pairing, check["id"])["rows"]}


def test_a_learner_s_view_finds_a_wrong_item_a_hidden_folder_and_a_dead_publisher(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = deployed(venn, new_pairing("HYD 210-VIEW"))
    good = rows(venn, pairing)
    assert {
        tuple(row[name] for name in ("opens", "visible", "date", "score")) for row in good.values()
    } == {("yes", "yes", "yes", "yes")}
    assert at_campus.scores(world, sides.context_id) == {}  # the test scores were taken back
    at_campus.swap_links(world, sides.context_id, "Practice set 1A", "Practice set 1B")
    wrong = rows(venn, pairing)
    assert [wrong[title]["findings"][0]["code"] for title in TITLES[:2]] == [
        "wrong_item",
        "wrong_item",
    ]
    mended = venn.mend(pairing, look(venn, pairing), "follow")
    assert mended is not None
    venn.wait(mended["job"])
    assert rows(venn, pairing)["Practice set 1A"]["opens"] == "yes"
    at_press.change_item(world, sides.course, "Unit 1 quiz", title="Something else")
    at_press.change_item(world, sides.course, "Practice set 2A", title="Practice set 2B")
    assert rows(venn, pairing)["Practice set 2A"]["findings"][0]["code"] == "wrong_item"
    at_press.change_item(world, sides.course, "Something else", title="Unit 1 quiz")
    at_campus.change_entry(world, sides.context_id, "Homework", visible=False)
    hidden = rows(venn, pairing)
    assert {row["findings"][0]["code"] for row in hidden.values()} == {"hidden"}
    assert "Homework" in hidden["Unit 1 quiz"]["findings"][0]["message"]
    at_campus.change_entry(world, sides.context_id, "Homework", visible=True)
    world.end("press", signal.SIGKILL)
    try:
        dead = rows(venn, pairing)
    finally:
        world.start_site("press")
    assert {row["findings"][0]["code"] for row in dead.values()} == {"stopped_publisher"}


def test_taking_back_asks_what_becomes_of_scores_and_frees_the_items(
    world: World,
    venn: VennPair,
    cli: CommandLine,
    new_pairing: Callable[[str], tuple[Sides, str]],
    tmp_path: Path,
) -> None:
    sides, pairing = deployed(venn, new_pairing("HYD 210-BACK"))
    venn.change_pairing(pairing, relay_on=True)
    hand_in(world, WHO.email, sides.context_id, "Practice set 1A", 4)
    hand_in(world, WHO.email, sides.context_id, "Practice set 1B", 4)
    until_scores(venn, pairing, accepted=2)
    with pytest.raises(Refusal) as asked:
        venn.take_back(pairing, [each["id"] for each in venn.placements(pairing)])
    assert asked.value.code == "scores_present"
    exported = cli.json(
        "take-back",
        sides.label,
        "Practice set 1A",
        "Unit 1 quiz",
        "--scores",
        "export",
        "--to",
        str(tmp_path),
    )
    assert {row["title"]: row["column"] for row in exported["rows"]} == {
        "Practice set 1A": "exported",
        "Unit 1 quiz": "removed",
    }
    text = Path(exported["saved"][0]).read_text()
    assert text.splitlines()[0] == "learner_id,learner_email,learner_name,item,score,points,at"
    assert f"{WHO.email}," in text
    assert ",Practice set 1A,8,10," in text
    cli.json("take-back", sides.label, "Practice set 1B", "--scores", "keep")
    now = read_shell(world, sides.context_id)
    assert [each["title"] for each in now["links"] if each["kind"] == "lti_link"] == [
        "Practice set 2A"
    ]
    assert sorted(each["title"] for each in now["columns"]) == [
        "Practice set 1B",
        "Practice set 2A",
    ]
    again = [each["id"] for each in venn.items(pairing) if each["title"] in TITLES[:2]]
    venn.wait(venn.deploy(pairing, again, folder="Homework")[0]["job"])
    back = read_shell(world, sides.context_id)
    assert sorted(each["title"] for each in back["columns"]) == [
        "Practice set 1A",
        "Practice set 1B",
        "Practice set 2A",
    ]
    assert {each["title"]: each["link"] for each in back["columns"]}[
        "Practice set 1B"
    ] == "Practice set 1B"


def test_an_average_is_computed_offered_and_relayed(
    world: World,
    venn: VennPair,
    cli: CommandLine,
    new_pairing: Callable[[str], tuple[Sides, str]],
    tmp_path: Path,
) -> None:
    sides, _ = deployed(venn, new_pairing("HYD 210-AVG"))
    hand_in(world, WHO.email, sides.context_id, "Practice set 1A", 4)
    done = cli.json(
        "average", sides.label, *TITLES, "--points", "50", "--to", str(tmp_path / "a.csv"), "--send"
    )
    scores = {row["learner"]: row for row in done["rows"]}
    name = f"{WHO.given} {WHO.family}"
    assert (scores[name]["score"], scores[name]["arithmetic"]) == (
        "40.00",
        ["Practice set 1A: 8 of 10", "the mean of 1 share is 80 %", "80 % of 50 points is 40"],
    )
    assert (tmp_path / "a.csv").read_text().count(",Homework average,40.00,50,") == 1
    cells = at_campus.scores(world, sides.context_id)
    assert cells[WHO.email, "Homework average"].startswith("40")
