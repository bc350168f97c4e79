# The model moved, its table stays: nothing of this touches the database.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("content", "0004_placement"),
        ("deploy", "0006_column_claim"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="columnclaim",
                    name="placement",
                    field=models.OneToOneField(
                        primary_key=True,
                        serialize=False,
                        on_delete=django.db.models.deletion.CASCADE,
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="step",
                    name="placement",
                    field=models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="steps",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="driftfound",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="drifts",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="columnexport",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="exports",
                        to="content.placement",
                    ),
                ),
            ],
        ),
    ]
