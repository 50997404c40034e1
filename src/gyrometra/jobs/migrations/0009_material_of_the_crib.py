"""The old column of a job's material gives way to the crib's own."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0008_old_rows")]
    operations = [
        migrations.RemoveField(model_name="job", name="material"),
        migrations.RenameField(model_name="job", old_name="material_item", new_name="material"),
        migrations.AlterField(
            model_name="job",
            name="material",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="jobs", to="crib.material"
            ),
        ),
    ]
