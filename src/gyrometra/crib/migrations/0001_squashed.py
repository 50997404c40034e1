"""Everything before the state of the work was replayed from its log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('crib', '0001_initial'),
        ('crib', '0002_machines_heads_and_history'),
        ('crib', '0003_history_append_only'),
        ('crib', '0004_materials_fixtures_and_more'),
    ]

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Bar',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('kind', models.CharField(choices=[('steel', 'steel'), ('heavy-metal', 'heavy metal'), ('carbide', 'carbide'), ('damped-steel', 'damped steel'), ('damped-carbide', 'damped carbide'), ('line-bar', 'line bar, from the nearest bearing')], max_length=20)),
                ('diameter_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('inner_diameter_mm', models.DecimalField(decimal_places=6, default=0, max_digits=12)),
                ('length_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('grip_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('min_bore_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('tip_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('shank_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('steps_mm', models.JSONField(blank=True, default=list)),
                ('tilt_deg', models.DecimalField(decimal_places=2, default=0, max_digits=5)),
                ('damping_ratio', models.DecimalField(blank=True, decimal_places=4, max_digits=5, null=True)),
                ('tuned', models.JSONField(blank=True, default=list)),
                ('tuned_turns', models.DecimalField(blank=True, decimal_places=2, max_digits=6, null=True)),
                ('bits_apart_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('method', models.CharField(choices=[('lathe-bar', "bar in the lathe's tool holder"), ('head', 'boring head, work on the table'), ('line', 'bar in bearings, work still'), ('stand', 'boring stand over the work'), ('centres', 'bar between centres, work on the saddle'), ('pilot', 'pilot bar running in bores already cut')], default='lathe-bar', max_length=12)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Cutter',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('made_of', models.CharField(choices=[('carbide', 'carbide'), ('hss', 'high-speed steel')], max_length=10)),
                ('nose_radius_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('entering_angle_deg', models.DecimalField(decimal_places=2, default=90, max_digits=6)),
                ('least_depth_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('corners', models.PositiveSmallIntegerField(default=1)),
                ('corners_used', models.PositiveSmallIntegerField(default=0)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
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
            name='Gauge',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('kind', models.CharField(choices=[('two-point', 'two-point bore gauge'), ('three-point', 'three-point micrometer'), ('inside', 'inside micrometer'), ('calliper', 'calliper')], default='two-point', max_length=12)),
                ('reach_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('repeats_mm', models.JSONField(blank=True, default=dict)),
                ('range_low_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('range_high_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('resolution_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('error_limit_mm', models.DecimalField(decimal_places=6, default=0, max_digits=12)),
                ('correction_mm', models.DecimalField(decimal_places=6, default=0, max_digits=12)),
                ('single_sd_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('due_on', models.DateField(blank=True, null=True)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Head',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('division_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('divisions_per_turn', models.PositiveIntegerField()),
                ('dial_reads', models.CharField(choices=[('radius', 'radius'), ('diameter', 'diameter')], max_length=8)),
                ('slide_travel_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('shank_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('max_rpm', models.PositiveIntegerField(blank=True, null=True)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Indicator',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('step_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('range_mm', models.DecimalField(decimal_places=6, max_digits=12)),
            ],
            options={
                'ordering': ['name'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Machine',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60, unique=True)),
                ('notes', models.CharField(blank=True, max_length=300)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('retired', models.BooleanField(default=False)),
                ('kind', models.CharField(choices=[('lathe', 'lathe'), ('mill', 'mill'), ('borer', 'horizontal borer'), ('portable', 'portable bar'), ('stand', 'boring stand')], default='lathe', max_length=10)),
                ('division_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('divisions_per_turn', models.PositiveIntegerField(blank=True, null=True)),
                ('dial_reads', models.CharField(choices=[('radius', 'radius'), ('diameter', 'diameter')], default='radius', max_length=8)),
                ('unbalanced_max_rpm', models.PositiveIntegerField(blank=True, null=True)),
                ('cuts_large_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('shoes', models.CharField(blank=True, choices=[('', 'has none'), ('out', 'out while it bores'), ('in', 'in while it bores')], max_length=4)),
                ('stepless', models.BooleanField(default=False)),
                ('power_kw', models.DecimalField(blank=True, decimal_places=3, max_digits=7, null=True)),
                ('torque_nm', models.DecimalField(blank=True, decimal_places=2, max_digits=9, null=True)),
                ('feeds_mm_rev', models.JSONField(blank=True, default=list)),
                ('travel_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('centres_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('axis_height_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('backlash_divisions', models.DecimalField(blank=True, decimal_places=2, max_digits=6, null=True)),
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
        migrations.CreateModel(
            name='CribChange',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=12)),
                ('item_id', models.BigIntegerField()),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('what', models.CharField(max_length=12)),
                ('fields', models.JSONField(default=dict)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-pk'],
                'indexes': [models.Index(fields=['kind', 'item_id'], name='changes_of_a_thing')],
            },
        ),
        migrations.CreateModel(
            name='Hole',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=12)),
                ('offset_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('head', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='holes', to='crib.head')),
            ],
            options={
                'ordering': ['offset_mm'],
                'constraints': [models.UniqueConstraint(fields=('head', 'name'), name='one_hole_once')],
            },
        ),
        migrations.CreateModel(
            name='MachineSpeed',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('lever', models.CharField(blank=True, max_length=12)),
                ('rpm', models.DecimalField(decimal_places=2, max_digits=8)),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='speeds', to='crib.machine')),
            ],
            options={
                'ordering': ['rpm'],
                'constraints': [models.UniqueConstraint(fields=('machine', 'rpm'), name='one_speed_once')],
            },
        ),
        refuse_changes('crib_cribchange', 'append-only: a change of the crib stays in its history'),
    ]
