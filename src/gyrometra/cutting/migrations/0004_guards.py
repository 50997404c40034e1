from django.db import migrations

from gyrometra.bridge.append_only import OF_SETUP, guard_signed, refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ('cutting', '0003_entries'),
        ('jobs', '0005_guards'),
    ]

    operations = [
        refuse_truncate("cutting_cutentry"),
        guard_signed("cutting_cutentry", OF_SETUP),
    ]
