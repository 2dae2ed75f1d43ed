"""The logbook app."""

from django.apps import AppConfig


class LogbookConfig(AppConfig):
    name = "lodeline.logbook"
    label = "logbook"
    default_auto_field = "django.db.models.BigAutoField"
