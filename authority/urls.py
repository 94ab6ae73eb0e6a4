from django.urls import path

from authority import views

urlpatterns = [
    path("", views.console, name="console"),
    path("mood", views.mood, name="mood"),
    path("healthy", views.healthy),
    path("console.css", views.stylesheet, name="stylesheet"),
    path("efile/<slug:authority>/<int:year>/returns", views.returns, name="returns"),
    path("efile/<slug:authority>/<int:year>/extensions", views.extensions, name="extensions"),
    path("efile/receipts/<str:receipt>", views.receipt, name="receipt"),
]
