"""One subject for a person at a publisher, whatever the shell, whoever has an account keeping it;
and who of those who teach was named by a roster.
"""

from django.db import migrations, models
from django.db.models import CharField
from django.db.models.functions import Cast

import vennpair.service.pair.models


def keep(apps, schema_editor):
    """So far each learner's own id was the subject that publishers know."""
    learners = apps.get_model("pair", "Learner").objects
    learners.update(sub=Cast("id", CharField()))


class Migration(migrations.Migration):
    dependencies = [("pair", "0001_squashed_0004_relay")]

    operations = [
        migrations.AddField("shellrole", "listed", models.BooleanField(default=False)),
        migrations.AddField(
            "learner",
            "sub",
            models.CharField(
                db_index=True, default=vennpair.service.pair.models.new_sub, max_length=64
            ),
        ),
        migrations.RunPython(keep, migrations.RunPython.noop),
    ]
