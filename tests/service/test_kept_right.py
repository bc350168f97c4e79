"""After a rollout: each drift found, explained and mended; links seen as a learner; taking back.

The average column.
"""

from __future__ import annotations

import signal
import time
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from tools.house.changes import change, change_press
from tools.house.shop import CommandLine, hand_in
from tools.house.world import World

from tests.conftest import Sides
from tests.service.campus import read_shell
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

WHO = section(2)[0]
TITLES = ["Practice set 1A", "Practice set 1B", "Unit 1 quiz", "Practice set 2A"]
SHELL_SIDE = {
    "title": "link('{}').update(title='Else')",
    "visible": "link('{}').update(visible=False)",
    "shown_from": "link('{}').update(shown_from='2027-01-20T08:00:00-06:00')",
    "due_at": "link('{}').update(due_at='2027-01-20T08:00:00-06:00')",
    "folder": "link('{}').update(parent=None)",
    "audience": "link('{}').update(audience='instructor')",
    "new_window": "link('{}').update(new_window=True)",
    "leads_elsewhere": "link('{}').update(custom={{'placement': 'x'}})",
    "link_gone": "link('{}').delete()",
    "points": "column('{}').update(maximum=25)",
    "column_title": "column('{}').update(label='Else')",
    "column_due": "column('{}').update(end='2027-01-20T08:00:00-06:00')",
    "category": "column('{}').update(category=None)",
    "column_gone": "column('{}').delete()",
}
PRESS_SIDE = {
    "item_title": "item('{}').update(title='Renamed at the press')",
    "item_points": "item('{}').update(points=Decimal(30))",
    "item_due": (
        "from datetime import timedelta\nfor each in item('{}'): each.due += timedelta(days=2);"
        " each.save()"
    ),
    "item_category": "item('{}').update(category='Projects')",
    "item_gone": "item('{}').delete()",
}


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
        if item["due_date"] and item["title"] != "Field sketch"
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
    change(
        world,
        sides.context_id,
        "\n".join(
            code.format(title) for title, code in zip(titles, SHELL_SIDE.values(), strict=False)
        ),
    )
    found = look(venn, pairing)
    wanted = {
        ({"audience": "visible"}.get(kind, kind), title)
        for title, kind in zip(titles, SHELL_SIDE, strict=False)
    }
    assert {(each["kind"], each["title"]) for each in found} == wanted
    assert all(each["side"] == "shell" and each["who"] and each["breaks"] for each in found)
    mend(venn, pairing, found)
    assert read_shell(world, sides.context_id) == before


@pytest.mark.parametrize(
    ("kind", "code"),
    [
        (
            "order",
            (
                "for place, node in"
                " enumerate(s.nodes.filter(kind='lti_link').order_by('-position')):"
                " s.nodes.filter(pk=node.pk).update(position=place)"
            ),
        ),
        ("folder_hidden", "s.nodes.filter(title='Homework').update(visible=False)"),
        (
            "column_order",
            (
                "for place, column in enumerate(s.columns.order_by('-position')):"
                " s.columns.filter(pk=column.pk).update(position=place)"
            ),
        ),
    ],
)
def test_what_is_not_one_link_s_is_found_once_and_put_back(
    world: World, venn: VennPair, made: tuple[Sides, str], kind: str, code: str
) -> None:
    sides, pairing = made
    before = read_shell(world, sides.context_id)
    change(world, sides.context_id, code)
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
    change_press(
        world,
        sides.course,
        "\n".join(code.format(titles[kind]) for kind, code in PRESS_SIDE.items()),
    )
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
    change(
        world,
        sides.context_id,
        "column('Practice set 1B').update(maximum=25, label='Else')\nlink('Practice set"
        " 1A').update(visible=False)\nlink('Unit 1 quiz').delete()\ncolumn('Practice set"
        " 2A').delete()",
    )
    change_press(world, sides.course, "item('Practice set 1A').update(points=Decimal(30))")
    before = read_shell(world, sides.context_id)
    shown = cli("drift", sides.label)
    assert shown.status == 1
    assert "25 points" in shown.out
    assert "True scores stop" in shown.out
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
    change(world, sides.context_id, "column('Practice set 1B').update(maximum=25)")
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
    roster = world.manage(
        "campus",
        "shell",
        "-v",
        "0",
        "-c",
        "from vennpair.standins.campus.models import *;"
        f" print(Cell.objects.filter(column__shell__context_id='{sides.context_id}').exclude(score=None).count())",
    )
    assert roster.split()[-1] == "0"  # the test scores were taken back
    change(
        world,
        sides.context_id,
        "one, two = link('Practice set 1A').get(), link('Practice set 1B').get()\nlink('Practice"
        " set 1A').update(resource_link_id=two.resource_link_id)\nlink('Practice set"
        " 1B').update(resource_link_id=one.resource_link_id)",
    )
    wrong = rows(venn, pairing)
    assert [wrong[title]["findings"][0]["code"] for title in TITLES[:2]] == [
        "wrong_item",
        "wrong_item",
    ]
    mended = venn.mend(pairing, look(venn, pairing), "follow")
    assert mended is not None
    venn.wait(mended["job"])
    assert rows(venn, pairing)["Practice set 1A"]["opens"] == "yes"
    change_press(
        world,
        sides.course,
        "item('Unit 1 quiz').update(title='Something else')\nitem('Practice set"
        " 2A').update(title='Practice set 2B')\n",
    )
    assert rows(venn, pairing)["Practice set 2A"]["findings"][0]["code"] == "wrong_item"
    change_press(world, sides.course, "item('Something else').update(title='Unit 1 quiz')")
    change(world, sides.context_id, "s.nodes.filter(title='Homework').update(visible=False)")
    hidden = rows(venn, pairing)
    assert {row["findings"][0]["code"] for row in hidden.values()} == {"hidden"}
    assert "Homework" in hidden["Unit 1 quiz"]["findings"][0]["message"]
    change(world, sides.context_id, "s.nodes.filter(title='Homework').update(visible=True)")
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
    while venn.relay(pairing)["counts"].get("accepted") != 2:
        time.sleep(0.1)
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
    cell = world.manage(
        "campus",
        "shell",
        "-v",
        "0",
        "-c",
        "from vennpair.standins.campus.models import *;"
        f" print(Cell.objects.get(column__shell__context_id='{sides.context_id}',"
        f" column__label='Homework average', person__email='{WHO.email}').score)",
    )
    assert cell.split()[-1].startswith("40")
