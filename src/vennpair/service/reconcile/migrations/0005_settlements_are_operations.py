# How far a settlement is, and what it undoes, its job says, as of every operation.
from __future__ import annotations

from django.db import migrations


def move(apps, schema_editor):
    jobs = apps.get_model("ops", "Job").objects
    rows = apps.get_model("reconcile", "Settlement").objects.select_related("job", "undoes__job")
    for each in rows.order_by("made_at").iterator():
        if each.job is None:  # a proposal, or one whose job is gone
            state = each.state if each.state in {"proposed", "dismissed"} else "done"
            each.job = jobs.create(
                kind="settle", pairing_id=each.pairing_id, made_by_id=each.made_by_id, state=state
            )
            each.save(update_fields=["job"])
        undone = each.undoes.job_id if each.undoes_id else None
        jobs.filter(pk=each.job_id).update(undoes=undone, alone="settle")


class Migration(migrations.Migration):
    dependencies = [("reconcile", "0004_placement_in_content"), ("ops", "0003_operations")]
    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
