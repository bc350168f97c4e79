from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("content", "0007_undoes_of_jobs")]
    operations = [migrations.RemoveField(model_name="delivery", name="undoes")]
