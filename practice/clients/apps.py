from django.apps import AppConfig


class ClientsConfig(AppConfig):
    name = "practice.clients"
