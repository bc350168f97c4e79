"""Kills, restarts, two workers, new keys, a platform that is down: after each, every cell is right
and the ledger says why.
"""

from __future__ import annotations

import json
import random
import signal
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from typing import Any

import httpx
import pytest
from tools.house.browser import Browser
from tools.house.cluster import start_cluster, stop_cluster
from tools.house.world import World

from tests.service.strict_grades import StrictGradebook, StrictReporter
from tests.service.test_strict_exchange import FILL
from vennpair.client import VennPair

LEARNERS, ITEMS = 30, 5


@pytest.fixture(scope="module")
def sides(world: World) -> Iterator[tuple[StrictGradebook, StrictReporter, dict[str, Any]]]:
    platform, tool = (
        StrictGradebook(LEARNERS, ITEMS, trouble=10**9),
        StrictReporter("Shaken Reports"),
    )
    platform.course = "course-78"
    with world.administrator() as admin:
        link = admin.invite_platform("Shaken Gradebook")["link"]
        page = httpx.get(
            link,
            params={
                "openid_configuration": f"{platform.url}/.well-known/openid-configuration",
                "registration_token": platform.token,
            },
            timeout=30,
        )
        assert page.status_code == 200, page.text
        assert (
            httpx.get(admin.invite_publisher(f"{tool.url}/start")["open"], timeout=30).status_code
            == 200
        )
    fill = (
        FILL.replace("course-77", "course-78")
        .replace("Strict Reports", tool.name)
        .replace("HYD 210-STRICT", "HYD 210-SHAKEN")
        .replace("c-strict", "c-shaken")
    )
    told = world.manage(
        "vennpair",
        "shell",
        "-v",
        "0",
        "-c",
        fill.format(url=platform.url, columns=json.dumps(platform.columns)),
    )
    yield platform, tool, json.loads(told.rpartition("MADE")[2])
    platform.close()
    tool.close()


def addresses(
    world: World, platform: StrictGradebook, made: dict[str, Any]
) -> dict[str, tuple[str, float]]:
    base = f"{world.url('vennpair')}/lti/platform/pairings/{made['pairing']}/lineitems"
    return {
        column: (f"{base}/{placement}", platform.columns[column])
        for column, placement in made["placements"].items()
    }


