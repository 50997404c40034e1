from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('crib', '0001_squashed'),
    ]

    operations = [
        migrations.AddField(
            model_name='head',
            name='dial_numbers',
            field=models.CharField(choices=[('rise', 'rise'), ('fall', 'fall')], default='rise', max_length=4),
        ),
        migrations.AddField(
            model_name='indicator',
            name='pointed',
            field=models.CharField(blank=True, choices=[('', 'not said yet'), ('divisions', 'divisions'), ('unit', 'the unit shown')], default='', max_length=10),
        ),
        migrations.AddField(
            model_name='machine',
            name='dial_numbers',
            field=models.CharField(choices=[('rise', 'rise'), ('fall', 'fall')], default='rise', max_length=4),
        ),
    ]
