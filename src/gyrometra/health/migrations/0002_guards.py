from django.db import migrations

from gyrometra.bridge.append_only import refuse_changes, refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ("health", "0001_machine_checks"),
    ]

    operations = [
        refuse_changes("health_machinecheck"),
        refuse_truncate("health_machinecheck"),
    ]
