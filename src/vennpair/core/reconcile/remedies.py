"""What can be done about a finding: the remedies that each kind offers, and what a remedy would
write (DESIGN 7).
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.numbers import plain_fraction, scale

SEND, RESTORE, CLEAR = "send", "restore", "clear"
KEEP, LEAVE = "keep", "leave"
PUT_BACK, MAKE_AGAIN, CLAIM, MATCH, TIE = "put_back", "make_again", "claim", "match", "tie"
# Somebody names which of several it is.
NAMES_ONE = frozenset({MATCH, TIE})
WRITES_SCORE = frozenset({SEND, RESTORE, CLEAR})
QUIETS = frozenset(
    {KEEP, LEAVE}
)  # write nothing; the finding stays quiet until either side moves again

# The first remedy is the default, except where a person must choose. An empty tuple: there is
# nothing to do.
_CELLS: dict[str, tuple[str, ...]] = {
    "unsent": (SEND,),
    "cleared": (SEND, LEAVE),
    "behind": (SEND,),
    "edited": (KEEP, RESTORE),
    "clash": (SEND, KEEP),
    "differ": (SEND, KEEP),
    "gradebook_only": (KEEP, CLEAR),
    "withdrawn": (KEEP, CLEAR),
    "refused": (SEND, LEAVE),
    "held": (),
    "unread": (LEAVE,),
}
_COLUMNS: dict[str, tuple[str, ...]] = {
    "points_differ": (PUT_BACK, KEEP),
    "due_differs": (PUT_BACK, KEEP),
    "title_differs": (PUT_BACK, KEEP),
    "category_differs": (PUT_BACK, KEEP),
    "column_missing": (MAKE_AGAIN, LEAVE),
    "column_extra": (LEAVE,),
    "item_gone": (LEAVE,),
    "never_opened": (LEAVE,),
    "title_ambiguous": (LEAVE,),
    "points_missing": (PUT_BACK, LEAVE),
}
_CHOOSE = frozenset({"clash", "differ"})
_SAFE = frozenset({"unsent", "behind", "refused"})


def remedies_of(kind: str, *, publisher: bool = True, read: bool = True) -> tuple[str, ...]:
    """Return the remedies of a cell's or a column's finding.

    ``publisher`` says whether the publisher has a score, ``read`` whether it was asked in this
    comparison: a score that only the gradebook has is not emptied on a word that nobody gave.
    """
    if kind == "gradebook_only" and not read:
        return (KEEP,)
    if kind == "cleared" and not publisher:
        return (LEAVE,)
    if kind == "edited" and not publisher:
        return (KEEP, CLEAR)
    return _CELLS.get(kind, _COLUMNS.get(kind, ()))


def remedies_of_learner(*, candidates: bool) -> tuple[str, ...]:
    """Return the remedies of a learner's finding.

    ``candidates`` says whether somebody is proposed.
    """
    return (MATCH, LEAVE) if candidates else (LEAVE,)


def default_of(kind: str, remedies: tuple[str, ...]) -> str:
    """Return the remedy that is taken where nobody chooses; empty where a person must."""
    return "" if kind in _CHOOSE or NAMES_ONE & {*remedies} or not remedies else remedies[0]


def is_safe(kind: str) -> bool:
    """Say whether the default loses nothing that a person typed, so that all such cells can be
    settled in one step.
    """
    return kind in _SAFE


def is_for_many(remedy: str, *, read: bool, empty: bool) -> bool:
    """Say whether a remedy may be taken for many cells at once, or only for one that somebody
    chose.

    What empties or overwrites a cell may only where the publisher's value was read for it in this
    comparison. ``empty`` says that the gradebook's cell is.
    """
    return remedy not in WRITES_SCORE or read or empty


@dataclass(frozen=True, slots=True)
class Write:
    """One exact write into a cell: the score as it is sent, None to empty the cell, and what the
    column then shows.
    """

    given: Decimal | None
    maximum: Decimal | None
    shows: str | None

    @classmethod
    def of(cls, mark: Mark, points: Decimal | None) -> Write:
        """Return the write of a mark into a column of ``points``."""
        return cls(
            mark.score,
            mark.points or mark.score or Decimal(1),
            plain_fraction(scale(mark.score, mark.points, points)),
        )


EMPTYING = Write(None, None, None)


def in_words(before: str | None, write: Write | None, remedy: str) -> str:
    """Return what a remedy does to a cell, in a few words."""
    there = before if before is not None else "nothing"
    if write is None:
        return (
            f"{there} stays, and is not shown as open until either side moves"
            if remedy in QUIETS
            else remedy.replace("_", " ")
        )
    return f"{there} becomes {write.shows if write.shows is not None else 'empty'}"
