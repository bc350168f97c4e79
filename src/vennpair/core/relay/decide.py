"""Which of the publisher's reports counts for a cell, and whether it has to be sent now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from enum import StrEnum

from vennpair.core.reconcile.cells import Column, Mark


@dataclass(frozen=True, slots=True)
class Report:
    """One entry of the ledger: the score and the publisher's own time of it."""

    entry: int
    timestamp: datetime
    given: Decimal | None
    maximum: Decimal | None
    fully_graded: bool = True


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
    HELD = "held"  # the relay is off or the pairing is not live; kept, not sent


def counting(reports: Sequence[Report]) -> Report | None:
    """Return the report that counts: the newest by the publisher's time, then by arrival (AGS 2.0, 3.4.8)."""
    return max(reports, key=lambda report: (report.timestamp, report.entry), default=None)


def overwrites(column: Column, gradebook: Decimal | None, sent: Mark | None, newest: Mark) -> bool:
    """Say whether sending ``newest`` would take away a value that a person put there.

    That is any value which is neither what we sent last nor what we are about to send: DESIGN 7
    calls such a cell ``clash`` or ``differ``, and a person chooses.
    """
    if gradebook is None or column.shows(newest, gradebook):
        return False
    return sent is None or not column.shows(sent, gradebook)


def verdict(report: Report | None, sent: SentScore | None, *, relaying: bool, force: bool = False) -> Verdict:
    """Decide whether a cell's counting report is to be sent; ``force`` sends again what is there already."""
    if report is None or report.given is None or report.maximum is None or not report.fully_graded:
        return Verdict.NOTHING
    known = sent is not None and (sent.given, sent.maximum) == (report.given, report.maximum)
    if known and not force:
        return Verdict.NOTHING
    return Verdict.SEND if relaying else Verdict.HELD
