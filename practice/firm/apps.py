from django.apps import AppConfig


class FirmConfig(AppConfig):
    name = "practice.firm"
