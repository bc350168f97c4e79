"""Start a rollout: write its steps down and enqueue it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import Any

from django.db import transaction

from vennpair.core.deploy.plan import Plan, Row
from vennpair.core.deploy.target import Target
from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.plan_deploy import Planned
from vennpair.service.deploy.mapping import (
    FIELDS,
    PAGE,
    entry_of,
    fields_now,
    placed_fields,
    seen_of,
)
from vennpair.service.deploy.models import Decision, Rollout, Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.actions.begin import begin
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import (
    ColumnStep,
    ColumnWrite,
    FolderStep,
    LinkBefore,
    LinkStep,
    LinkWrite,
    PageStep,
)


def start_rollouts(planned: Sequence[Planned], actor: User) -> list[Rollout]:
    """Turn plans into steps, all or none.

    Raises Refused where a section was not read, another rollout runs, or nothing is left to do.
    """
    for each in planned:
        require_instructor(actor, each.pairing.shell)
    if unread := [
        each.pairing.shell.label or each.pairing.shell.title for each in planned if each.unread
    ]:
        words = (
            f"The homework course of {', '.join(unread)} was not read yet, so nothing can be placed"
            " there."
        )
        raise Refused(
            "not_read",
            words,
            "Read it first under Content, or leave that section out.",
            409,
        )
    going = [each for each in planned if each.plan.writes]
    if not going:
        notices = [notice for each in planned for notice in each.plan.notices]
        words = notices[0].message if notices else "All chosen items are placed already."
        raise Refused(
            "nothing_to_do",
            words,
            notices[0].remedy if notices else "Nothing needs to be done.",
            409,
        )
    batch = uuid.uuid4()
    with transaction.atomic():
        return [
            _start(each, batch, actor)
            for each in sorted(going, key=lambda each: str(each.pairing.pk))
        ]


def open_rollout(
    pairing: Pairing,
    purpose: str,
    steps: Sequence[Step],
    actor: User | None,
    sentence: str,
    *,
    undoes: Job | None = None,
    **fields: Any,
) -> Rollout:
    """Make a rollout of any purpose with its steps and job, in the caller's transaction.

    Raises Refused ``rollout_running``.
    """
    job = begin("rollout", pairing, actor, len(steps), undoes=undoes)
    return _write(job, purpose, steps, actor, sentence, **fields)


def _write(
    job: Job,
    purpose: str,
    steps: Sequence[Step],
    actor: User | None,
    sentence: str,
    **fields: Any,
) -> Rollout:
    rollout = Rollout.objects.create(pairing=job.pairing, job=job, purpose=purpose, **fields)
    for position, step in enumerate(steps):
        step.job, step.position = job, position
    Step.objects.bulk_create(steps, batch_size=1_000)
    record(
        "rollout.started" if purpose == Rollout.Purpose.DEPLOY else f"rollout.{purpose}",
        sentence,
        pairing=job.pairing,
        actor=actor,
        after={"steps": len(steps)},
    )
    return rollout


def _start(planned: Planned, batch: uuid.UUID, actor: User) -> Rollout:
    plan, pairing = planned.plan, planned.pairing
    # Of two who ask at once the second waits here, and is then told that one is under way.
    job = begin("rollout", pairing, actor, 0, batch=batch)
    if Placement.objects.filter(
        item__in=[row.item for row in plan.of("make")], state=Placement.State.PLACED
    ).exists():
        raise Refused(
            "nothing_to_do",
            "What was chosen has been placed in the meantime.",
            "Look at the plan again.",
            409,
        )
    placements = _placements(planned)
    _keep_decisions(planned)
    steps = [
        Step(kind="folder", facts=FolderStep(key=each.key, title=each.title, parent=each.parent))
        for each in plan.folders
    ]
    for row in plan.rows:
        if row.action == "make":
            steps.extend(_make(row, placements[row.item], planned))
        elif row.action == "change":
            steps.extend(_change(row, placements[row.item], planned))
    if plan.page:
        steps.append(_link_in_page(plan.page, placements, planned))
    sentence = (
        f"A rollout into {_where(plan)} was started: {len(plan.of('make'))} new links,"
        f" {plan.columns} new columns, {len(plan.of('change'))} changes."
    )
    order = {"by": planned.sheet.by, "after": plan.after}
    job.total = len(steps)
    job.save(update_fields=["total"])
    return _write(
        job,
        Rollout.Purpose.DEPLOY,
        steps,
        actor,
        sentence,
        folder=_folder_title(plan)[:500],
        order=order,
    )


def _link_in_page(page: str, placements: dict[str, Placement], planned: Planned) -> Step:
    """Return the step that puts the new links into a page's text."""
    made = [(str(placements[row.item].pk), row.item) for row in planned.plan.of("make")]
    said = {placement: planned.sheet.wish(item).words for placement, item in made}
    return Step(
        kind="page",
        facts=PageStep(
            page=page,
            placements=[placement for placement, _ in made],
            words={placement: words for placement, words in said.items() if words},
            after=planned.sheet.after_text,
        ),
    )


