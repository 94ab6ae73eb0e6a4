from django.apps import AppConfig


class ReviewConfig(AppConfig):
    name = "practice.review"
