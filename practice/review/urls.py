"""Addresses of Review, Advice and what holds for the whole practice."""

from django.urls import path

from practice.review.views import advice, compare, diagnostics, margin, practice_wide

urlpatterns = [
    path("returns/<int:return_id>/review", diagnostics.review, name="review"),
    path("returns/<int:return_id>/review/hand", diagnostics.hand, name="hand-over"),
    path("returns/<int:return_id>/review/seen", diagnostics.mark_seen, name="mark-seen"),
    path("returns/<int:return_id>/review/silence", diagnostics.silence, name="silence"),
    path("returns/<int:return_id>/review/mend", diagnostics.mend, name="mend"),
    path("returns/<int:return_id>/review/undo", diagnostics.undo, name="review-undo"),
    path("returns/<int:return_id>/review/notices", diagnostics.put_notice_away, name="put-notice-away"),
    path("returns/<int:return_id>/review/initials", margin.set_initials, name="set-initials"),
    path("returns/<int:return_id>/review/initials/take-back", margin.take_initials, name="take-initials"),
    path("returns/<int:return_id>/review/notes", margin.add_note, name="add-note"),
    path("returns/<int:return_id>/review/notes/<int:note_id>/close", margin.close_note, name="close-note"),
    path("returns/<int:return_id>/review/since", compare.since, name="review-since"),
    path("returns/<int:return_id>/review/last-year", compare.last_year, name="review-last-year"),
    path("returns/<int:return_id>/review/print", compare.printed, name="review-print"),
    path("returns/<int:return_id>/advice", advice.advice, name="advice"),
    path("returns/<int:return_id>/advice/choose", advice.choose, name="advice-choose"),
    path("returns/<int:return_id>/advice/page", advice.page, name="advice-page"),
    path("returns/<int:return_id>/advice/page.pdf", advice.as_pdf, name="advice-pdf"),
    path("returns/<int:return_id>/review/done", diagnostics.sign_off, name="sign-off"),
    path("practice/diagnostics", practice_wide.catalogue, name="catalogue"),
    path("practice/diagnostics/silence", practice_wide.silence, name="catalogue-silence"),
    path("practice/answers", practice_wide.answers, name="firm-answers"),
    path("practice/answers/give", practice_wide.answer, name="give-answer"),
    path("practice/answers/matters", practice_wide.matters, name="what-matters"),
    path("practice/answers/locking", practice_wide.locking, name="lock-needs"),
    path("practice/answers/following", practice_wide.following, name="shares-follow"),
    path("practice/answers/taking-on", practice_wide.taking_on, name="taking-on"),
    path("practice/answers/e-file", practice_wide.efile, name="efile-numbers"),
]
