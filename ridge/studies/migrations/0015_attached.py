"""Studies that an instrument was ever attached to are marked, so that of the others nothing is looked up."""

from django.db import migrations, models
from django.db.models import Exists, OuterRef


def mark(apps, schema_editor):
    Study, Run, PostKey = (apps.get_model("studies", name) for name in ("Study", "Run", "PostKey"))
    of_study = {"study": OuterRef("pk")}
    Study.objects.filter(Exists(Run.objects.filter(**of_study)) | Exists(PostKey.objects.filter(**of_study))).update(
        attached=True
    )


class Migration(migrations.Migration):
    dependencies = [("studies", "0014_instruments")]

    operations = [
        migrations.AddField(model_name="study", name="attached", field=models.BooleanField(default=False)),
        migrations.RunPython(mark, migrations.RunPython.noop),
    ]
