"""A platform and a publisher that say what no standard foresees: whatever is in a claim or in
an answer, launches and comparisons end in words, never in an error of ours.

All of it takes a quarter of an hour; a run of the tests takes a part by lot, another one for each
tree. ``VENNPAIR_WALK=all`` takes everything.
"""

from __future__ import annotations

import os
import random
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from tools.world.world import World

from tests.service.abroad import Abroad, PlainPlatform
from tests.service.platform import TestPlatform
from tests.standards.test_walk import CLAIMS, places, put
from vennpair.standards.lti import vocabulary as v

Place = tuple[Any, ...]
ODD = [None, True, -1, 10**30, "", "x" * 300, "x" * 70_000, "\u202etxt", [], {}, [None], {"a": {}}]
OURS = "mistake of its own"
SAMPLE = 40


def some(rows: list[Any], randomly_seed: int) -> list[Any]:
    """Return all rows where that is asked for, else some of them."""
    if os.environ.get("VENNPAIR_WALK") == "all":
        return rows
    return random.Random(randomly_seed).sample(rows, min(SAMPLE, len(rows)))


@pytest.fixture
def lot(request: pytest.FixtureRequest) -> int:
    """Return the seed of this run."""
    return int(request.config.getoption("randomly_seed", default=1) or 1)


def test_odd_claims_of_a_launch_are_taken_or_refused(world: World, lot: int) -> None:
    platform = TestPlatform(world, "Claims Platform")
    kept = {name: value for name, value in CLAIMS.items() if name not in _OF_LAUNCHES}
    rows = [(at, value) for at in places(kept) if at for value in ODD]
    try:
        with httpx.Client(timeout=30) as browser:
            for at, value in some(rows, lot):
                browser.cookies.clear()  # one for each launch that was refused
                answer = platform.launch(browser, **put(kept, at, value))
                assert answer.status_code < 500, (at, str(value)[:40], answer.text[:300])
                assert OURS not in answer.text, (at, str(value)[:40])
    finally:
        platform.close()


_OF_LAUNCHES = {"iss", "aud", "iat", "exp", "nonce", v.DEPLOYMENT_ID, v.TARGET_LINK_URI}


class OddPlatform(PlainPlatform):
    """Says one thing of all that it is asked for in another way."""

    odd: tuple[str, Place, Any] | None = None

    def twist(self, path: str, document: Any) -> Any:
        """Twist one answer."""
        return twisted(self.odd, path, document)


def twisted(odd: tuple[str, Place, Any] | None, path: str, document: Any) -> Any:
    """Return a document with another value at a place, where it is the one that is meant and has
    that place.
    """
    if odd is None or not path.endswith(odd[0]) or odd[1] not in list(places(document)):
        return document
    return put(document, odd[1], odd[2])


@pytest.fixture
def odd(world: World) -> Iterator[Abroad]:
    made = Abroad(world, "Astray", OddPlatform(2))
    publisher = made.publisher
    publisher.add("li-1", "Quiz: where rivers begin", 10, dueDate="2027-02-12T23:59:00Z")
    publisher.students = {"acc-1": "learner-1@strict.example"}
    publisher.scores["li-1", "acc-1"] = 7
    publisher.twist = lambda path, document: twisted(  # type: ignore[method-assign]
        made.platform.odd,
        path,
        document,  # type: ignore[attr-defined]
    )
    made.pair()
    yield made
    made.close()


def test_odd_answers_of_both_sides_end_in_words(odd: Abroad, lot: int) -> None:
    link = {
        "type": "ltiResourceLink",
        "title": "Quiz: where rivers begin",
        "url": "https://plain.example/open/a",
        "lineItem": {"scoreMaximum": 10, "label": "Quiz", "resourceId": "li-1"},
        "submission": {"endDateTime": "2027-02-12T23:59:00-06:00"},
    }
    odd.put_into_shell(odd.pick_at_publisher(link))
    platform: Any = odd.platform
    platform.open(odd.teacher, "Quiz: where rivers begin")
    odd.prove()
    key = platform.column_of("Quiz: where rivers begin")["id"].rsplit("/", 1)[-1]
    platform.cells[key, "learner-1"] = {"resultScore": 6, "resultMaximum": 10}
    answers: dict[str, Any] = {}
    heard = platform.twist

    def listen(path: str, document: Any) -> Any:
        answers[path.rpartition("/")[2]] = document
        return heard(path, document)

    platform.twist = odd.publisher.twist = listen  # type: ignore[method-assign]
    odd.compare()
    odd.get("courses", refresh="true", q="astray")
    platform.twist = heard
    odd.publisher.twist = heard  # type: ignore[method-assign]
    rows = [
        (name, at, value)
        for name, document in answers.items()
        if name in {"members", "lineitems", "results", "lineItems", "students", "classes", "token"}
        for at in places(document)
        for value in ODD
        if at or not isinstance(value, str)  # a page of text may be there for maintenance
    ]
    assert len(rows) > 300, sorted(answers)
    ours = []
    for row in some(rows, lot):
        platform.odd = row
        begun = odd.post(f"pairings/{odd.pairing}/comparisons")
        ended = odd.done(begun["job"])
        asked = [
            ("GET", "courses?refresh=true&q=astray"),
            ("POST", f"pairings/{odd.pairing}/catalogue"),
        ]
        read_again = [
            odd.teacher._http.request(method, f"{odd.base}/{path}", json={})
            for method, path in (asked if row[0] in {"lineItems", "classes"} else [])
        ]
        if OURS in ended["message"] or any(each.status_code == 500 for each in read_again):
            ours.append((row[0], row[1], str(row[2])[:40]))
    assert ours == []
    platform.odd = None
    odd.compare()
