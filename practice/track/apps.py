from django.apps import AppConfig


class TrackConfig(AppConfig):
    name = "practice.track"

    def ready(self):
        from practice.dispatch.filing import holds_filing
        from practice.firm.events import when_recorded
        from practice.returns.page import at_the_head
        from practice.track.keeping import happened
        from practice.track.steps import unpaid
        from practice.track.views import at_head

        when_recorded(happened)
        at_the_head(at_head)
        holds_filing(unpaid)
