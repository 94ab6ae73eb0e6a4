from django.urls import path

from practice.review import views

urlpatterns = [
    path("<int:return_id>/review", views.review, name="review"),
    path("<int:return_id>/review/hand", views.hand, name="hand-over"),
    path("<int:return_id>/review/mend", views.mend, name="mend"),
]
