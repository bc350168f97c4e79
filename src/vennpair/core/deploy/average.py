"""One average in place of single columns: each score's share of its points, missing work ignored until it is due and zero after."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import ROUND_HALF_UP, Decimal

from vennpair.core.deploy.dates import read_moment

PLACES = Decimal("0.01")


@dataclass(frozen=True, slots=True)
class Counting:
    """An item that counts: its points and due date (empty: never missing)."""

    item: str
    title: str
    points: Decimal
    due_at: str = ""


@dataclass(frozen=True, slots=True)
class Share:
    """What one item adds to an average: the score, None where it is missing and counts as zero."""

    title: str
    score: Decimal | None
    points: Decimal


def average(items: Sequence[Counting], scores: Mapping[str, Decimal], worth: Decimal, now: datetime) -> tuple[Decimal | None, tuple[Share, ...]]:
    """Return a learner's average in points of ``worth``, rounded half up to two places, and its arithmetic; None where nothing counts yet."""
    shares = []
    for each in items:
        if each.item in scores:
            shares.append(Share(each.title, scores[each.item], each.points))
        elif (due := read_moment(each.due_at)) is not None and due <= now:
            shares.append(Share(each.title, None, each.points))
    if not shares:
        return None, ()
    total = sum(((share.score or Decimal(0)) / share.points for share in shares), Decimal(0))
    return (total / len(shares) * worth).quantize(PLACES, ROUND_HALF_UP), tuple(shares)
