"""Rollouts: exactly what was planned, once, whatever is killed or stopped meanwhile."""

from __future__ import annotations

import signal
import threading
from collections.abc import Callable
from typing import Any

import pytest
from tools.world import at_campus
from tools.world.actors import CommandLine
from tools.world.hold import hold, until_job
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair

pytestmark = pytest.mark.timed


def standing(world: World, sides: Sides) -> tuple[int, int, int]:
    """Return how many links, columns and folders 'Homework' the campus really has."""
    rows = at_campus.outline(world, sides.context_id)
    columns = at_campus.columns(world, sides.context_id)
    return len(links(rows)), len(columns), sum(row["title"] == "Homework" for row in rows)


def links(rows: list[dict[str, Any]]) -> list[str]:
    """Return the titles of an outline's links."""
    return [row["title"] for row in rows if row["kind"] == "lti_link"]


def dated(venn: VennPair, pairing: str, count: int = 30) -> list[str]:
    return [item["id"] for item in venn.items(pairing, kind="graded") if item["due_at"]][:count]


def test_killing_the_worker_again_and_again_leaves_exactly_what_was_planned(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-KILL")
    world.end("worker")
    rollout = venn.deploy(pairing, dated(venn, pairing), folder="Homework")[0]
    total = rollout["job"]["total"]
    assert total == 61
    kills = (("/entries$", 5, "drop"), ("/entries$", 8, "before"), ("/lineitems$", 4, "after"))
    for path, after, moment in kills:
        with hold(world, "campus", "POST", path, after=after, hold=moment) as held:
            world.start_worker()
            held.wait()
            world.end("worker", signal.SIGKILL)
        assert venn.job(rollout["job"]["id"])["done"] < total
    world.start_worker()
    assert "30 items placed and read back" in venn.wait(rollout["job"], seconds=90)["message"]
    assert standing(world, sides) == (30, 30, 1)
    placed = list(venn.items(pairing, placed="true"))
    assert len(placed) == 30
    assert all(item["column"] for item in placed)
    titles = links(at_campus.outline(world, sides.context_id))
    assert titles == [item["shown_title"] for item in placed]


def test_two_clicks_at_once_place_everything_once(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-TWO")
    items = dated(venn, pairing, 6)
    outcomes: list[str] = []

    def click() -> None:
        try:
            outcomes.append(
                venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])["state"]
            )
        except Refusal as error:
            outcomes.append(error.code)

    clicks = [threading.Thread(target=click) for _ in range(3)]
    for each in clicks:
        each.start()
    for each in clicks:
        each.join()
    assert outcomes.count("done") == 1
    assert set(outcomes) <= {"done", "rollout_running", "nothing_to_do"}
    assert standing(world, sides) == (6, 6, 1)


def test_a_platform_that_stops_midway_is_waited_for(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-STOP")
    with hold(world, "campus", "POST", "/entries$", after=5) as held:
        rollout = venn.deploy(pairing, dated(venn, pairing, 12), folder="Homework")[0]
        held.wait()
        world.end("campus", signal.SIGKILL)
    try:
        job = until_job(venn, rollout["job"]["id"], "waiting")
        assert "Tarnfield Campus did not answer" in job["message"]
        assert "tried again" in job["remedy"]
    finally:
        world.start_site("campus")
    venn.wait(rollout["job"], seconds=60)
    assert standing(world, sides) == (12, 12, 1)


def test_the_command_line_shows_first_what_it_will_change(
    world: World, cli: CommandLine, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, _ = new_pairing("HYD 210-DRY")
    shown = cli(
        "deploy", sides.label, "--all-graded", "--folder", "week 1: where rivers begin", "--dry-run"
    )
    assert shown.status == 0
    assert f"{sides.label}: 31 new links, 31 with a new column." in shown.out
    assert "no due date" in shown.out
    assert "Nothing was changed." in shown.out
    scattered = cli("deploy", sides.label, "--all-graded", "--dry-run")
    assert "31 links would be at the top of the outline." in scattered.out
    assert standing(world, sides) == (0, 0, 0)
    linked = cli.json("deploy", sides.label, "Essay outline", "--undated", "link")
    assert linked["rollouts"][0]["job"]["state"] == "done"
    assert standing(world, sides) == (1, 0, 0)


def test_a_folder_s_title_that_two_folders_have_is_asked_back(
    venn: VennPair, world: World, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-FOLD")
    for _ in range(2):
        at_campus.add_entry(world, sides.context_id, "folder", "Twin")
    with pytest.raises(Refusal) as caught:
        venn.plan(pairing, dated(venn, pairing, 1), folder="Twin")
    assert caught.value.code == "folder_ambiguous"
