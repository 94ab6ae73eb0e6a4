from django.apps import AppConfig


class SigningConfig(AppConfig):
    name = "practice.signing"
