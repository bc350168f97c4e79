"""Rollouts into a shell whose platform refuses, asks for patience, loses answers, or offers
less.
"""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from tools.world import at_press, at_service
from tools.world.actors import CommandLine
from tools.world.world import World

from tests.conftest import Sides
from tests.service.campus import read_shell
from tests.service.faulty import FaultyCampus
from vennpair.client import Refusal, VennPair


@pytest.fixture
def faulty(world: World) -> Iterator[FaultyCampus]:
    campus = FaultyCampus(world.url("campus"))
    yield campus
    campus.close()


@pytest.fixture
def behind(
    world: World,
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    faulty: FaultyCampus,
) -> Callable[[str], tuple[Sides, str, list[str]]]:
    """Make a pairing whose shell is reached through the faulty campus.

    Return it with twelve dated items.
    """

    def make(label: str) -> tuple[Sides, str, list[str]]:
        sides, pairing = new_pairing(label)
        at_service.reach_through(world, sides.context_id, world.url("campus"), faulty.url)
        return (
            sides,
            pairing,
            [item["id"] for item in venn.items(pairing, kind="graded") if item["due_at"]][:12],
        )

    return make


def test_patience_errors_and_lost_answers_end_as_planned(
    world: World,
    venn: VennPair,
    behind: Callable[[str], tuple[Sides, str, list[str]]],
    faulty: FaultyCampus,
) -> None:
    sides, pairing, items = behind("HYD 210-BUSY")
    plan = venn.plan(pairing, items, into="unit")[0]
    turns: Counter[str] = Counter()
    lock = threading.Lock()

    def trouble(
        method: str, path: str, body: dict[str, Any]
    ) -> tuple[int, dict[str, str], dict[str, Any]] | str | None:
        name = str(body.get("title") or body.get("label") or "")
        if method not in {"POST", "PUT"} or path.endswith("learner-view"):
            return None
        with lock:
            turns[f"{path.rsplit('/', 1)[-1]} {name}"] += 1
            turn, number = turns[f"{path.rsplit('/', 1)[-1]} {name}"], sum(turns.values())
        if turn > 1:
            return None
        return {
            0: (429, {"Retry-After": "1"}, {"detail": "Too many at once."}),
            1: (500, {}, {"detail": "Something broke."}),
            2: "lose",
        }.get(number % 4)

    faulty.fault = trouble
    rollout = venn.deploy(pairing, items, into="unit")[0]
    assert "12 items placed and read back" in venn.wait(rollout["job"], seconds=180)["message"]
    found = read_shell(world, sides.context_id)
    links = [each for each in found["links"] if each["kind"] == "lti_link"]
    assert [(each["title"], each["folder"]) for each in links] == [
        (row["target"]["title"], row["folder_title"]) for row in plan["rows"]
    ]
    assert [(each["title"], each["link"], each["category"]) for each in found["columns"]] == [
        (row["target"]["title"], row["target"]["title"], row["target"]["category"])
        for row in plan["rows"]
    ]


def test_what_is_refused_is_named_and_only_that_is_done_again(
    world: World,
    venn: VennPair,
    cli: CommandLine,
    behind: Callable[[str], tuple[Sides, str, list[str]]],
    faulty: FaultyCampus,
) -> None:
    sides, pairing, items = behind("HYD 210-REFU")
    faulty.fault = lambda method, path, body: (
        (400, {}, {"detail": "No column may be called so."})
        if body.get("label") == "Unit 1 quiz"
        else (
            (403, {}, {"detail": "Not here."})
            if body.get("title") == "Unit 2: Flow and channels"
            else None
        )
    )
    rollout = venn.deploy(pairing, items, into="unit")[0]
    assert "not done: see the steps" in venn.wait(rollout["job"])["message"]
    failed = {
        (step["kind"], step["title"]): step["message"]
        for step in venn.rollout(pairing, rollout["id"])["steps"]
        if step["state"] == "failed"
    }
    assert "No column may be called so." in failed["column", "Unit 1 quiz"]
    assert ("folder", "Unit 2: Flow and channels") in failed
    assert ("link", "Practice set 2A") in failed
    faulty.fault = lambda method, path, body: None
    faulty.writes.clear()
    half = next(
        row
        for row in venn.plan(pairing, items, into="unit")[0]["rows"]
        if row["target"]["title"] == "Unit 1 quiz"
    )
    assert (half["action"], [each["field"] for each in half["differences"]]) == (
        "change",
        ["points"],
    )
    again = cli("rollouts", "retry", sides.label)
    assert (again.status, "placed and read back" in again.out) == (0, True)
    assert faulty.writes["POST Practice set 1A"] == 0
    found = read_shell(world, sides.context_id)
    assert (
        len(found["columns"])
        == len([each for each in found["links"] if each["kind"] == "lti_link"])
        == 12
    )


