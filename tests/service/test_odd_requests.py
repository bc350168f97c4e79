"""Requests that no program of ours sends: each is refused in words, none ends in an error
of ours.
"""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable, Iterator
from typing import Any

import httpx
import pytest
from tools.world.asked import operations, schema
from tools.world.world import INSTRUCTOR, PASSWORD, World

from tests.conftest import Sides
from vennpair.client import VennPair

SCHEMA = schema()
ROUTES = [(method.lower(), path) for method, path in operations()]
ODD_WORDS = ["x", "", "-1", "9" * 30, "\x00", "\U0001f600", '{"a":1}', "0001-01-01T00:00:00+14:00"]
ODD_VALUES: list[Any] = [
    None,
    "\x00",
    -1,
    10**30,
    [],
    {},
    [None],
    {"a": [{}]},
    "\u202eabc" * 300,
    "9999-12-31T23:59:59-12:00",
    str(uuid.UUID(int=1)),
]
WRITES = [
    (method, path)
    for method, path in ROUTES
    if method in {"post", "patch", "put"} and path.startswith("/api/v1/pairings/{")
]


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-ODD")[1]


@pytest.fixture(scope="module")
def asking(world: World) -> Iterator[httpx.Client]:
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with httpx.Client(
        base_url=world.url("vennpair"), headers={"Authorization": f"Bearer {token}"}, timeout=60
    ) as client:
        yield client


def filled(path: str, pairing: str, other: str = "") -> str:
    """Return a path of this pairing, with one id for everything else."""
    of_pairing = path.replace("{pairing_pk}", pairing).replace(
        "/pairings/{id}", f"/pairings/{pairing}"
    )
    return re.sub(r"\{\w+\}", other or str(uuid.UUID(int=1)), of_pairing)


def properties(shape: Any) -> list[str]:
    """Return the names of a body's fields."""
    while "$ref" in shape:
        shape = SCHEMA["components"]["schemas"][shape["$ref"].rsplit("/", 1)[-1]]
    return list(shape.get("properties", {}))


def test_odd_queries_and_ids_are_refused_in_words(asking: httpx.Client, pairing: str) -> None:
    broken = []
    for method, path in ROUTES:
        if method != "get":
            continue
        named = [
            each["name"]
            for each in SCHEMA["paths"][path]["get"].get("parameters", [])
            if each["in"] == "query"
        ]
        tried = [(filled(path, pairing), {name: word}) for name in named for word in ODD_WORDS]
        tried += [
            (filled(path, pairing, odd), {})
            for odd in ("x", "%00", "9" * 30, "%F0%9F%98%80")
            if "{" in path
        ]
        for address, query in tried:
            answer = asking.get(address, params=query)
            if answer.status_code >= 500 or (
                answer.status_code >= 400
                and "html" in answer.headers["content-type"]
                and address.isascii()
            ):
                broken.append((answer.status_code, address, query))
    assert broken == []


@pytest.mark.parametrize(
    ("path", "known"),
    [
        ("shells?state=live", "cursor, limit"),
        ("pairings/{pairing}/items?kinds=graded", "kind"),
        ("pairings/{pairing}?full=yes", "none"),
        ("pairings/{pairing}/relay/chart?hour=3", "hours"),
    ],
)
def test_a_parameter_that_nothing_reads_is_refused(
    asking: httpx.Client, pairing: str, path: str, known: str
) -> None:
    answer = asking.get(f"/api/v1/{path.format(pairing=pairing)}")
    assert answer.status_code == 400, answer.text
    problem = answer.json()
    assert problem["code"] == "unknown_parameter"
    assert known in problem["remedy"]


@pytest.mark.parametrize(("method", "path"), WRITES)
def test_odd_bodies_are_refused_in_words(
    asking: httpx.Client, pairing: str, method: str, path: str
) -> None:
    body = (
        SCHEMA["paths"][path][method]
        .get("requestBody", {})
        .get("content", {})
        .get("application/json", {})
        .get("schema", {})
    )
    bodies: list[Any] = [[], "x", 7, None] + [
        {name: value} for name in properties(body) for value in ODD_VALUES
    ]
    for each in bodies:
        answer = asking.request(method, filled(path, pairing), json=each)
        assert answer.status_code < 500 or answer.status_code in {502, 503}, (each, answer.text)
        if answer.status_code >= 400:
            assert {"code", "detail", "remedy"} <= set(answer.json()), (each, answer.text)


LAUNCHES = {
    "/lti/login": {
        "iss": "http://127.0.0.1:9",
        "login_hint": "x",
        "target_link_uri": "/lti/launch",
        "client_id": "c",
        "lti_message_hint": "x",
    },
    "/lti/launch": {"state": "s", "id_token": "t"},
    "/lti/register": {"openid_configuration": "http://127.0.0.1:9/c", "registration_token": "t"},
    "/lti/platform/register": {},
    "/lti/platform/account": {"JWT": "t", "nonce": "n"},
    "/lti/platform/picked": {"JWT": "t", "id": "n"},
    "/lti/platform/authorize": {
        "client_id": "c",
        "redirect_uri": "http://127.0.0.1:9",
        "login_hint": "x",
        "lti_message_hint": "x",
        "nonce": "n",
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
    },
    "/lti/platform/token": {
        "grant_type": "client_credentials",
        "client_assertion_type": "urn:ietf:params:oauth:client-assertion-type:jwt-bearer",
        "client_assertion": "x.y.z",
        "scope": "s",
    },
    "/lti/platform/outcomes": {"oauth_nonce": "n"},
}


@pytest.mark.parametrize("path", LAUNCHES)
def test_odd_launches_are_refused_and_never_an_error_of_ours(world: World, path: str) -> None:
    words = [*ODD_WORDS, "eyJhbGciOiJub25lIn0.e30.", "http://[bad/", "a" * 5_000]
    forms = [LAUNCHES[path] | {name: word} for name in LAUNCHES[path] for word in words] + [
        LAUNCHES[path],
        {},
    ]
    bodies = [
        (content, kind)
        for content in (b"", b"\xff\xfe", b"{}", b"[1]", b"<a/>", b"\x00")
        for kind in (
            "application/json",
            "application/xml",
            "multipart/form-data; boundary=x",
            "text/plain; charset=nonsense",
        )
    ]
    with httpx.Client(base_url=world.url("vennpair"), timeout=60) as client:
        answers = [client.post(path, data=form) for form in forms] + [
            client.get(path, params=form) for form in forms
        ]
        answers += [
            client.post(
                path, content=content, headers={"Content-Type": kind, "Authorization": "Bearer x"}
            )
            for content, kind in bodies
        ]
    assert [answer.text for answer in answers if answer.status_code >= 500] == []
