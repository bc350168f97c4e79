# The model moved, its table stays: nothing of this touches the database.
from __future__ import annotations

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("content", "0003_picked_columns"),
        ("deploy", "0006_column_claim"),
        ("pair", "0005_one_sub"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
        migrations.CreateModel(
            name='Placement',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('state', models.CharField(choices=[('planned', 'Planned'), ('written', 'Written'), ('placed', 'Placed'), ('failed', 'Failed'), ('removed', 'Removed')], default='planned', max_length=10)),
                ('title', models.CharField(max_length=1000)),
                ('folder', models.CharField(blank=True, max_length=500)),
                ('folder_id', models.CharField(blank=True, max_length=255)),
                ('place', models.IntegerField(default=-1)),
                ('column_place', models.IntegerField(default=-1)),
                ('entry_id', models.CharField(blank=True, max_length=255)),
                ('resource_link_id', models.CharField(blank=True, db_index=True, max_length=255)),
                ('column_url', models.URLField(blank=True, max_length=1000)),
                ('points', models.DecimalField(decimal_places=4, max_digits=14, null=True)),
                ('due_date', models.CharField(blank=True, max_length=40)),
                ('category', models.CharField(blank=True, max_length=255)),
                ('visible', models.BooleanField(default=True)),
                ('shown_from', models.CharField(blank=True, max_length=40)),
                ('new_window', models.BooleanField(default=False)),
                ('shift_days', models.IntegerField(default=0)),
                ('seen', models.JSONField(default=dict)),
                ('history', models.JSONField(default=list)),
                ('item', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='placement', to='content.item')),
                ('pairing', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='placements', to='pair.pairing')),
            ],
            options={
                'db_table': 'deploy_placement',
            },
        ),
            ],
        ),
    ]
