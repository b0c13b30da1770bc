from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "ridge.accounts"
    label = "accounts"
