from django.apps import AppConfig


class ClientsConfig(AppConfig):
    name = "practice.clients"

    def ready(self):
        from practice.clients.restricting import hidden_from
        from practice.firm import scope

        scope.hides_clients(hidden_from)
