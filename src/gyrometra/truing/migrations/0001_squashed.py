"""Everything before the state of the work was replayed from its log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    initial = True

    replaces = [
        ('truing', '0001_initial'),
        ('truing', '0002_append_only'),
        ('truing', '0003_bore'),
        ('truing', '0004_piece'),
    ]

    dependencies = [
        ('crib', '0001_squashed'),
        ('jobs', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Round',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('piece', models.PositiveSmallIntegerField(default=1)),
                ('number', models.PositiveSmallIntegerField()),
                ('purpose', models.CharField(choices=[('true', 'truing'), ('check', 'run-out of the finished bore')], default='true', max_length=6)),
                ('method', models.CharField(choices=[('sweep', 'sweep'), ('flats', 'opposite flats')], default='sweep', max_length=6)),
                ('places', models.PositiveSmallIntegerField(default=8)),
                ('surface', models.CharField(max_length=8)),
                ('closing_mm', models.DecimalField(blank=True, decimal_places=6, max_digits=12, null=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('bore', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='rounds', to='jobs.bore')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('indicator', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='rounds', to='crib.indicator')),
                ('setup', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='rounds', to='jobs.setup')),
            ],
            options={
                'ordering': ['number'],
            },
        ),
        migrations.CreateModel(
            name='Reading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('place', models.PositiveSmallIntegerField()),
                ('value_mm', models.DecimalField(decimal_places=6, max_digits=12, null=True)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('supersedes', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='truing.reading')),
                ('round', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='readings', to='truing.round')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        migrations.AddConstraint(
            model_name='round',
            constraint=models.UniqueConstraint(fields=('setup', 'purpose', 'bore', 'number'), name='one_round_once', nulls_distinct=False),
        ),
        refuse_changes('truing_reading'),
    ]
