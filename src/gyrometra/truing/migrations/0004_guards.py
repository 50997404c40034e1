from django.db import migrations

from gyrometra.bridge.append_only import OF_ROUND, OF_SETUP, guard_signed, refuse_changes, refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ('truing', '0003_entries'),
        ('jobs', '0005_guards'),
    ]

    operations = [
        refuse_changes("truing_round"),
        *(refuse_truncate(f"truing_{log}") for log in ("round", "reading", "between")),
        guard_signed("truing_round", OF_SETUP),
        guard_signed("truing_between", OF_SETUP),
        guard_signed("truing_reading", OF_ROUND),
    ]
