"""Drift: what changed on either side since it was deployed, who may have done it, what it breaks,
and what can be done.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from vennpair.core.deploy.dates import same_moment, shown
from vennpair.core.deploy.places import hidden_around
from vennpair.core.deploy.target import Candidate, Standing
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.outline import Node
from vennpair.standards.outline.gradebook import Gradebook

SHELL, PUBLISHER = "shell", "publisher"


@dataclass(frozen=True, slots=True)
class Deployed:
    """A placement as it was deployed; ``now`` is its item at the publisher, None where it was
    withdrawn.
    """

    placement: str
    standing: Standing
    node: str
    link: str
    column: str
    place: int
    now: Candidate | None
    custom: Mapping[str, str]
    url: str
    column_place: int = -1


@dataclass(frozen=True, slots=True)
class ShellNow:
    """What is in a shell now; ``book`` is None where the platform does not tell of its
    gradebook's categories.
    """

    outline: Sequence[Node]
    columns: Mapping[str, LineItem]
    book: Gradebook | None
    zone: str
    offers: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Drift:
    """One change since deployment. ``side`` is where it happened; ``level`` as findings have it."""

    placement: str
    kind: str
    side: str
    title: str
    before: str
    after: str
    breaks: str
    level: str = "warning"

    @property
    def who(self) -> str:
        """Say who is likely to have changed it."""
        return (
            "somebody who may edit the shell, or the platform's own copying"
            if self.side == SHELL
            else "the publisher, or whoever edits the homework course there"
        )


def find_drifts(deployed: Sequence[Deployed], shell: ShellNow) -> list[Drift]:
    """Compare what was deployed with what is on both sides now."""
    nodes = {node.id: node for node in shell.outline}
    found: list[Drift] = []
    for each in deployed:
        found.extend(_shell_side(each, nodes, shell))
        found.extend(_publisher_side(each, shell.zone))
    return [
        *found,
        *_hidden_folders(deployed, shell.outline),
        *_order(deployed, shell.outline),
        *_column_order(deployed, shell.book),
    ]


def lost_from_page(each: Deployed, page: str) -> Drift:
    """Return that a link is no longer in its page's text."""
    return _drift(each, "page_link", page, "")


# What each kind of drift breaks, and how bad that is.
_BREAKS = {
    "link_gone": (
        SHELL,
        "Learners cannot open it from the shell; scores of those who did go on.",
        "error",
    ),
    "leads_elsewhere": (SHELL, "Learners open another item, or none.", "error"),
    "title": (SHELL, "The link title differs from its column's and the publisher's.", "note"),
    "hidden": (SHELL, "Learners do not see it.", "error"),
    "shown": (SHELL, "Learners see what was meant to be hidden.", "warning"),
    "shown_from": (SHELL, "Learners see it at another time than planned.", "warning"),
    "due_at": (SHELL, "Learners see a due date that differs from the publisher's.", "warning"),
    "new_window": (SHELL, "It does not open in the window that was planned.", "note"),
    "folder": (SHELL, "Learners find it in another place.", "note"),
    "page_link": (SHELL, "Learners no longer find it in the text of its page.", "error"),
    "column_gone": (SHELL, "Scores of this item can no longer reach the gradebook.", "error"),
    "points": (
        SHELL,
        "Scores will be wrong: the platform scales every score to the column's points, and full"
        " marks are no longer the publisher's.",
        "error",
    ),
    "column_title": (SHELL, "The column title differs from the link title.", "note"),
    "column_due": (
        SHELL,
        "Learners see a due date in the gradebook that differs from the publisher's.",
        "warning",
    ),
    "column_link": (SHELL, "Opening the column leads to another item.", "error"),
    "category": (
        SHELL,
        "The platform weighs and drops by category, so the course total changes.",
        "warning",
    ),
    "item_gone": (
        PUBLISHER,
        "The link no longer opens anything, and no new score will come.",
        "error",
    ),
    "item_title": (PUBLISHER, "The shell still shows the old title.", "note"),
    "item_points": (
        PUBLISHER,
        "Scores will be wrong: the column still has the old maximum.",
        "error",
    ),
    "item_due": (PUBLISHER, "The shell still shows the old due date.", "warning"),
    "item_category": (PUBLISHER, "The column is still in the old category.", "warning"),
}


def _drift(each: Deployed, kind: str, before: str, after: str, *, says: str = "") -> Drift:
    """Return a drift of one link with what it breaks; ``says`` where that depends."""
    side, breaks, level = _BREAKS[says or kind]
    return Drift(
        each.placement, kind, side, each.standing.target.title, before, after, breaks, level
    )


def _shell_side(each: Deployed, nodes: Mapping[str, Node], shell: ShellNow) -> Iterator[Drift]:
    node = nodes.get(each.node)
    if node is not None:
        yield from _of_link(each, node, nodes)
        yield from _of_times(each, node, shell)
    elif each.node:
        yield _drift(each, "link_gone", "a link", "deleted")
    if each.column:
        column = shell.columns.get(each.column)
        if column is None:
            yield _drift(each, "column_gone", "a column", "deleted")
        else:
            yield from _of_column(each, column, shell)


