"""Jobs point at the crib's materials; plans that had no test cut keep having none."""

from django.db import migrations

from gyrometra.crib.general import general_rows


def carry_over(apps, schema_editor):
    Job, Plan = apps.get_model("jobs", "Job"), apps.get_model("jobs", "Plan")
    Material = apps.get_model("crib", "Material")
    rows = {row["family"]: row for row in general_rows()}
    for family in set(Job.objects.values_list("material", flat=True)):
        found = Material.objects.filter(family=family).first() or Material.objects.create(**rows[family])
        Job.objects.filter(material=family).update(material_item=found)
    Plan.objects.filter(test_leave_mm__isnull=True).update(test_first=False)


class Migration(migrations.Migration):
    dependencies = [("jobs", "0007_whole_work")]
    operations = [migrations.RunPython(carry_over, migrations.RunPython.noop)]
