from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("reconcile", "0005_settlements_are_operations")]

    operations = [
        migrations.RemoveField(model_name="settlement", name="state"),
        migrations.RemoveField(model_name="settlement", name="undoes"),
        migrations.AlterField(
            model_name="settlement",
            name="job",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="settlement",
                to="ops.job",
            ),
        ),
        migrations.AlterField(
            model_name="settlestep",
            name="state",
            field=models.CharField(
                choices=[
                    ("planned", "Planned"),
                    ("done", "Done"),
                    ("moved", "Moved"),
                    ("failed", "Failed"),
                    ("stopped", "Stopped"),
                    ("undone", "Undone"),
                ],
                default="planned",
                max_length=10,
            ),
        ),
    ]
