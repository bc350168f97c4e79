"""The sheet of a rollout: what somebody wants of the items, before it is known what a shell
holds.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from decimal import Decimal
from typing import Literal

Undated = Literal["ask", "column", "link"]
Into = Literal["folder", "unit", "heading", "page"]
By = Literal["publisher", "due", "unit", "chosen"]


@dataclass(frozen=True, slots=True)
class Wish:
    """What is wanted of one item in place of what the sheet says for all; None where nothing else
    is.

    ``points`` count only where the publisher states none; ``due_at`` likewise. ``shown_from`` is a
    time with or without zone.
    """

    title: str | None = None
    becomes: Literal["column", "link"] | None = None
    points: Decimal | None = None
    due_at: str | None = None
    category: str | None = None
    visible: bool | None = None
    shown_from: str | None = None
    new_window: bool | None = None


@dataclass(frozen=True, slots=True)
class Sheet:
    """What is wanted of all chosen items.

    ``into`` says what ``folder`` (title or id, empty: the top) means: the folder itself, the one in
    which each unit's folder stands, a heading or a page. ``graded`` is ``column`` or ``link``.
    ``category`` is ``publisher``, ``none`` or a title. ``after`` is the id of an entry, ``start``,
    or empty for the order's own place. ``shown_before`` is a number of days before the due date.
    ``update`` brings what stands already up to date, ``move`` moves it. ``shift_days`` moves all
    dates; None leaves what stands at the shift that it has.
    """

    into: Into = "folder"
    folder: str = ""
    folders: dict[str, str] = field(default_factory=dict)
    graded: Literal["column", "link"] = "column"
    undated: Undated = "ask"
    category: str = "publisher"
    by: By = "publisher"
    after: str = ""
    visible: bool = True
    shown_from: str = ""
    shown_before: int | None = None
    new_window: bool = False
    pattern: str = ""
    longest: int = 255
    update: bool = False
    move: bool = False
    shift_days: int | None = None
    wishes: dict[str, Wish] = field(default_factory=dict)

    def wish(self, item: str) -> Wish:
        """Return what is wanted of one item."""
        return self.wishes.get(item, Wish())
