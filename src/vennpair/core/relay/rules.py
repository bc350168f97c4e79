"""What is relayed, which attempt counts, in which numbers, and when: one rule for all, changed by
category and by item.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, fields, replace
from enum import StrEnum
from typing import Any

CLOCK = re.compile(r"([01]\d|2[0-3]):[0-5]\d")
MOST_PLACES = 4


class When(StrEnum):
    """When a score goes."""

    SUBMISSION = "submission"
    DUE = "due"
    DAILY = "daily"
    HAND = "hand"


class Late(StrEnum):
    """What becomes of work after the due date, or after a release by hand."""

    AT_ONCE = "at_once"
    HAND = "hand"


class Counts(StrEnum):
    """Which attempt counts; the publisher's rule needs no knowledge of attempts."""

    PUBLISHER = "publisher"
    LAST = "last"
    BEST = "best"
    FIRST = "first"
    MEAN = "mean"


class Points(StrEnum):
    """In which numbers a score goes out."""

    GIVEN = "given"
    COLUMN = "column"


@dataclass(frozen=True, slots=True)
class Rule:
    """How scores of an item are relayed.

    ``at``: a time of day as ``HH:MM`` in the course's zone, for ``daily``. ``places``: decimals to
    round to in the column's points, None for none. ``look_first``: the column is not shown to
    learners until it is released.
    """

    relays: bool = True
    when: When = When.SUBMISSION
    at: str = "18:00"
    late: Late = Late.AT_ONCE
    counts: Counts = Counts.PUBLISHER
    points: Points = Points.GIVEN
    places: int | None = None
    comments: bool = True
    statuses: bool = False
    look_first: bool = False


_KINDS = {"when": When, "late": Late, "counts": Counts, "points": Points}
NAMES = tuple(each.name for each in fields(Rule))


class RuleError(ValueError):
    """A rule says something that it cannot; the message says what it may be."""


def read_changes(asked: Mapping[str, Any]) -> dict[str, Any]:
    """Return the fields of a rule that ``asked`` changes, as plain values that can be kept.

    Raises RuleError.
    """
    for name, value in asked.items():
        if name not in NAMES:
            raise RuleError(f"A rule has no '{name}'; it has {', '.join(NAMES)}.")
        if name in _KINDS and value not in set(_KINDS[name]):
            raise RuleError(f"'{name}' is one of {', '.join(_KINDS[name])}.")
        if name == "at" and not (isinstance(value, str) and CLOCK.fullmatch(value)):
            raise RuleError("'at' is a time of day such as 18:00.")
        if (
            name == "places"
            and value is not None
            and (
                isinstance(value, bool)
                or not isinstance(value, int)
                or not 0 <= value <= MOST_PLACES
            )
        ):
            raise RuleError(
                f"'places' is a whole number from 0 to {MOST_PLACES}, or nothing to leave scores"
                " unrounded."
            )
        if isinstance(getattr(Rule(), name), bool) and not isinstance(value, bool):
            raise RuleError(f"'{name}' is true or false.")
    return {
        name: value.value if isinstance(value, StrEnum) else value for name, value in asked.items()
    }


def rule_of(changes: Iterable[Mapping[str, Any]]) -> Rule:
    """Return the rule that results from changes, the widest first: for all, for the category, for
    the item.
    """
    rule = Rule()
    for each in changes:
        known: dict[str, Any] = {
            name: _KINDS[name](value) if name in _KINDS else value for name, value in each.items()
        }
        rule = replace(rule, **known)
    return rule


_COUNTS = {
    Counts.PUBLISHER: "the score that the publisher counts",
    Counts.LAST: "the last attempt",
    Counts.BEST: "the best attempt",
    Counts.FIRST: "the first attempt",
    Counts.MEAN: "the mean of all attempts",
}
_WHEN = {
    When.SUBMISSION: "as soon as a learner hands in",
    When.DUE: "all at once when the due date has passed",
    When.DAILY: "every day at {at}",
    When.HAND: "when you release it",
}


def in_words(rule: Rule) -> str:
    """Return the rule as a sentence for an instructor."""
    if not rule.relays:
        return "Scores are kept; none goes to the gradebook."
    words = f"{_COUNTS[rule.counts]} goes {_WHEN[rule.when].format(at=rule.at)}"
    if rule.when in {When.DUE, When.HAND}:
        after = "the due date" if rule.when is When.DUE else "the release"
        words += (
            f"; work after {after} goes"
            f" {'at once' if rule.late is Late.AT_ONCE else 'when you release it'}"
        )
    if rule.points is Points.COLUMN:
        words += ", in the column's points" + (
            f" rounded to {rule.places} decimals"
            if rule.places
            else (" rounded to whole points" if rule.places == 0 else "")
        )
    if rule.look_first:
        words += "; learners see the column once you release it"
    return f"{words[0].upper()}{words[1:]}."
