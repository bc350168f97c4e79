# Steps belong to their operation's job, as of every operation: added here, filled next, then the
# old field goes; a table whose rows changed cannot be altered with them.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("deploy", "0010_rollouts_are_operations"), ("ops", "0004_starts")]
    operations = [
        migrations.AddField(
            "step",
            "job",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="%(app_label)s_steps",
                to="ops.job",
            ),
        ),
        migrations.AddField("step", "attempts", models.IntegerField(db_default=0, default=0)),
        migrations.AddField("step", "done_at", models.DateTimeField(null=True)),
    ]
