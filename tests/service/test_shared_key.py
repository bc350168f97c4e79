"""A publisher that only has key and secret: launched by LTI 1.1, its scores taken by Basic
Outcomes.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import httpx
import pytest
from oauthlib.oauth1 import Client
from tools.world import at_press
from tools.world.actors import submit_answers
from tools.world.browser import Browser
from tools.world.differences import until_scores
from tools.world.world import PUBLISHER, World

from tests.conftest import Sides
from vennpair.client import VennPair
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.outcomes import NAMESPACE, read_outcome
from vennpair.standins.tarnfield import section

LEARNER = section(2)[0].email


@pytest.fixture(scope="module")
def keyed(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> tuple[Sides, str, dict[str, str]]:
    """A live pairing, whose publisher is then spoken to by key and secret for as long as these
    tests run.
    """
    sides, pairing = new_pairing("HYD 210-KEY")
    venn.wait(
        venn.deploy(pairing, [next(item["id"] for item in venn.items(pairing, kind="graded"))])[0][
            "job"
        ]
    )
    venn.change_pairing(pairing, relay_on=True)
    return sides, pairing, at_press.keyed_platform(world)


@pytest.fixture
def by_key(world: World, keyed: tuple[Sides, str, dict[str, str]]) -> Any:
    with world.administrator() as admin:
        publisher = next(each for each in admin.publishers() if each["name"] == PUBLISHER)
        admin.change_publisher(publisher["id"], speaks="lti11", **keyed[2])
        yield keyed
        admin.change_publisher(publisher["id"], speaks="lti13", launch_url=publisher["launch_url"])


def test_a_learner_is_launched_and_the_score_reaches_the_gradebook(
    world: World, venn: VennPair, by_key: tuple[Sides, str, dict[str, str]]
) -> None:
    sides, pairing, _ = by_key
    learner = Browser()
    learner.sign_in(world.url("campus"), LEARNER)
    page = learner.open_link(world.url("campus"), sides.context_id, "Practice set 1A")
    assert page.status == 200, page.words
    submit_answers(learner, 4)
    assert "was reported to your course" in learner.page.words
    until_scores(venn, pairing, accepted=1)
    book = learner.get(f"{world.url('campus')}/shells/{sides.context_id}/gradebook")
    assert "8" in [cell.text_content().strip() for cell in book.tree.xpath("//td")]


def envelope(result: str, score: str, operation: str = "replaceResult") -> str:
    inner = (
        f"<result><resultScore><language>en</language><textString>{score}</textString></resultScore></result>"
        if operation == "replaceResult"
        else ""
    )
    return (
        '<?xml version="1.0"?><imsx_POXEnvelopeRequest'
        f' xmlns="{NAMESPACE}"><imsx_POXHeader><imsx_POXRequestHeaderInfo><imsx_version>V1.0</imsx_version><imsx_messageIdentifier>m1</imsx_messageIdentifier>'
        f"</imsx_POXRequestHeaderInfo></imsx_POXHeader><imsx_POXBody><{operation}Request><resultRecord><sourcedGUID><sourcedId>{result}</sourcedId></sourcedGUID>{inner}</resultRecord></{operation}Request></imsx_POXBody></imsx_POXEnvelopeRequest>"
    )


def send(
    world: World, card: dict[str, str], body: str, *, secret: str = "", tamper: bool = False
) -> list[httpx.Response]:
    client = Client(card["key"], client_secret=secret or card["shared_secret"])
    url, headers, signed = client.sign(
        f"{world.url('vennpair')}/lti/platform/outcomes",
        "POST",
        body,
        {"Content-Type": "application/xml"},
    )
    return [
        httpx.post(url, content=signed.replace("0.9", "1.0") if tamper else signed, headers=headers)
        for _ in range(2)
    ]


@pytest.mark.parametrize(
    ("changes", "status", "words"),
    [
        ({"secret": "wrong"}, 401, "The signature of the message is not right"),
        ({"tamper": True}, 401, "The body is not the one that was signed"),
        ({}, 200, "This sourcedId was not given by Venn Pair"),
    ],
)
def test_outcomes_that_are_not_for_us_are_refused_in_the_standard_s_envelope(
    world: World,
    by_key: tuple[Sides, str, dict[str, str]],
    changes: dict[str, Any],
    status: int,
    words: str,
) -> None:
    first, again = send(world, by_key[2], envelope("made-up", "0.9"), **changes)
    assert (
        first.status_code,
        words in first.text,
        "<imsx_codeMajor>failure</imsx_codeMajor>" in first.text,
    ) == (status, True, True)
    assert again.status_code == 401, "a nonce is good once"


@pytest.mark.parametrize(
    ("body", "code"),
    [
        (b"<html>", "bad_outcome"),
        (b'<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', "bad_outcome"),
        (envelope("r", "1.5").encode(), "bad_outcome"),
        (envelope("r", "NaN").encode(), "bad_outcome"),
        (envelope("", "1").encode(), "bad_outcome"),
        (envelope("r", "", "otherThing").encode(), "unsupported"),
    ],
)
def test_bad_outcomes_are_named(body: bytes, code: str) -> None:
    with pytest.raises(LtiError) as caught:
        read_outcome(body)
    assert caught.value.code == code
