from django.apps import AppConfig


class ReturnsConfig(AppConfig):
    name = "practice.returns"
