from django.db import migrations

from gyrometra.bridge.append_only import refuse_truncate


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0003_entries'),
    ]

    operations = [
        refuse_truncate("crib_cribchange"),
    ]
