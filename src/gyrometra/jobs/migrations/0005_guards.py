from django.db import migrations

from gyrometra.bridge.append_only import OF_BORE, OF_JOB, OF_SETUP, SIGNED_GUARD, SIGNED_JOB, guard_signed, refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0004_entries'),
    ]

    operations = [
        *(refuse_truncate(f"jobs_{log}") for log in ("signoff", "keptanswer", "jobchange")),
        SIGNED_GUARD,
        SIGNED_JOB,
        guard_signed("jobs_setup", OF_JOB),
        guard_signed("jobs_keptanswer", OF_JOB),
        *(guard_signed(f"jobs_{table}", OF_SETUP) for table in ("plan", "bore", "setup_fixtures")),
        *(guard_signed(f"jobs_{table}", OF_BORE) for table in ("foundsize", "outsidestep", "interruption")),
    ]
