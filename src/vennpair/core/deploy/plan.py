"""The plan of a rollout: which folder, links and columns will be made, and what is left out and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

Undated = Literal["ask", "column", "link"]


@dataclass(frozen=True, slots=True)
class Candidate:
    """An item that somebody chose. ``placed`` says that it already stands in the shell."""

    item: str
    title: str
    kind: str
    points: Decimal | None
    due_at: str = ""
    audience: str = "everyone"
    placed: bool = False
    launchable: bool = True


@dataclass(frozen=True, slots=True)
class PlannedLink:
    """A link to make; with a column where ``points`` is not None."""

    item: str
    title: str
    position: int
    visible: bool
    points: Decimal | None = None
    due_at: str = ""


@dataclass(frozen=True, slots=True)
class Notice:
    """Something about one item that the instructor should know before it happens."""

    code: str
    item: str
    title: str
    message: str
    remedy: str


@dataclass(frozen=True, slots=True)
class Plan:
    """All that will happen, in order. ``new_folder`` is empty where the folder is there already."""

    folder: str
    new_folder: str
    links: tuple[PlannedLink, ...]
    unchanged: tuple[str, ...]
    notices: tuple[Notice, ...]

    @property
    def columns(self) -> int:
        """Return how many columns will be made."""
        return sum(link.points is not None for link in self.links)


def plan_rollout(candidates: Sequence[Candidate], folder: str, folder_exists: bool, start: int, undated: Undated = "ask") -> Plan:
    """Decide a rollout into one folder; ``start`` is the position after what the folder holds.

    An item without a due date becomes no column silently: it is left out until ``undated`` says
    ``column`` or ``link``.
    """
    links: list[PlannedLink] = []
    unchanged: list[str] = []
    notices: list[Notice] = []
    for each in candidates:
        if each.placed:
            unchanged.append(each.item)
            continue
        decided = becomes(each, undated)
        if decided.notice:
            notices.append(decided.notice)
        if decided.placed:
            links.append(PlannedLink(each.item, each.title, start + len(links), each.audience == "everyone", decided.points, each.due_at if decided.points is not None else ""))
    return Plan(folder, "" if folder_exists or not links else folder, tuple(links), tuple(unchanged), tuple(notices))


@dataclass(frozen=True, slots=True)
class Becomes:
    """What one item becomes: placed or left out, with a column where ``points`` is not None, and what to say of it."""

    placed: bool
    points: Decimal | None = None
    notice: Notice | None = None


def becomes(each: Candidate, undated: Undated) -> Becomes:
    """Decide what one item becomes."""
    if not each.launchable:
        return Becomes(False, None, Notice("not_a_link", each.item, each.title, f"'{each.title}' is content, not a link; it comes with the cartridge import.", "Import it into the shell instead: vennpair cartridge import SHELL --help"))
    if each.kind != "graded":
        return Becomes(True)
    if not each.points or each.points <= 0:
        return Becomes(True, None, Notice("points_missing", each.item, each.title, f"'{each.title}' has no points at the publisher, so it becomes a link without a column.", "Give it points at the publisher if it should count."))
    if each.due_at or undated == "column":
        return Becomes(True, each.points)
    if undated == "link":
        return Becomes(True, None, Notice("due_missing", each.item, each.title, f"'{each.title}' has no due date, so it becomes a link without a column, as you chose.", ""))
    message = f"'{each.title}' has no due date, so it is left out until you say whether it becomes a column."
    return Becomes(False, None, Notice("due_missing", each.item, each.title, message, "Choose --undated column or --undated link (in the console: 'Without a date')."))
