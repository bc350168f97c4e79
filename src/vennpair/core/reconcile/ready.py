"""May the grades be submitted?

What is still open, what to look at once more, and what is as it should be.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Literal

from vennpair.core.counting import many
from vennpair.core.finding_words import found
from vennpair.core.relay.health import span

FRESH = timedelta(hours=12)  # a comparison older than this is no word on today
_BLOCKING = ("clash", "refused", "behind", "unsent", "differ", "cleared")
_TYPED = ("edited", "gradebook_only", "withdrawn")
_COLUMNS = (
    "column_missing",
    "points_differ",
    "item_gone",
    "title_ambiguous",
    "points_missing",
    "never_opened",
)
_LEARNERS = ("ambiguous", "publisher_only")


# What of the findings is told together: how loud, by which name, of which kinds, in which words,
# and what to do.
_GROUPS: tuple[tuple[Literal["open", "look"], str, tuple[str, ...], tuple[str, str], str], ...] = (
    (
        "open",
        "cells",
        _BLOCKING,
        (
            "score in the gradebook differs from what was earned",
            "scores in the gradebook differ from what was earned",
        ),
        "Settle them; the safe ones in one step.",
    ),
    (
        "open",
        "unread",
        ("unread",),
        (
            "score or item was not read at the publisher, so it was not compared",
            "scores or items were not read at the publisher, so they were not compared",
        ),
        "Say which graded item each link is, or decide to leave them.",
    ),
    (
        "open",
        "columns",
        _COLUMNS,
        (
            "change of a column lets scores count wrongly or go nowhere",
            "changes of columns let scores count wrongly or go nowhere",
        ),
        "Put them back, or decide to leave them.",
    ),
    (
        "open",
        "learners",
        _LEARNERS,
        (
            "learner has no match in the shell, so their scores reach nobody",
            "learners have no match in the shell, so their scores reach nobody",
        ),
        "Say who they are, or decide to leave them.",
    ),
    (
        "look",
        "typed",
        _TYPED,
        (
            "score is as somebody typed or left it",
            "scores are as somebody typed or left them",
        ),
        "Look once; keep them on purpose, or restore the publisher's.",
    ),
)


@dataclass(frozen=True, slots=True)
class Facts:
    """What is known of a pairing. ``open``: findings that nobody keeps as they are, by kind;
    ``scaled`` of the ``edited`` ones were changed by nobody: their column's points were.
    ``scores``: the relay's cells by state.

    ``blank`` counts learners without a score in columns whose due date is over, ``due_later`` the
    placed items whose is not, ``unplaced`` graded items that are in no shell.
    """

    compared_at: datetime | None = None
    cells: int = 0
    agree: int = 0
    open: Mapping[str, int] = field(default_factory=dict)
    scaled: int = 0
    kept: int = 0
    scores: Mapping[str, int] = field(default_factory=dict)
    relay_on: bool = True
    live: bool = True
    proposals: int = 0
    blank: int = 0
    due_later: int = 0
    unplaced: int = 0


Weight = Literal["open", "look", "well"]


@dataclass(frozen=True, slots=True)
class Line:
    """One line of the statement: ``open`` keeps the grades back, ``look`` asks for a glance,
    ``well`` is as it should be.

    ``page`` is where to act: a step's name, with what to show there.
    """

    level: Weight
    what: str
    sentence: str
    remedy: str = ""
    page: str = ""


@dataclass(frozen=True, slots=True)
class Statement:
    """Whether the grades may be submitted, in a sentence, and why; what is open comes first."""

    ready: bool
    sentence: str
    lines: tuple[Line, ...]


def statement(facts: Facts, now: datetime) -> Statement:
    """Return the statement: the grades are ready where nothing is open."""
    lines = [
        each
        for each in (_compared(facts, now), *_findings(facts), *_relay(facts), *_work(facts))
        if each is not None
    ]
    lines.sort(key=lambda each: ("open", "look", "well").index(each.level))
    open_, look = (sum(each.level == level for each in lines) for level in ("open", "look"))
    if open_:
        return Statement(
            False, f"Not ready: {_count(open_, 'thing is', 'things are')} open.", tuple(lines)
        )
    glance = f" {_count(look, 'thing deserves', 'things deserve')} a glance before." if look else ""
    return Statement(
        True,
        f"Ready to submit: all {facts.cells} scores in the gradebook are what was earned, or what"
        f" you decided to keep.{glance}",
        tuple(lines),
    )


def _compared(facts: Facts, now: datetime) -> Line:
    if facts.compared_at is None:
        return Line(
            "open",
            "compared",
            "The two sides were never compared.",
            "Compare them now.",
            "reconcile",
        )
    age = now - facts.compared_at
    if age > FRESH:
        return Line(
            "open",
            "compared",
            f"The last comparison is {span(age)} old; scores may have changed since.",
            "Compare now.",
            "reconcile",
        )
    return Line(
        "well",
        "compared",
        f"{facts.agree} of {many(facts.cells, 'score')} agree, compared {span(age)} ago.",
        "",
        "reconcile",
    )


def _findings(facts: Facts) -> list[Line | None]:
    return [
        *(_kinds(facts, *group) for group in _GROUPS),
        (
            Line(
                "open",
                "proposals",
                f"{_count(facts.proposals, 'proposal of an assistant waits', 'proposals of assistants wait')}.",
                "Carry them out or put them aside.",
                "reconcile",
            )
            if facts.proposals
            else None
        ),
        (
            Line(
                "well",
                "kept",
                f"{_count(facts.kept, 'difference is', 'differences are')} kept on purpose.",
                "",
                "reconcile?kept=true",
            )
            if facts.kept
            else None
        ),
    ]


def _kinds(
    facts: Facts,
    level: Literal["open", "look"],
    what: str,
    kinds: tuple[str, ...],
    words: tuple[str, str],
    remedy: str,
) -> Line | None:
    # They are told with their column; where that is kept as it is, with what was changed.
    scaled = facts.scaled if facts.open.get("points_differ") else 0
    left = {**facts.open, "edited": facts.open.get("edited", 0) - scaled}
    counts = {kind: left[kind] for kind in kinds if left.get(kind, 0) > 0}
    if not counts:
        return None
    told = counts | ({"scaled": scaled} if "points_differ" in counts and scaled else {})
    named = ", ".join(found(kind, count) for kind, count in told.items())
    return Line(
        level,
        what,
        f"{_count(sum(counts.values()), *words)}: {named}.",
        remedy,
        "reconcile" + (f"?kind={next(iter(counts))}" if len(counts) == 1 else ""),
    )


def _relay(facts: Facts) -> list[Line | None]:
    waiting = sum(facts.scores.get(state, 0) for state in ("waiting", "sending"))
    held = facts.scores.get("held", 0)
    off = None
    if not facts.live or not facts.relay_on:
        off = Line(
            "look",
            "relay",
            "Scores are not sent at present"
            + (": the pairing is not live." if not facts.live else ": the relay is off."),
            "Turn it on, unless you mean it.",
            "relay",
        )
    return [
        (
            Line(
                "open",
                "waiting",
                f"{_count(waiting, 'score is', 'scores are')} on the way to the gradebook.",
                "Wait until they have arrived, then compare.",
                "relay?state=waiting",
            )
            if waiting
            else None
        ),
        (
            Line(
                "open",
                "held",
                f"{_count(held, 'score is', 'scores are')} held and not in the gradebook.",
                "Release them.",
                "relay?state=held",
            )
            if held
            else None
        ),
        off,
    ]


def _work(facts: Facts) -> list[Line | None]:
    return [
        (
            Line(
                "look",
                "due_later",
                f"{_count(facts.due_later, 'item is', 'items are')} due later, so their scores may"
                " still change.",
                "Submit after the last due date, or leave them out.",
                "deploy/placed",
            )
            if facts.due_later
            else None
        ),
        (
            Line(
                "look",
                "blank",
                f"{_count(facts.blank, 'cell is', 'cells are')} empty although the work is overdue:"
                " nothing was handed in. Whether that counts as zero is the gradebook's rule.",
                "Look at your gradebook's rule for missing work.",
                "reconcile",
            )
            if facts.blank
            else None
        ),
        (
            Line(
                "look",
                "unplaced",
                f"{_count(facts.unplaced, 'graded item of the homework course is', 'graded items of the homework course are')}"
                " in no shell.",
                "Place what should count.",
                "deploy",
            )
            if facts.unplaced
            else None
        ),
    ]


def _count(number: int, one: str, many: str) -> str:
    return f"{number} {one if number == 1 else many}"
