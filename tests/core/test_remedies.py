"""What each finding offers, what is taken where nobody chooses, and the exact write of a remedy."""

from __future__ import annotations

from decimal import Decimal

import pytest

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.remedies import (
    EMPTYING,
    Write,
    default_of,
    in_words,
    is_safe,
    remedies_of,
    remedies_of_learner,
)

# DESIGN 7: the table's remedies, and which of them is the default.
TABLE = {
    "unsent": (("send",), "send"),
    "cleared": (("send", "leave"), "send"),
    "behind": (("send",), "send"),
    "edited": (("keep", "restore"), "keep"),
    "clash": (("send", "keep"), ""),
    "differ": (("send", "keep"), ""),
    "gradebook_only": (("keep", "clear"), "keep"),
    "held": ((), ""),
    "refused": (("send", "leave"), "send"),
    "withdrawn": (("keep", "clear"), "keep"),
}


@pytest.mark.parametrize(("kind", "offered"), TABLE.items())
def test_each_row_of_the_table_offers_its_remedies(
    kind: str, offered: tuple[tuple[str, ...], str]
) -> None:
    remedies = remedies_of(kind)
    assert (remedies, default_of(kind, remedies)) == offered


def test_nothing_is_sent_where_the_publisher_has_nothing() -> None:
    assert remedies_of("edited", publisher=False) == ("keep", "clear")
    assert remedies_of("cleared", publisher=False) == ("leave",)


def test_one_step_for_all_takes_nothing_that_somebody_typed() -> None:
    assert {kind for kind in TABLE if is_safe(kind)} == {"unsent", "behind", "refused"}


def test_a_person_chooses_who_is_who() -> None:
    assert default_of("publisher_only", remedies_of_learner(candidates=True)) == ""
    assert default_of("shell_only", remedies_of_learner(candidates=False)) == "leave"


def test_a_write_says_what_the_column_will_show() -> None:
    assert Write.of(Mark(Decimal("7.5"), Decimal(10)), Decimal(20)) == Write(
        Decimal("7.5"), Decimal(10), "15"
    )
    assert Write.of(Mark(Decimal(1), Decimal(3)), Decimal(10)).shows == "3.3333333333"
    assert (
        Write.of(Mark(Decimal(4)), None).maximum == 4
    )  # a score without points is sent as the whole of itself
    assert (
        in_words("8", Write.of(Mark(Decimal(9), Decimal(10)), Decimal(10)), "send") == "8 becomes 9"
    )
    assert in_words("8", EMPTYING, "clear") == "8 becomes empty"
    assert (
        in_words(None, None, "leave")
        == "nothing stays, and is not shown as open until either side moves"
    )


def test_levels_are_those_of_the_contract() -> None:
    errors = {"clash", "refused", "column_missing", "points_differ", "item_gone", "ambiguous"}
    warnings = {
        "differ",
        "behind",
        "cleared",
        "unsent",
        "column_extra",
        "due_differs",
        "never_opened",
        "publisher_only",
        "title_ambiguous",
        "points_missing",
    }
    assert {
        kind
        for kind in errors | warnings | {*TABLE, "shell_only", "category_differs", "title_differs"}
        if level_of(kind) == "error"
    } == errors
    assert {level_of(kind) for kind in warnings} == {"warning"}
    assert {
        level_of(kind)
        for kind in (
            "agree",
            "edited",
            "gradebook_only",
            "withdrawn",
            "held",
            "shell_only",
            "category_differs",
            "title_differs",
        )
    } == {"note"}
