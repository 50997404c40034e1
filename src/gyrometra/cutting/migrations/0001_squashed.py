"""Everything before the state of the work was replayed from its log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('cutting', '0001_initial'),
        ('cutting', '0002_append_only'),
        ('cutting', '0003_bore'),
        ('cutting', '0004_micrometer_setting'),
        ('cutting', '0005_kind_speed_and_piece'),
    ]

    dependencies = [
        ('crib', '0001_squashed'),
        ('jobs', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='CutEntry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('piece', models.PositiveSmallIntegerField(default=1)),
                ('kind', models.CharField(choices=[('guard', 'guard steps confirmed'), ('set', 'dial set'), ('size', 'size measured'), ('remark', 'sound and look'), ('touched', 'tip stoned, turned, swapped or knocked')], max_length=8)),
                ('number', models.PositiveSmallIntegerField(default=0)),
                ('value_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('change_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('divisions', models.DecimalField(blank=True, decimal_places=3, max_digits=10, null=True)),
                ('setting_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('pass_kind', models.CharField(blank=True, max_length=8)),
                ('rpm', models.DecimalField(blank=True, decimal_places=2, max_digits=8, null=True)),
                ('sound', models.CharField(blank=True, choices=[('quiet', 'quiet'), ('hum', 'hums'), ('squeal', 'squeals')], max_length=8)),
                ('look', models.CharField(blank=True, choices=[('clean', 'clean'), ('torn', 'torn'), ('waves', 'chatter marks')], max_length=8)),
                ('bore', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='cuts', to='jobs.bore')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('gauge', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='crib.gauge')),
                ('setup', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='cuts', to='jobs.setup')),
                ('supersedes', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='cutting.cutentry')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        refuse_changes('cutting_cutentry'),
    ]
