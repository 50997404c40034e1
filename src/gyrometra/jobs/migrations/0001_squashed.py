"""Everything before the state of the work was replayed from its log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('jobs', '0001_initial'),
        ('jobs', '0002_append_only'),
        ('jobs', '0003_kept_answers'),
        ('jobs', '0004_kept_append_only'),
        ('jobs', '0005_bores_in_line'),
        ('jobs', '0006_ways_of_boring'),
        ('jobs', '0007_whole_work'),
        ('jobs', '0008_old_rows'),
        ('jobs', '0009_material_of_the_crib'),
    ]

    dependencies = [
        ('crib', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Bore',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(default='bore', max_length=20)),
                ('place', models.PositiveSmallIntegerField(default=1)),
                ('start_mm', models.DecimalField(decimal_places=6, default=0, max_digits=12)),
                ('length_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('ends', models.CharField(choices=[('through', 'through'), ('shoulder', 'counterbore, ends at a shoulder'), ('blind', 'blind, closed at its end')], default='through', max_length=10)),
                ('mate_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('play_least_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('play_most_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('depth_wanted', models.CharField(blank=True, max_length=80)),
                ('depth_lower_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('depth_upper_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('wanted', models.CharField(max_length=80)),
                ('nominal_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('lower_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('upper_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('target', models.CharField(blank=True, max_length=80)),
                ('target_lower_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('target_upper_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('matters', models.CharField(choices=[('little', 'little'), ('drawn', 'as drawn'), ('much', 'much')], default='drawn', max_length=8)),
                ('runout_limit_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('roundness_limit_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('taper_limit_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('typed', models.JSONField(blank=True, default=dict)),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.CreateModel(
            name='FoundSize',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('z_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('diameter_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('bore', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='found', to='jobs.bore')),
            ],
            options={
                'ordering': ['z_mm'],
            },
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
        migrations.CreateModel(
            name='Job',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.SlugField(max_length=20, unique=True)),
                ('part', models.CharField(max_length=80)),
                ('quantity', models.PositiveSmallIntegerField(default=1)),
                ('due_on', models.DateField(blank=True, null=True)),
                ('version', models.PositiveIntegerField(default=1)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('changed_at', models.DateTimeField(auto_now=True)),
                ('stations', models.JSONField(blank=True, default=dict)),
                ('changed_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('material', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='jobs', to='crib.material')),
            ],
            options={
                'ordering': ['-changed_at'],
            },
        ),
        migrations.CreateModel(
            name='KeptAnswer',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('line', models.CharField(max_length=20)),
                ('title', models.CharField(max_length=40)),
                ('typed', models.JSONField(default=dict)),
                ('answer', models.CharField(max_length=400)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='kept_answers', to='jobs.job')),
                ('supersedes', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='jobs.keptanswer')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='OutsideStep',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveSmallIntegerField()),
                ('length_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('diameter_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('bore', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='outside', to='jobs.bore')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.CreateModel(
            name='SetUp',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('method', models.CharField(choices=[('lathe-bar', "bar in the lathe's tool holder"), ('head', 'boring head, work on the table'), ('line', 'bar in bearings, work still'), ('stand', 'boring stand over the work'), ('centres', 'bar between centres, work on the saddle'), ('pilot', 'pilot bar running in bores already cut')], default='lathe-bar', max_length=12)),
                ('reference', models.CharField(choices=[('old-bore', 'the old bore'), ('outside', 'the outside')], max_length=12)),
                ('room_behind_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('coaxiality_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('match_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('fixtures', models.ManyToManyField(blank=True, related_name='setups', to='crib.fixture')),
                ('job', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='setup', to='jobs.job')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='setups', to='crib.machine')),
            ],
        ),
        migrations.CreateModel(
            name='Plan',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('set_with', models.CharField(blank=True, choices=[('', 'as this way sets it'), ('protrusion', 'step gauge, point above the bar'), ('indicator', 'indicator behind the bit'), ('jig', 'micrometer jig on the bar')], max_length=12)),
                ('jig_zero_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('guide_play_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('driver_mm', models.DecimalField(decimal_places=6, default=40, max_digits=12)),
                ('tail_mm', models.DecimalField(decimal_places=6, default=20, max_digits=12)),
                ('work_length_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('bearings_mm', models.JSONField(blank=True, default=list)),
                ('overrun_mm', models.DecimalField(decimal_places=6, default=5, max_digits=12)),
                ('clear_mm', models.DecimalField(decimal_places=6, default=20, max_digits=12)),
                ('chip_clearance_mm', models.DecimalField(decimal_places=6, default=5, max_digits=12)),
                ('budget_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('rough_speed_m_min', models.DecimalField(blank=True, decimal_places=2, max_digits=8, null=True)),
                ('finish_speed_m_min', models.DecimalField(blank=True, decimal_places=2, max_digits=8, null=True)),
                ('rough_feed_mm_rev', models.DecimalField(decimal_places=6, default='0.2', max_digits=12)),
                ('finish_feed_mm_rev', models.DecimalField(decimal_places=6, default='0.08', max_digits=12)),
                ('rough_depth_mm', models.DecimalField(decimal_places=6, default='0.5', max_digits=12)),
                ('finish_depth_mm', models.DecimalField(decimal_places=6, default='0.2', max_digits=12)),
                ('finish_passes', models.PositiveSmallIntegerField(default=2)),
                ('spring_passes', models.PositiveSmallIntegerField(default=0)),
                ('test_first', models.BooleanField(default=True)),
                ('test_leave_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('hone_allowance_mm', models.DecimalField(decimal_places=6, default=0, max_digits=12)),
                ('rest_until', models.DateField(blank=True, null=True)),
                ('max_rpm', models.PositiveIntegerField(blank=True, null=True)),
                ('typed', models.JSONField(blank=True, default=dict)),
                ('bar', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='plans', to='crib.bar')),
                ('cutter', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='plans', to='crib.cutter')),
                ('head', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='plans', to='crib.head')),
                ('opening_bar', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='opening_plans', to='crib.bar')),
                ('setup', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='plan', to='jobs.setup')),
            ],
        ),
        migrations.AddField(
            model_name='bore',
            name='setup',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='bores', to='jobs.setup'),
        ),
        migrations.CreateModel(
            name='SignOff',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('verdict', models.JSONField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('job', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='signoff', to='jobs.job')),
            ],
        ),
        migrations.AddConstraint(
            model_name='bore',
            constraint=models.UniqueConstraint(fields=('setup', 'place'), name='one_bore_a_place'),
        ),
        migrations.AddConstraint(
            model_name='bore',
            constraint=models.UniqueConstraint(fields=('setup', 'name'), name='one_bore_a_name'),
        ),
        refuse_changes('jobs_signoff'),
        refuse_changes('jobs_keptanswer'),
    ]
