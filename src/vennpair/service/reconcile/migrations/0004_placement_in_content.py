# The model moved, its table stays: nothing of this touches the database.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("content", "0004_placement"),
        ("reconcile", "0003_read"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="finding",
                    name="placement",
                    field=models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="note",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="notes",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="settlestep",
                    name="placement",
                    field=models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="content.placement",
                    ),
                ),
            ],
        ),
    ]