def check(
    venn: VennPair,
    platform: StrictGradebook,
    tool: StrictReporter,
    made: dict[str, Any],
    seconds: float = 120,
) -> None:
    """Wait until all is accepted; every cell is the publisher's counting score, and its story ends
    with that.
    """
    deadline = time.monotonic() + seconds
    while True:
        try:
            counts = venn.relay(made["pairing"])["counts"]
        except Exception as error:
            counts = {"error": str(error)}
        if counts == {"accepted": LEARNERS * ITEMS}:
            break
        assert time.monotonic() < deadline, (counts, venn.relay(made["pairing"])["verdict"])
        time.sleep(0.5)
    users = {pk: subject for subject, pk in made["learners"].items()}
    wanted = {
        (column, users[user]): Fraction(str(given)) / Fraction(str(points))
        for (column, user), (_, given, points) in tool.counting.items()
    }
    assert {key: share for key, (_, share) in platform.cells.items()} == wanted
    assert (platform.complaints, tool.complaints) == ([], [])
    for line in list(venn.scores(made["pairing"]))[:: LEARNERS // 4]:
        story = venn.score(made["pairing"], line["id"])
        newest = max(story["ledger"], key=lambda each: each["timestamp"])
        accepted = [each for each in story["passages"] if each["what"] == "accepted"]
        assert accepted[-1]["given"] == newest["given"] == line["sent"]
        assert accepted[-1]["entry"] in {each["id"] for each in story["ledger"]}


def test_each_report_ten_times_in_random_order_while_everything_is_killed(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    reports = tool.reports(
        addresses(world, platform, made), list(made["learners"].values()), seed=9
    )
    tenfold = [
        each
        for each in {json.dumps(each, sort_keys=True): each for each in reports}.values()
        for _ in range(10)
    ]
    chance = random.Random(3)
    chance.shuffle(tenfold)
    sender = threading.Thread(target=tool.send, args=(tenfold,))
    sender.start()
    world.start_worker("second")
    try:
        for turn in range(6):
            time.sleep(chance.uniform(0.3, 1.5))
            victim = ("worker", "vennpair", "second")[turn % 3]
            world.end(victim, signal.SIGKILL)
            if victim == "vennpair":
                world.start_site("vennpair")
            else:
                world.start_worker(victim)
        stop_cluster("immediate")
        time.sleep(0.5)
        start_cluster()
        time.sleep(2)
    finally:
        start_cluster()
        world.start_site("vennpair")
        world.start_worker()  # where the power cut ended it, as whoever supervises it would
        sender.join(timeout=240)
        world.end("second")
    check(venn, platform, tool, made)
    assert venn.relay(made["pairing"])["received"] == len(tenfold) // 10


def test_a_restarted_database_is_nobody_s_error_page(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    pairing = sides[2]["pairing"]

    def ask(_: int) -> tuple[str, int]:
        return str(venn.pairing(pairing)["state"]), Browser().get(f"{world.url('campus')}/").status

    with ThreadPoolExecutor(6) as threads:  # so that every connection in store is an old one
        before = set(threads.map(ask, range(30)))
        stop_cluster("immediate")
        start_cluster()
        world.start_worker()
        assert set(threads.map(ask, range(60))) == before == {("live", 200)}


def test_new_keys_and_spent_tokens_in_the_middle_of_a_batch(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    with world.administrator() as admin:
        sender = threading.Thread(
            target=tool.send,
            args=(
                tool.reports(
                    addresses(world, platform, made), list(made["learners"].values()), seed=10
                ),
            ),
        )
        sender.start()
        for _ in range(3):
            time.sleep(0.7)
            platform.tokens.clear()
        admin.rotate_keys()
        platform.tokens.clear()
        sender.join(timeout=120)
    check(venn, platform, tool, made)


def test_a_platform_that_is_down_for_an_hour_gets_all_soon_after(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    platform.down = True
    tool.send(
        tool.reports(addresses(world, platform, made), list(made["learners"].values()), seed=11)
    )
    deadline = time.monotonic() + 30
    while "has not answered since" not in venn.relay(made["pairing"])["pause"]:
        assert time.monotonic() < deadline, venn.relay(made["pairing"])
        time.sleep(0.3)
    hour = (
        "from django.db.models import F; from datetime import timedelta as d; from django.utils"
        " import timezone as t; from vennpair.service.relay.models import *; from"
        " vennpair.service.relay.actions.raise_alarms import raise_alarms; "
    )
    hour += (
        f"c=Cell.objects.filter(pairing='{made['pairing']}');"
        " c.update(since=F('since')-d(minutes=61),"
        " failing_since=F('failing_since')-d(minutes=61));"
        " PlatformPace.objects.exclude(down_since=None).update(down_since=F('down_since')-d(minutes=61));"
        " print('TOLD', raise_alarms(t.now()), raise_alarms(t.now()))"
    )
    assert world.manage("vennpair", "shell", "-v", "0", "-c", hour).split()[-2:] == [
        "2",
        "0",
    ], "the instructor and the administrator, once"
    relay = venn.relay(made["pairing"])
    assert (relay["verdict"]["level"], "61 minutes" in relay["verdict"]["sentence"]) == (
        "trouble",
        True,
    )
    with world.administrator() as admin:
        health = next(
            each for each in admin.platforms_health() if each["name"] == "Shaken Gradebook"
        )
        assert (health["open"], health["at_once"], health["waiting"] > 0) == (False, 1, True)
    platform.down = False
    check(venn, platform, tool, made, seconds=150)
    assert venn.relay(made["pairing"])["pause"] == ""


def test_pausing_is_heard_within_a_second_and_loses_nothing(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    reports = [
        each
        for seed in (12, 13, 14)
        for each in tool.reports(
            addresses(world, platform, made), list(made["learners"].values()), seed=seed
        )
    ]
    sender, begun = threading.Thread(target=tool.send, args=(reports,)), platform.calls
    sender.start()
    while platform.calls < begun + 20:  # it is being sent, and most is still to come
        assert sender.is_alive()
        time.sleep(0.01)
    venn.change_pairing(made["pairing"], relay_on=False)
    time.sleep(1)
    before = platform.calls
    assert sender.is_alive(), "more comes while it is off"
    sender.join(timeout=120)
    deadline = time.monotonic() + 30
    while not venn.relay(made["pairing"])["held"].get("off"):
        assert time.monotonic() < deadline
        time.sleep(0.3)
    assert platform.calls == before
    assert venn.relay(made["pairing"])["verdict"]["act"] == "on"
    venn.change_pairing(made["pairing"], relay_on=True)
    check(venn, platform, tool, made)
