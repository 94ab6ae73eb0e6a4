from django.urls import path

from practice.track import views

urlpatterns = [
    path("practice/steps", views.practice, name="practice-steps"),
    path("returns/<int:return_id>/track/out", views.leave_out, name="leave-out"),
    path("returns/<int:return_id>/track/back", views.take_back, name="take-step-back"),
    path("returns/<int:return_id>/track/steps", views.add_step, name="add-step"),
    path("returns/<int:return_id>/track/steps/<int:step_id>", views.mark_step, name="mark-step"),
]
