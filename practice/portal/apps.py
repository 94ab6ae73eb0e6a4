from django.apps import AppConfig


class PortalConfig(AppConfig):
    name = "practice.portal"
