from django.apps import AppConfig


class ReturnsConfig(AppConfig):
    name = "practice.returns"

    def ready(self):
        from practice.returns import following  # noqa: F401 - it listens to changes
