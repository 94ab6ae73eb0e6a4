from django.apps import AppConfig


class WhatIfConfig(AppConfig):
    name = "practice.whatif"
    label = "whatif"
