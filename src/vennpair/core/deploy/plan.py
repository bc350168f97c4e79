"""The plan of a rollout into one shell: which folders, links and columns are made, changed and
moved, item by item.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from typing import Literal

from vennpair.core.deploy.columns import Notice, becomes
from vennpair.core.deploy.dates import read_moment, same_moment
from vennpair.core.deploy.places import NewFolder, Places, hidden_around
from vennpair.core.deploy.sheet import By, Sheet
from vennpair.core.deploy.target import Candidate, Standing, Target, target_of
from vennpair.core.deploy.titles import told_apart
from vennpair.standards.outline import Node

Action = Literal["make", "change", "same", "leave_out"]
FIELDS = ("title", "points", "due_at", "category", "visible", "shown_from", "new_window")


@dataclass(frozen=True, slots=True)
class ShellSnapshot:
    """What one shell holds and offers now.

    ``titles`` are those of links that are there already.
    """

    outline: Sequence[Node]
    zone: str
    now: datetime
    offers: frozenset[str] = frozenset()
    categories: tuple[str, ...] = ()
    titles: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Difference:
    """A field that will change; values are text for people to compare, empty where there is
    none. ``cause``: the publisher changed it, or the sheet says so.
    """

    field: str
    before: str
    after: str
    cause: Literal["publisher", "sheet"] = "sheet"


@dataclass(frozen=True, slots=True)
class Row:
    """What becomes of one item.

    ``folder`` is a node's id, a new folder's key, or empty for the top.
    """

    item: str
    action: Action
    target: Target
    folder: str = ""
    folder_title: str = ""
    differences: tuple[Difference, ...] = ()


@dataclass(frozen=True, slots=True)
class Plan:
    """All that will happen in one shell, in its order. ``level``: how far new links are set in."""

    rows: tuple[Row, ...]
    folders: tuple[NewFolder, ...]
    categories: tuple[str, ...]
    notices: tuple[Notice, ...]
    after: str = ""
    page: str = ""
    unlisted: bool = False
    level: int = 0

    def of(self, action: Action) -> tuple[Row, ...]:
        """Return the rows of an action."""
        return tuple(row for row in self.rows if row.action == action)

    @property
    def columns(self) -> int:
        """Return how many columns will be made."""
        new = sum(row.target.points is not None for row in self.of("make"))
        return new + sum(
            any(each.field == "points" and not each.before for each in row.differences)
            for row in self.of("change")
        )

    @property
    def writes(self) -> int:
        """Return how many items will be written."""
        return len(self.of("make")) + len(self.of("change"))


def plan_rollout(candidates: Sequence[Candidate], sheet: Sheet, snapshot: ShellSnapshot) -> Plan:
    """Decide a rollout. Raises NoPlace and BadPattern."""
    places = Places(snapshot.outline, sheet)
    notices: list[Notice] = []
    rows = [
        _row(number, each, sheet, snapshot, places, notices)
        for number, each in enumerate(in_order(candidates, sheet.by), start=1)
    ]
    made = [row for row in rows if row.action == "make"]
    needed = {row.folder for row in rows if row.action in {"make", "change"}}
    folders = tuple(
        each
        for each in places.new
        if each.key in needed
        or any(other.parent == each.key and other.key in needed for other in places.new)
    )
    notices += _equal_titles(made, snapshot.titles)
    categories = _new_categories(rows, snapshot)
    return Plan(
        tuple(rows),
        folders,
        categories,
        tuple(notices),
        places.after,
        places.page.id if places.page else "",
        places.page is not None and "unlisted" in snapshot.offers,
        places.level if "levels" in snapshot.offers else 0,
    )


def in_order(candidates: Sequence[Candidate], by: By) -> list[Candidate]:
    """Return the items as the sheet orders them.

    Those without a date come last by date, in the publisher's order.
    """
    if by == "chosen":
        return list(candidates)
    row = sorted(candidates, key=lambda each: each.position)
    if by == "due":
        return sorted(
            row,
            key=lambda each: (
                read_moment(each.due_at) is None,
                moment.timestamp() if (moment := read_moment(each.due_at)) else 0.0,
            ),
        )
    if by == "unit":
        units = list(dict.fromkeys(each.unit for each in row))
        return sorted(row, key=lambda each: units.index(each.unit))
    return row


def _row(
    number: int,
    each: Candidate,
    sheet: Sheet,
    snapshot: ShellSnapshot,
    places: Places,
    notices: list[Notice],
) -> Row:
    if (
        each.half
        and each.standing is not None
        and all(node.id != each.standing.node for node in snapshot.outline)
    ):
        each = replace(
            each, standing=None, half=False
        )  # what was begun is no longer there: it is made again
    target, said = target_of(each, number, sheet, snapshot.zone)
    standing = each.standing.in_zone(snapshot.zone) if each.standing else None
    if standing is None and each.brought:
        return Row(each.item, "same", target)
    if standing is not None and not (sheet.update or sheet.move or each.half):
        return Row(each.item, "same", standing.target, standing.folder, standing.folder_title)
    decided = becomes(
        each.item,
        target.title or each.title,
        each.kind,
        each.points,
        target.due_at,
        "column" if standing else sheet.undated,
        sheet.wish(each.item),
    )
    if decided.notice:
        notices.append(decided.notice)
    if not decided.placed or not target.title:
        notices.extend(note for note in said if note.level == "error")
        return Row(each.item, "leave_out", target)
    if not each.addressed:
        notices.append(_front_page(each, target.title))
    target = target.with_points(decided.points if sheet.graded == "column" else None)
    notices.extend(said)
    if standing is not None:
        return _standing(each, standing, target, sheet, places)
    place = places.of(each.unit, sheet.wish(each.item).folder or "")
    notices.extend(_warnings(each, target, snapshot, place))
    return Row(each.item, "make", target, place, places.title(place))


def _front_page(each: Candidate, title: str) -> Notice:
    """Say that a link opens the publisher's front page, and how it gets to its item."""
    return Notice(
        "front_page",
        each.item,
        title,
        f"The publisher tells no address of '{title}', so its link opens the publisher's front"
        " page and not the item.",
        "Pick it at the publisher, import the publisher's cartridge, or enter the publisher's"
        " address pattern once under Connections; placed links follow.",
    )


