"""The audit trail: who did what, in order, without anybody's scores.

And what a worker leaves behind.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import httpx
from tools.world import at_service
from tools.world.actors import CommandLine
from tools.world.world import ADMINISTRATOR, World

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


def test_the_trail_is_a_chain_that_shows_what_was_changed_in_it_and_can_be_taken_away(
    world: World, cli: CommandLine, tmp_path: Path
) -> None:
    with world.administrator() as admin:
        admin.invite_platform("A platform to be")
        assert at_service.seal_everything(world) is None
        shown = list(admin.audit(verb="invitation", who=ADMINISTRATOR))
        assert shown[0]["who"] == ADMINISTRATOR
        assert len(shown[0]["seal"]) == 64
        admin.save_audit(tmp_path / "audit.csv", verb="invitation")
    lines = (tmp_path / "audit.csv").read_text(encoding="utf-8-sig").splitlines()
    assert lines[0] == "number,at,who,verb,sentence,seal"
    assert shown[0]["seal"] in lines[-1]
    assert cli("audit").status == 5, "an instructor does not administer"
    number = shown[0]["number"]
    assert number is not None
    assert at_service.forge_event(world, number) == (number, "an event is not what was sealed")
    assert at_service.seal_everything(world) is None, "and it was put right again"
