from django.urls import path

from practice.signing import enclosing_views, on_paper_views, views

urlpatterns = [
    path("<int:return_id>/sign", views.track, name="sign"),
    path("<int:return_id>/sign/copy", views.copy, name="locked-copy"),
    path("<int:return_id>/sign/lock", views.lock, name="lock"),
    path("<int:return_id>/sign/ask", views.ask, name="ask-signature"),
    path("<int:return_id>/sign/office/<int:client_id>/<slug:authority>", views.office, name="sign-office"),
    path("<int:return_id>/sign/authorization/<int:signature_id>/again", views.authorization_again, name="authorization-again"),
    path("<int:return_id>/sign/authorization/<int:signature_id>", views.authorization, name="authorization"),
    path("<int:return_id>/sign/paper/<int:client_id>/<slug:authority>", on_paper_views.paper, name="sign-paper"),
    path("<int:return_id>/sign/paper/<int:client_id>/<slug:authority>.pdf", on_paper_views.blank, name="blank-authorization"),
    path("<int:return_id>/sign/for/<int:client_id>", on_paper_views.represent, name="represent"),
    path("<int:return_id>/sign/for/<int:client_id>/end", on_paper_views.end_representing, name="represent-end"),
    path("<int:return_id>/sign/signature/<int:signature_id>/take-back", on_paper_views.take_back, name="take-back-signature"),
    path("<int:return_id>/sign/preparer", on_paper_views.sign_as_preparer, name="sign-as-preparer"),
    path("<int:return_id>/sign/attachments", enclosing_views.attachments, name="going-along"),
    path("<int:return_id>/sign/attachments/drawn/<slug:code>", enclosing_views.look, name="going-along-drawn"),
    path("<int:return_id>/sign/attachments/add", enclosing_views.add, name="going-along-add"),
    path("<int:return_id>/sign/attachments/<uuid:token>", enclosing_views.choose, name="going-along-choose"),
]
