"""What was placed, by command: listed, shown with its steps, put in order, taken back and undone;
and what is said of the whole afterwards.
"""

from __future__ import annotations

import csv
import json
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tests.conftest import Sides
from tests.service.campus import read_shell
from tools.world.actors import CommandLine, sign_in
from tools.world.world import ADMINISTRATOR, INSTRUCTOR, World

THREE = ("Practice set 1A", "Practice set 1B", "Practice set 2A")


@pytest.fixture(scope="module")
def sides(new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    return new_pairing("HYD 210-PLACED")[0]


@pytest.fixture(scope="module")
def deployed(cli: CommandLine, sides: Sides) -> dict[str, Any]:
    """The rollout that placed three items."""
    made = cli.json("deploy", sides.label, *THREE, "--folder", "Homework", "--undated", "column")
    rollout: dict[str, Any] = made["rollouts"][0]
    return rollout


def refused(cli: CommandLine, status: int, *words: str) -> str:
    """Return the code of an error that is told to scripts and to people, each alone on stderr."""
    for_people = cli(*words)
    assert for_people.err.startswith("vennpair: ")
    assert for_people.out == ""
    ran = cli(*words, "--format", "json")
    assert (ran.status, for_people.status, ran.out) == (status, status, "")
    return str(json.loads(ran.err)["error"]["code"])


def titles(world: World, sides: Sides) -> list[str]:
    return [row["title"] for row in read_shell(world, sides.context_id)["links"]]


def test_what_stands_is_listed_for_people_and_for_scripts(
    cli: CommandLine, sides: Sides, deployed: dict[str, Any]
) -> None:
    rows = cli.json("placements", sides.label)
    assert [row["title"] for row in rows] == list(THREE)
    assert {(row["state"], row["folder"]) for row in rows} == {("placed", "Homework")}
    said = cli("placements", sides.label)
    assert said.status == 0
    for title in THREE:
        assert re.search(rf"{title}.*placed.*Homework.*shown", said.out)
    (listed,) = cli.json("rollouts", "list", sides.label)
    assert (listed["id"], listed["job"]["state"], listed["undone"]) == (
        deployed["id"],
        "done",
        False,
    )
    shown = cli("rollouts", "show", sides.label, deployed["id"][:6])
    assert shown.status == 0
    assert shown.out.count("done") >= len(THREE)
    assert [each["id"] for each in cli.json("operations", "list", sides.label, "--limit", "1")]


def test_another_order_is_shown_first_and_then_made_in_folder_and_gradebook(
    world: World, cli: CommandLine, sides: Sides, deployed: dict[str, Any]
) -> None:
    before = read_shell(world, sides.context_id)
    words = ("reorder", sides.label, "--entry", THREE[2], "--after", "start")
    plan = cli.json(*words, "--dry-run")
    assert plan["dry_run"]
    (folder,) = plan["plan"]["folders"]
    assert folder["then"][0] == THREE[2]
    assert "Nothing was changed." in cli(*words, "--dry-run").out
    assert read_shell(world, sides.context_id) == before
    assert cli(*words, "--folder", "Homework").status == 0
    assert [each for each in titles(world, sides) if each in THREE] == [THREE[2], *THREE[:2]]
    back = cli("reorder", sides.label, "--by", "publisher")
    assert back.status == 0
    assert [each for each in titles(world, sides) if each in THREE] == list(THREE)
    assert "in this order already" in cli("reorder", sides.label).out


def test_what_is_not_there_is_said_with_where_to_look(
    cli: CommandLine, sides: Sides, deployed: dict[str, Any]
) -> None:
    assert refused(cli, 6, "rollouts", "show", sides.label, "ffffffff") == "rollout_unknown"
    assert refused(cli, 6, "operations", "show", "ffffffff") == "operation_unknown"
    nowhere = cli("take-back", sides.label, "Practice set 9Z", "--dry-run")
    assert nowhere.status == 6
    assert "vennpair placements" in nowhere.err
    assert cli("reorder", sides.label, "--entry", "Practice set 9Z").status == 6


def test_taking_back_and_undoing_say_first_what_goes(
    world: World, cli: CommandLine, sides: Sides, deployed: dict[str, Any]
) -> None:
    before = read_shell(world, sides.context_id)
    plan = cli.json("take-back", sides.label, THREE[0], THREE[0], "--dry-run")
    assert [row["title"] for row in plan["rows"]] == [THREE[0]], "named twice, taken once"
    would = cli("rollouts", "undo", sides.label, deployed["id"], "--dry-run")
    assert (would.status, "Nothing was changed." in would.out) == (0, True)
    assert read_shell(world, sides.context_id) == before
    taken = cli("take-back", sides.label, THREE[0])
    assert taken.status == 0, taken.err
    assert THREE[0] not in titles(world, sides)
    rows = cli.json("rollouts", "undo", sides.label, deployed["id"])["rows"]
    assert {row["title"] for row in rows if not row["why"]} >= set(THREE[1:])
    assert not set(THREE) & set(titles(world, sides))
    assert read_shell(world, sides.context_id)["columns"] == []
    states = {row["id"]: row["undone"] for row in cli.json("rollouts", "list", sides.label)}
    assert states[deployed["id"]]
    assert "No link of this pairing is in the shell yet." in cli("placements", sides.label).out


def test_what_is_open_decides_how_a_command_ends(
    cli: CommandLine, sides: Sides, deployed: dict[str, Any]
) -> None:
    said = cli.json("ready", sides.label)
    ran = cli("ready", sides.label)
    assert ran.status == (0 if said["ready"] else 1)
    assert ran.out.startswith(said["sentence"])
    found = cli.json("today")
    urgent = any(need["level"] == "urgent" for need in found["needs"])
    assert cli("today").status == (1 if urgent else 0)
    hit = cli.json("search", "210-PLACED")
    assert hit[0]["kind"] == "shell"
    assert "Nothing matches." in cli("search", "no such thing anywhere").out


def test_the_trail_is_shown_in_part_saved_whole_and_only_to_administrators(
    world: World, cli: CommandLine, deployed: dict[str, Any], tmp_path: Path
) -> None:
    admin = CommandLine(world, "auditor.json")
    assert sign_in(world, admin, ADMINISTRATOR).status == 0
    rows = admin.json("audit", "--verb", "rollout", "--who", INSTRUCTOR, "--limit", "2")
    assert 0 < len(rows) <= 2
    assert all(row["verb"].startswith("rollout") for row in rows)
    moments = [row["at"] for row in rows]
    assert moments == sorted(moments, reverse=True)
    assert rows[0]["sentence"][:30] in admin("audit", "--verb", "rollout", "--limit", "1").out
    assert "Nothing was done that fits." in admin("audit", "--since", "2999-01-01").out
    assert refused(admin, 2, "audit", "--since", "yesterday") == "bad_time"
    saved = tmp_path / "trail.csv"
    assert admin.json("audit", "--verb", "rollout", "--csv", str(saved)) == {"file": str(saved)}
    with saved.open(newline="") as file:
        assert len(list(csv.DictReader(file))) >= len(rows)
    assert refused(cli, 5, "audit") in {"not_allowed", "forbidden"}
