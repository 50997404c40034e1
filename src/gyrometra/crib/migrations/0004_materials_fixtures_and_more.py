"""Materials and fixtures; steps, tuning and pairs of bars; drive and feeds of machines; who repeats with a gauge."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0003_history_append_only'),
    ]

    operations = [
        migrations.CreateModel(
            name='Fixture',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('kind', models.CharField(choices=[('fixture', 'fixture'), ('plate', 'plate'), ('packing', 'packing'), ('bush', 'bush or ring'), ('stop', 'stop or gauge piece')], default='fixture', max_length=10)),
                ('purpose', models.CharField(max_length=120)),
                ('for_part', models.CharField(blank=True, max_length=80)),
                ('length_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('width_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('height_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('picture', models.BinaryField(blank=True, null=True)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Material',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('family', models.CharField(choices=[('grey-iron', 'grey iron'), ('steel', 'steel'), ('bronze', 'bronze'), ('aluminium', 'aluminium')], max_length=20)),
                ('hardness', models.CharField(blank=True, max_length=30)),
                ('kc11_mpa', models.DecimalField(decimal_places=2, max_digits=8)),
                ('mc', models.DecimalField(decimal_places=4, max_digits=5)),
                ('thrust_ratio', models.DecimalField(decimal_places=4, max_digits=5)),
                ('expansion_um_m_k', models.DecimalField(decimal_places=3, max_digits=6)),
                ('carbide_rough_m_min', models.DecimalField(decimal_places=2, max_digits=7)),
                ('carbide_finish_m_min', models.DecimalField(decimal_places=2, max_digits=7)),
                ('hss_rough_m_min', models.DecimalField(decimal_places=2, max_digits=7)),
                ('hss_finish_m_min', models.DecimalField(decimal_places=2, max_digits=7)),
                ('source', models.CharField(max_length=120)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.AddField(
            model_name='bar',
            name='bits_apart_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='bar',
            name='damping_ratio',
            field=models.DecimalField(blank=True, decimal_places=4, max_digits=5, null=True),
        ),
        migrations.AddField(
            model_name='bar',
            name='steps_mm',
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name='bar',
            name='tilt_deg',
            field=models.DecimalField(decimal_places=2, default=0, max_digits=5),
        ),
        migrations.AddField(
            model_name='bar',
            name='tuned',
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name='bar',
            name='tuned_turns',
            field=models.DecimalField(blank=True, decimal_places=2, max_digits=6, null=True),
        ),
        migrations.AddField(
            model_name='cutter',
            name='corners',
            field=models.PositiveSmallIntegerField(default=1),
        ),
        migrations.AddField(
            model_name='cutter',
            name='corners_used',
            field=models.PositiveSmallIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='gauge',
            name='kind',
            field=models.CharField(choices=[('two-point', 'two-point bore gauge'), ('three-point', 'three-point micrometer'), ('inside', 'inside micrometer'), ('calliper', 'calliper')], default='two-point', max_length=12),
        ),
        migrations.AddField(
            model_name='gauge',
            name='reach_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='gauge',
            name='repeats_mm',
            field=models.JSONField(blank=True, default=dict),
        ),
        migrations.AddField(
            model_name='machine',
            name='axis_height_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='machine',
            name='backlash_divisions',
            field=models.DecimalField(blank=True, decimal_places=2, max_digits=6, null=True),
        ),
        migrations.AddField(
            model_name='machine',
            name='centres_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='machine',
            name='feeds_mm_rev',
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name='machine',
            name='power_kw',
            field=models.DecimalField(blank=True, decimal_places=3, max_digits=7, null=True),
        ),
        migrations.AddField(
            model_name='machine',
            name='torque_nm',
            field=models.DecimalField(blank=True, decimal_places=2, max_digits=9, null=True),
        ),
        migrations.AddField(
            model_name='machine',
            name='travel_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AlterField(
            model_name='bar',
            name='method',
            field=models.CharField(choices=[('lathe-bar', "bar in the lathe's tool holder"), ('head', 'boring head, work on the table'), ('line', 'bar in bearings, work still'), ('stand', 'boring stand over the work'), ('centres', 'bar between centres, work on the saddle'), ('pilot', 'pilot bar running in bores already cut')], default='lathe-bar', max_length=12),
        ),
        migrations.AddField(
            model_name='machine',
            name='stepless',
            field=models.BooleanField(default=False),
        ),
    ]
