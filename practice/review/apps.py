from django.apps import AppConfig


class ReviewConfig(AppConfig):
    name = "practice.review"

    def ready(self):
        from practice.returns.page import on_every_page
        from practice.review.notices import on_page

        on_every_page(on_page)
