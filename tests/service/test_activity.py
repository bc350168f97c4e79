"""The audit trail: who did what, in order, without anybody's scores.

And what a worker leaves behind.
"""

from __future__ import annotations

from collections.abc import Callable

import httpx
from tools.world import at_service
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import VennPair


def test_each_step_of_a_pairing_is_recorded_with_its_actor(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    _, pairing = new_pairing("HYD 210-ACT")
    items = [item["id"] for item in venn.items(pairing, kind="graded")][:1]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    venn.change_pairing(pairing, relay_on=True)
    venn.change_pairing(pairing, state="paused")
    venn.change_pairing(pairing, state="live")
    address = f"{world.url('vennpair')}/api/v1/pairings/{pairing}/activity"
    events = httpx.get(address, headers=dict(venn._http.headers)).json()["results"]
    verbs = [event["verb"] for event in reversed(events)]
    assert verbs == [
        "pairing.made",
        "import.started",
        "import.done",
        "rollout.started",
        "pairing.live",
        "rollout.done",
        "relay.on",
        "pairing.paused",
        "pairing.live",
    ]
    assert {event["actor"] for event in events} == {"Maren Holt", "Venn Pair"}
    assert events[0]["before"] == {"state": "paused"}
    assert httpx.request("DELETE", address, headers=dict(venn._http.headers)).status_code == 405


def test_what_is_spent_is_purged_and_what_is_in_force_stays(world: World, venn: VennPair) -> None:
    assert at_service.age_a_launch(world) == (False, True)
    assert venn.me()["name"] == "Maren Holt"
