from django.apps import AppConfig


class GatherConfig(AppConfig):
    name = "practice.gather"

    def ready(self):
        from practice.gather import lettering, requesting  # noqa: F401 - they declare what can be done to many returns
