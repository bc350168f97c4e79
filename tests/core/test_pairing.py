"""Readiness, section guesses, copies of courses, the life of a pairing, and what learners
are told.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from vennpair.core.pair.copies import ItemFacts, match_items
from vennpair.core.pair.first_steps import first_steps
from vennpair.core.pair.guess import CourseFacts, fold, match_sections, search_words
from vennpair.core.pair.readiness import PairingFacts, may_be_ready, readiness
from vennpair.core.pair.ready_items import ItemsFacts
from vennpair.core.pair.ready_people import PeopleFacts
from vennpair.core.pair.ready_services import ServiceFacts
from vennpair.core.pair.states import Stock, consequences, may_become, may_undo

NOW = datetime(2027, 1, 20, 12, tzinfo=UTC)
SERVICES = ServiceFacts(
    True,
    True,
    True,
    True,
    "Kestrelbrook Press",
    True,
    True,
    tool_on=True,
    tool_audience="instructor",
)
PEOPLE = PeopleFacts(
    "Kestrelbrook Press",
    True,
    "Maren Holt (m@x.example)",
    True,
    ("Maren Holt",),
    links=3,
    learners=2,
    opened=1,
    access="code",
)
ITEMS = ItemsFacts(
    CourseFacts("Rivers and Groundwater", "HYD 210-01"),
    CourseFacts("Rivers and Groundwater, 3rd ed.", "HYD 210-01", "Spring 2027"),
    "America/Chicago",
    "America/Chicago",
    ("Quiz 1", "Quiz 2"),
)
GOOD = PairingFacts(SERVICES, PEOPLE, ITEMS)


def found(facts: PairingFacts) -> dict[str, str]:
    return {check.code: check.state for check in readiness(facts) if check.state != "ok"}


def test_what_is_right_passes_every_check() -> None:
    assert found(GOOD) == {}
    assert may_be_ready(readiness(GOOD))


@pytest.mark.parametrize(
    ("part", "changes", "code", "state"),
    [
        ("services", {"agreed": False}, "consent", "fail"),
        ("services", {"can_read_roster": False}, "roster", "fail"),
        ("services", {"can_write_columns": False}, "columns", "fail"),
        ("services", {"can_write_outline": False}, "outline", "warn"),
        ("services", {"tool_on": False}, "tool", "fail"),
        ("services", {"tool_audience": "everyone"}, "tool", "warn"),
        ("services", {"publisher_answers": False}, "publisher", "fail"),
        ("services", {"course_there": False}, "publisher", "fail"),
        ("services", {"shared_with": ("HYD 210-02",)}, "shared_course", "fail"),
        ("people", {"instructor": False}, "role_shell", "warn"),
        ("people", {"linked": ""}, "role_publisher", "warn"),
        ("people", {"teaches": False}, "role_publisher", "warn"),
        ("people", {"strangers": ("Hugo Wexcombe",)}, "strangers", "warn"),
        ("people", {"opened": 0}, "never_opened", "warn"),
        ("people", {"access": ""}, "first_steps", "warn"),
        (
            "items",
            {"course": CourseFacts("Rivers and Groundwater, 3rd ed.", "HYD 210-02")},
            "section",
            "warn",
        ),
        ("items", {"course": CourseFacts("Stones and Soils", "HYD 210-01")}, "title", "warn"),
        (
            "items",
            {"shell": CourseFacts("Rivers and Groundwater", "HYD 210-01", "Fall 2026")},
            "term",
            "warn",
        ),
        ("items", {"shell_zone": ""}, "zone", "warn"),
        ("items", {"course_zone": "Asia/Tokyo"}, "zone", "warn"),
        ("items", {"undated": ("Quiz 1",)}, "undated", "warn"),
        ("items", {"titles": ("Sketch", "Sketch")}, "same_title", "warn"),
        ("items", {"hidden": ("Quiz 1",)}, "hidden", "warn"),
        ("items", {"differences": {"edited": 1, "points_differ": 2}}, "compared", "warn"),
    ],
)
def test_each_trouble_is_named_with_what_to_do(
    part: str, changes: dict[str, Any], code: str, state: str
) -> None:
    facts = replace(GOOD, **{part: replace(getattr(GOOD, part), **changes)})
    assert found(facts) == {code: state}
    assert all(check.remedy for check in readiness(facts) if check.state != "ok")


def test_what_the_last_comparison_found_is_counted_in_words() -> None:
    check = next(
        each
        for each in readiness(
            replace(
                GOOD,
                items=replace(ITEMS, differences={"edited": 1, "points_differ": 2, "agree": 9}),
            )
        )
        if each.code == "compared"
    )
    assert (
        check.message
        == "When last compared: 1 score changed in the gradebook; 2 columns with other points."
    )
    assert (
        next(
            each.state
            for each in readiness(replace(GOOD, items=replace(ITEMS, differences={})))
            if each.code == "compared"
        )
        == "ok"
    )


def test_a_course_without_any_date_is_told_apart_from_one_missing_date() -> None:
    check = next(
        each
        for each in readiness(replace(GOOD, items=replace(ITEMS, undated=ITEMS.titles)))
        if each.code == "undated"
    )
    assert "copied without them" in check.message


def test_sections_are_guessed_by_number_and_never_against_it() -> None:
    shells = [CourseFacts("Rivers", f"HYD 210-0{number}") for number in (3, 1, 2)]
    courses = [CourseFacts("Rivers, 3rd ed.", f"HYD 210-0{number}") for number in (1, 2, 4)]
    assert [guess.course for guess in match_sections(shells, courses)] == [None, 0, 1]
    assert [
        guess.course
        for guess in match_sections([CourseFacts("Rivers")] * 2, [CourseFacts("Rivers")])
    ] == [0, None]


def test_search_folds_accents_case_and_punctuation_but_keeps_other_alphabets() -> None:
    assert search_words("HYD 210-01, Übung") == ["hyd", "210-01", "ubung"]
    assert fold("  Ποτάμια  ΝΕΡΑ ") == "ποταμια νερα"


def test_items_of_a_copy_are_matched_by_key_then_by_unit_title_and_order() -> None:
    old = [
        ItemFacts("a", "k1", "Quiz", "Unit 1", 0),
        ItemFacts("b", "k2", "Sketch", "Unit 2", 1),
        ItemFacts("c", "k3", "Sketch", "Unit 2", 2),
        ItemFacts("d", "k4", "Essay", "Unit 3", 3),
    ]
    new = [
        ItemFacts("A", "k1", "Quiz renamed", "Unit 1", 9),
        ItemFacts("C", "n3", "sketch ", "unit 2", 6),
        ItemFacts("B", "n2", "Sketch", "Unit 2", 5),
    ]
    assert match_items(old, new) == {"a": "A", "b": "B", "c": "C"}
    assert match_items(old[1:3], new[1:2]) == {}, (
        "two of one title and only one there: nobody can say which"
    )


def test_an_end_can_be_undone_for_thirty_days() -> None:
    assert may_become("ended", "paused")
    assert not may_become("ended", "live")
    assert may_undo(NOW - timedelta(days=29), NOW)
    assert not may_undo(NOW - timedelta(days=31), NOW)
    assert not may_undo(None, NOW)


def test_what_ending_does_is_said_in_sentences() -> None:
    words = " ".join(consequences("ended", Stock(1, 10, 65, 2, "HYD 210-01", "Rivers"), NOW))
    assert "1 link stays in HYD 210-01 but leads nowhere" in words
    assert "65 scores" in words
    assert "2 scores that wait now are kept too" in words
    assert "until 2027-02-19" in words


@pytest.mark.parametrize(
    ("access", "words"),
    [
        ("code", "asks for your access code"),
        ("fee", "part of your course fee"),
        ("free", "costs you nothing"),
    ],
)
def test_first_steps_say_how_access_is_paid_and_escape_what_they_quote(
    access: Any, words: str
) -> None:
    page = first_steps(
        access, "Kestrelbrook <Press>", "Rivers & Groundwater", "HYD 210-01", "Quiz <1>"
    )
    assert words in page.text
    assert "Do not register" in page.text
    assert "<Press>" not in page.html
    assert "Quiz &lt;1&gt;" in page.html
