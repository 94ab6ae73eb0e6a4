"""Addresses of What-if."""

from django.urls import path

from practice.whatif import views

urlpatterns = [
    path("<int:return_id>/what-if", views.page, name="what-if"),
    path("<int:return_id>/what-if/add", views.add, name="what-if-add"),
    path("<int:return_id>/what-if/choices", views.choices, name="what-if-choices"),
    path("<int:return_id>/what-if/choices/take", views.take_choices, name="what-if-take-choices"),
    path("<int:return_id>/what-if/curve", views.curve, name="what-if-curve"),
    path("<int:return_id>/what-if/find", views.find, name="what-if-find"),
    path("<int:return_id>/what-if/divided", views.divided, name="what-if-divided"),
    path("<int:return_id>/what-if/plans.pdf", views.as_pdf, name="what-if-pdf"),
    path("<int:return_id>/what-if/<int:column_id>/enter", views.enter, name="what-if-enter"),
    path("<int:return_id>/what-if/<int:column_id>/act", views.act, name="what-if-act"),
]
