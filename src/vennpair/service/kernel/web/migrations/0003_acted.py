from __future__ import annotations

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("api", "0002_squashed_0002_initial")]

    operations = [
        migrations.AddField(
            model_name="keptanswer",
            name="acted",
            field=models.BooleanField(db_default=False, default=False),
        ),
    ]
