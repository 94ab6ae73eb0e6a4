from django.apps import AppConfig


class TrackConfig(AppConfig):
    name = "practice.track"

    def ready(self):
        from practice.firm.events import when_recorded
        from practice.returns.page import at_the_head
        from practice.track.keeping import happened
        from practice.track.views import at_head

        when_recorded(happened)
        at_the_head(at_head)
