from django.urls import path

from practice.web import households as views

urlpatterns = [
    path("", views.households, name="households"),
    path("new", views.new, name="new-household"),
    path("<int:household_id>", views.household, name="household"),
    path("<int:household_id>/name", views.rename, name="rename-household"),
    path("<int:household_id>/left", views.left, name="household-left"),
    path("<int:household_id>/all.zip", views.hand_over, name="hand-over-client"),
    path("<int:household_id>/returns", views.new_return, name="new-return"),
    path("people/<int:person_id>/identity", views.identity, name="record-identity"),
    path("people/<int:person_id>/reveal", views.reveal, name="reveal-person"),
]
