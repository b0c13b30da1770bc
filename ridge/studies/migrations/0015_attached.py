"""Studies tell how many rows they have and whether an instrument was ever attached, so that this need not be looked up."""

from django.db import migrations, models
from django.db.models import Exists, OuterRef


def tell(apps, schema_editor):
    Study, Column, Run, PostKey = (apps.get_model("studies", name) for name in ("Study", "Column", "Run", "PostKey"))
    of_study = {"study": OuterRef("pk")}
    Study.objects.filter(Exists(Run.objects.filter(**of_study)) | Exists(PostKey.objects.filter(**of_study))).update(
        attached=True
    )
    for study_id, cells in Column.objects.filter(place=0).values_list("study_id", "cells").iterator(chunk_size=10):
        Study.objects.filter(pk=study_id).update(rows=len(cells))


class Migration(migrations.Migration):
    dependencies = [("studies", "0014_instruments")]

    operations = [
        migrations.AddField(model_name="study", name="attached", field=models.BooleanField(default=False)),
        migrations.AddField(model_name="study", name="rows", field=models.PositiveIntegerField(default=0)),
        migrations.RunPython(tell, migrations.RunPython.noop),
    ]
