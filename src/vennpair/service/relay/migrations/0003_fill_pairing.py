"""Every cell and entry names its pairing; what was reported before has a digest of its own, so that nothing is taken for a repeat.

A migration of its own: a table whose rows were just changed cannot be altered in the same transaction.
"""

from django.db import migrations
from django.db.models import CharField, F, OuterRef, Subquery, Value
from django.db.models.functions import Cast, Concat


def fill(apps, schema_editor):
    placements = apps.get_model("deploy", "Placement").objects.filter(pk=OuterRef("placement")).values("pairing")[:1]
    for name in ("Cell", "LedgerEntry"):
        apps.get_model("relay", name).objects.filter(pairing=None).update(pairing=Subquery(placements))
    apps.get_model("relay", "LedgerEntry").objects.filter(digest="").update(digest=Concat(Value("before-"), Cast(F("pk"), CharField())))


class Migration(migrations.Migration):
    dependencies = [("relay", "0002_relay")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
