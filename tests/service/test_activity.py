"""The audit trail: who did what, in order, without anybody's scores.

And what a worker leaves behind.
"""

from __future__ import annotations

from collections.abc import Callable

import httpx
from tools.house.world import World

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
    age = (
        "from datetime import timedelta; from django.utils import timezone; from"
        " vennpair.service.lti.models import *; from vennpair.service.connect.models import *; from"
        " vennpair.service.ops.actions.purge import purge; p=Platform.objects.first();"
        " a=LaunchState.objects.create(platform=p); b=LaunchState.objects.create(platform=p);"
        " LaunchState.objects.filter(pk=a.pk).update(made=timezone.now()-timedelta(days=2));"
        " purge(); print(LaunchState.objects.filter(pk=a.pk).exists(),"
        " LaunchState.objects.filter(pk=b.pk).exists())"
    )
    assert world.manage("vennpair", "shell", "-v", "0", "-c", age).split()[-2:] == ["False", "True"]
    assert venn.me()["name"] == "Maren Holt"
