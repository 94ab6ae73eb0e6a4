from django.apps import AppConfig


class FeesConfig(AppConfig):
    name = "practice.fees"

    def ready(self):
        from practice.fees import billing  # noqa: F401 - it declares what can be done to many returns
