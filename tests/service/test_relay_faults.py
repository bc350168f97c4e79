"""Kills, restarts, two workers, new keys, a platform that is down: after each, every cell is right
and the ledger says why.
"""

from __future__ import annotations

import json
import random
import signal
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.browser import Browser
from tools.world.hold import until
from tools.world.world import World

from tests.service.strict_grades import StrictGradebook, StrictReporter
from vennpair.client import VennPair

pytestmark = pytest.mark.timed

LEARNERS, ITEMS = 20, 4


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
    made = at_service.lay_live_pairing(
        world, platform.url, platform.course, "HYD 210-SHAKEN", tool.name, platform.columns
    )
    yield platform, tool, made
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
    seconds: float = 200,
) -> None:
    """Wait until all is accepted; every cell is the publisher's counting score, and its story ends
    with that.
    """

    def counts() -> dict[str, Any]:
        return dict(venn.relay(made["pairing"])["counts"])

    until(lambda: counts() == {"accepted": LEARNERS * ITEMS}, counts, seconds)
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


def until_more_calls(platform: StrictGradebook, more: int, sender: threading.Thread) -> None:
    """Wait until the gradebook was called so often again, or all was reported."""
    begun = platform.calls
    until(
        lambda: platform.calls >= begun + more or not sender.is_alive(),
        lambda: f"{more} calls after {begun}: {platform.calls}",
    )


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
    random.Random(3).shuffle(tenfold)
    sender = threading.Thread(target=tool.send, args=(tenfold,))
    sender.start()
    world.start_worker("second")
    try:
        for turn in range(6):
            until_more_calls(platform, 10, sender)
            victim = ("worker", "vennpair", "second")[turn % 3]
            world.end(victim, signal.SIGKILL)
            if victim == "vennpair":
                world.start_site("vennpair")
            else:
                world.start_worker(victim)
        with world.without_database("immediate"):
            pass
    finally:
        world.start_site("vennpair")
        world.start_worker()  # where the power cut ended it, as whoever supervises it would
        sender.join(timeout=400)
        world.end("second")
    check(venn, platform, tool, made)
    assert venn.relay(made["pairing"])["received"] == len(tenfold) // 10


PLACES = ("/api/v1/me", "/lti/jwks")
STRANGER = {"Authorization": f"Bearer vnp_{'0' * 60}"}


def test_a_restarted_database_is_nobody_s_error_page(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    pairing = sides[2]["pairing"]

    def ask(_: int) -> tuple[str, int]:
        return str(venn.pairing(pairing)["state"]), Browser().get(f"{world.url('campus')}/").status

    with ThreadPoolExecutor(6) as threads:  # so that every connection in store is an old one
        before = set(threads.map(ask, range(30)))
        with world.without_database("immediate"):
            away = [
                httpx.get(f"{world.url('vennpair')}{path}", headers=STRANGER, timeout=20)
                for path in PLACES
            ]
            assert [each.status_code for each in away] == [503] * len(PLACES)
            assert {each.headers.get("Retry-After") for each in away} == {"2"}
            assert away[0].json()["code"] == "database_away"
            world.end("worker")
            world.start_worker()  # waits for it
        world.start_worker()
        assert set(threads.map(ask, range(60))) == before == {("live", 200)}


def test_a_publisher_that_is_out_of_use_reports_nothing(
    world: World, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    address = next(iter(addresses(world, platform, made).values()))[0]
    with world.administrator() as admin, httpx.Client(timeout=30) as client:
        ours = next(row for row in admin.publishers() if row["name"] == tool.name)
        headers = {"Authorization": f"Bearer {tool._access(client)}"}
        assert client.get(f"{address}/results", headers=headers).status_code == 200
        admin.change_publisher(ours["id"], active=False)
        try:
            assert client.get(f"{address}/results", headers=headers).status_code == 401
            tool._token_value = ""
            with pytest.raises(httpx.HTTPStatusError):
                tool._access(client)
        finally:
            admin.change_publisher(ours["id"], active=True)


def test_new_keys_and_spent_tokens_in_the_middle_of_a_batch(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
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
        until_more_calls(platform, 15, sender)
        platform.tokens.clear()
    world.manage("vennpair", "rotate_keys")
    platform.tokens.clear()
    sender.join(timeout=300)
    check(venn, platform, tool, made)


def test_a_platform_that_is_down_for_an_hour_gets_all_soon_after(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    platform.down = True
    tool.send(
        tool.reports(addresses(world, platform, made), list(made["learners"].values()), seed=11)
    )

    def pause() -> str:
        return str(venn.relay(made["pairing"])["pause"])

    until(lambda: "has not answered since" in pause(), pause)
    told = at_service.let_an_hour_pass(world, made["pairing"])
    assert told == (2, 0), "the instructor and the administrator, once"
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
    check(venn, platform, tool, made, seconds=300)
    assert venn.relay(made["pairing"])["pause"] == ""


def test_pausing_is_heard_and_loses_nothing(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    columns, learners = addresses(world, platform, made), list(made["learners"].values())
    first, second = (tool.reports(columns, learners, seed=seed) for seed in (12, 13))

    def relay() -> dict[str, Any]:
        return dict(venn.relay(made["pairing"]))

    sender = threading.Thread(target=tool.send, args=(first,))
    sender.start()
    until_more_calls(platform, 20, sender)
    venn.change_pairing(made["pairing"], relay_on=False)
    until(lambda: not relay()["counts"].get("sending"), relay)  # what was in the air has landed
    sender.join(timeout=300)
    until(lambda: not relay()["counts"].get("sending"), relay)
    before = platform.calls
    tool.send(second)
    until(lambda: relay()["held"].get("off"), relay)
    assert platform.calls == before
    assert relay()["verdict"]["act"] == "on"
    venn.change_pairing(made["pairing"], relay_on=True)
    check(venn, platform, tool, made)
