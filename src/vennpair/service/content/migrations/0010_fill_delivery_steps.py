# What is known of the deliveries so far: of each entry its last one, and the one that made it.
from __future__ import annotations

from django.db import migrations
from django.db.models import Q

STATES = {
    "untouched": "stopped",
    "waiting": "planned",
    "in_flight": "planned",
    "linked": "done",
    "made": "done",
    "updated": "done",
    "failed": "failed",
    "removed": "undone",
}
IN_SHELL = {"linked", "made", "updated"}


def fill(apps, schema_editor):
    step, entries = apps.get_model("content", "DeliveryStep"), apps.get_model("content", "Entry")
    for delivery in apps.get_model("content", "Delivery").objects.select_related("job").iterator():
        rows = (
            taken_out(step, entries, delivery)
            if delivery.job.kind == "undo"
            else brought_in(step, entries, delivery)
        )
        for position, each in enumerate(rows):
            each.job_id, each.position = delivery.job_id, position
        step.objects.bulk_create(rows, batch_size=1_000)
    entries.objects.filter(state="in_flight").update(state="waiting")
    entries.objects.filter(state="linked").update(state="made")


def brought_in(step, entries, delivery):
    rows = []
    if delivery.made_folder:
        made = bool(delivery.folder_id)
        facts = {"title": delivery.folder, "key": f"{delivery.pk}-folder"}
        state = "done" if made else "planned"
        rows.append(step(kind="folder", facts=facts, state=state, node=delivery.folder_id))
    columns = []
    mine = Q(delivery=delivery) | Q(made_by=delivery)
    for entry in entries.objects.filter(mine).order_by("position"):
        # The same keys as before, where a delivery is under way while this runs.
        facts = {"key": f"{delivery.pk}-{entry.position}"}
        if entry.delivery_id != delivery.pk:
            rows.append(step(kind="make", entry=entry, state="done", node=entry.node, facts=facts))
        elif entry.action in {"make", "update"}:
            node = entry.node if entry.state in IN_SHELL else ""
            state, words = STATES.get(entry.state, "left"), entry.message
            rows.append(
                step(
                    kind=entry.action,
                    entry=entry,
                    state=state,
                    node=node,
                    facts=facts,
                    message=words,
                )
            )
            if entry.column and entry.state in {"waiting", "in_flight", "linked"}:
                columns.append(step(kind="column", entry=entry))
        else:
            facts = {"why": entry.action}
            rows.append(
                step(kind="leave", entry=entry, state="left", message=entry.message, facts=facts)
            )
    return [*rows, *columns]


def taken_out(step, entries, delivery):
    undone = delivery.job.undoes_id
    gone = entries.objects.filter(delivery__job=undone, state="removed").order_by("-position")
    rows = [step(kind="remove", entry=entry, state="done") for entry in gone]
    if delivery.job.state in {"queued", "running", "waiting"}:
        there = entries.objects.filter(made_by__job=undone).exclude(node="").order_by("-position")
        rows += [step(kind="remove", entry=entry, node=entry.node) for entry in there]
    return rows


class Migration(migrations.Migration):
    dependencies = [("content", "0009_delivery_steps")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
