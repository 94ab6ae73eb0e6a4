from django.apps import AppConfig


class DispatchConfig(AppConfig):
    name = "practice.dispatch"
