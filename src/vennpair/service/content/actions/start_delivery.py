"""Start a delivery: note for each entry what will be done with it, and enqueue the work."""

from __future__ import annotations

from django.db import transaction

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.content.actions.plan_delivery import DeliveryPlan
from vennpair.service.content.models import Delivery, DeliveryStep, Entry, Import, Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.operations.actions.begin import begin
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import DeliveryFolder, DeliveryHidden, DeliveryLeft

DELIVERY, UNDO = "delivery", "undo"
# What a plan's action leaves behind at once; the rest is decided when it was tried.
_SETTLED = {"same": Entry.State.SAME, "keep": Entry.State.KEPT, "leave_out": Entry.State.LEFT_OUT}


def start_delivery(plan: DeliveryPlan, actor: User) -> Delivery:
    """Turn a plan into work.

    Raises Refused where another delivery runs, or nothing is to be written.
    """
    made, pairing = plan.made, plan.made.pairing
    require_instructor(actor, pairing.shell)
    if not plan.writes:
        raise Refused(
            "nothing_to_do",
            "Everything that can be brought in is in the shell already.",
            "Nothing needs to be done; the plan says why for each entry.",
            409,
        )
    with transaction.atomic():
        # Of two who ask at once the second waits here, and is then told that one is under way.
        total = plan.writes + len(plan.columns) + bool(plan.new_folder)
        job = begin(DELIVERY, pairing, actor, total)
        delivery = Delivery.objects.create(
            import_of=made,
            job=job,
            folder=plan.folder,
            folder_id=plan.folder_id,
            made_folder=bool(plan.new_folder),
        )
        for entry, planned in plan.rows:
            if planned.action == "make":
                _prepare(entry, plan, delivery)
            entry.action, entry.visible, entry.message = (
                planned.action,
                planned.visible,
                " ".join(filter(None, (planned.why, planned.remedy)))[:500],
            )
            entry.state = _SETTLED.get(planned.action, Entry.State.WAITING)
            entry.node, entry.etag = planned.node, planned.etag
        Entry.objects.bulk_update(
            [entry for entry, _ in plan.rows],
            ["action", "visible", "message", "state", "node", "etag"],
            batch_size=500,
        )
        DeliveryStep.objects.bulk_create(_steps(plan, delivery), batch_size=1_000)
        Import.objects.filter(pk=made.pk).update(stage=Import.Stage.IMPORTING)
        record(
            "delivery.started",
            f"{many(plan.writes, 'entry', 'entries')} of '{made.title}'"
            f" {'is' if plan.writes == 1 else 'are'} being brought into"
            f" {plan.folder or 'the top of the outline'}.",
            pairing=pairing,
            actor=actor,
            after={"entries": plan.writes},
        )
    return delivery


def _steps(plan: DeliveryPlan, delivery: Delivery) -> list[DeliveryStep]:
    """Return what is to be written: the folder, the entries, the columns, each in outline order."""
    kinds, states = DeliveryStep.Kind, DeliveryStep.State
    steps = [
        DeliveryStep(kind=kinds.FOLDER, facts=DeliveryFolder(title=plan.new_folder))
        for _ in range(bool(plan.new_folder))
    ]
    for entry, planned in plan.rows:
        if planned.action in {"make", "update"}:
            write = DeliveryStep(kind=planned.action, entry=entry)
            if planned.hides:
                write.facts = DeliveryHidden(hides=True)
            steps.append(write)
        else:
            left = DeliveryStep(kind=kinds.LEAVE, entry=entry, state=states.LEFT)
            left.facts, left.message = DeliveryLeft(why=planned.action), entry.message
            steps.append(left)
    for step in steps:
        if step.entry is not None and (some := plan.questions.get(str(step.entry.pk))):
            step.facts = {**step.facts, "questions": list(some)}
    steps += [
        DeliveryStep(kind=kinds.COLUMN, entry=entry)
        for entry, _ in plan.rows
        if entry.position in plan.columns
    ]
    for position, step in enumerate(steps):
        step.job, step.position = delivery.job, position
    return steps


def _prepare(entry: Entry, plan: DeliveryPlan, delivery: Delivery) -> None:
    """Make the placement of a tool's link, so that the link can carry its id."""
    has_column = entry.position in plan.columns
    if entry.kind != "lti_link" or entry.item is None:
        return
    fields = {
        "pairing": delivery.import_of.pairing,
        "title": entry.shown_title,
        "folder": delivery.folder,
        "points": entry.points if has_column else None,
        "due_at": entry.due_at if has_column else "",
        "category": entry.category if has_column else "",
        "visible": entry.visible,
    }
    placement = Placement.objects.filter(item=entry.item).first()
    if placement is None or placement.state != Placement.State.PLACED:
        Placement.objects.update_or_create(
            item=entry.item, defaults=fields | {"state": Placement.State.PLANNED}
        )
