"""Addresses of the practice's own pages: account, staff, letterhead, log."""

from django.urls import path

from practice.staff import account, look, views

urlpatterns = [
    path("account", account.account, name="account"),
    path("account/password", account.password, name="account-password"),
    path("account/number", account.number, name="account-number"),
    path("account/away", account.away, name="account-away"),
    path("account/sessions/end", account.end_sessions, name="end-sessions"),
    path("account/second-factor", account.factor, name="second-factor"),
    path("account/second-factor/codes", account.new_codes, name="new-codes"),
    path("account/second-factor/remove", account.remove_factor, name="remove-factor"),
    path("account/passkeys", account.passkey_begin, name="add-passkey"),
    path("account/passkeys/answer", account.passkey_finish, name="add-passkey-answer"),
    path("account/passkeys/<int:passkey_id>/remove", account.passkey_remove, name="remove-passkey"),
    path("account/calendar", account.calendar, name="account-calendar"),
    path("calendar/<str:token>.ics", account.feed, name="calendar-feed"),
    path("join/<str:token>", account.join, name="join"),
    path("set-up/<str:key>", account.set_up, name="set-up"),
    path("practice/staff", views.staff, name="staff"),
    path("practice/staff/invite", views.invite, name="invite"),
    path("practice/staff/invitations/<int:invitation_id>", views.withdraw, name="withdraw-invitation"),
    path("practice/staff/factor", views.ask_of, name="factor-roles"),
    path("practice/staff/<int:staff_id>", views.colleague, name="colleague"),
    path("practice/staff/<int:staff_id>/change", views.change, name="change-colleague"),
    path("look/<int:firm_id>.css", look.style, name="look-style"),
    path("look/<int:firm_id>.png", look.picture, name="look-picture"),
    path("practice/letterhead/look", views.set_look, name="set-look"),
    path("practice/letterhead", views.letterhead, name="letterhead"),
    path("practice/certificate", views.certificate, name="pdf-certificate"),
    path("practice/certificate/file", views.certificate_file, name="pdf-certificate-file"),
    path("practice/begin", views.begin, name="begin"),
    path("practice/log", views.log, name="log"),
]
