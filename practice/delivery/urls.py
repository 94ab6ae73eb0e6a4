from django.urls import path

from practice.delivery import views

urlpatterns = [
    path("returns/<int:return_id>/package", views.make, name="make-package"),
    path("packages/<int:package_id>", views.read, name="read-package"),
    path("packages/<int:package_id>/deliver", views.deliver, name="deliver"),
]
