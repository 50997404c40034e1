"""A setting keeps its kind of pass and its speed; each piece alike has its own log."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('cutting', '0004_micrometer_setting'),
    ]

    operations = [
        migrations.AddField(
            model_name='cutentry',
            name='pass_kind',
            field=models.CharField(blank=True, max_length=8),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='rpm',
            field=models.DecimalField(blank=True, decimal_places=2, max_digits=8, null=True),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='piece',
            field=models.PositiveSmallIntegerField(default=1),
        ),
        migrations.AlterField(
            model_name='cutentry',
            name='kind',
            field=models.CharField(choices=[('guard', 'guard steps confirmed'), ('set', 'dial set'), ('size', 'size measured'), ('remark', 'sound and look'), ('touched', 'tip stoned, turned, swapped or knocked')], max_length=8),
        ),
    ]