def _of_link(each: Deployed, node: Node, nodes: Mapping[str, Node]) -> Iterator[Drift]:
    wanted = each.standing.target
    if (
        node.resource_link_id != each.link
        or node.url != each.url
        or any(node.custom.get(name) != value for name, value in each.custom.items())
    ):
        yield _drift(each, "leads_elsewhere", "its own item", "somewhere else")
    if node.title != wanted.title:
        yield _drift(each, "title", wanted.title, node.title)
    visible = node.visible and node.audience == "everyone"
    if visible != wanted.visible:
        before, after = _sight(wanted.visible), _sight(visible)
        yield _drift(each, "visible", before, after, says=after)
    if node.new_window != wanted.new_window:
        yield _drift(each, "new_window", _window(wanted.new_window), _window(node.new_window))
    if node.folder != each.standing.folder:
        where = nodes.get(node.folder)
        before, after = each.standing.folder_title, where.title if where else ""
        yield _drift(each, "folder", before or "the top", after or "the top")


def _of_times(each: Deployed, node: Node, shell: ShellNow) -> Iterator[Drift]:
    wanted = each.standing.target
    for kind, now, planned in (
        ("shown_from", node.shown_from, wanted.shown_from),
        ("due_at", node.due_at, wanted.due_at),
    ):
        if kind in shell.offers and not same_moment(now, planned):
            yield _drift(each, kind, shown(planned, shell.zone), shown(now, shell.zone))


def _of_column(each: Deployed, column: LineItem, shell: ShellNow) -> Iterator[Drift]:
    wanted = each.standing.target
    if wanted.points is not None and column.score_maximum != wanted.points:
        yield _drift(each, "points", _points(wanted.points), _points(column.score_maximum))
    if column.label != wanted.title:
        yield _drift(each, "column_title", wanted.title, column.label)
    if not same_moment(column.end, wanted.due_at):
        before, after = shown(wanted.due_at, shell.zone), shown(column.end, shell.zone)
        yield _drift(each, "column_due", before, after)
    if column.resource_link_id and each.link and column.resource_link_id != each.link:
        yield _drift(each, "column_link", "its own link", "another link")
    if shell.book is not None and each.column in shell.book.columns:
        category = shell.book.title_of(each.column)
        if category.casefold() != wanted.category.casefold():
            before, after = wanted.category or "no category", category or "no category"
            yield _drift(each, "category", before, after)


def _publisher_side(each: Deployed, zone: str) -> Iterator[Drift]:
    seen, now = each.standing.seen, each.now
    if now is None:
        yield _drift(each, "item_gone", "an item", "withdrawn")
        return
    if now.title != seen.title:
        yield _drift(each, "item_title", seen.title, now.title)
    if now.points != seen.points:
        found = _drift(each, "item_points", _points(seen.points), _points(now.points))
        yield found if each.column else replace(found, level="note")
    if not same_moment(now.due_at, seen.due_at):
        yield _drift(each, "item_due", shown(seen.due_at, zone), shown(now.due_at, zone))
    if now.category != seen.category:
        before, after = seen.category or "no category", now.category or "no category"
        yield _drift(each, "item_category", before, after)


def _sight(visible: bool) -> str:
    return "shown" if visible else "hidden"


def _window(new: bool) -> str:
    return "a new window" if new else "in place"


def _hidden_folders(deployed: Sequence[Deployed], outline: Sequence[Node]) -> list[Drift]:
    """Return one drift for each hidden folder with links in it that were deployed as shown, at the
    first of them.
    """
    places = {node.id: node.folder for node in outline}
    found: dict[str, Drift] = {}
    for each in sorted(deployed, key=lambda each: each.place):
        around = (
            hidden_around(outline, places[each.node])
            if each.standing.target.visible and each.node in places
            else None
        )
        if around is not None and around.id not in found:
            found[around.id] = Drift(
                each.placement,
                "folder_hidden",
                SHELL,
                around.title,
                "shown",
                "hidden",
                "Learners do not see the folder, nor the shown links in it.",
                "error",
            )
    return list(found.values())


def _column_order(deployed: Sequence[Deployed], book: Gradebook | None) -> list[Drift]:
    """Return one drift where the deployed columns are in another order in the gradebook than they
    were deployed in.
    """
    if book is None:
        return []
    place = {column: number for number, column in enumerate(book.columns)}
    row = sorted(
        (each for each in deployed if each.column in place and each.column_place >= 0),
        key=lambda each: place[each.column],
    )
    wanted = sorted(row, key=lambda each: each.column_place)
    if wanted == row:
        return []
    words = [
        ", ".join(each.standing.target.title for each in order)[:400] for order in (wanted, row)
    ]
    return [
        Drift(
            wanted[0].placement,
            "column_order",
            SHELL,
            "The gradebook",
            words[0],
            words[1],
            "The gradebook shows the columns in another order.",
            "note",
        )
    ]


def _order(deployed: Sequence[Deployed], outline: Sequence[Node]) -> list[Drift]:
    """Return one drift for each folder whose deployed links are in another order than they were
    deployed in.
    """
    place = {each.node: each for each in deployed if each.node and each.place >= 0}
    rows: dict[str, list[Deployed]] = {}
    for node in outline:
        each = place.get(node.id)
        if each is not None and node.folder == each.standing.folder:
            rows.setdefault(node.folder, []).append(each)
    drifts = []
    for row in rows.values():
        wanted = sorted(row, key=lambda each: each.place)
        if wanted != row:
            first = next(now for now, then in zip(row, wanted, strict=True) if now is not then)
            words = [
                ", ".join(each.standing.target.title for each in order)[:400]
                for order in (wanted, row)
            ]
            drifts.append(
                Drift(
                    first.placement,
                    "order",
                    SHELL,
                    first.standing.folder_title or "the top of the outline",
                    words[0],
                    words[1],
                    "Learners meet the items in another order.",
                    "note",
                )
            )
    return drifts


def _points(value: Decimal | None) -> str:
    return "no points" if value is None else f"{value.normalize():f} points"
