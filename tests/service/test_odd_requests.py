"""Requests that no program of ours sends: each is refused in words, none ends in an error of ours."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable, Iterator
from typing import Any

import httpx
import pytest
from tools.house.world import INSTRUCTOR, PASSWORD, World

from tests.conftest import Sides
from tests.service.test_strangers import ROUTES, SCHEMA
from vennpair.client import VennPair

ODD_WORDS = ["x", "", "-1", "9" * 30, "\x00", "\U0001f600", '{"a":1}', "0001-01-01T00:00:00+14:00"]
ODD_VALUES: list[Any] = [None, "\x00", -1, 10**30, [], {}, [None], {"a": [{}]}, "\u202eabc" * 300, "9999-12-31T23:59:59-12:00", str(uuid.UUID(int=1))]
WRITES = [(method, path) for method, path in ROUTES if method in {"post", "patch", "put"} and path.startswith("/api/v1/pairings/{")]


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-ODD")[1]


@pytest.fixture(scope="module")
def asking(world: World) -> Iterator[httpx.Client]:
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with httpx.Client(base_url=world.url("vennpair"), headers={"Authorization": f"Bearer {token}"}, timeout=60) as client:
        yield client


def filled(path: str, pairing: str, other: str = "") -> str:
    """Return a path of this pairing, with one id for everything else."""
    of_pairing = path.replace("{pairing_pk}", pairing).replace("/pairings/{id}", f"/pairings/{pairing}")
    return re.sub(r"\{\w+\}", other or str(uuid.UUID(int=1)), of_pairing)


def properties(schema: Any) -> list[str]:
    """Return the names of a body's fields."""
    while "$ref" in schema:
        schema = SCHEMA["components"]["schemas"][schema["$ref"].rsplit("/", 1)[-1]]
    return list(schema.get("properties", {}))


def test_odd_queries_and_ids_are_refused_in_words(asking: httpx.Client, pairing: str) -> None:
    broken = []
    for method, path in ROUTES:
        if method != "get":
            continue
        named = [each["name"] for each in SCHEMA["paths"][path]["get"].get("parameters", []) if each["in"] == "query"]
        tried = [(filled(path, pairing), {name: word}) for name in named for word in ODD_WORDS]
        tried += [(filled(path, pairing, odd), {}) for odd in ("x", "%00", "9" * 30, "%F0%9F%98%80") if "{" in path]
        for address, query in tried:
            answer = asking.get(address, params=query)
            if answer.status_code >= 500 or (answer.status_code >= 400 and "html" in answer.headers["content-type"] and address.isascii()):
                broken.append((answer.status_code, address, query))
    assert broken == []


@pytest.mark.parametrize(("method", "path"), WRITES)
def test_odd_bodies_are_refused_in_words(asking: httpx.Client, pairing: str, method: str, path: str) -> None:
    body = SCHEMA["paths"][path][method].get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
    bodies: list[Any] = [[], "x", 7, None] + [{name: value} for name in properties(body) for value in ODD_VALUES]
    for each in bodies:
        answer = asking.request(method, filled(path, pairing), json=each)
        assert answer.status_code < 500 or answer.status_code in {502, 503}, (each, answer.text)
        if answer.status_code >= 400:
            assert {"code", "detail", "remedy"} <= set(answer.json()), (each, answer.text)
