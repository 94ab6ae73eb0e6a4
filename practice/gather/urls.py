from django.urls import path

from practice.gather import views

urlpatterns = [
    path("returns/<int:return_id>/requests", views.requests, name="requests"),
    path("returns/<int:return_id>/requests/start", views.start, name="start-request"),
    path("returns/<int:return_id>/requests/add", views.add, name="add-item"),
    path("returns/<int:return_id>/requests/send", views.send, name="send-request"),
    path("returns/<int:return_id>/requests/remind", views.remind, name="remind-client"),
    path("returns/<int:return_id>/requests/<int:item_id>", views.settle, name="settle-item"),
    path("returns/<int:return_id>/questionnaire", views.questionnaire, name="questionnaire"),
    path("returns/<int:return_id>/questionnaire.pdf", views.questionnaire_pdf, name="questionnaire-pdf"),
    path("returns/<int:return_id>/letters/<int:letter_id>.pdf", views.letter_pdf, name="letter-pdf"),
    path("returns/<int:return_id>/questionnaire/take", views.take_told, name="take-told"),
    path("returns/<int:return_id>/letters", views.send_letters, name="send-letters"),
    path("returns/<int:return_id>/letters/<int:letter_id>", views.letter, name="letter"),
    path("returns/<int:return_id>/messages", views.write, name="write-message"),
    path("messages/<int:message_id>/point", views.point, name="message-point"),
    path("requests", views.everybody, name="all-requests"),
    path("practice/requests", views.practice, name="gather-practice"),
    path("practice/requests/usual", views.add_usual, name="add-usual"),
    path("practice/requests/usual/<int:usual_id>/end", views.end_usual, name="end-usual"),
    path("practice/requests/every", views.remind_every, name="remind-every"),
    path("practice/letters/<slug:kind>", views.write_letter, name="write-letter"),
    path("practice/words/<slug:kind>", views.write_wording, name="write-wording"),
    path("practice/letters/<slug:kind>/preview", views.preview, name="preview-letter"),
]
