"""Plan bringing chosen entries into the shell from what is there now; nothing is changed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from django.db.models import Case, F, Value, When

from vennpair.core.content.bring import Brought, Planned, Wanted, plan_bringing
from vennpair.core.content.choose import Wish, choose
from vennpair.core.content.entry_checks import Trouble
from vennpair.core.deploy.columns import becomes
from vennpair.service.content.folders import find_folder
from vennpair.service.content.models import Entry, Import, Placement
from vennpair.service.content.queries import IN_SHELL
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Order:
    """What somebody ordered: which entries (ids; folders with all in them), where to, what of
    graded links becomes a column, and which questions of a quiz come along (numbers from 1, by
    entry). ``joins``: a folder of the package is the folder of the shell in which its links are,
    where that is plain.
    """

    everything: bool = False
    entries: tuple[str, ...] = ()
    kinds: tuple[str, ...] = ()
    words: str = ""
    review: Any = "keep"
    folder: str = ""
    columns: bool = True
    questions: Mapping[str, tuple[int, ...]] = field(default_factory=dict)
    joins: bool = False


@dataclass(frozen=True, slots=True)
class DeliveryPlan:
    """All that will happen: the folder (``new_folder`` where it will be made) and each entry with
    what becomes of it.
    """

    made: Import
    folder: str
    folder_id: str
    new_folder: str
    rows: tuple[tuple[Entry, Planned], ...]
    columns: frozenset[int]
    questions: Mapping[str, tuple[int, ...]] = field(default_factory=dict)

    def count(self, action: str) -> int:
        """Return how many entries have an action."""
        return sum(planned.action == action for _, planned in self.rows)

    @property
    def writes(self) -> int:
        """Return how many entries will be written."""
        return self.count("make") + self.count("update")


def plan_delivery(made: Import, order: Order) -> DeliveryPlan:
    """Plan.

    Raises Refused where there is no outline service, nothing is chosen or a folder is ambiguous,
    and OutsideError.
    """
    pairing = made.pairing
    outline = _outline(pairing)
    entries = list(made.entries.select_related("item__placement"))
    wish = wish_of(order, entries)
    if wish.empty:
        raise Refused(
            "nothing_chosen",
            "Nothing of the package is chosen.",
            "Choose entries, folders, kinds or words, or everything.",
            422,
        )
    target = find_folder(outline, order.folder)
    nodes = {node.id: node for node in outline}
    placed = _placed(entries, nodes)
    planned = plan_bringing(
        [_wanted(each, made) for each in entries],
        choose(entries, wish),
        _brought(made),
        placed | (_joined(entries, placed, nodes) if order.joins else {}),
        nodes,
    )
    by_position = {each.position: each for each in entries}
    rows = tuple((by_position[each.position], each) for each in planned)
    columns = frozenset(
        entry.position
        for entry, each in rows
        if order.columns and each.action == "make" and becomes_column(entry)
    )
    new_folder = (
        order.folder
        if order.folder and target is None and any(each.action == "make" for each in planned)
        else ""
    )
    return DeliveryPlan(
        made,
        target.title if target else order.folder,
        target.id if target else "",
        new_folder,
        rows,
        columns,
        order.questions,
    )


def becomes_column(entry: Entry) -> bool:
    """Say whether a graded link gets a column: only with points and a due date, as in a rollout."""
    if entry.kind != "lti_link" or entry.item is None or not entry.line_item:
        return False
    return (
        becomes(
            str(entry.item_id), entry.shown_title, "graded", entry.points, entry.due_at, "link"
        ).points
        is not None
    )


def _outline(pairing: Pairing) -> Sequence[Node]:
    shell = pairing.shell
    if not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes:
        raise Refused(
            "no_outline",
            "The platform offers no Shell Outline service for this shell, so Venn Pair cannot bring"
            " content in.",
            "Write a cartridge instead and upload it in the platform.",
            409,
        )
    return shell_gateway(shell).outline(shell.outline_url)


def wish_of(order: Order, entries: Sequence[Entry]) -> Wish:
    """Return an order in terms of positions. Raises Refused for entries of another import."""
    by_id = {str(each.pk): each for each in entries}
    if unknown := [each for each in order.entries if each not in by_id]:
        raise Refused(
            "unknown_entry",
            f"{len(unknown)} of the chosen entries are not in this import.",
            "Read the list again and choose from it.",
            422,
        )
    chosen = [by_id[each] for each in order.entries]
    folders = frozenset(each.position for each in chosen if each.kind == "folder")
    return Wish(
        order.everything,
        frozenset(each.position for each in chosen if each.kind != "folder"),
        folders,
        frozenset(order.kinds),
        order.words,
        order.review,
    )


def _wanted(entry: Entry, made: Import) -> Wanted:
    trouble = Trouble(entry.trouble, entry.trouble_message, entry.trouble_remedy, entry.blocked)
    return Wanted(
        entry.position,
        entry.parent,
        entry.key,
        entry.kind,
        entry.shown_title,
        entry.digest,
        entry.audience,
        trouble,
        made.identifier,
    )


def _brought(made: Import) -> list[Brought]:
    """Return what this and other imports brought into the shell, the oldest first."""
    rows = (
        Entry.objects.filter(
            import_of__pairing__shell=made.pairing.shell, state__in=[*IN_SHELL, Entry.State.FAILED]
        )
        .exclude(node="")
        .exclude(kind="lti_link")
    )
    # What failed to be updated still is as it was before, which is not what this row would have
    # put there.
    known = rows.annotate(
        there=Case(When(state=Entry.State.FAILED, then=Value("")), default=F("digest"))
    )
    named = known.order_by("import_of__made_at", "position").values_list(
        "key", "kind", "shown_title", "there", "import_of__identifier", "node", "etag"
    )
    return [Brought(*row) for row in named]


def _placed(entries: Sequence[Entry], nodes: Mapping[str, Node]) -> dict[int, str]:
    """Return, by position, the nodes of links whose item is in the shell."""
    placed = {}
    for entry in entries:
        placement = getattr(entry.item, "placement", None) if entry.item else None
        if (
            entry.kind == "lti_link"
            and placement is not None
            and placement.state == Placement.State.PLACED
            and (placement.entry_id in nodes or not placement.entry_id)
        ):
            placed[entry.position] = placement.entry_id
    return placed


def _joined(
    entries: Sequence[Entry], placed: Mapping[int, str], nodes: Mapping[str, Node]
) -> dict[int, str]:
    """Return, by position of a folder, the shell's folder in which its links are: all of them in
    one, and no other folder's.
    """
    parents = {each.position: each.parent for each in entries}
    found: dict[int, set[str]] = {}
    for position, node in placed.items():
        if node in nodes:
            found.setdefault(parents[position], set()).add(nodes[node].folder)
    where = {folder: parts.pop() for folder, parts in found.items() if len(parts) == 1}
    taken = Counter(where.values())
    return {
        folder: node
        for folder, node in where.items()
        if folder >= 0 and node in nodes and taken[node] == 1
    }
