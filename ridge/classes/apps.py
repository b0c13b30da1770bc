from typing import Any

from django.apps import AppConfig
from django.db.models.signals import pre_delete


class ClassesConfig(AppConfig):
    name = "ridge.classes"
    label = "classes"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from ridge.classes.course_settings import release
        from ridge.classes.keeping_back import kept_back
        from ridge.classes.models import Worksheet
        from ridge.classes.teachers import teaches
        from ridge.studies.api.admission import also_by
        from ridge.studies.api.withheld import withheld_by

        def let_go(instance: Worksheet, **_: Any) -> None:
            release(instance)

        pre_delete.connect(let_go, sender=Worksheet, weak=False)
        also_by(teaches)
        withheld_by(kept_back)
