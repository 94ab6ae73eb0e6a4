from django.urls import path

from practice.web import belonging, companies
from practice.web import households as views

urlpatterns = [
    path("", views.households, name="households"),
    path("new", views.new, name="new-household"),
    path("<int:household_id>", views.household, name="household"),
    path("<int:household_id>/documents", views.documents, name="documents"),
    path("<int:household_id>/name", views.rename, name="rename-household"),
    path("<int:household_id>/left", views.left, name="household-left"),
    path("<int:household_id>/all.zip", views.hand_over, name="hand-over-client"),
    path("returns/<int:return_id>/part", views.part_ways, name="part-ways"),
    path("<int:household_id>/returns", views.new_return, name="new-return"),
    path("company", companies.new, name="new-company"),
    path("<int:household_id>/company", companies.edit, name="edit-company"),
    path("<int:household_id>/roles", companies.give_role, name="give-role"),
    path("roles/<int:role_id>/end", companies.end_role, name="end-role"),
    path("groups/<int:group_id>", belonging.group, name="group"),
    path("<int:household_id>/groups", belonging.join, name="join-group"),
    path("<int:household_id>/groups/<int:group_id>/leave", belonging.leave, name="leave-group"),
    path("<int:household_id>/seen-by", belonging.restrict, name="restrict-client"),
    path("people/<int:person_id>/same", belonging.merge, name="merge-person"),
    path("people/<int:person_id>/identity", views.identity, name="record-identity"),
    path("people/<int:person_id>/reveal", views.reveal, name="reveal-person"),
]
