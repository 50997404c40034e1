"""A set-up holds several bores in line; each has a name and a place along the axis."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_kept_append_only")]
    operations = [
        migrations.AlterField(
            model_name="bore",
            name="setup",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="bores", to="jobs.setup"
            ),
        ),
        migrations.AddField(model_name="bore", name="name", field=models.CharField(default="bore", max_length=20)),
        migrations.AddField(model_name="bore", name="place", field=models.PositiveSmallIntegerField(default=1)),
        migrations.AddField(
            model_name="bore", name="start_mm", field=models.DecimalField(decimal_places=6, default=0, max_digits=12)
        ),
        migrations.AlterModelOptions(name="bore", options={"ordering": ["place"]}),
        migrations.AddConstraint(
            model_name="bore",
            constraint=models.UniqueConstraint(fields=("setup", "place"), name="one_bore_a_place"),
        ),
        migrations.AddConstraint(
            model_name="bore",
            constraint=models.UniqueConstraint(fields=("setup", "name"), name="one_bore_a_name"),
        ),
    ]
