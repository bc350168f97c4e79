"""What one item becomes in a shell: left out, a link, or a link with a column.

Never a column silently.
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from vennpair.core.deploy.sheet import Undated, Wish
from vennpair.core.levels import Level

LAUNCHABLE = frozenset({"graded", "practice", "link"})


@dataclass(frozen=True, slots=True)
class Notice:
    """Something about one item that the instructor should know before it happens.

    ``error`` keeps the item out.
    """

    code: str
    item: str
    title: str
    message: str
    remedy: str
    level: Level = "warning"


@dataclass(frozen=True, slots=True)
class Becomes:
    """What one item becomes: placed or left out, with a column where ``points`` is not None, and
    what to say of it.
    """

    placed: bool
    points: Decimal | None = None
    notice: Notice | None = None


def becomes(
    item: str,
    title: str,
    kind: str,
    points: Decimal | None,
    due_at: str,
    undated: Undated = "ask",
    wish: Wish | None = None,
) -> Becomes:
    """Decide what an item becomes.

    Points that are missing, 0 or negative make no column unless the wish states some.
    """
    wanted = wish or Wish()

    def said(code: str, message: str, remedy: str, level: Level = "warning") -> Notice:
        return Notice(code, item, title, message, remedy, level)

    if kind not in LAUNCHABLE:
        words = f"'{title}' is content, not a link; it comes with the cartridge import."
        remedy = "Bring it into the shell under Content instead."
        return Becomes(False, None, said("not_a_link", words, remedy, "error"))
    if kind != "graded" or wanted.becomes == "link":
        return Becomes(True)
    worth = points if points is not None and points > 0 else wanted.points
    if worth is None or worth <= 0:
        words = f"'{title}' has no points at the publisher, so it becomes a link without a column."
        remedy = "Give it points at the publisher, or say here how many it is worth."
        return Becomes(True, None, said("points_missing", words, remedy))
    if due_at or undated == "column" or wanted.becomes == "column":
        return Becomes(True, worth)
    if undated == "link":
        words = f"'{title}' has no due date, so it becomes a link without a column, as you chose."
        return Becomes(True, None, said("due_missing", words, "", "note"))
    words = (
        f"'{title}' has no due date, so it is left out until you say whether it becomes a column."
    )
    remedy = (
        "Say for items without a date whether they get a column, become links only, or stay out."
    )
    return Becomes(False, None, said("due_missing", words, remedy, "error"))
