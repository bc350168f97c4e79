# The grants of tokens come apart from the rest: the tokens' own tables want our users first.

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("connect", "0002_connect_and_pair"),
        ("connect", "0003_settling"),
    ]

    dependencies = [
        ("connect", "0001_squashed_0001_initial"),
        migrations.swappable_dependency(settings.KNOX_TOKEN_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='TokenGrant',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=100)),
                ('scopes', models.JSONField(default=list)),
                ('token', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='grant', to=settings.KNOX_TOKEN_MODEL)),
            ],
        ),
    ]
