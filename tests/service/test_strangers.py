"""Tenancy: every address of the API as nobody and as a stranger of another institution."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable
from typing import Any

import httpx
import pytest
import yaml
from tools.house.chromium import chromium, come_in, new_page
from tools.house.cluster import ROOT
from tools.house.world import World

from tests.conftest import Sides
from vennpair.client import NotAllowed, VennPair

SCHEMA = yaml.safe_load((ROOT / "docs" / "openapi.yaml").read_text())
OPEN = {"/api/v1/health", "/api/v1/sign-in", "/api/v1/schema"}
ROUTES = [
    (method, path)
    for path, methods in SCHEMA["paths"].items()
    for method in methods
    if method in {"get", "post", "patch", "put", "delete"}
]


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-STR")[1]


@pytest.fixture(scope="module")
def stranger(world: World) -> str:
    world.manage(
        "vennpair",
        "install",
        "--institution",
        "Other College",
        "--admin",
        "stranger@other.example",
        "--password",
        "a-long-password",
    )
    with VennPair(world.url("vennpair")) as client:
        return client.sign_in("stranger@other.example", "a-long-password")["token"]


def _address(world: World, path: str, pairing: str) -> str:
    filled = path.replace("{pairing_pk}", pairing).replace("/pairings/{id}", f"/pairings/{pairing}")
    filled = filled.replace("{number}", "0")
    filled = re.sub(r"(matches|people|notes)/\{id\}", r"\1/999999", filled)
    return world.url("vennpair") + re.sub(r"\{\w+\}", str(uuid.uuid4()), filled)


@pytest.mark.parametrize(("method", "path"), ROUTES)
def test_nobody_gets_in(world: World, pairing: str, method: str, path: str) -> None:
    if path in OPEN:
        return
    answer = httpx.request(method, _address(world, path, pairing), json={})
    assert answer.status_code == 401
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["code"] == "not_signed_in"


@pytest.mark.parametrize(("method", "path"), [route for route in ROUTES if "{" in route[1]])
def test_a_stranger_sees_nothing_of_another_institution(
    world: World, pairing: str, stranger: str, method: str, path: str
) -> None:
    answer = httpx.request(
        method,
        _address(world, path, pairing),
        json={},
        headers={"Authorization": f"Bearer {stranger}"},
    )
    assert answer.status_code == 404
    assert answer.json()["code"] == "not_found"


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
    context_id = (
        world.manage(
            "vennpair",
            "shell",
            "-v",
            "0",
            "-c",
            "from vennpair.service.pair.models import Shell;"
            f" print(Shell.objects.get(pk='{shell['id']}').context_id)",
        )
        .strip()
        .splitlines()[-1]
    )
    with chromium() as browser:
        come_in(new_page(browser), world, context_id, assistant)
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
