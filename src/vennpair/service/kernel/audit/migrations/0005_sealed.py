from __future__ import annotations

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("activity", "0002_squashed_0004_settling")]

    operations = [
        migrations.AddField(
            model_name="event",
            name="who",
            field=models.CharField(blank=True, db_default="", default="", max_length=150),
        ),
        migrations.AddField(
            model_name="event", name="number", field=models.BigIntegerField(null=True)
        ),
        migrations.AddField(
            model_name="event",
            name="seal",
            field=models.CharField(blank=True, db_default="", default="", max_length=64),
        ),
        migrations.AddIndex(
            model_name="event",
            index=models.Index(fields=["institution", "-id"], name="events_of_institution"),
        ),
        migrations.AddConstraint(
            model_name="event",
            constraint=models.UniqueConstraint(
                fields=("institution", "number"), name="one_event_per_number"
            ),
        ),
    ]
