from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "practice.intake"
