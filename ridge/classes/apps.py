from django.apps import AppConfig


class ClassesConfig(AppConfig):
    name = "ridge.classes"
    label = "classes"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from ridge.classes.teachers import teaches
        from ridge.studies.api.admission import also_by

        also_by(teaches)
