import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0002_dials'),
        ('jobs', '0002_changes'),
        ('truing', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Between',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(unique=True)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('source', models.CharField(choices=[('keypad', 'keypad'), ('typed', 'typed'), ('cable', 'cable')], default='typed', max_length=8)),
                ('text', models.CharField(blank=True, max_length=60)),
                ('withdrawn', models.BooleanField(default=False)),
                ('piece', models.PositiveSmallIntegerField(default=1)),
                ('after_round', models.PositiveSmallIntegerField(default=0)),
                ('kind', models.CharField(choices=[('moved', 'moved as told'), ('disturbed', 're-clamped, knocked or turned round')], max_length=10)),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        migrations.RemoveConstraint(
            model_name='round',
            name='one_round_once',
        ),
        migrations.AddConstraint(
            model_name='round',
            constraint=models.UniqueConstraint(fields=('setup', 'purpose', 'bore', 'piece', 'number'), name='one_round_once', nulls_distinct=False),
        ),
        migrations.AddField(
            model_name='between',
            name='bore',
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='jobs.bore'),
        ),
        migrations.AddField(
            model_name='between',
            name='by',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='between',
            name='setup',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='between_rounds', to='jobs.setup'),
        ),
        migrations.AddField(
            model_name='between',
            name='supersedes',
            field=models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='superseded_by', to='truing.between'),
        ),
        refuse_changes('truing_between'),
    ]
