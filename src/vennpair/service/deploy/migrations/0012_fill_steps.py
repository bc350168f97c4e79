from __future__ import annotations

from django.db import migrations
from django.db.models import OuterRef, Subquery

STATES = {"pending": "planned", "cancelled": "stopped"}


def fill(apps, schema_editor):
    steps = apps.get_model("deploy", "Step").objects
    rollouts = apps.get_model("deploy", "Rollout").objects.filter(pk=OuterRef("rollout"))
    steps.update(job_id=Subquery(rollouts.values("job")[:1]))
    for before, after in STATES.items():
        steps.filter(state=before).update(state=after)


class Migration(migrations.Migration):
    dependencies = [("deploy", "0011_steps_of_jobs")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
