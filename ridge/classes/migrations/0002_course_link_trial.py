import json
import secrets

from django.db import migrations, models


def fill(apps, schema_editor):
    """Links for worksheets that had only a code, and the settings that their studies have."""
    for sheet in apps.get_model("classes", "Worksheet").objects.iterator():
        study = json.loads(sheet.study_file)
        sheet.link = secrets.token_urlsafe(24)
        sheet.course = {name: study[name] for name in ("letters", "rising", "level") if name in study}
        sheet.save(update_fields=["link", "course"])


class Migration(migrations.Migration):
    dependencies = [("classes", "0001_worksheets"), ("studies", "0019_course")]

    operations = [
        migrations.AddField("copy", "trial", models.BooleanField(default=False)),
        migrations.AddField("worksheet", "course", models.JSONField(default=dict)),
        migrations.AddField("worksheet", "link", models.CharField(max_length=43, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
