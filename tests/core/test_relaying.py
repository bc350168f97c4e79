"""Which attempt counts, when a score may go, how fast a platform is written to, totals by hand, and
the one sentence.
"""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from decimal import Decimal as D
from typing import Any

import pytest

from vennpair.core.relay.decide import Counted, Report, SentScore, counting, stamp, to_send
from vennpair.core.relay.health import Standing, judge
from vennpair.core.relay.pace import WIDEST, Pace, answered, asked_for_pause, failed, next_try
from vennpair.core.relay.rules import (
    Counts,
    Late,
    Points,
    Rule,
    RuleError,
    When,
    in_words,
    read_changes,
    rule_of,
)
from vennpair.core.relay.timing import opening
from vennpair.core.relay.totals import Counting, Method, Missing, Weighting, total

BEGUN, ZONE = datetime(2027, 3, 1, 20, 0, tzinfo=UTC), "America/Chicago"


def attempt(
    entry: int,
    minute: int,
    given: str | None,
    submitted: int | None = None,
    points: str = "10",
    **facts: Any,
) -> Report:
    return Report(
        entry,
        BEGUN + timedelta(minutes=minute),
        None if given is None else D(given),
        None if given is None else D(points),
        submitted=None if submitted is None else BEGUN + timedelta(minutes=submitted),
        **facts,
    )


@pytest.mark.parametrize(
    ("counts", "given"),
    [
        (Counts.PUBLISHER, "5"),
        (Counts.LAST, "6"),
        (Counts.BEST, "9"),
        (Counts.FIRST, "5"),
        (Counts.MEAN, "6.666667"),
    ],
)
def test_attempts_count_by_the_rule_and_a_regrade_replaces_its_attempt(
    counts: Counts, given: str
) -> None:
    reports = [
        attempt(1, 0, "7", submitted=0),
        attempt(2, 10, "9", submitted=10),
        attempt(3, 20, "6", submitted=20),
        attempt(4, 90, "5", submitted=0),
    ]
    found = counting(reports, counts)
    assert found is not None
    assert (found.given, found.timestamp) == (D(given), BEGUN + timedelta(minutes=90))
    assert counting(list(reversed(reports)), counts).given == found.given  # type: ignore[union-attr]


def test_a_deleted_attempt_does_not_count_and_one_of_all_takes_the_score_back() -> None:
    reports = [
        attempt(1, 0, "7", submitted=0),
        attempt(2, 10, "9", submitted=10),
        attempt(3, 20, None, submitted=10),
    ]
    assert counting(reports, Counts.BEST).given == 7  # type: ignore[union-attr]
    assert counting(reports).given is None  # type: ignore[union-attr]
    assert counting([*reports, attempt(4, 30, None)], Counts.BEST).given is None  # type: ignore[union-attr]
    assert (
        counting(
            [attempt(1, 0, "7"), attempt(2, 5, None, fully_graded=False, activity="InProgress")]
        ).given
        == 7
    )  # type: ignore[union-attr]


def test_a_score_goes_out_as_given_or_in_the_column_s_points_with_half_units_up() -> None:
    counted = Counted(D("7"), D("9"), BEGUN, (1,))
    assert to_send(counted, Rule(), D(20)).score == 7
    assert to_send(counted, Rule(points=Points.COLUMN), D(20)).score == D("15.555556")
    assert [
        to_send(
            Counted(D("1.25"), D(10), BEGUN, (1,)), Rule(points=Points.COLUMN, places=places), D(10)
        ).score
        for places in (0, 1, 2)
    ] == [D(1), D("1.3"), D("1.25")]
    assert stamp(counted, SentScore(BEGUN, D(5), D(9))) > BEGUN
    assert stamp(counted, None) == BEGUN


DUE = "2027-03-14T23:59:00-05:00"  # the clocks went forward that morning


