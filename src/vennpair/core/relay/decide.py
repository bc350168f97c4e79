"""Which of the publisher's reports counts for a cell, and whether it has to be sent now."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from enum import StrEnum
from fractions import Fraction

from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import rounded
from vennpair.core.relay.rules import Counts, Points, Rule

MOST_PLACES = 6  # what the ledger keeps; see untakable
MOST = Decimal(10) ** 10
YEARS = range(
    1970, 2200
)  # those that no clock of ours and no zone leads out of what a database keeps


@dataclass(frozen=True, slots=True)
class Report:
    """One entry of the ledger: the score, the publisher's own time of it, and when it came.

    ``submitted`` is when the attempt was handed in, where the publisher tells (AGS 2.0,
    submission): reports with the same one are about the same attempt. Without it every report is an
    attempt of its own.
    """

    entry: int
    timestamp: datetime
    given: Decimal | None
    maximum: Decimal | None
    fully_graded: bool = True
    arrived: datetime | None = None
    submitted: datetime | None = None
    activity: str = "Completed"
    grading: str = "FullyGraded"
    comment: str = ""

    @property
    def scores(self) -> bool:
        """Say whether it brings a final score."""
        return self.fully_graded and self.given is not None and self.maximum is not None

    @property
    def deletes(self) -> bool:
        """Say whether it takes a score back: a final report, or a fresh beginning, without a score
        (AGS 2.0, 3.4.4).
        """
        return self.given is None and (self.fully_graded or self.activity == "Initialized")

    @property
    def progress(self) -> str:
        """Return how far it is, in the standard's words."""
        return f"{self.activity}/{self.grading}"

    @property
    def handed_in(self) -> datetime:
        """Return when the learner handed in, as far as it is known."""
        return self.submitted or self.timestamp


def untakable(given: Decimal | None, maximum: Decimal | None, *times: datetime | None) -> str:
    """Return in a sentence why the ledger takes no such report; empty where it does."""
    if any(value is not None and abs(value) >= MOST for value in (given, maximum)):
        return "Scores must be below 10,000,000,000."
    if any(time is not None and time.year not in YEARS for time in times):
        return f"A time before {YEARS[0]} or after {YEARS[-1]} is not a time of a score."
    return ""


@dataclass(frozen=True, slots=True)
class Counted:
    """What counts for a cell: a score, or None where the publisher took it back; ``entries`` are
    those it is made of.

    ``timestamp`` is the newest time of all reports that were weighed, so that it is never older
    than what was sent before.
    """

    given: Decimal | None
    maximum: Decimal | None
    timestamp: datetime
    entries: tuple[int, ...]

    @property
    def newest(self) -> int:
        """Return the last of its entries."""
        return self.entries[-1]


@dataclass(frozen=True, slots=True)
class SentScore:
    """What the platform last accepted for the cell."""

    timestamp: datetime
    given: Decimal
    maximum: Decimal


class Verdict(StrEnum):
    """What to do with a cell now."""

    SEND = "send"
    NOTHING = "nothing"  # the platform has it already, or there is no score to send
    WITHDRAWN = "withdrawn"  # the publisher took back what we sent; a comparison asks what to do


def counting(reports: Iterable[Report], counts: Counts = Counts.PUBLISHER) -> Counted | None:
    """Return what counts of the reports, None where nothing final was reported.

    By the publisher's rule that is its newest report (AGS 2.0, 3.4.8: the timestamp decides, then
    the arrival). By a rule of ours the newest report of each attempt is taken, and of those the
    last, the first, the best by its share of the points (the earlier of equals), or their mean in
    the points of the last.
    """
    final = sorted(
        (each for each in reports if each.scores or each.deletes),
        key=lambda each: (each.timestamp, each.entry),
    )
    if not final:
        return None
    newest = final[-1]
    if counts is Counts.PUBLISHER:
        return Counted(newest.given, newest.maximum, newest.timestamp, (newest.entry,))
    attempts = _attempts(final)
    if not attempts:
        return Counted(None, None, newest.timestamp, (newest.entry,))
    if counts is Counts.MEAN:
        points = Fraction(attempts[-1].maximum or 1)
        share = sum((_share(each) for each in attempts), Fraction(0)) / len(attempts)
        return Counted(
            rounded(share * points, MOST_PLACES),
            attempts[-1].maximum,
            newest.timestamp,
            tuple(each.entry for each in attempts),
        )
    one = {Counts.LAST: attempts[-1], Counts.FIRST: attempts[0]}.get(counts) or max(
        attempts, key=_share
    )
    return Counted(one.given, one.maximum, newest.timestamp, (one.entry,))


def _attempts(final: Sequence[Report]) -> list[Report]:
    """Return the newest report of each attempt that still counts, in the order in which they were
    handed in.
    """
    standing: dict[datetime, Report] = {}
    for each in final:
        if each.scores:
            standing[each.handed_in] = each
        elif each.submitted is not None:
            standing.pop(each.submitted, None)
        else:
            standing.clear()
    return [standing[key] for key in sorted(standing)]


def _share(report: Report) -> Fraction:
    return Fraction(report.given or 0) / Fraction(report.maximum or 1)


def to_send(counted: Counted, rule: Rule, column_points: Decimal | None) -> Mark:
    """Return the score as it goes out: as the publisher states it, or in the column's points,
    rounded as the rule says.

    Half a unit is rounded up, as most people do by hand.
    """
    given, maximum = counted.given or Decimal(0), counted.maximum or Decimal(1)
    if rule.points is Points.GIVEN or not column_points:
        return Mark(given, maximum)
    value = Fraction(given) / Fraction(maximum) * Fraction(column_points)
    return Mark(rounded(value, MOST_PLACES if rule.places is None else rule.places), column_points)


def stamp(counted: Counted, sent: SentScore | None) -> datetime:
    """Return the time to send with: the publisher's own, or just after what is there where only the
    rule has changed.
    """
    if sent is not None and counted.timestamp <= sent.timestamp:
        return sent.timestamp + timedelta(microseconds=1)
    return counted.timestamp


def overwrites(
    column: Column, gradebook: Decimal | None, ours: Sequence[Mark], newest: Mark
) -> bool:
    """Say whether sending ``newest`` would take away a value that a person put there.

    That is any value which is neither what we sent (``ours``: the last that was accepted, and all
    whose answer was lost since) nor what we are about to send: DESIGN 7 calls such a cell ``clash``
    or ``differ``, and a person chooses.
    """
    return gradebook is not None and not any(
        column.shows(mark, gradebook) for mark in (newest, *ours)
    )


def verdict(mark: Mark | None, sent: SentScore | None, *, force: bool = False) -> Verdict:
    """Decide whether a score is to be sent; None is a score that the publisher took back.

    ``force`` sends again what is there.
    """
    if mark is None:
        return Verdict.WITHDRAWN if sent is not None else Verdict.NOTHING
    known = sent is not None and (sent.given, sent.maximum) == (mark.score, mark.points)
    return Verdict.NOTHING if known and not force else Verdict.SEND
