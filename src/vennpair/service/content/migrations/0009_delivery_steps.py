# Deliveries have steps of their own, as every operation: made here, filled next, then the fields
# of entries go that held only the last delivery's.
from __future__ import annotations

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("content", "0008_deliveries_are_operations"), ("ops", "0004_starts")]
    operations = [
        migrations.CreateModel(
            name="DeliveryStep",
            fields=[
                ("position", models.IntegerField()),
                ("kind", models.CharField(max_length=30)),
                ("facts", models.JSONField(default=dict)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("planned", "Planned"),
                            ("done", "Done"),
                            ("failed", "Failed"),
                            ("stopped", "Stopped"),
                            ("left", "Left"),
                            ("undone", "Undone"),
                        ],
                        default="planned",
                        max_length=10,
                    ),
                ),
                ("message", models.CharField(blank=True, max_length=500)),
                ("attempts", models.IntegerField(db_default=0, default=0)),
                ("done_at", models.DateTimeField(null=True)),
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("node", models.CharField(blank=True, max_length=255)),
                (
                    "entry",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="steps",
                        to="content.entry",
                    ),
                ),
                (
                    "job",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="%(app_label)s_steps",
                        to="ops.job",
                    ),
                ),
            ],
            options={
                "ordering": ["position"],
                "abstract": False,
                "constraints": [
                    models.UniqueConstraint(
                        fields=("job", "position"), name="content_one_step_per_position"
                    )
                ],
            },
        ),
    ]
