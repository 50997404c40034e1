"""An entry names its bore; those before there were several belong to the only one."""

import django.db.models.deletion
from django.db import migrations, models

# The log is append-only: the trigger rests while this one column is filled.
FILL = """
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE cutting_cutentry DISABLE TRIGGER append_only;
UPDATE cutting_cutentry SET bore_id = jobs_bore.id FROM jobs_bore WHERE jobs_bore.setup_id = cutting_cutentry.setup_id AND cutting_cutentry.kind <> 'guard';
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE cutting_cutentry ENABLE TRIGGER append_only;
"""


class Migration(migrations.Migration):
    dependencies = [("cutting", "0002_append_only"), ("jobs", "0005_bores_in_line")]
    operations = [
        migrations.AddField(
            model_name="cutentry",
            name="bore",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="cuts", to="jobs.bore"
            ),
        ),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
    ]