def test_a_platform_that_orders_no_gradebook_gets_its_columns_in_order(
    world: World,
    venn: VennPair,
    behind: Callable[[str], tuple[Sides, str, list[str]]],
    faulty: FaultyCampus,
) -> None:
    sides, pairing, items = behind("HYD 210-LESS")
    faulty.wait = 0.02
    faulty.offers = []
    faulty.fault = lambda method, path, body: (
        (404, {}, {"detail": "Not offered."})
        if "gradebook" in path or "categories" in path
        else None
    )
    travels = {row["what"]: row for row in venn.travels(pairing)["rows"]}
    assert (
        travels["category"]["travels"],
        travels["order"]["travels"],
        bool(travels["order"]["by_hand"]),
    ) == ("no", "once", True)
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    found = read_shell(world, sides.context_id)
    assert [each["title"] for each in found["columns"]] == [
        each["title"] for each in found["links"] if each["kind"] == "lti_link"
    ]
    assert {each["category"] for each in found["columns"]} == {""}


def test_a_withdrawn_item_and_a_changed_one_are_met_before_anything_happens(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-WITH")
    items = {item["title"]: item["id"] for item in venn.items(pairing, kind="graded")}
    odd = {"points": "0.1", "title": "<b>‏اختبار 🌊</b> " + "x" * 100}
    at_press.delete_item(world, sides.course, "Practice set 1A")
    at_press.change_item(world, sides.course, "Practice set 1B", **odd)
    venn.refresh_catalogue(pairing)
    with pytest.raises(Refusal) as gone:
        venn.deploy(pairing, [items["Practice set 1A"]])
    assert gone.value.code == "unknown_item"
    venn.wait(
        venn.deploy(
            pairing,
            [items["Practice set 1B"]],
            wishes={items["Practice set 1B"]: {"title": "y" * 300}},
        )[0]["job"]
    )
    column = read_shell(world, sides.context_id)["columns"][0]
    assert (column["points"], len(column["title"])) == ("0.1", 255)
    venn.wait(
        venn.deploy(pairing, [items["Practice set 1B"]], update=True, pattern="{title}")[0]["job"]
    )
    assert read_shell(world, sides.context_id)["columns"][0]["title"].startswith("<b>‏اختبار 🌊</b>")


def test_what_was_left_half_done_is_completed_by_deploying_again_and_an_old_retry_doubles_nothing(
    world: World,
    venn: VennPair,
    behind: Callable[[str], tuple[Sides, str, list[str]]],
    faulty: FaultyCampus,
) -> None:
    sides, pairing, items = behind("HYD 210-HALF")
    faulty.fault = lambda method, path, body: (
        (400, {}, {"detail": "No column."})
        if body.get("label") == "Unit 1 quiz"
        else (400, {}, {"detail": "No link."})
        if body.get("title") == "Practice set 1B"
        else None
    )
    first = venn.deploy(pairing, items[:3], folder="Homework")[0]
    venn.wait(first["job"])
    faulty.fault = lambda method, path, body: None
    assert (
        "2 items placed and read back"
        in venn.wait(venn.deploy(pairing, items[:3], folder="Homework")[0]["job"])["message"]
    )
    whole = read_shell(world, sides.context_id)
    assert sorted(each["title"] for each in whole["columns"]) == [
        "Practice set 1A",
        "Practice set 1B",
        "Unit 1 quiz",
    ]
    with pytest.raises(Refusal) as nothing:
        venn.retry_operation(first["job"]["id"])
    assert nothing.value.code == "nothing_to_do"
    assert venn.rollout(pairing, first["id"])["failed"] == 0
    assert read_shell(world, sides.context_id) == whole
