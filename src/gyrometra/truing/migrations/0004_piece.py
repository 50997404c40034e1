"""Each piece alike has its own log."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('truing', '0003_bore'),
    ]

    operations = [
        migrations.AddField(
            model_name='round',
            name='piece',
            field=models.PositiveSmallIntegerField(default=1),
        ),
    ]
