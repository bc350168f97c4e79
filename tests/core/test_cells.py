"""The three-way rule, row by row as the design states it."""

from __future__ import annotations

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.reconcile.cells import Column, Mark, judge
from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.remedies import default_of, is_for_many, is_safe, remedies_of

COLUMN = Column(Decimal(20), decimals=1)


def mark(score: str | None, points: str = "10") -> Mark | None:
    return None if score is None else Mark(Decimal(score), Decimal(points))


# publisher and sent are out of 10, the column has 20 points, so 4 is 8 there.
TABLE = [
    ("4", "8", None, "agree"),
    ("4", "8", "3", "agree"),
    ("4", None, None, "unsent"),
    ("4", None, "4", "cleared"),
    ("5", "8", "4", "behind"),
    ("4", "9", "4", "edited"),
    ("5", "9", "4", "clash"),
    ("5", "9", None, "differ"),
    (None, "9", None, "gradebook_only"),
    (None, "8", "4", "withdrawn"),
    (None, "9", "4", "edited"),
    (None, None, "4", "cleared"),
    (None, None, None, None),
]


@pytest.mark.parametrize(("publisher", "gradebook", "sent", "kind"), TABLE)
def test_each_row_of_the_table(
    publisher: str | None, gradebook: str | None, sent: str | None, kind: str | None
) -> None:
    written = None if gradebook is None else Decimal(gradebook)
    assert judge(COLUMN, mark(publisher), written, mark(sent)) == kind


@pytest.mark.parametrize("gradebook", ["9", None])
def test_held_goes_before_refused_and_both_before_the_rest(gradebook: str | None) -> None:
    written = None if gradebook is None else Decimal(gradebook)
    assert judge(COLUMN, mark("4"), written, held=True, refused=True) == "held"
    assert judge(COLUMN, mark("4"), written, mark("4"), refused=True) == "refused"


def test_what_agrees_is_never_called_held_or_refused() -> None:
    assert judge(COLUMN, mark("4"), Decimal(8), held=True, refused=True) == "agree"


scores = st.none() | st.integers(0, 5).map(str)


@given(scores, scores, scores, st.booleans(), st.booleans())
def test_every_case_is_named_and_has_a_level_and_remedies(
    publisher: str | None, gradebook: str | None, sent: str | None, held: bool, refused: bool
) -> None:
    written = None if gradebook is None else Decimal(gradebook)
    kind = judge(COLUMN, mark(publisher), written, mark(sent), held=held, refused=refused)
    assert (kind is None) == (publisher is None and gradebook is None and sent is None)
    if kind not in {None, "agree"}:
        remedies = remedies_of(kind, publisher=publisher is not None)
        assert bool(remedies) == (kind != "held")
        assert (
            not {"send", "restore"} & set(remedies) or publisher is not None
        )  # nothing is sent that is not there
        assert "clear" not in remedies or gradebook is not None
        assert not is_safe(kind) or default_of(kind, remedies) == "send"
        assert level_of(kind) in {"error", "warning", "note"}


@pytest.mark.parametrize("gradebook", [None, "7"])
@pytest.mark.parametrize("sent", [None, "7", "5"])
def test_what_was_not_read_is_unread_whatever_stands_or_was_sent(
    gradebook: str | None, sent: str | None
) -> None:
    held = None if gradebook is None else Decimal(gradebook)
    last = None if sent is None else Mark(Decimal(sent), Decimal(10))
    column = Column(Decimal(10))
    assert judge(column, None, held, last, read=False) == "unread"
    assert remedies_of("unread", publisher=False, read=False) == ("leave",)


@pytest.mark.parametrize("remedy", ["send", "restore", "clear"])
def test_nothing_that_was_not_read_is_written_over_together_with_others(remedy: str) -> None:
    assert not is_for_many(remedy, read=False, empty=False)
    assert is_for_many(remedy, read=False, empty=True)
    assert is_for_many(remedy, read=True, empty=False)
    assert is_for_many("keep", read=False, empty=False)
