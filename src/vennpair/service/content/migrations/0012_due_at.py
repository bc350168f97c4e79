from django.db import migrations

# What the catalogue said of an item is kept as JSON, by the name that the field had.
RENAME = """
    UPDATE content_item SET catalogue = (catalogue - 'due_date')
        || jsonb_build_object('due_at', catalogue -> 'due_date')
    WHERE catalogue ? 'due_date'
"""
BACK = """
    UPDATE content_item SET catalogue = (catalogue - 'due_at')
        || jsonb_build_object('due_date', catalogue -> 'due_at')
    WHERE catalogue ? 'due_at'
"""


class Migration(migrations.Migration):

    dependencies = [
        ('content', '0011_steps_alone'),
    ]

    operations = [
        migrations.RenameField('item', 'due_date', 'due_at'),
        migrations.RenameField('entry', 'due_date', 'due_at'),
        migrations.RenameField('placement', 'due_date', 'due_at'),
        migrations.RunSQL(RENAME, BACK),
    ]
