"""What the standards allow, limit or refuse at their edges: lengths, addresses, types, encodings."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest

from vennpair.standards.cartridge import Limits, UnusableCartridge, open_package, read_package
from vennpair.standards.cartridge.apart import HEAVY, read_bounded
from vennpair.standards.cartridge.writer import Entry, write_cartridge
from vennpair.standards.json_text import read_json
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import Score, read_score, write_score
from vennpair.standards.lti.launch import GradeEndpoint, Launch, Person, read_launch, write_launch
from vennpair.standards.lti.review import ReviewRequest, read_review, write_review
from vennpair.standards.lti.variables import history, written_history

LAUNCH = Launch(Person("u1"), "d1", "https://pair.example/", "link-1")


def test_history_is_a_list_of_encoded_ids() -> None:
    ids = ("copy, of a%20course", "kurs/ä", "plain")
    custom = {"h": written_history(ids), "unknown": "$Context.id.history"}
    assert custom["h"] == "copy%2C%20of%20a%2520course,kurs%2F%C3%A4,plain"
    assert history(custom, "h") == ids
    assert history(custom, "unknown") == ()


@pytest.mark.parametrize(
    ("change", "clause"),
    [
        ({"sub": "x" * 256}, "5.3.6"),
        ({v.CONTEXT: {"id": "x" * 256}}, "5.4.1"),
        ({v.RESOURCE_LINK: {"id": "x" * 256}}, "5.3.5"),
        ({v.DEPLOYMENT_ID: "x" * 256}, "5.3.3"),
        ({v.LAUNCH_PRESENTATION: {"return_url": "javascript:alert(1)"}}, "5.4.4"),
        ({v.AGS_CLAIM: {"lineitems": "data:text/html,x"}}, "3.6"),
    ],
)
def test_what_is_longer_than_the_standard_allows_or_runs_in_a_browser_is_refused(
    change: dict[str, Any], clause: str
) -> None:
    claims = write_launch(LAUNCH) | change
    with pytest.raises(LtiError) as caught:
        read_launch(claims)
    assert (caught.value.code, clause in caught.value.clause) == ("bad_message", True)


def test_oddities_that_the_standard_allows_are_taken() -> None:
    odd = {
        v.LAUNCH_PRESENTATION: {"return_url": "app-of-ours://back"},
        v.AGS_CLAIM: {"scope": "no list", "lineitems": "https://campus.example/i"},
        v.CUSTOM: ["no object"],
        v.LIS: {"person_sourcedid": "T 1"},
    }
    read = read_launch(write_launch(LAUNCH) | odd)
    assert (read.return_url, read.custom, read.person.sourced_id) == ("", {}, "T 1")
    assert read.grades == GradeEndpoint((), "https://campus.example/i")


@pytest.mark.parametrize("text", ['{"a": "\\ud800"}', '{"\\u0000": 1}', "[" * 100_000])
def test_half_characters_and_endless_nesting_are_no_json(text: str) -> None:
    with pytest.raises(ValueError, match=r"\w"):
        read_json(text)


def test_a_review_survives_the_way() -> None:
    endpoint = GradeEndpoint((), "", "https://campus.example/items/1")
    asked = ReviewRequest(replace(LAUNCH, grades=endpoint), Person("learner-9", "Ada Brook"))
    read = read_review(write_review(asked))
    assert (read.learner.sub, read.launch.grades) == ("learner-9", endpoint)
    for lacks in (v.FOR_USER, v.AGS_CLAIM):
        with pytest.raises(LtiError):
            read_review({name: x for name, x in write_review(asked).items() if name != lacks})


@pytest.mark.parametrize(
    "change", [{"scoreGiven": "7"}, {"scoreMaximum": "10"}, {"scoreGiven": True}]
)
def test_a_score_that_is_a_text_is_refused(change: dict[str, Any]) -> None:
    score = write_score(Score("u", datetime(2027, 2, 1, tzinfo=UTC), Decimal(7), Decimal(10)))
    with pytest.raises(LtiError):
        read_score(score | change)


def test_a_large_package_is_read_apart_and_ends_that_process_alone(tmp_path: Path) -> None:
    path = tmp_path / "large.imscc"
    links = [
        Entry(f"e{number}", f"Reading {number} {'x' * 500}", "web_link", url="https://a.example/")
        for number in range(4_000)
    ]
    with path.open("wb") as target:
        write_cartridge(target, "large", "Large", "en", links, "full")
    with open_package(path, Limits()) as package:
        assert package.xml_bytes() > HEAVY
        assert read_bounded(path, package, Limits(), frozenset()) == read_package(package, Limits())
        with pytest.raises(UnusableCartridge, match="20,000,000 bytes of memory"):
            read_bounded(path, package, Limits(memory=20_000_000), frozenset())
