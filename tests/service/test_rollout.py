"""Rollouts: exactly what was planned, once, whatever is killed or stopped meanwhile."""

from __future__ import annotations

import signal
import threading
import time
from collections.abc import Callable

import pytest
from tools.house.shop import CommandLine
from tools.house.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair

COUNT = (
    "from vennpair.standins.campus.models import *; s=Shell.objects.get(context_id='{}');"
    " print(s.nodes.filter(kind='lti_link').count(), s.columns.count(),"
    " s.nodes.filter(kind='folder', title='Homework').count())"
)


def standing(world: World, sides: Sides) -> tuple[int, int, int]:
    """Return how many links, columns and folders 'Homework' the campus really has."""
    words = world.manage(
        "campus", "shell", "-v", "0", "-c", COUNT.format(sides.context_id)
    ).split()[-3:]
    return int(words[0]), int(words[1]), int(words[2])


def dated(venn: VennPair, pairing: str, count: int = 30) -> list[str]:
    return [item["id"] for item in venn.items(pairing, kind="graded") if item["due_date"]][:count]


def test_killing_the_worker_again_and_again_leaves_exactly_what_was_planned(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-KILL")
    rollout = venn.deploy(pairing, dated(venn, pairing), folder="Homework")[0]
    total = rollout["job"]["total"]
    assert total == 61
    for share in (0.1, 0.4, 0.7):
        while venn.job(rollout["job"]["id"])["done"] < share * total:
            time.sleep(0.02)
        world.end("worker", signal.SIGKILL)
        assert venn.job(rollout["job"]["id"])["done"] < total
        world.start_worker()
    assert "30 items placed and read back" in venn.wait(rollout["job"], seconds=90)["message"]
    assert standing(world, sides) == (30, 30, 1)
    placed = list(venn.items(pairing, placed="true"))
    assert len(placed) == 30
    assert all(item["column"] for item in placed)
    order = (
        "from vennpair.standins.campus.models import *;"
        " print('|'.join(Node.objects.filter(shell__context_id='{}',"
        " kind='lti_link').order_by('position').values_list('title', flat=True)))"
    )
    titles = (
        world.manage("campus", "shell", "-v", "0", "-c", order.format(sides.context_id))
        .strip()
        .splitlines()[-1]
        .split("|")
    )
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
    rollout = venn.deploy(pairing, dated(venn, pairing, 12), folder="Homework")[0]
    while venn.job(rollout["job"]["id"])["done"] < 5:
        time.sleep(0.02)
    world.end("campus", signal.SIGKILL)
    try:
        while (job := venn.job(rollout["job"]["id"]))["state"] != "waiting":
            time.sleep(0.1)
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
    assert standing(world, sides) == (0, 0, 0)
    linked = cli.json("deploy", sides.label, "Essay outline", "--undated", "link")
    assert linked["rollouts"][0]["job"]["state"] == "done"
    assert standing(world, sides) == (1, 0, 0)


def test_a_folder_s_title_that_two_folders_have_is_asked_back(
    venn: VennPair, world: World, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-FOLD")
    make = (
        "from vennpair.standins.campus.models import *; s=Shell.objects.get(context_id='{}');"
        " [Node.objects.create(shell=s, kind='folder', title='Twin') for _ in 'ab']"
    )
    world.manage("campus", "shell", "-v", "0", "-c", make.format(sides.context_id))
    with pytest.raises(Refusal) as caught:
        venn.plan(pairing, dated(venn, pairing, 1), folder="Twin")
    assert caught.value.code == "folder_ambiguous"
