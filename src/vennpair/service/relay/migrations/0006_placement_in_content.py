# The model moved, its table stays: nothing of this touches the database.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("content", "0004_placement"),
        ("relay", "0005_settling"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="ledgerentry",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="ledger",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="cell",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="cells",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="release",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="releases",
                        to="content.placement",
                    ),
                ),
                migrations.AlterField(
                    model_name="stray",
                    name="placement",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="strays",
                        to="content.placement",
                    ),
                ),
            ],
        ),
    ]
