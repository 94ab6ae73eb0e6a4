from django.apps import AppConfig


class DeliveryConfig(AppConfig):
    name = "practice.delivery"

    def ready(self):
        from practice.delivery import packaging, printing, retaining, stating  # noqa: F401 - they declare what can be done to many returns
