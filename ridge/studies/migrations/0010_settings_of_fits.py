"""What a fit is made of goes into one field, so that one more setting needs no new column."""

from django.db import migrations, models

USUAL = {
    "fixed": {}, "options": {}, "series": "", "method": "y", "by_hand": False, "values": {}, "bounds": {}, "x_range": None,
    "name": "", "hidden": False, "decimals": {},
}  # fmt: skip


def gather(apps, schema_editor):
    for fit in apps.get_model("studies", "StudyFit").objects.iterator():
        fit.settings = {name: getattr(fit, name) for name, usual in USUAL.items() if getattr(fit, name) != usual}
        fit.save(update_fields=["settings"])


def spread(apps, schema_editor):
    for fit in apps.get_model("studies", "StudyFit").objects.iterator():
        for name, value in fit.settings.items():
            setattr(fit, name, value)
        fit.save()


class Migration(migrations.Migration):

    dependencies = [("studies", "0009_limits_of_sense")]

    operations = [
        migrations.AddField("studyfit", "settings", models.JSONField(default=dict)),
        migrations.RunPython(gather, spread),
        *(migrations.RemoveField("studyfit", name) for name in USUAL),
    ]
