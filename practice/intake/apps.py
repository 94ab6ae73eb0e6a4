from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "practice.intake"

    def ready(self):
        from practice.intake.attaching import copied
        from practice.returns.copying import when_copied

        when_copied(copied)