def _standing(
    each: Candidate, standing: Standing, target: Target, sheet: Sheet, places: Places
) -> Row:
    """Return what changes of a placed link: what the publisher changed since, and what was
    asked for.
    """
    wanted = (
        target
        if each.half or (sheet.update and "all" in sheet.applies)
        else standing.brought_up(each, target, sheet)
        if sheet.update
        else standing.target
    )
    changes = [
        Difference(
            name,
            _text(getattr(standing.target, name)),
            _text(getattr(wanted, name)),
            _cause(name, each, standing.seen),
        )
        for name in FIELDS
        if getattr(standing.target, name) != getattr(wanted, name)
    ]
    place, title = standing.folder, standing.folder_title
    if sheet.move:
        place = places.of(each.unit, sheet.wish(each.item).folder or "")
        title = places.title(place)
        if place != standing.folder:
            changes.append(Difference("folder", standing.folder_title, title))
    return Row(each.item, "change" if changes else "same", wanted, place, title, tuple(changes))


def _cause(name: str, each: Candidate, seen: Target) -> Literal["publisher", "sheet"]:
    """Say whether the publisher changed a field since it was seen."""
    if name == "due_at":
        return "sheet" if same_moment(each.due_at, seen.due_at) else "publisher"
    if name in {"title", "points", "category"}:
        return "sheet" if getattr(each, name) == getattr(seen, name) else "publisher"
    return "sheet"


def _warnings(each: Candidate, target: Target, snapshot: ShellSnapshot, place: str) -> list[Notice]:
    said = []
    due, start = read_moment(target.due_at), read_moment(target.shown_from)
    if due and due < snapshot.now:
        said.append(
            Notice(
                "due_past",
                each.item,
                target.title,
                f"'{target.title}' was due already ({target.due_at[:10]}).",
                "Change the date at the publisher, or shift the dates of this section.",
            )
        )
    if due and start and start >= due:
        said.append(
            Notice(
                "due_before_start",
                each.item,
                target.title,
                f"Learners would see '{target.title}' only when it is due already.",
                "Show it earlier.",
            )
        )
    if target.shown_from and "shown_from" not in snapshot.offers:
        said.append(
            Notice(
                "shown_from_not_offered",
                each.item,
                target.title,
                f"The platform cannot show '{target.title}' from a date; it is placed"
                f" {'shown' if target.visible else 'hidden'}.",
                "Show it by hand when the time comes.",
            )
        )
    around = hidden_around(snapshot.outline, place) if target.visible else None
    if around is not None:
        said.append(
            Notice(
                "hidden_folder",
                each.item,
                target.title,
                f"'{target.title}' is shown, but learners do not see the folder '{around.title}'"
                " that it goes into.",
                "Show the folder, or choose another one.",
            )
        )
    return said


def _equal_titles(made: Sequence[Row], there: Sequence[str]) -> list[Notice]:
    equal = told_apart([*(row.target.title for row in made), *there])
    remedy = "Give one of them another title, or all a pattern such as '{unit}: {title}'."
    return [
        Notice(
            "title_equal",
            row.item,
            row.target.title,
            f"More than one link would be called '{row.target.title}'; learners and the gradebook"
            " could not tell them apart.",
            remedy,
        )
        for position, row in enumerate(made)
        if position in equal
    ]


def _new_categories(rows: Sequence[Row], snapshot: ShellSnapshot) -> tuple[str, ...]:
    if "gradebook" not in snapshot.offers:
        return ()
    known = {each.casefold() for each in snapshot.categories}
    wanted = dict.fromkeys(
        row.target.category
        for row in rows
        if row.action in {"make", "change"}
        and row.target.category
        and row.target.points is not None
    )
    return tuple(each for each in wanted if each.casefold() not in known)


def _text(value: object) -> str:
    if isinstance(value, Decimal):
        return f"{value.normalize():f}"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value or "")
