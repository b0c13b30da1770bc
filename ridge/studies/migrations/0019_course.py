from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("studies", "0018_is_copy")]

    operations = [
        migrations.AddField("study", "course", models.JSONField(blank=True, default=None, null=True)),
    ]
