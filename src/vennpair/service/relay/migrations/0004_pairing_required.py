import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("relay", "0003_fill_pairing")]
    operations = [
        migrations.AlterField("cell", "pairing", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="cells", to="pair.pairing")),
        migrations.AlterField("ledgerentry", "pairing", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="ledger", to="pair.pairing")),
        migrations.AddConstraint("ledgerentry", models.UniqueConstraint(fields=("placement", "learner", "timestamp", "digest"), name="one_entry_per_report")),
    ]
