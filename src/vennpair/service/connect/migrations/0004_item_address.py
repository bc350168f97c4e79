"""The pattern by which a publisher's items are opened."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("connect", "0002_squashed_0003_settling")]

    operations = [
        migrations.AddField("publisher", "item_address", models.CharField(blank=True, max_length=1000)),
    ]
