from django.apps import AppConfig


class ClassesConfig(AppConfig):
    name = "ridge.classes"
    label = "classes"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from ridge.classes.keeping_back import kept_back
        from ridge.classes.teachers import teaches
        from ridge.studies.api.admission import also_by
        from ridge.studies.api.withheld import withheld_by

        also_by(teaches)
        withheld_by(kept_back)
