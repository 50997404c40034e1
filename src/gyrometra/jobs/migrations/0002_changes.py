import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from gyrometra.bridge.append_only import refuse_changes


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0001_squashed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='JobChange',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('of', models.CharField(blank=True, max_length=40)),
                ('changes', models.JSONField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='changes', to='jobs.job')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        refuse_changes('jobs_jobchange'),
    ]
