"""Which findings rest on a score that was read at the publisher."""

from django.db import migrations, models


def remember(apps, schema_editor):
    """Of comparisons made before, only a score that is there is known to have been read."""
    apps.get_model("reconcile", "Finding").objects.filter(source="publisher").update(read=True)


class Migration(migrations.Migration):
    dependencies = [("reconcile", "0001_squashed_0002_settling")]

    operations = [
        migrations.AddField("finding", "read", models.BooleanField(default=False)),
        migrations.RunPython(remember, migrations.RunPython.noop),
    ]
