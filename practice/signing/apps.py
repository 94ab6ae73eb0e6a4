from django.apps import AppConfig


class SigningConfig(AppConfig):
    name = "practice.signing"

    def ready(self):
        from practice.returns.changing import when_signed_changes
        from practice.signing.voiding import let_go

        when_signed_changes(let_go)
