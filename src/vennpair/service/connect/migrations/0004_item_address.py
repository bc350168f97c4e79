"""What else a publisher says of itself: how an item is opened, where its picker and reviews are."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("connect", "0002_squashed_0003_settling")]

    operations = [
        migrations.AddField("platform", "granted", models.JSONField(default=list)),
        migrations.AddField(
            "publisher", "item_address", models.CharField(blank=True, max_length=1000)
        ),
        migrations.AddField("publisher", "gets_numbers", models.BooleanField(default=False)),
        migrations.AddField("publisher", "picker_url", models.URLField(blank=True, max_length=500)),
        migrations.AddField("publisher", "picker_custom", models.JSONField(default=dict)),
        migrations.AddField("publisher", "review_url", models.URLField(blank=True, max_length=500)),
        migrations.AddField("publisher", "review_custom", models.JSONField(default=dict)),
    ]
