from django.apps import AppConfig


class WebConfig(AppConfig):
    name = "practice.web"
