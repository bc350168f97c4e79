"""Browsers that are signed in, wrong passwords, and when tokens were used."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('connect', '0004_item_address'),
        ('knox', '0009_extend_authtoken_field'),
    ]

    operations = [
        migrations.CreateModel(
            name='TokenUse',
            fields=[
                ('token', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='use', serialize=False, to=settings.KNOX_TOKEN_MODEL)),
                ('used_at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='WrongPassword',
            fields=[
                ('key', models.CharField(max_length=64, primary_key=True, serialize=False)),
                ('count', models.IntegerField(default=0)),
                ('last_at', models.DateTimeField(db_index=True)),
                ('until', models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name='SignedInBrowser',
            fields=[
                ('session_key', models.CharField(max_length=40, primary_key=True, serialize=False)),
                ('begun_at', models.DateTimeField()),
                ('platform', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='browsers', to='connect.platform')),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='browsers', to=settings.AUTH_USER_MODEL)),
            ],
        ),
    ]
