from django.db import migrations, models

import ridge.classes.models


class Migration(migrations.Migration):
    dependencies = [("classes", "0002_course_link_trial")]

    operations = [
        migrations.AlterField(
            "worksheet", "link", models.CharField(default=ridge.classes.models.new_link, max_length=43, unique=True)
        ),
    ]
