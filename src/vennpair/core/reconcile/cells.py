"""The three-way rule of one cell: publisher now, gradebook now, and what was last sent
(DESIGN 7).
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from vennpair.core.reconcile.numbers import same, scale


@dataclass(frozen=True, slots=True)
class Mark:
    """A score out of points, as one side states it."""

    score: Decimal
    points: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Column:
    """What a column says of its own numbers: points, decimals written, whether it rounds."""

    points: Decimal | None
    decimals: int = 0
    rounds: bool = False

    def value(self, mark: Mark) -> Fraction:
        """Return a mark in this column's points."""
        return scale(mark.score, mark.points, self.points)

    def shows(self, mark: Mark, written: Decimal) -> bool:
        """Say whether this column would show the mark as ``written``."""
        return same(self.value(mark), written, self.decimals, rounds=self.rounds)


def judge(
    column: Column,
    publisher: Mark | None,
    gradebook: Decimal | None,
    sent: Mark | None = None,
    *,
    held: bool = False,
    refused: bool = False,
    read: bool = True,
) -> str | None:
    """Return the kind of a cell, or None where no side ever had a score.

    ``gradebook`` is in the column's points; ``sent`` is the last mark that the platform accepted.
    ``held`` says that the publisher's score is before its release time, ``refused`` that the
    platform refused the newest one; held goes before refused, both before the rest. ``read`` False
    says that nobody told what the publisher has: the cell is ``unread`` whatever is there or was
    sent, and never taken for one whose score was taken back.
    """
    if not read:
        return "unread"
    if publisher is not None and gradebook is not None and column.shows(publisher, gradebook):
        return "agree"
    if publisher is not None and (held or refused):
        return "held" if held else "refused"
    if gradebook is None:
        if publisher is None:
            return "cleared" if sent is not None else None
        return "unsent" if sent is None else "cleared"
    as_sent = sent is not None and column.shows(sent, gradebook)
    if publisher is None:
        if sent is None:
            return "gradebook_only"
        return "withdrawn" if as_sent else "edited"
    if sent is None:
        return "differ"
    if as_sent:
        return "behind"
    return "edited" if column.value(publisher) == column.value(sent) else "clash"
