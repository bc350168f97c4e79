"""Drift: what changed on either side since it was deployed, who may have done it, what it breaks,
and what can be done.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
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
    """What stands in a shell now; ``book`` is None where the platform does not tell of its
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
    """Compare what was deployed with what stands on both sides now."""
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


def _shell_side(each: Deployed, nodes: Mapping[str, Node], shell: ShellNow) -> Iterator[Drift]:
    wanted, title = each.standing.target, each.standing.target.title
    node = nodes.get(each.node)
    if node is None and each.node:
        yield Drift(
            each.placement,
            "link_gone",
            SHELL,
            title,
            "a link",
            "deleted",
            "Learners cannot open it from the shell; scores of those who did go on.",
            "error",
        )
    elif node is not None:
        yield from _of_node(each, node, nodes, shell)
    if not each.column:
        return
    column = shell.columns.get(each.column)
    if column is None:
        yield Drift(
            each.placement,
            "column_gone",
            SHELL,
            title,
            "a column",
            "deleted",
            "No score of this item can reach the gradebook any more.",
            "error",
        )
        return
    if wanted.points is not None and column.score_maximum != wanted.points:
        yield Drift(
            each.placement,
            "points",
            SHELL,
            title,
            _points(wanted.points),
            _points(column.score_maximum),
            "True scores stop: the platform scales every score to the column's points, and full"
            " marks are no longer the publisher's.",
            "error",
        )
    if column.label != title:
        yield Drift(
            each.placement,
            "column_title",
            SHELL,
            title,
            title,
            column.label,
            "The gradebook calls it otherwise than the link.",
            "note",
        )
    if not same_moment(column.end, wanted.due_at):
        yield Drift(
            each.placement,
            "column_due",
            SHELL,
            title,
            shown(wanted.due_at, shell.zone),
            shown(column.end, shell.zone),
            "Learners see another due date in the gradebook than counts at the publisher.",
        )
    if column.resource_link_id and each.link and column.resource_link_id != each.link:
        yield Drift(
            each.placement,
            "column_link",
            SHELL,
            title,
            "its own link",
            "another link",
            "Opening the column leads to another item.",
            "error",
        )
    if (
        shell.book is not None
        and each.column in shell.book.columns
        and shell.book.title_of(each.column).casefold() != wanted.category.casefold()
    ):
        yield Drift(
            each.placement,
            "category",
            SHELL,
            title,
            wanted.category or "no category",
            shell.book.title_of(each.column) or "no category",
            "The platform weighs and drops by category, so the course total changes.",
        )


def _of_node(
    each: Deployed, node: Node, nodes: Mapping[str, Node], shell: ShellNow
) -> Iterator[Drift]:
    wanted, title = each.standing.target, each.standing.target.title
    if (
        node.resource_link_id != each.link
        or node.url != each.url
        or any(node.custom.get(name) != value for name, value in each.custom.items())
    ):
        yield Drift(
            each.placement,
            "leads_elsewhere",
            SHELL,
            title,
            "its own item",
            "somewhere else",
            "Learners open another item, or none.",
            "error",
        )
    if node.title != title:
        yield Drift(
            each.placement,
            "title",
            SHELL,
            title,
            title,
            node.title,
            "The link is called otherwise than its column and the publisher's item.",
            "note",
        )
    shown_now = node.visible and node.audience == "everyone"
    if shown_now != wanted.visible:
        words = (
            ("Learners do not see it.", "error")
            if wanted.visible
            else ("Learners see what was meant to be hidden.", "warning")
        )
        yield Drift(
            each.placement,
            "visible",
            SHELL,
            title,
            "shown" if wanted.visible else "hidden",
            "shown" if shown_now else "hidden",
            *words,
        )
    if "shown_from" in shell.offers and not same_moment(node.shown_from, wanted.shown_from):
        yield Drift(
            each.placement,
            "shown_from",
            SHELL,
            title,
            shown(wanted.shown_from, shell.zone),
            shown(node.shown_from, shell.zone),
            "Learners see it at another time than planned.",
        )
    if "due_at" in shell.offers and not same_moment(node.due_at, wanted.due_at):
        yield Drift(
            each.placement,
            "due_at",
            SHELL,
            title,
            shown(wanted.due_at, shell.zone),
            shown(node.due_at, shell.zone),
            "Learners see another due date than counts at the publisher.",
        )
    if node.new_window != wanted.new_window:
        yield Drift(
            each.placement,
            "new_window",
            SHELL,
            title,
            "a new window" if wanted.new_window else "in place",
            "a new window" if node.new_window else "in place",
            "It opens otherwise than planned.",
            "note",
        )
    if node.folder != each.standing.folder:
        where = nodes.get(node.folder)
        yield Drift(
            each.placement,
            "folder",
            SHELL,
            title,
            each.standing.folder_title or "the top",
            where.title if where else "the top",
            "Learners find it in another place.",
            "note",
        )


def _publisher_side(each: Deployed, zone: str) -> Iterator[Drift]:
    seen, now, title = each.standing.seen, each.now, each.standing.target.title
    if now is None:
        yield Drift(
            each.placement,
            "item_gone",
            PUBLISHER,
            title,
            "an item",
            "withdrawn",
            "The link opens nothing any more, and no new score will come.",
            "error",
        )
        return
    if now.title != seen.title:
        yield Drift(
            each.placement,
            "item_title",
            PUBLISHER,
            title,
            seen.title,
            now.title,
            "The shell still shows the old title.",
            "note",
        )
    if now.points != seen.points:
        yield Drift(
            each.placement,
            "item_points",
            PUBLISHER,
            title,
            _points(seen.points),
            _points(now.points),
            "True scores stop: the column still has the old points.",
            "error" if each.column else "note",
        )
    if not same_moment(now.due_at, seen.due_at):
        yield Drift(
            each.placement,
            "item_due",
            PUBLISHER,
            title,
            shown(seen.due_at, zone),
            shown(now.due_at, zone),
            "The shell still shows the old due date.",
        )
    if now.category != seen.category:
        yield Drift(
            each.placement,
            "item_category",
            PUBLISHER,
            title,
            seen.category or "no category",
            now.category or "no category",
            "The column stands in the old category.",
        )


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
    """Return one drift where the deployed columns stand in another order in the gradebook than they
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
    """Return one drift for each folder whose deployed links stand in another order than they were
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
