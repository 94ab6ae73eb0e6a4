from django.urls import path

from practice.review import views

urlpatterns = [
    path("<int:return_id>/review", views.review, name="review"),
    path("<int:return_id>/review/hand", views.hand, name="hand-over"),
    path("<int:return_id>/review/initials", views.set_initials, name="set-initials"),
    path("<int:return_id>/review/initials/take-back", views.take_initials, name="take-initials"),
    path("<int:return_id>/review/notes", views.add_note, name="add-note"),
    path("<int:return_id>/review/notes/<int:note_id>/close", views.close_note, name="close-note"),
    path("<int:return_id>/review/seen", views.mark_seen, name="mark-seen"),
    path("<int:return_id>/review/notices", views.put_notice_away, name="put-notice-away"),
    path("<int:return_id>/review/mend", views.mend, name="mend"),
]
