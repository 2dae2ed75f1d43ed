"""The accounts app."""

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "lodeline.accounts"
    label = "accounts"
    default_auto_field = "django.db.models.BigAutoField"
