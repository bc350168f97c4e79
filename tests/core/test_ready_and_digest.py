"""May the grades be submitted, and what is worth a mail in the morning."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import pytest

from vennpair.core.reconcile.digest import ShellNews, digest
from vennpair.core.reconcile.ready import Facts, statement

NOW = datetime(2027, 5, 10, 15, 0, tzinfo=UTC)
WELL = Facts(compared_at=NOW - timedelta(minutes=5), cells=40, agree=40)
MONDAY = date(2027, 5, 10)
QUIET = ShellNews("HYD 210-01", "http://venn/1", cells=40, agree=40)
NEW = ShellNews(
    "HYD 210-02",
    "http://venn/2",
    cells=40,
    agree=37,
    urgent=3,
    new=2,
    causes={"clash": 1, "behind": 2},
)


def _lines(facts: Facts) -> dict[str, str]:
    return {line.what: line.level for line in statement(facts, NOW).lines}


def test_grades_are_ready_where_all_agrees_or_was_decided() -> None:
    said = statement(replace(WELL, agree=38, kept=2), NOW)
    assert said.ready
    assert (
        said.sentence
        == "Ready to submit: all 40 scores in the gradebook are what was earned, or what you"
        " decided to keep."
    )
    assert [line.level for line in said.lines] == ["well", "well"]


@pytest.mark.parametrize(
    ("facts", "what"),
    [
        (replace(WELL, compared_at=None), "compared"),
        (replace(WELL, compared_at=NOW - timedelta(days=2)), "compared"),
        (replace(WELL, open={"clash": 1}), "cells"),
        (replace(WELL, open={"points_differ": 1}), "columns"),
        (replace(WELL, open={"publisher_only": 2}), "learners"),
        (replace(WELL, scores={"waiting": 1, "sending": 1}), "waiting"),
        (replace(WELL, scores={"held": 3}), "held"),
        (replace(WELL, proposals=1), "proposals"),
    ],
)
def test_each_open_thing_alone_keeps_the_grades_back_and_says_where_to_mend_it(
    facts: Facts, what: str
) -> None:
    said = statement(facts, NOW)
    assert not said.ready
    assert said.sentence == "Not ready: 1 thing is open."
    assert (said.lines[0].what, said.lines[0].level) == (what, "open")
    assert said.lines[0].remedy
    assert said.lines[0].page


def test_what_deserves_a_glance_does_not_keep_the_grades_back() -> None:
    facts = replace(
        WELL,
        open={"edited": 2, "gradebook_only": 1, "shell_only": 1, "column_extra": 1},
        relay_on=False,
        blank=4,
        due_later=1,
        unplaced=2,
    )
    assert _lines(facts) == {
        "typed": "look",
        "relay": "look",
        "due_later": "look",
        "blank": "look",
        "unplaced": "look",
        "compared": "well",
    }
    assert statement(facts, NOW).ready


def test_a_score_that_only_its_column_s_points_changed_is_not_called_typed_over() -> None:
    facts = replace(WELL, open={"edited": 19, "points_differ": 1}, scaled=18)
    open_, look = statement(facts, NOW).lines[:2]
    assert open_.sentence.endswith(
        ": 1 column with other points, 18 scores that count for another share."
    )
    assert (
        look.sentence
        == "1 score is as somebody typed or left it: 1 score changed in the gradebook."
    )
    assert "typed" not in _lines(replace(facts, scaled=19))
    kept = statement(replace(facts, open={"edited": 19}), NOW).lines[0]
    assert kept.sentence.startswith("19 scores are as somebody typed or left them"), (
        "none is hidden"
    )


def test_a_daily_digest_tells_what_is_new_and_names_the_quiet_shells() -> None:
    made = digest([QUIET, NEW], "daily", MONDAY + timedelta(days=1))
    assert made is not None
    assert made.sentence == "HYD 210-02: 3 findings open, 2 new."
    assert "37 of 40 scores agree; 3 findings are open, 2 of them new." in made.body
    assert "1 score changed on both sides" in made.body
    assert "Nothing new in HYD 210-01." in made.body


def test_nothing_new_is_no_mail_and_the_weekly_one_comes_on_mondays() -> None:
    old = replace(NEW, new=0)
    assert digest([QUIET, old], "daily", MONDAY) is None
    assert digest([old], "weekly", MONDAY + timedelta(days=1)) is None
    weekly = digest([old], "weekly", MONDAY)
    assert weekly is not None
    assert "3 findings open, 0 new" in weekly.sentence
    assert digest([NEW], "never", MONDAY) is None


def test_before_grades_are_due_the_digest_says_what_keeps_them_back() -> None:
    due = replace(
        QUIET,
        grades_due=MONDAY + timedelta(days=3),
        not_ready=["3 scores are held and not in the gradebook."],
    )
    made = digest([due], "weekly", MONDAY + timedelta(days=1))
    assert made is not None
    assert made.sentence == "HYD 210-01: grades are due on May 13, not ready yet."
    assert "- 3 scores are held and not in the gradebook." in made.body
    assert digest([replace(due, grades_due=MONDAY + timedelta(days=30))], "daily", MONDAY) is None


def test_a_comparison_that_failed_is_told_too() -> None:
    made = digest([replace(QUIET, trouble="Tarnfield Campus did not answer.")], "daily", MONDAY)
    assert made is not None
    assert made.sentence == "HYD 210-01 could not be compared."
    assert "did not answer" in made.body
