from __future__ import annotations

from django.db import migrations
from django.db.models import OuterRef, Subquery


def fill(apps, schema_editor):
    steps = apps.get_model("reconcile", "SettleStep").objects
    settlements = apps.get_model("reconcile", "Settlement").objects.filter(pk=OuterRef("settlement"))
    steps.update(job_id=Subquery(settlements.values("job")[:1]))
    steps.filter(state="moved").update(state="left")


class Migration(migrations.Migration):
    dependencies = [("reconcile", "0007_steps_of_jobs")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
