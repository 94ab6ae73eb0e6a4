from django.apps import AppConfig


class SeatConfig(AppConfig):
    name = "practice.seat"
