"""Which report counts, what a failure means, and what a pairing needs."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from itertools import permutations
from typing import Any

import pytest

from vennpair.core.failures import FailureKind, failure_of_status
from vennpair.core.reconcile.causes import CellFacts, cause_of_cell
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.facts import PublisherScore, SentFact
from vennpair.core.relay.decide import Report, SentScore, Verdict, counting, overwrites, verdict

BEGUN = datetime(2027, 3, 3, 20, 0, tzinfo=UTC)


def report(entry: int, minute: int, given: str | None = "5", **facts: Any) -> Report:
    return Report(
        entry,
        BEGUN + timedelta(minutes=minute),
        None if given is None else Decimal(given),
        None if given is None else Decimal(10),
        **facts,
    )


def test_the_publisher_s_time_decides_whatever_the_order_of_arrival() -> None:
    reports = [report(1, 3, "7"), report(2, 1, "9"), report(3, 2, "8")]
    for order in permutations(reports):
        found = counting(order)
        assert found is not None
        assert found.given == 7
    assert counting([]) is None
    assert counting([report(1, 1, fully_graded=False)]) is None


def test_of_two_at_the_same_time_the_later_arrival_counts() -> None:
    found = counting([report(1, 1, "5"), report(2, 1, "6")])
    assert found is not None
    assert (found.given, found.entries) == (6, (2,))


SENT = SentScore(BEGUN, Decimal(5), Decimal(10))


@pytest.mark.parametrize(
    ("newest", "sent", "force", "wanted"),
    [
        ("5", None, False, Verdict.SEND),
        ("5", SENT, False, Verdict.NOTHING),
        ("5.0", SENT, False, Verdict.NOTHING),
        ("5", SENT, True, Verdict.SEND),
        ("6", SENT, False, Verdict.SEND),
        (None, None, True, Verdict.NOTHING),
        (None, SENT, False, Verdict.WITHDRAWN),
    ],
)
def test_what_is_sent_and_what_is_not(
    newest: str | None, sent: SentScore | None, force: bool, wanted: Verdict
) -> None:
    assert (
        verdict(None if newest is None else Mark(Decimal(newest), Decimal(10)), sent, force=force)
        is wanted
    )


@pytest.mark.parametrize(
    ("gradebook", "sent", "taken"),
    [
        (None, None, False),
        (None, "5", False),
        ("10", "5", False),
        ("16", "5", False),
        ("16.0", None, False),
        ("17", "5", True),
        ("17", None, True),
        ("0", None, True),
    ],
)
def test_only_what_we_sent_ourselves_is_replaced(
    gradebook: str | None, sent: str | None, taken: bool
) -> None:
    ours = [] if sent is None else [Mark(Decimal(sent), Decimal(10))]
    written = None if gradebook is None else Decimal(gradebook)
    assert overwrites(Column(Decimal(20)), written, ours, Mark(Decimal(8), Decimal(10))) is taken


def test_a_failure_says_who_what_and_what_to_do() -> None:
    for status in (400, 401, 403, 404, 409, 413, 422, 429, 500, 502, 503):
        failure = failure_of_status(status, "Tarnfield Campus", "the column is locked", 9)
        assert "Tarnfield Campus" in failure.message + failure.remedy
        assert "the column is locked" in failure.message
        assert failure.remedy
        assert (failure.kind is FailureKind.LATER) == (status == 429 or status >= 500)


def facts(
    kind: str,
    publisher_at: str = "2027-03-05T21:40:00-06:00",
    sent_at: datetime | None = BEGUN,
    **changes: Any,
) -> CellFacts:
    publisher = PublisherScore(Mark(Decimal(8), Decimal(10)), publisher_at)
    sent = SentFact(Mark(Decimal(6), Decimal(10)), sent_at, "the column is locked")
    return CellFacts(
        kind,
        **(
            {
                "publisher": publisher,
                "gradebook": Decimal("7.50"),
                "column_points": Decimal(10),
                "item_points": Decimal(10),
                "sent": sent,
            }
            | changes
        ),
    )


@pytest.mark.parametrize(
    "kind",
    [
        "behind",
        "clash",
        "cleared",
        "differ",
        "edited",
        "gradebook_only",
        "held",
        "refused",
        "unsent",
        "withdrawn",
    ],
)
def test_every_kind_of_cell_tells_its_story_with_its_values(kind: str) -> None:
    sentence = cause_of_cell(facts(kind), "America/Chicago")
    assert sentence[0].isupper()
    assert any(value in sentence for value in ("8 of 10", "7.5", "6 of 10"))
    assert "None" not in sentence
    assert "7.50" not in sentence


def test_what_is_not_known_is_left_out_not_invented() -> None:
    sentence = cause_of_cell(facts("behind", publisher_at="", sent_at=None), "UTC")
    assert " on " not in sentence
    assert cause_of_cell(facts("cleared", publisher=None), "UTC").startswith(
        "Both sides are empty now"
    )
    assert "on March 5, but" in cause_of_cell(facts("unsent", publisher_at="2027-03-05"), "UTC")


def test_a_time_is_told_in_the_course_s_zone_across_the_change_of_clocks() -> None:
    before = cause_of_cell(
        facts("edited", sent_at=datetime(2027, 3, 14, 7, 30, tzinfo=UTC)), "America/Chicago"
    )
    after = cause_of_cell(
        facts("edited", sent_at=datetime(2027, 3, 14, 8, 30, tzinfo=UTC)), "America/Chicago"
    )
    assert "March 14 at 1:30 AM" in before
    assert "March 14 at 3:30 AM" in after
