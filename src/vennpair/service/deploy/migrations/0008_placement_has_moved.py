# The model moved, its table stays: nothing of this touches the database.
from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("deploy", "0007_placement_in_content"),
        ("relay", "0006_placement_in_content"),
        ("reconcile", "0004_placement_in_content"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[migrations.DeleteModel("Placement")],
        ),
    ]
