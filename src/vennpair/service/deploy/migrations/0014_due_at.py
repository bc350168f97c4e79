from django.db import migrations

# What a link is once its step is done, and what it was, is kept as JSON, by the names of the
# placement's fields.
RENAME = """
    UPDATE deploy_step SET facts = jsonb_set(
        facts #- '{{{path},{old}}}', '{{{path},{new}}}', facts #> '{{{path},{old}}}')
    WHERE facts #> '{{{path}}}' ? '{old}'
"""


def renaming(path, old='due_date', new='due_at'):
    return migrations.RunSQL(
        RENAME.format(path=path, old=old, new=new), RENAME.format(path=path, old=new, new=old)
    )


class Migration(migrations.Migration):

    dependencies = [
        ('deploy', '0013_steps_alone'),
        ('content', '0012_due_at'),
    ]

    operations = [renaming('stands'), renaming('was,stands')]
