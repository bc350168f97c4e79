# What a rollout undoes, and its batch, are its job's, as of every operation.
from __future__ import annotations

from django.db import migrations


def move(apps, schema_editor):
    jobs = apps.get_model("ops", "Job").objects
    for rollout in apps.get_model("deploy", "Rollout").objects.select_related("undoes").iterator():
        undone = rollout.undoes.job_id if rollout.undoes_id else None
        jobs.filter(pk=rollout.job_id).update(batch=rollout.batch, undoes=undone, alone="rollout")


class Migration(migrations.Migration):
    dependencies = [("deploy", "0008_placement_has_moved"), ("ops", "0003_operations")]
    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
