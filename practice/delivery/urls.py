from django.urls import path

from practice.delivery import plan_views, prints, ready, retaining_views, stating_views, views

urlpatterns = [
    path("returns/<int:return_id>/package", views.make, name="make-package"),
    path("returns/<int:return_id>/sets", prints.sets, name="print-sets"),
    path("returns/<int:return_id>/sets/make", prints.make, name="make-set"),
    path("returns/<int:return_id>/sets/preview", prints.preview, name="preview-set"),
    path("printed/<int:printed_id>/share", prints.share, name="share-printed"),
    path("returns/<int:return_id>/what-if/keep", plan_views.keep, name="keep-plans"),
    path("plans/<int:sheet_id>", plan_views.read, name="read-plans"),
    path("plans/<int:sheet_id>/share", plan_views.share, name="share-plans"),
    path("practice/retention", retaining_views.retention, name="retention"),
    path("ready", ready.ready, name="ready"),
    path("printed/<int:printed_id>", prints.read, name="read-printed"),
    path("returns/<int:return_id>/filing/<slug:authority>/print", prints.paper, name="print-paper"),
    path("practice/sets", prints.practice, name="practice-sets"),
    path("practice/sets/<int:set_id>/end", prints.end, name="end-set"),
    path("returns/<int:return_id>/statements", stating_views.deliver, name="deliver-statements"),
    path("packages/<int:package_id>", views.read, name="read-package"),
    path("packages/<int:package_id>/deliver", views.deliver, name="deliver"),
]
