from django.apps import AppConfig


class DispatchConfig(AppConfig):
    name = "practice.dispatch"

    def ready(self):
        from practice.dispatch import filing  # noqa: F401 - it declares what can be done to many returns
