from __future__ import annotations

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("ops", "0003_operations")]

    operations = [
        migrations.AddField(
            model_name="job",
            name="starts",
            field=models.IntegerField(db_default=0, default=0),
        ),
        migrations.AddField(
            model_name="job",
            name="stood_at",
            field=models.IntegerField(db_default=-1, default=-1),
        ),
    ]
