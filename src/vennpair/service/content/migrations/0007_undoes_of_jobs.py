# What a delivery undoes is its job's, as of every operation.
from __future__ import annotations

from django.db import migrations


def move(apps, schema_editor):
    jobs = apps.get_model("ops", "Job").objects
    for each in apps.get_model("content", "Delivery").objects.select_related("undoes").iterator():
        undone = each.undoes.job_id if each.undoes_id else None
        jobs.filter(pk=each.job_id).update(undoes=undone, alone="delivery")


class Migration(migrations.Migration):
    dependencies = [("content", "0006_fill_made_by"), ("ops", "0003_operations")]
    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
