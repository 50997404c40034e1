"""A round of the check names its bore; those before there were several belong to the only one."""

import django.db.models.deletion
from django.db import migrations, models

FILL = """
UPDATE truing_round SET bore_id = jobs_bore.id FROM jobs_bore
    WHERE jobs_bore.setup_id = truing_round.setup_id AND truing_round.purpose = 'check';
SET CONSTRAINTS ALL IMMEDIATE;
"""


class Migration(migrations.Migration):
    dependencies = [("truing", "0002_append_only"), ("jobs", "0005_bores_in_line")]
    operations = [
        migrations.AddField(
            model_name="round",
            name="bore",
            field=models.ForeignKey(
                blank=True,
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="rounds",
                to="jobs.bore",
            ),
        ),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
        migrations.RemoveConstraint(model_name="round", name="one_round_once"),
        migrations.AddConstraint(
            model_name="round",
            constraint=models.UniqueConstraint(
                fields=("setup", "purpose", "bore", "number"), name="one_round_once", nulls_distinct=False
            ),
        ),
    ]
