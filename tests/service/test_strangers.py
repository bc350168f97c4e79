"""Tenancy: every address of the API as nobody and as a stranger of another institution."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.browser import Browser
from tools.world.world import PASSWORD, World

from tests.conftest import Sides
from vennpair.client import NotAllowed, VennPair


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-STR")[1]


@pytest.fixture(scope="module")
def stranger(world: World) -> str:
    with VennPair(world.url("vennpair")) as client:
        return client.sign_in(world.second_college(), PASSWORD)["token"]


def test_a_stranger_s_lists_are_empty_and_nothing_can_be_paired(
    world: World, pairing: str, stranger: str, venn: VennPair
) -> None:
    shell = next(each for each in venn.shells() if each["pairing"] == pairing)
    with VennPair(world.url("vennpair"), stranger) as client:
        assert list(client.shells()) == []
        assert client.courses() == []
        answer = httpx.post(
            f"{world.url('vennpair')}/api/v1/pairings",
            json={"shell": shell["id"], "course": str(uuid.uuid4())},
            headers={"Authorization": f"Bearer {stranger}"},
        )
    assert answer.status_code == 404


def test_an_assistant_may_look_and_compare_but_change_nothing(
    world: World, pairing: str, venn: VennPair
) -> None:
    assistant = "tobias.quell@tarnfield.example"
    shell = next(each for each in venn.shells() if each["pairing"] == pairing)
    context_id = at_service.shell_field(world, "context_id", pk=shell["id"])
    teacher = Browser()
    teacher.sign_in(world.url("campus"), assistant)
    teacher.open_link(world.url("campus"), context_id)
    world.manage("vennpair", "set_password", assistant, "--password", "rivers-and-groundwater")
    with VennPair(world.url("vennpair")) as client:
        token = client.sign_in(assistant, "rivers-and-groundwater")["token"]
    with VennPair(world.url("vennpair"), token) as client:
        assert client.pairing(pairing)["may_change"] is False
        assert client.wait(client.compare(pairing)["job"])["state"] == "done"
        items = [item["id"] for item in client.items(pairing, kind="graded")][:1]
        attempts: list[Callable[[], Any]] = [
            lambda: client.change_pairing(pairing, relay_on=True),
            lambda: client.start_import(pairing),
            lambda: client.deploy(pairing, items),
            lambda: client.send_again(pairing),
        ]
        for attempt in attempts:
            with pytest.raises(NotAllowed):
                attempt()