@pytest.mark.parametrize(
    ("rule", "arrived", "due", "released", "opens", "why"),
    [
        (Rule(), "2027-03-13T10:00:00-06:00", DUE, "", "2027-03-13T10:00:00-06:00", ""),
        (Rule(when=When.DUE), "2027-03-13T10:00:00-06:00", DUE, "", DUE, "due"),
        (
            Rule(when=When.DUE),
            "2027-03-15T10:00:00-05:00",
            DUE,
            "",
            "2027-03-15T10:00:00-05:00",
            "",
        ),
        (Rule(when=When.DUE, late=Late.HAND), "2027-03-15T10:00:00-05:00", DUE, "", None, "late"),
        (
            Rule(when=When.DUE, late=Late.HAND),
            "2027-03-15T10:00:00-05:00",
            DUE,
            "2027-03-16T08:00:00-05:00",
            "2027-03-16T08:00:00-05:00",
            "",
        ),
        (Rule(when=When.DUE), "2027-03-13T10:00:00-06:00", "", "", None, "no_due"),
        (
            Rule(when=When.DAILY, at="02:30"),
            "2027-03-13T10:00:00-06:00",
            DUE,
            "",
            "2027-03-14T03:30:00-05:00",
            "daily",
        ),  # 02:30 does not exist that day
        (
            Rule(when=When.DAILY, at="18:00"),
            "2027-03-13T18:00:01-06:00",
            DUE,
            "",
            "2027-03-14T18:00:00-05:00",
            "daily",
        ),  # 23 hours later
        (
            Rule(when=When.DAILY, at="01:30"),
            "2027-11-06T12:00:00-05:00",
            DUE,
            "",
            "2027-11-07T01:30:00-05:00",
            "daily",
        ),  # it comes twice: the first
        (
            Rule(when=When.DAILY, at="01:30"),
            "2027-11-07T01:10:00-06:00",
            DUE,
            "",
            "2027-11-08T01:30:00-06:00",
            "daily",
        ),
        (Rule(when=When.HAND), "2027-03-13T10:00:00-06:00", DUE, "", None, "hand"),
        (
            Rule(when=When.HAND),
            "2027-03-13T10:00:00-06:00",
            DUE,
            "2027-03-13T11:00:00-06:00",
            "2027-03-13T11:00:00-06:00",
            "",
        ),
        (
            Rule(when=When.HAND),
            "2027-03-13T12:00:00-06:00",
            DUE,
            "2027-03-13T11:00:00-06:00",
            "2027-03-13T12:00:00-06:00",
            "",
        ),
        (
            Rule(when=When.HAND, late=Late.HAND),
            "2027-03-13T12:00:00-06:00",
            DUE,
            "2027-03-13T11:00:00-06:00",
            None,
            "hand",
        ),
    ],
)
def test_a_score_may_go_when_the_rule_says_across_the_change_of_clocks(
    rule: Rule, arrived: str, due: str, released: str, opens: str | None, why: str
) -> None:
    moment = datetime.fromisoformat(arrived)
    found = opening(
        rule,
        Report(1, moment, D(5), D(10), arrived=moment),
        due,
        datetime.fromisoformat(released) if released else None,
        ZONE,
    )
    assert (found.at, found.why) == (datetime.fromisoformat(opens) if opens else None, why)


def test_a_rule_is_changed_field_by_field_and_said_in_words() -> None:
    rule = rule_of(
        [{"when": "due", "places": 1, "points": "column"}, {"late": "hand"}, {"when": "hand"}]
    )
    assert (rule.when, rule.late, rule.places) == (When.HAND, Late.HAND, 1)
    assert (
        in_words(rule)
        == "The score that the publisher counts goes when you release it; work after the release"
        " goes when you release it, in the column's points rounded to 1 decimals."
    )
    for bad in (
        {"when": "sometimes"},
        {"at": "25:00"},
        {"places": 9},
        {"places": True},
        {"relays": "yes"},
        {"colour": 1},
    ):
        with pytest.raises(RuleError):
            read_changes(bad)


def test_the_window_halves_once_for_one_request_and_grows_while_it_is_answered() -> None:
    now = BEGUN
    asked = asked_for_pause(Pace(), 3, now, "busy")
    assert (asked.width, asked.closed_until) == (WIDEST / 2, now + timedelta(seconds=3))
    assert asked_for_pause(asked, 3, now, "busy").width == WIDEST / 2
    pace = Pace(asked.width)
    for _ in range(400):
        pace = answered(pace)
    assert 25 < pace.width <= WIDEST


def test_a_platform_that_is_down_is_asked_ever_more_rarely_and_one_answer_opens_it() -> None:
    pace, now, pauses = Pace(), BEGUN, []
    for _ in range(14):
        pace = failed(pace, now, "nothing listens there", 1.0, unreachable=True)
        assert pace.closed_until is not None
        pauses.append((pace.closed_until - now).total_seconds())
        now = pace.closed_until
    assert pauses[:4] == [1, 2, 4, 8]
    assert (pauses[-1], pace.in_flight, pace.down_since) == (120, 1, BEGUN)
    assert answered(pace).down_since is None
    some = failed(Pace(), now, "HTTP 500", 1.0, unreachable=False)
    assert some.closed_until is None
    waits = [(next_try(tries, BEGUN, BEGUN, 1.0) - BEGUN).total_seconds() for tries in (1, 5, 30)]  # type: ignore[operator]
    assert waits == [2, 32, 3600]
    assert next_try(99, BEGUN, BEGUN + timedelta(days=3), 1.0) is None


ITEMS = [
    Counting("a", "Set A", D(10), "2027-01-10T23:59:00-06:00", "Practice"),
    Counting("b", "Set B", D(20), "2027-01-20T23:59:00-06:00", "Practice"),
    Counting("q", "Quiz", D(50), "2027-02-20T23:59:00-06:00", "Quizzes"),
    Counting("n", "No date", D(5), "", "Practice"),
]
SCORES = {"a": D("7"), "q": D("41")}
FEBRUARY, MARCH = datetime(2027, 2, 1, tzinfo=UTC), datetime(2027, 3, 1, tzinfo=UTC)
HEAVY = {"Practice": D(30), "Quizzes": D(70), "Exam": D(100)}


