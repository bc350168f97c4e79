"""Meet drift: follow (the publisher's change into the shell, or what was deployed back into it), or
keep what the shell has.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from typing import Any

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.deploy.dates import read_due
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.content.hooks import dates_moved
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.start_rollout import open_rollout
from vennpair.service.deploy.following import follow, page_steps
from vennpair.service.deploy.mapping import PAGE, seen_of
from vennpair.service.deploy.models import DriftFound, Rollout, Watch
from vennpair.service.deploy.ordering import note_places
from vennpair.service.deploy.shell_snapshot import ShellRead, read_shell, require_columns
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record

# of a placement's ``seen``: drifts that no field of it tells of, by kind, as they were accepted
KEPT = "kept"


def start_mending(
    pairing: Pairing, drifts: Sequence[Any], way: str, actor: User | None
) -> Rollout | None:
    """Meet the named drifts; return the rollout that writes to the shell, None where nothing has to
    be written.

    Raises Refused for drifts that are not there (any more), and OutsideError.
    """
    if actor is not None:
        require_instructor(actor, pairing.shell)
    require_columns(pairing)
    chosen = list(
        pairing.drifts.filter(pk__in=drifts).select_related(
            "placement__item", "placement__pairing__shell"
        )
    )
    if len(chosen) != len(set(map(str, drifts))):
        raise Refused(
            "unknown_drift",
            "Some of these changes are no longer there.",
            "Look for changes again and choose from the list.",
            422,
        )
    by_placement: dict[Any, list[DriftFound]] = {}
    for each in chosen:
        by_placement.setdefault(each.placement_id, []).append(each)
    if way == "keep":
        _keep_all(pairing, by_placement.values(), actor)
        return None
    steps = [
        step
        for rows in by_placement.values()
        for step in follow(rows[0].placement, {row.kind for row in rows})
    ]
    steps += page_steps(chosen)
    with transaction.atomic():
        made = (
            open_rollout(
                pairing,
                Rollout.Purpose.MEND,
                steps,
                actor,
                f"{many(len(chosen), 'change is', 'changes are')} being fixed.",
                order={"by": "place"},
            )
            if steps
            else None
        )
        _settled(pairing, chosen, way, actor)
    return made


def _keep_all(pairing: Pairing, chosen: Collection[list[DriftFound]], actor: User | None) -> None:
    """Take what the shell has for what was deployed; ``chosen``: the changes of each placement."""
    gateway = shell_gateway(pairing.shell)
    read = read_shell(gateway, pairing.shell.outline_url)
    with transaction.atomic():
        for rows in chosen:
            _keep(rows[0].placement, {row.kind: row.after for row in rows}, read, gateway)
        _settled(pairing, [row for rows in chosen for row in rows], "keep", actor)
        dates_moved(pairing)


def _settled(pairing: Pairing, chosen: Sequence[DriftFound], way: str, actor: User | None) -> None:
    DriftFound.objects.filter(pk__in=[each.pk for each in chosen]).delete()
    record(
        "drift.met",
        f"{many(len(chosen), 'change was', 'changes were')} handled:"
        f" {'the publisher and what was deployed are followed' if way == 'follow' else 'what the shell has is kept'}.",
        pairing=pairing,
        actor=actor,
        after={"drifts": len(chosen)},
    )


def _keep(
    placement: Placement, kinds: Mapping[str, str], read: ShellRead, gateway: PlatformGateway
) -> None:
    """Take what the shell has for what is deployed.

    Of the publisher's changes only note that they were seen.
    """
    now = seen_of(placement.item)
    for name, kind in (
        ("title", "item_title"),
        ("points", "item_points"),
        ("due_at", "item_due"),
        ("category", "item_category"),
    ):
        if kind in kinds:
            placement.seen[name] = now[name]  # type: ignore[literal-required]
    for kind in kinds.keys() & {"column_title", "column_link", "leads_elsewhere", "folder_hidden"}:
        placement.seen[KEPT] = placement.seen.get(KEPT, {}) | {kind: kinds[kind]}
    if "page_link" in kinds:
        placement.seen.pop(PAGE, None)
    if "link_gone" in kinds or "item_gone" in kinds:
        placement.state, placement.place = Placement.State.REMOVED, -1
        placement.entry_id = placement.resource_link_id = placement.folder_id = placement.folder = (
            ""
        )
    _keep_link(placement, kinds, read)
    _keep_column(placement, kinds, read, gateway)
    placement.save()
    if kinds.keys() & {"order", "column_order"}:
        note_places(placement.pairing, read.outline, read.book)


def _keep_link(placement: Placement, kinds: Mapping[str, str], read: ShellRead) -> None:
    node = next((each for each in read.outline if each.id == placement.entry_id), None)
    if node is None:
        return
    for field in kinds.keys() & {"title", "visible", "new_window", "shown_from"}:
        setattr(placement, field, getattr(node, field))
    if "due_at" in kinds:
        placement.due_at = read_due(node.due_at, placement.pairing.shell.zone)
    if "folder" in kinds:
        around = next((each.title for each in read.outline if each.id == node.folder), "")
        placement.folder_id, placement.folder = node.folder, around[:500]


def _keep_column(
    placement: Placement, kinds: Mapping[str, str], read: ShellRead, gateway: PlatformGateway
) -> None:
    if "column_gone" in kinds:
        placement.column_url, placement.points, placement.category = "", None, ""
        return
    if "category" in kinds and read.book:
        placement.category = read.book.title_of(placement.column_url)
    if not kinds.keys() & {"points", "column_due"}:
        return
    column = next(
        (
            each
            for each in gateway.line_items(placement.pairing.shell.lineitems_url)
            if each.id == placement.column_url
        ),
        None,
    )
    if column is not None and "points" in kinds:
        placement.points = column.score_maximum
    if column is not None and "column_due" in kinds:
        placement.due_at = read_due(column.end, placement.pairing.shell.zone)


def choose_way(pairing: Pairing, way: str, actor: User) -> None:
    """Note how drift is met from now on."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        watch, _ = Watch.objects.get_or_create(pairing=pairing)
        before, watch.way = watch.way, way
        watch.save(update_fields=["way"])
        record(
            "drift.way",
            f"Changes are handled this way from now on: {way}.",
            pairing=pairing,
            actor=actor,
            before={"way": before},
            after={"way": way},
        )
