"""Addresses of all pages."""

from django.urls import include, path

from practice.dispatch import posting_views
from practice.dispatch import views as dispatch
from practice.firm.views import SignIn, SignOut, passkey_begin, passkey_finish
from practice.firm.views import code as sign_in_code
from practice.intake import arriving_views, incoming_views
from practice.signing import on_paper_views
from practice.web import desk, find, next_year, views

urlpatterns = [
    path("", desk.desk, name="desk"),
    path("find", find.find, name="find"),
    path("next-year", next_year.many, name="next-year"),
    path("next-year/<int:return_id>", next_year.one, name="roll-forward"),
    path("clients/bring", arriving_views.bring, name="bring-clients"),
    path("clients/bring/<int:arrival_id>", arriving_views.arrival, name="arrival"),
    path("clients/bring/<int:arrival_id>/columns", arriving_views.columns, name="arrival-columns"),
    path("clients/bring/<int:arrival_id>/take-in", arriving_views.take_in, name="arrival-take-in"),
    path("rounds/<int:round_id>/hold", next_year.hold, name="hold-round"),
    path("theme", views.theme, name="theme"),
    path("healthy", views.healthy, name="healthy"),
    path("sign-in", SignIn.as_view(), name="sign-in"),
    path("sign-in/code", sign_in_code, name="sign-in-code"),
    path("sign-in/passkey", passkey_begin, name="sign-in-passkey"),
    path("sign-in/passkey/answer", passkey_finish, name="sign-in-passkey-answer"),
    path("", include("practice.staff.urls")),
    path("sign-out", SignOut.as_view(), name="sign-out"),
    path("households/", include("practice.web.household_urls")),
    path("returns/", include("practice.seat.urls")),
    path("returns/", include("practice.intake.urls")),
    path("", include("practice.review.urls")),
    path("returns/", include("practice.whatif.urls")),
    path("", include("practice.gather.urls")),
    path("", include("practice.fees.urls")),
    path("", include("practice.track.urls")),
    path("returns/", include("practice.signing.urls")),
    path("", include("practice.us.urls")),
    path("returns/<int:return_id>/file", dispatch.file_return, name="file"),
    path("returns/<int:return_id>/filing", posting_views.filing, name="filing"),
    path("returns/<int:return_id>/filing/mailed/<int:submission_id>", posting_views.mailed, name="mailed"),
    path("returns/<int:return_id>/filing/<slug:authority>", posting_views.choose, name="filing-way"),
    path("incoming", incoming_views.listed, name="incoming"),
    path("incoming/<uuid:token>/sort", incoming_views.sort, name="sort-incoming"),
    path("incoming/<uuid:token>/discard", incoming_views.discard, name="discard-incoming"),
    path("incoming/<uuid:token>.png", incoming_views.picture, name="incoming-page"),
    path("practice/signatures", on_paper_views.signatures_needed, name="signatures-needed"),
    path("dispatch", dispatch.dispatch, name="dispatch"),
    path("dispatch/<int:submission_id>/now", dispatch.try_now, name="try-now"),
    path("", include("practice.delivery.urls")),
    path("portal/", include("practice.web.client_urls")),
]
handler404 = "practice.web.views.not_found"
handler500 = "practice.web.errors.handler500"