def _placements(planned: Planned) -> dict[str, Placement]:
    """Return the placement of each item that will be written.

    One that is only planned may say already what it will be.
    """
    made = {row.item: row for row in planned.plan.of("make")}
    days = planned.sheet.shift_days or 0
    known = {
        str(each.item_id): each
        for each in Placement.objects.select_for_update(no_key=True).filter(
            item__in=[row.item for row in planned.plan.rows]
        )
    }
    fresh = [Placement(pairing=planned.pairing, item_id=item) for item in made if item not in known]
    again = [each for item, each in known.items() if item in made]
    for each in [*fresh, *again]:
        row = made[str(each.item_id)]
        each.pairing, each.state, each.entry_id, each.resource_link_id, each.folder = (
            planned.pairing,
            Placement.State.PLANNED,
            "",
            "",
            row.folder_title[:500],
        )
        for name, value in (
            placed_fields(row.target, seen_of(planned.items[row.item]), days)
            | {"points": row.target.points}
        ).items():
            setattr(each, name, value)
    Placement.objects.bulk_create(fresh, batch_size=1_000)
    Placement.objects.bulk_update(
        again,
        ["pairing", "state", "entry_id", "resource_link_id", "folder", *FIELDS],
        batch_size=500,
    )
    return known | {str(each.item_id): each for each in fresh}


def _make(row: Row, placement: Placement, planned: Planned) -> list[Step]:
    target = row.target
    link = entry_of(placement, planned.items[row.item]) | {
        "title": target.title,
        "folder": row.folder,
        "visible": target.visible,
        "new_window": target.new_window,
        "shown_from": target.shown_from,
        "due_at": target.due_at,
    }
    if planned.plan.unlisted:  # it is opened from the page's text, and is nowhere else
        link["listed"] = False
    if planned.plan.level:
        link["level"] = planned.plan.level
    steps = [
        Step(
            kind="link",
            placement=placement,
            facts=LinkStep(write=link, column=target.points is not None),
        )
    ]
    if target.points is not None:
        steps.append(Step(kind="column", placement=placement, facts=ColumnStep(write=_column(row))))
    return steps


def _change(row: Row, placement: Placement, planned: Planned) -> list[Step]:
    """Return the steps that bring a placed link up to date.

    What was there before is kept for an undo.
    """
    target, changed = row.target, {each.field for each in row.differences}
    before = {each.field: each.before for each in row.differences}
    days = (
        planned.sheet.shift_days if planned.sheet.shift_days is not None else placement.shift_days
    )
    seen = seen_of(planned.items[row.item])
    if PAGE in placement.seen:
        seen["page"] = placement.seen[PAGE]
    fields = placed_fields(target, seen, days)
    write = _changes(target, changed)
    if "folder" in changed:
        fields["folder"], write["folder"] = row.folder_title[:500], row.folder
    placed = fields_now(placement, planned.pairing.shell.zone)
    was = LinkBefore(
        title=placement.title,
        visible=placement.visible,
        new_window=placement.new_window,
        shown_from=placement.shown_from,
        due_at=placed["due_at"],
        folder=placement.folder_id,
        stands=placed,
    )
    link = LinkStep(write=write, stands=fields, was=was)
    steps = [Step(kind="change_link", placement=placement, facts=link, before=before)]
    if target.points is None and placement.column_url:
        steps.append(Step(kind="remove_column", placement=placement, before=before))
    elif target.points is not None and (
        not placement.column_url or changed & {"title", "points", "due_at", "shown_from"}
    ):
        kind = "change_column" if placement.column_url else "column"
        column = ColumnStep(write=_column(row))
        steps.append(Step(kind=kind, placement=placement, facts=column, before=before))
    return steps


def _changes(target: Target, changed: set[str]) -> LinkWrite:
    fields = ("title", "visible", "new_window", "shown_from", "due_at")
    write: LinkWrite = {}
    for name in fields:
        if name in changed:
            write[name] = getattr(target, name)  # type: ignore[literal-required]
    return write


def _column(row: Row) -> ColumnWrite:
    target = row.target
    return ColumnWrite(
        title=target.title,
        points=f"{target.points:f}",
        due_at=target.due_at,
        shown_from=target.shown_from,
    )


def _keep_decisions(planned: Planned) -> None:
    """Keep what was said of items whose points or date the publisher leaves open, so that nobody is
    asked twice.
    """
    for row in planned.plan.rows:
        item, wish = planned.items[row.item], planned.sheet.wish(row.item)
        open_points, open_date = not (item.points and item.points > 0), not item.due_at
        if item.kind != "graded" or not (open_points or open_date) or row.action != "make":
            continue
        said = {
            "becomes": "link" if row.target.points is None else "column",
            "points": wish.points if open_points else None,
            "due_at": row.target.due_at if open_date and wish.due_at else "",
        }
        Decision.objects.update_or_create(item=item, defaults=said)


def _folder_title(plan: Plan) -> str:
    titles = list(
        dict.fromkeys(row.folder_title for row in plan.rows if row.action in {"make", "change"})
    )
    return titles[0] if len(titles) == 1 else f"{len(titles)} folders"


def _where(plan: Plan) -> str:
    return f"'{_folder_title(plan)}'" if _folder_title(plan) else "the top of the outline"
