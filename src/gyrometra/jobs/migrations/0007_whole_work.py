"""Target, matters and breaks of a bore; fixtures and matching; what the plan sets with; materials of the crib."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0004_materials_fixtures_and_more'),
        ('jobs', '0006_ways_of_boring'),
    ]

    operations = [
        migrations.AddField(
            model_name="job",
            name="material_item",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="jobs", to="crib.material"),
        ),
        migrations.AddField(
            model_name='bore',
            name='matters',
            field=models.CharField(choices=[('little', 'little'), ('drawn', 'as drawn'), ('much', 'much')], default='drawn', max_length=8),
        ),
        migrations.AddField(
            model_name='bore',
            name='target',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.AddField(
            model_name='bore',
            name='target_lower_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='bore',
            name='target_upper_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='plan',
            name='driver_mm',
            field=models.DecimalField(decimal_places=6, default=40, max_digits=12),
        ),
        migrations.AddField(
            model_name='plan',
            name='guide_play_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='plan',
            name='jig_zero_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='plan',
            name='opening_bar',
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='opening_plans', to='crib.bar'),
        ),
        migrations.AddField(
            model_name='plan',
            name='set_with',
            field=models.CharField(blank=True, choices=[('', 'as this way sets it'), ('protrusion', 'step gauge, point above the bar'), ('indicator', 'indicator behind the bit'), ('jig', 'micrometer jig on the bar')], max_length=12),
        ),
        migrations.AddField(
            model_name='plan',
            name='tail_mm',
            field=models.DecimalField(decimal_places=6, default=20, max_digits=12),
        ),
        migrations.AddField(
            model_name='plan',
            name='test_first',
            field=models.BooleanField(default=True),
        ),
        migrations.AddField(
            model_name='plan',
            name='work_length_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.AddField(
            model_name='setup',
            name='fixtures',
            field=models.ManyToManyField(blank=True, related_name='setups', to='crib.fixture'),
        ),
        migrations.AddField(
            model_name='setup',
            name='match_mm',
            field=models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True),
        ),
        migrations.CreateModel(
            name='Interruption',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveSmallIntegerField()),
                ('kind', models.CharField(choices=[('keyway', 'keyway'), ('port', 'port'), ('cross-hole', 'cross hole'), ('slot', 'slot')], max_length=12)),
                ('from_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('to_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('angle_deg', models.DecimalField(decimal_places=2, default=0, max_digits=6)),
                ('width_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('bore', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='interruptions', to='jobs.bore')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.AlterField(
            model_name='setup',
            name='method',
            field=models.CharField(choices=[('lathe-bar', "bar in the lathe's tool holder"), ('head', 'boring head, work on the table'), ('line', 'bar in bearings, work still'), ('stand', 'boring stand over the work'), ('centres', 'bar between centres, work on the saddle'), ('pilot', 'pilot bar running in bores already cut')], default='lathe-bar', max_length=12),
        ),
    ]