@pytest.mark.parametrize(
    ("weighting", "missing", "scores", "now", "wanted"),
    [
        (Weighting.EQUAL, Missing.UNTIL_DUE, SCORES, FEBRUARY, "50.67"),  # (7/10 + 0 + 41/50) / 3
        (Weighting.EQUAL, Missing.IGNORED, SCORES, FEBRUARY, "76.00"),  # (7/10 + 41/50) / 2
        (Weighting.EQUAL, Missing.ZERO, SCORES, FEBRUARY, "38.00"),  # (7/10 + 0 + 41/50 + 0) / 4
        (Weighting.POINTS, Missing.UNTIL_DUE, SCORES, FEBRUARY, "60.00"),  # 48 of 80
        (Weighting.POINTS, Missing.IGNORED, SCORES, FEBRUARY, "80.00"),  # 48 of 60
        (Weighting.POINTS, Missing.ZERO, SCORES, FEBRUARY, "56.47"),  # 48 of 85
        (
            Weighting.CATEGORIES,
            Missing.UNTIL_DUE,
            SCORES,
            FEBRUARY,
            "64.40",
        ),  # 30 % of 7/30 and 70 % of 41/50
        (
            Weighting.CATEGORIES,
            Missing.UNTIL_DUE,
            {"a": D(7)},
            FEBRUARY,
            "23.33",
        ),  # no quiz counts yet: practice is the whole
        (
            Weighting.CATEGORIES,
            Missing.UNTIL_DUE,
            {"a": D(7)},
            MARCH,
            "7.00",
        ),  # the quiz was due: 30 % of 7/30
        (Weighting.EQUAL, Missing.UNTIL_DUE, {}, datetime(2027, 1, 1, tzinfo=UTC), None),
    ],
)
def test_totals_are_what_one_computes_by_hand(
    weighting: Weighting, missing: Missing, scores: dict[str, D], now: datetime, wanted: str | None
) -> None:
    found = total(ITEMS, scores, Method(D(100), weighting, HEAVY, missing), now)
    assert (None if found.score is None else f"{found.score:f}") == wanted
    assert bool(found.steps) == (wanted is not None)


def test_a_total_rounds_once_at_the_end_half_up_and_excuses_and_extra_credit() -> None:
    thirds = [Counting(str(number), str(number), D(3)) for number in range(3)]
    assert total(
        thirds, {"0": D(1), "1": D(1), "2": D(1)}, Method(D("0.5"), places=4), MARCH
    ).score == D("0.1667")
    assert total(
        [Counting("a", "A", D(8))], {"a": D(1)}, Method(D(100), places=0), MARCH
    ).score == D(13)  # 12.5
    assert (
        total(ITEMS, SCORES, Method(D(100), Weighting.POINTS), FEBRUARY, frozenset({"b"})).score
        == 80
    )
    extra = [*ITEMS[:1], Counting("x", "Extra", D(0))]
    assert total(extra, {"a": D(9), "x": D(2)}, Method(D(10), Weighting.POINTS), MARCH).score == 11
    assert total(extra, {"a": D(9), "x": D(2)}, Method(D(10)), MARCH).score == 9


def test_the_verdict_names_first_what_needs_a_person() -> None:
    now = BEGUN
    well = Standing(True, True, {"accepted": 5}, {}, 5)
    cases = [
        (well, "well", ""),
        (Standing(False, True, {}, {"off": 2}, 2), "off", "on"),
        (
            Standing(
                True, True, {"refused": 1, "waiting": 3}, {}, 9, oldest=now - timedelta(hours=5)
            ),
            "trouble",
            "see_refused",
        ),
        (
            Standing(True, True, {"waiting": 3}, {}, 9, oldest=now - timedelta(hours=5)),
            "trouble",
            "",
        ),
        (
            Standing(
                True,
                True,
                {"waiting": 3},
                {},
                9,
                oldest=now - timedelta(minutes=5),
                pause="The campus asked for a pause.",
            ),
            "waits",
            "",
        ),
        (
            Standing(
                True, True, {}, {"hand": 4}, 9, unreported=2, compared="Mar 3, 2027 at 3:10 AM"
            ),
            "trouble",
            "see_unreported",
        ),
        (Standing(True, True, {}, {"hand": 4}, 9), "waits", "release"),
        (Standing(True, True, {}, {}, 9, unclaimed=2), "waits", "match"),
        (Standing(True, True, {}, {}, 0), "well", ""),
    ]
    for standing, level, act in cases:
        found = judge(standing, now)
        assert (found.level, found.act) == (level, act), found
        assert found.sentence
        assert found.remedy


@pytest.mark.parametrize(("first", "second"), [("7", "9"), ("9", "7")])
def test_of_two_reports_with_one_timestamp_the_one_that_came_later_counts(
    first: str, second: str
) -> None:
    """AGS 2.0, 3.4.8: not updated "if the last recorded timestamp is later", and it is equal."""
    when = datetime(2027, 2, 1, 9, tzinfo=UTC)
    reports = [
        Report(number, when, D(given), D(10))
        for number, given in enumerate((first, second), start=1)
    ]
    for order in (reports, reports[::-1]):  # however they are read, the ledger's order tells
        found = counting(order)
        assert found is not None
        assert (found.given, found.entries) == (D(second), (2,))
