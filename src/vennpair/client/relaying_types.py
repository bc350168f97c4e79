"""The objects of relaying as typed dictionaries; names and meanings are the schema's."""

from __future__ import annotations

from typing import Any, TypedDict


class Verdict(TypedDict):
    """Whether all is well: ``well``, ``waits``, ``trouble`` or ``off``, in a sentence, with what to
    do.
    """

    level: str
    sentence: str
    remedy: str
    act: str


class Relay(TypedDict):
    """How the relay stands: cells by state, held ones by what they wait for, the oldest waiting
    score, the lag in milliseconds.
    """

    on: bool
    state: str
    verdict: Verdict
    counts: dict[str, int]
    held: dict[str, int]
    received: int
    unclaimed: int
    oldest: dict[str, str] | None
    lag: dict[str, float | None]
    pause: str
    setting: dict[str, Any]


class ScoreLine(TypedDict):
    """One learner's score in one column."""

    id: int
    placement: str
    item: str
    learner_id: str
    learner: str
    email: str
    state: str
    why: str
    reason: str
    remedy: str
    reported: str | None
    points: str | None
    reported_at: str | None
    sent: str | None
    sent_at: str | None
    since: str | None
    until: str | None
    tries: int
    changed_at: str


class ScoreStory(ScoreLine):
    """The same with every report and everything that was done with it."""

    ledger: list[dict[str, Any]]
    passages: list[dict[str, Any]]


class Queued(TypedDict):
    """How many the gradebook shows otherwise, as they are, could not be read.

    How many are queued, or would be.
    """

    differ: int
    same: int
    unread: int
    queued: int


class RuleOutcome(TypedDict):
    """The rule that results, in words, and how many scores are looked at anew."""

    scope: str
    key: str
    changes: dict[str, Any]
    words: str
    cells: int
