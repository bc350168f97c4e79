"""Which graded item a picked link is, and how an address is made from a pattern."""

from __future__ import annotations

from decimal import Decimal

import pytest

from vennpair.core.content.tying import Picked, likely, tie
from vennpair.core.deploy.address import by_pattern, wrong_with
from vennpair.standards.oneroster.objects import LineItem

QUIZ = LineItem("li-1", "Quiz 1", "c", maximum=Decimal(10), category="Quizzes")
TWIN = LineItem("li-2", "Quiz 1", "c", maximum=Decimal(10), category="Labs")
ESSAY = LineItem("li-3", "Essay", "c", maximum=Decimal(20), resource="r-3")


@pytest.mark.parametrize(
    ("link", "listed", "found"),
    [
        (Picked("k", "Other", resource="li-1"), [QUIZ, ESSAY], "li-1"),
        (Picked("k", "Other", resource="r-3"), [QUIZ, ESSAY], "li-3"),
        (Picked("k", "Other", custom={"item": "li-3"}), [QUIZ, ESSAY], "li-3"),
        (Picked("k", "Other", url="https://press.example/open/li-3/"), [QUIZ, ESSAY], "li-3"),
        (Picked("k", "quiz  1", Decimal("10.0")), [QUIZ, ESSAY], "li-1"),
        (Picked("k", "Quiz 1", Decimal(12)), [QUIZ, ESSAY], None),
        (Picked("k", "Quiz 1"), [QUIZ, ESSAY], None),  # a link without a column is not guessed
        (Picked("k", "Quiz 1", Decimal(10)), [QUIZ, TWIN], None),
        (Picked("k", "Quiz 1", Decimal(10), tag="Labs"), [QUIZ, TWIN], "li-2"),
        (Picked("k", "Quiz 1", Decimal(10), resource="li-9"), [], None),
        (Picked("k", "x", url="https://[broken"), [QUIZ], None),
    ],
)
def test_a_link_is_tied_by_an_id_else_by_what_only_one_is_like(
    link: Picked, listed: list[LineItem], found: str | None
) -> None:
    made = tie([link], listed)
    assert (made["k"].line_item if made else None) == found


def test_two_links_that_are_alike_are_both_left_to_a_person() -> None:
    links = [Picked("a", "Quiz 1", Decimal(10)), Picked("b", "Quiz 1", Decimal(10))]
    assert tie(links, [QUIZ]) == {}
    named = [links[0], Picked("b", "Quiz 1", Decimal(10), resource="li-1")]
    assert {key: each.line_item for key, each in tie(named, [QUIZ]).items()} == {"b": "li-1"}


def test_a_person_is_shown_the_likeliest_first() -> None:
    found = likely("Quiz 1!", Decimal(10), [ESSAY, TWIN, QUIZ])
    assert [each.key for each in found] == ["li-1", "li-2", "li-3"]
    assert found[0].points == "10 points"


@pytest.mark.parametrize(
    ("pattern", "word"),
    [
        ("https://press.example/{line_item}", ""),
        ("https://press.example/{course}?i={line_item}", ""),
        ("https://press.example/", "lacks"),
        ("https://press.example/{item}", "not known"),
        ("https://press.example/{line_item", "alone"),
        ("https://press.example/{line_item!r}", "only a name"),
        ("https://{line_item}.example/", "site's name"),
        ("javascript:{line_item}", "not a web address"),
        ("{line_item}", "not a web address"),
    ],
)
def test_a_pattern_opens_one_item_or_is_refused_in_words(pattern: str, word: str) -> None:
    assert (word in wrong_with(pattern)) if word else not wrong_with(pattern)


def test_values_in_a_pattern_are_encoded() -> None:
    fields = {"line_item": "a/b c&d", "course": "x"}
    assert by_pattern("https://p.example/{line_item}", fields) == "https://p.example/a%2Fb%20c%26d"
