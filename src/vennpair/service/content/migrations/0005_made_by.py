# An entry remembers which delivery brought it, so that a later one does not lose the undoing.
from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("content", "0004_placement")]

    operations = [
        migrations.AddField(
            model_name="entry",
            name="made_by",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="made",
                to="content.delivery",
            ),
        ),
    ]
