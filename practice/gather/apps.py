from django.apps import AppConfig


class GatherConfig(AppConfig):
    name = "practice.gather"

    def ready(self):
        from practice.gather import lettering, requesting, wording  # noqa: F401 - they declare what can be done to many returns
        from practice.portal.tasks import has_words

        has_words(wording.of_mail)
