"""The sheet of a rollout: what somebody wants of the items, before it is known what a shell
holds.

Each field of ``Sheet`` is described here once. The API's fields, the options of the command line,
the keys of a sheet's file and the table in docs/deploying.md are made from it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import MISSING, Field, dataclass, field, fields
from decimal import Decimal
from typing import Any, Literal

Undated = Literal["ask", "column", "link"]
Into = Literal["folder", "unit", "heading", "page"]
By = Literal["publisher", "due", "unit", "chosen"]
Graded = Literal["column", "link"]
Applied = Literal["visible", "shown_from", "new_window", "all"]

LONGEST_SHIFT = 3_700  # ten years, in days
WHERE, HOW, AGAIN = "where to", "how", "items that are already placed"


@dataclass(frozen=True, slots=True)
class Described:
    """How a field of the sheet is explained and limited.

    ``option`` is its name on the command line, empty where it has none of its own; ``metavar``
    what stands for its value there. ``least`` and ``most`` limit a number, ``longest`` a text.
    """

    help: str
    option: str = ""
    group: str = HOW
    metavar: str = ""
    least: int | None = None
    most: int | None = None
    longest: int = 255


def described(
    help: str, default: Any = MISSING, *, factory: Callable[[], Any] | None = None, **more: Any
) -> Any:
    """Return a field with its default and description."""
    metadata = {"described": Described(help, **more)}
    if factory is not None:
        return field(default_factory=factory, metadata=metadata)
    return field(default=default, metadata=metadata)


@dataclass(frozen=True, slots=True)
class Wish:
    """What is wanted of one item in place of what the sheet says for all; None where nothing else
    is.

    ``points`` count only where the publisher states none; ``due_at`` likewise. ``shown_from`` is a
    time with or without zone. ``folder`` is a title or an id. ``words`` of a page's
    text become the link, where items go into a page.
    """

    title: str | None = None
    becomes: Graded | None = None
    points: Decimal | None = None
    due_at: str | None = None
    category: str | None = None
    visible: bool | None = None
    shown_from: str | None = None
    new_window: bool | None = None
    folder: str | None = None
    words: str | None = None


@dataclass(frozen=True, slots=True)
class Sheet:
    """What is wanted of all chosen items.

    Times are ISO 8601, in the course's zone where they name none; empty texts and None mean that
    nothing is wanted there. With ``update``, placed items keep how they are shown unless
    ``applies`` names it; ``all`` makes of them what a new one would be.
    """

    into: Into = described(
        "what the folder is: the folder itself, the one around a folder for each unit, a heading,"
        " or a page",
        "folder",
        group=WHERE,
    )
    folder: str = described(
        "title or id of the folder, created if it does not exist; empty: the top of the outline",
        "",
        option="--folder",
        group=WHERE,
    )
    folders: dict[str, str] = described(
        "the folder of each unit, where it is not named like the unit", factory=dict, group=WHERE
    )
    graded: Graded = described(
        "graded items become links with a gradebook column, or links only",
        "column",
        option="--graded",
    )
    undated: Undated = described(
        "what graded items without a due date become (ask: they are left out and named)",
        "ask",
        option="--undated",
    )
    category: str = described(
        "publisher (the publisher's), none, or a category of the shell, created if it does not"
        " exist",
        "publisher",
        option="--category",
        longest=200,
    )
    by: By = described("the order of the items", "publisher", option="--order")
    after: str = described(
        "right after this entry of the outline, or 'start'", "", option="--after", metavar="ENTRY"
    )
    after_text: str = described(
        "in a page: after the paragraph that holds these words, else at its end",
        "",
        option="--after-text",
        group=WHERE,
        metavar="WORDS",
    )
    visible: bool = described("learners see the links", True)
    shown_from: str = described(
        "show from this time on, such as 2027-01-11T08:00 in the course's zone",
        "",
        option="--shown-from",
        metavar="TIME",
        longest=40,
    )
    shown_before: int | None = described(
        "show from DAYS before the due date",
        None,
        option="--shown-before",
        metavar="DAYS",
        least=0,
        most=LONGEST_SHIFT,
    )
    new_window: bool = described("open in a new window", False, option="--new-window")
    pattern: str = described(
        "rename by a pattern with {title}, {unit}, {number}, {category} and {points}",
        "",
        option="--title",
        metavar="PATTERN",
        longest=500,
    )
    longest: int = described(
        "shorten titles to LENGTH characters",
        255,
        option="--longest",
        metavar="N",
        least=10,
        most=255,
    )
    update: bool = described(
        "bring them up to date with the publisher and with this sheet",
        False,
        option="--update",
        group=AGAIN,
    )
    move: bool = described(
        "move them to where this sheet says", False, option="--move", group=AGAIN
    )
    shift_days: int | None = described(
        "move all dates by DAYS; not given: as what is placed already was moved",
        None,
        option="--shift-days",
        group=WHERE,
        metavar="DAYS",
        least=-LONGEST_SHIFT,
        most=LONGEST_SHIFT,
    )
    applies: tuple[Applied, ...] = ()
    wishes: dict[str, Wish] = field(default_factory=dict)

    def wish(self, item: str) -> Wish:
        """Return what is wanted of one item."""
        return self.wishes.get(item, Wish())


def description_of() -> list[tuple[Field[Any], Described]]:
    """Return the described fields of the sheet, in their order."""
    return [
        (each, each.metadata["described"]) for each in fields(Sheet) if "described" in each.metadata
    ]
