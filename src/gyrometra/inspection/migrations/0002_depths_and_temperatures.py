import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0002_dials'),
        ('inspection', '0001_squashed'),
        ('jobs', '0002_changes'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='sizereading',
            name='gauge_temp_c',
            field=models.DecimalField(decimal_places=2, default=20, max_digits=5),
        ),
        migrations.AddField(
            model_name='sizereading',
            name='rests_on',
            field=models.JSONField(blank=True, default=dict),
        ),
        migrations.AddField(
            model_name='sizereading',
            name='temp_u_c',
            field=models.DecimalField(decimal_places=2, default=0, max_digits=5),
        ),
        migrations.CreateModel(
            name='DepthReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('piece', models.PositiveSmallIntegerField(default=1)),
                ('value_mm', models.DecimalField(decimal_places=6, max_digits=12)),
                ('rests_on', models.JSONField(blank=True, default=dict)),
                ('bore', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='shoulder_depths', to='jobs.bore')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('gauge', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='crib.gauge')),
                ('setup', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='shoulder_depths', to='jobs.setup')),
                ('supersedes', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='inspection.depthreading')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        refuse_changes('inspection_depthreading'),
    ]
