"""Everything before the state of the work was replayed from its log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('inspection', '0001_initial'),
        ('inspection', '0002_append_only'),
        ('inspection', '0003_bore'),
        ('inspection', '0004_piece'),
    ]

    dependencies = [
        ('crib', '0001_squashed'),
        ('jobs', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='SizeReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('piece', models.PositiveSmallIntegerField(default=1)),
                ('z_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('angle_deg', models.DecimalField(decimal_places=2, max_digits=6)),
                ('value_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('part_temp_c', models.DecimalField(decimal_places=2, default=20, max_digits=5)),
                ('bore', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='sizes', to='jobs.bore')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('gauge', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='sizes', to='crib.gauge')),
                ('setup', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='sizes', to='jobs.setup')),
                ('supersedes', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='inspection.sizereading')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        refuse_changes('inspection_sizereading'),
    ]
