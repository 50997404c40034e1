"""A size names its bore; those before there were several belong to the only one."""

import django.db.models.deletion
from django.db import migrations, models

# The log is append-only: the trigger rests while this one column is filled.
FILL = """
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE inspection_sizereading DISABLE TRIGGER append_only;
UPDATE inspection_sizereading SET bore_id = jobs_bore.id FROM jobs_bore WHERE jobs_bore.setup_id = inspection_sizereading.setup_id;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE inspection_sizereading ENABLE TRIGGER append_only;
"""


class Migration(migrations.Migration):
    dependencies = [("inspection", "0002_append_only"), ("jobs", "0005_bores_in_line")]
    operations = [
        migrations.AddField(
            model_name="sizereading",
            name="bore",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="sizes", to="jobs.bore"
            ),
        ),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
        migrations.AlterField(
            model_name="sizereading",
            name="bore",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="sizes", to="jobs.bore"
            ),
        ),
    ]
