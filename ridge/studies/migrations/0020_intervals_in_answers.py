import re

from django.db import migrations


def follow_the_new_words(apps, schema_editor):
    """Results carry an interval instead of a half-width, and several y are averaged only where that is said."""
    answers = apps.get_model("studies", "Answer")
    for one in answers.objects.all():
        values = [part for part in re.split(r"[;\s]+", one.given.strip()) if part]
        if one.direction == "x_at_y" and one.repeats == 1 and len(values) > 1:
            one.repeats = len(values)
        if "\u00b1" in one.was or ", from " in one.was:
            one.was = ""
        one.save(update_fields=["repeats", "was"])


class Migration(migrations.Migration):
    dependencies = [("studies", "0019_course")]
    operations = [migrations.RunPython(follow_the_new_words, migrations.RunPython.noop)]
