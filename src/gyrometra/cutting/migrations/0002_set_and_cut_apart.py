from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('cutting', '0001_squashed'),
    ]

    operations = [
        migrations.AddField(
            model_name='cutentry',
            name='actual',
            field=models.DecimalField(blank=True, decimal_places=12, max_digits=22, null=True),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='at_division',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='gauge_temp_c',
            field=models.DecimalField(decimal_places=2, default=20, max_digits=5),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='part_temp_c',
            field=models.DecimalField(decimal_places=2, default=20, max_digits=5),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='rests_on',
            field=models.JSONField(blank=True, default=dict),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='temp_u_c',
            field=models.DecimalField(decimal_places=2, default=0, max_digits=5),
        ),
        migrations.AddField(
            model_name='cutentry',
            name='through',
            field=models.PositiveSmallIntegerField(blank=True, null=True),
        ),
        migrations.AlterField(
            model_name='cutentry',
            name='kind',
            field=models.CharField(choices=[('guard', 'guard steps confirmed'), ('set', 'cutter set'), ('cut', 'pass cut'), ('size', 'size measured'), ('remark', 'sound and finish'), ('touched', 'tool reground, indexed or bumped'), ('touch-off', 'touched off'), ('zero', 'dial turned to a number'), ('plan', 'the plan it was made by')], max_length=10),
        ),
    ]
