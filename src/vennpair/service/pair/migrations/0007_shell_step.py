from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('pair', '0006_first_steps_page'),
    ]

    operations = [
        migrations.RenameModel('PageStep', 'ShellStep'),
    ]
