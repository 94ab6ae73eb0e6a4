from django.urls import path

from practice.signing import views

urlpatterns = [
    path("<int:return_id>/sign", views.track, name="sign"),
    path("<int:return_id>/sign/copy", views.copy, name="locked-copy"),
    path("<int:return_id>/sign/lock", views.lock, name="lock"),
    path("<int:return_id>/sign/ask", views.ask, name="ask-signature"),
    path("<int:return_id>/sign/office/<int:client_id>/<slug:authority>", views.office, name="sign-office"),
    path("<int:return_id>/sign/authorization/<int:signature_id>/again", views.authorization_again, name="authorization-again"),
    path("<int:return_id>/sign/authorization/<int:signature_id>", views.authorization, name="authorization"),
]
