from django.urls import path

from practice.fees import views

urlpatterns = [
    path("fees", views.everybody, name="fees"),
    path("returns/<int:return_id>/invoice", views.of_return, name="invoice"),
    path("returns/<int:return_id>/invoice/start", views.start, name="start-invoice"),
    path("returns/<int:return_id>/invoice/hours", views.add_hours, name="add-hours"),
    path("returns/<int:return_id>/invoice/hours/<int:hours_id>", views.remove_hours, name="remove-hours"),
    path("invoices/<int:invoice_id>/lines", views.add_line, name="add-invoice-line"),
    path("invoices/<int:invoice_id>/lines/<int:line_id>", views.change_line, name="change-invoice-line"),
    path("invoices/<int:invoice_id>/count", views.count_again, name="count-invoice"),
    path("invoices/<int:invoice_id>/send", views.send, name="send-invoice"),
    path("invoices/<int:invoice_id>/remind", views.remind, name="remind-invoice"),
    path("invoices/<int:invoice_id>/void", views.void, name="void-invoice"),
    path("invoices/<int:invoice_id>/pay", views.pay, name="pay-invoice"),
    path("invoices/<int:invoice_id>/payments/<int:payment_id>", views.take_back, name="take-payment-back"),
    path("invoices/<int:invoice_id>.pdf", views.pdf, name="invoice-pdf"),
    path("practice/prices", views.prices_page, name="prices"),
    path("practice/prices/add", views.add_price, name="add-price"),
    path("practice/prices/<int:price_id>/end", views.end_price, name="end-price"),
    path("practice/prices/first", views.pay_first, name="pay-first"),
]
