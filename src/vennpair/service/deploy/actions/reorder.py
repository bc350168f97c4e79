"""Put what is in a shell into another order: a folder's entries and the gradebook's columns,
one call and one undo.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.deploy.order import inserted, settled
from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.start_rollout import open_rollout
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.ordering import sorted_by
from vennpair.service.deploy.shell_snapshot import read_shell, require_outline
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.stored import GradebookStep, OrderBefore, OrderStep
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Wanted:
    """How to order: ``by`` publisher, due or unit, all folders or one.

    Or ``entries`` of one folder moved ``after`` another (``start``, empty: the end).
    """

    by: str = ""
    folder: str = ""
    entries: tuple[str, ...] = ()
    after: str = ""
    gradebook: bool = True


@dataclass(frozen=True, slots=True)
class Orders:
    """The children of each folder and the columns, as they are and as they will be.

    Only what changes. ``titles`` names them.
    """

    now: dict[str, list[str]]
    then: dict[str, list[str]]
    columns_now: list[str]
    columns_then: list[str]
    titles: dict[str, str]

    @property
    def empty(self) -> bool:
        """Say whether everything is in this order already."""
        return not self.then and self.columns_now == self.columns_then


def plan_order(pairing: Pairing, wanted: Wanted) -> Orders:
    """Plan from what is there now. Raises Refused, OutsideError."""
    require_outline(pairing)
    read = read_shell(shell_gateway(pairing.shell), pairing.shell.outline_url)
    placements = list(
        Placement.objects.filter(pairing=pairing).exclude(entry_id="").select_related("item")
    )
    now: dict[str, list[str]] = {}
    for node in read.outline:
        now.setdefault(node.folder, []).append(node.id)
    then = _moved(now, read.outline, wanted) if wanted.entries else _sorted(now, placements, wanted)
    then = {folder: row for folder, row in then.items() if row != now[folder]}
    columns_now = list(read.book.columns) if read.book else []
    columns_then = (
        settled(columns_now, _columns(read.outline, now | then, placements, wanted))
        if wanted.gradebook
        else columns_now
    )
    titles = {node.id: node.title for node in read.outline} | {
        each.column_url: each.title for each in placements if each.column_url
    }
    return Orders({folder: now[folder] for folder in then}, then, columns_now, columns_then, titles)


def start_order(pairing: Pairing, wanted: Wanted, actor: User) -> Rollout:
    """Enqueue the ordering.

    Raises Refused ``nothing_to_do`` where it is so already, and OutsideError.
    """
    require_instructor(actor, pairing.shell)
    planned = plan_order(pairing, wanted)
    if planned.empty:
        raise Refused(
            "nothing_to_do",
            "Everything is in this order already.",
            "Nothing needs to be done.",
            409,
        )
    steps = [
        Step(kind="order", facts=OrderStep(folder=folder, children=row))
        for folder, row in planned.then.items()
    ]
    before = OrderBefore(folders=planned.now)
    if planned.columns_now != planned.columns_then:
        steps.append(Step(kind="gradebook", facts=GradebookStep(columns=planned.columns_then)))
        before["gradebook"] = planned.columns_now
    count = sum(len(row) for row in planned.then.values())
    with transaction.atomic():
        return open_rollout(
            pairing,
            Rollout.Purpose.ORDER,
            steps,
            actor,
            f"{many(count, 'entry is', 'entries are')} being put in"
            f" order{f' by {wanted.by}' if wanted.by else ''}.",
            before=before,
        )


def _sorted(
    now: dict[str, list[str]], placements: Sequence[Placement], wanted: Wanted
) -> dict[str, list[str]]:
    """Sort our links within each folder; what is not ours, headings too, keeps its place."""
    row = [each.entry_id for each in sorted_by(wanted.by, placements)]
    folders = [wanted.folder] if wanted.folder else list(now)
    if wanted.folder and wanted.folder not in now:
        raise Refused(
            "folder_unknown",
            "This folder is not in the shell, or it is empty.",
            "Read the outline again and choose from it.",
            422,
        )
    return {
        folder: settled(now[folder], [each for each in row if each in set(now[folder])])
        for folder in folders
    }


def _moved(
    now: dict[str, list[str]], outline: Sequence[Node], wanted: Wanted
) -> dict[str, list[str]]:
    folders = {node.folder for node in outline if node.id in wanted.entries}
    if len(folders) != 1 or len({node.id for node in outline} & set(wanted.entries)) != len(
        wanted.entries
    ):
        raise Refused(
            "entry_unknown",
            "The entries to move are not all in one folder of the shell.",
            "Read the outline again and choose from it.",
            422,
        )
    folder = folders.pop()
    if wanted.after not in {"", "start"} and wanted.after not in now[folder]:
        raise Refused(
            "entry_unknown",
            "The entry that they should follow is not in the same folder.",
            "Choose one of the same folder.",
            422,
        )
    return {folder: inserted(now[folder], wanted.entries, wanted.after)}


def _columns(
    outline: Sequence[Node],
    folders: dict[str, list[str]],
    placements: Sequence[Placement],
    wanted: Wanted,
) -> list[str]:
    """Return our columns in the order of the outline as it will be.

    Sorted over all folders where it is sorted.
    """
    by_entry = {each.entry_id: each for each in placements if each.column_url}
    if not wanted.entries and not wanted.folder:
        return [each.column_url for each in sorted_by(wanted.by, by_entry.values())]
    row: list[str] = []
    stack = list(reversed(folders.get("", [])))
    while stack:
        node = stack.pop()
        if node in by_entry:
            row.append(by_entry[node].column_url)
        stack.extend(reversed(folders.get(node, [])))
    inside = set(folders.get(wanted.folder, [])) if wanted.folder else set(wanted.entries)
    touched = {by_entry[each].column_url for each in inside if each in by_entry}
    return row if wanted.entries else [each for each in row if each in touched]
