# Steps belong to their operation's job, as of every operation.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("reconcile", "0006_state_of_jobs"), ("ops", "0004_starts")]
    operations = [
        migrations.AddField(
            "settlestep",
            "job",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="%(app_label)s_steps",
                to="ops.job",
            ),
        ),
        migrations.AddField("settlestep", "attempts", models.IntegerField(db_default=0, default=0)),
    ]
