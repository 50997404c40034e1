from django.db import migrations

from gyrometra.bridge.append_only import OF_SETUP, guard_signed, refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ('inspection', '0003_entries'),
        ('jobs', '0005_guards'),
    ]

    operations = [
        *(refuse_truncate(f"inspection_{log}") for log in ("sizereading", "depthreading")),
        *(guard_signed(f"inspection_{log}", OF_SETUP) for log in ("sizereading", "depthreading")),
    ]
