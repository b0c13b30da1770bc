from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "ridge.studies"
    label = "studies"
