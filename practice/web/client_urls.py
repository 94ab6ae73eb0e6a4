from django.urls import path

from practice.web import client_fees, client_requests
from practice.web import client_pages as views

urlpatterns = [
    path("enter/<str:token>", views.enter, name="portal-enter"),
    path("code", views.code, name="portal-code"),
    path("", views.home, name="portal"),
    path("asked", client_requests.asked, name="portal-asked"),
    path("asked/<int:item_id>", client_requests.reply, name="portal-reply"),
    path("questions/<int:item_id>", client_requests.survey, name="portal-survey"),
    path("letters/<int:letter_id>", client_requests.letter, name="portal-letter"),
    path("letters/<int:letter_id>.pdf", client_requests.letter_pdf, name="portal-letter-pdf"),
    path("invoices/<int:invoice_id>", client_fees.invoice, name="portal-invoice"),
    path("invoices/<int:invoice_id>/pay", client_fees.pay, name="portal-pay"),
    path("invoices/<int:invoice_id>/paid", client_fees.came_back, name="portal-paid"),
    path("invoices/<int:invoice_id>.pdf", client_fees.pdf, name="portal-invoice-pdf"),
    path("dates.ics", views.dates, name="portal-dates"),
    path("messages", client_requests.write, name="portal-messages"),
    path("identity", views.identity, name="portal-identity"),
    path("return", views.whole_return, name="portal-return"),
    path("sign", views.sign, name="portal-sign"),
    path("package.pdf", views.download, name="portal-download"),
    path("plans/<int:sheet_id>", views.plans, name="portal-plans"),
    path("documents/<int:printed_id>", views.printed, name="portal-printed"),
    path("statements/<int:statement_id>", views.statement, name="portal-statement"),
    path("news", views.news, name="portal-news"),
    path("leave", views.leave, name="portal-leave"),
]
