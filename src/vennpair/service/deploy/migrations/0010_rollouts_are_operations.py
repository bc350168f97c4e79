from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("deploy", "0009_undoes_of_jobs")]

    operations = [
        migrations.RemoveField(model_name="rollout", name="undoes"),
        migrations.RemoveField(model_name="rollout", name="batch"),
    ]
