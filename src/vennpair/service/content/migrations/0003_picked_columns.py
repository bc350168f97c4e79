"""What a picker said of an item's column."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("content", "0001_squashed_0002_content_import")]

    operations = [
        migrations.AddField("item", "resource", models.CharField(blank=True, max_length=1000)),
        migrations.AddField("item", "tag", models.CharField(blank=True, max_length=255)),
    ]
