from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("ops", "0001_squashed_0002_content_import"), ("pair", "0005_one_sub")]

    operations = [
        migrations.AddField(
            model_name="job",
            name="alone",
            field=models.CharField(blank=True, db_default="", default="", max_length=20),
        ),
        migrations.AddField(
            model_name="job",
            name="batch",
            field=models.UUIDField(db_index=True, null=True),
        ),
        migrations.AddField(
            model_name="job",
            name="undoes",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="undone_by",
                to="ops.job",
            ),
        ),
        migrations.AlterField(
            model_name="job",
            name="state",
            field=models.CharField(
                choices=[
                    ("proposed", "Proposed"),
                    ("queued", "Queued"),
                    ("running", "Running"),
                    ("waiting", "Waiting"),
                    ("done", "Done"),
                    ("failed", "Failed"),
                    ("cancelled", "Cancelled"),
                    ("dismissed", "Dismissed"),
                ],
                default="queued",
                max_length=10,
            ),
        ),
        migrations.AddConstraint(
            model_name="job",
            constraint=models.UniqueConstraint(
                condition=models.Q(
                    models.Q(("alone", ""), _negated=True),
                    ("state__in", ["queued", "running", "waiting"]),
                ),
                fields=("pairing", "alone"),
                name="one_of_a_kind_at_a_time",
            ),
        ),
    ]
