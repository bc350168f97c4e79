"""Who is who, and which column is which."""

from __future__ import annotations

import unicodedata

from vennpair.core.reconcile.columns import match_titles
from vennpair.core.reconcile.learners import Learner, match


def test_ids_match_exactly_and_emails_fold() -> None:
    left = [
        Learner("0042", "", "Ada Brook"),
        Learner("", "Ben.Croft@Tarnfield.example ", "Ben Croft"),
        Learner("x", "żaneta@tarnfield.example", ""),
    ]
    right = [
        Learner("42", "", "Ada Brook"),
        Learner("T7", "ben.croft@tarnfield.example", "B. Croft"),
        Learner("y", unicodedata.normalize("NFD", "Żaneta@tarnfield.example"), ""),
    ]
    matching = match(left, right)
    assert matching.pairs == [(1, 1), (2, 2)]
    kinds = [(row.kind, row.candidates[0].why) for row in matching.open]
    assert kinds == [
        ("publisher_only", "the same id but for leading zeros"),
        ("shell_only", "the same id but for leading zeros"),
    ]


def test_where_id_and_email_disagree_the_id_wins_and_it_is_said() -> None:
    matching = match(
        [Learner("1", "a@t.example", "Ada")],
        [Learner("1", "b@t.example", "Ada"), Learner("2", "a@t.example", "Bea")],
    )
    assert matching.pairs == [(0, 0)]
    assert [row.kind for row in matching.open] == ["ambiguous", "shell_only"]
    assert matching.open[0].candidates[0].learner.name == "Bea"


def test_an_email_that_two_share_matches_nobody() -> None:
    matching = match(
        [Learner("1", "home@t.example", "Ada"), Learner("2", "home@t.example", "Ben")],
        [Learner("9", "home@t.example", "Ada")],
    )
    assert matching.pairs == []
    assert {row.kind for row in matching.open} == {"ambiguous"}


def test_names_only_ever_propose() -> None:
    left = [
        Learner("1", "", "Vesna Kršinić"),
        Learner("2", "", "Ford Odile"),
        Learner("3", "", "H. Wexcombe"),
        Learner("4", "", "Gwen Toland"),
        Learner("5", "", "Zora Firth"),
    ]
    right = [
        Learner("6", "", "Vesna Krsinic"),
        Learner("7", "", "Odile Ford"),
        Learner("8", "", "Hugo Wexcombe"),
        Learner("9", "", "Gwen Tolland"),
        Learner("0", "", "Nico Tarn"),
    ]
    matching = match(left, right)
    assert matching.pairs == []
    reasons = [row.candidates[0].why if row.candidates else None for row in matching.open[:5]]
    assert reasons == [
        "the same name",
        "the same name in another order",
        "the same family name and initial",
        "a similar name",
        None,
    ]


def test_learners_who_share_nothing_but_an_empty_field_do_not_match() -> None:
    assert match([Learner("", "", "Ada")], [Learner("", "", "Ada")]).pairs == []


def test_titles_match_exactly_first_then_folded() -> None:
    pairs = match_titles(["Quiz 1", "QUIZ  1", "Lab"], ["lab ", "Quiz 1", "Extra"])
    assert [(pair.item, pair.column) for pair in pairs] == [(0, 1), (1, None), (2, 0), (None, 2)]


def test_titles_that_cannot_be_told_apart_match_nothing() -> None:
    pairs = match_titles(["quiz 1", "Quiz  1"], ["QUIZ 1"])
    assert [(pair.item, pair.column, pair.ambiguous) for pair in pairs] == [
        (0, None, True),
        (1, None, True),
        (None, 0, True),
    ]
