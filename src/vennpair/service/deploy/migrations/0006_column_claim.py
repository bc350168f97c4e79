"""Who is making the column of a link that many open for the first time at once."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("deploy", "0001_squashed_0005_nights")]

    operations = [
        migrations.AddField("placement", "history", models.JSONField(default=list)),
        migrations.CreateModel(
            "ColumnClaim",
            [
                (
                    "placement",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        serialize=False,
                        to="deploy.placement",
                    ),
                ),
                ("holder", models.UUIDField()),
                ("begun_at", models.DateTimeField()),
                ("failed_at", models.DateTimeField(null=True)),
            ],
        ),
    ]
