from django.urls import path

from practice.intake import arranging_views, views

urlpatterns = [
    path("<int:return_id>/papers/<int:paper_id>/attach", views.attach, name="attach"),
    path("<int:return_id>/papers/<int:paper_id>/attached", views.attached, name="attached"),
    path("<int:return_id>/attachments/<uuid:token>/change", views.change_attachment, name="change-attachment"),
    path("<int:return_id>/attachments/<uuid:token>/statement", views.choose_statement, name="choose-statement"),
    path("<int:return_id>/attachments/<uuid:token>/take", views.take_over, name="take-read"),
    path("<int:return_id>/attachments/<uuid:token>/page/<int:page>.png", views.page_picture, name="page-picture"),
    path("<int:return_id>/attachments/<uuid:token>/original", views.original, name="original"),
    path("<int:return_id>/documents", arranging_views.pages, name="pages"),
    path("<int:return_id>/import", views.import_file, name="import-file"),
    path("<int:return_id>/import/<int:import_id>", views.one_import, name="import"),
    path("<int:return_id>/import/<int:import_id>/target", views.choose_target, name="import-target"),
    path("<int:return_id>/import/<int:import_id>/columns", views.choose_columns, name="import-columns"),
    path("<int:return_id>/import/<int:import_id>/again", views.columns_again, name="import-again"),
    path("<int:return_id>/import/<int:import_id>/rows/<int:place>", views.alter, name="import-alter"),
    path("<int:return_id>/import/<int:import_id>/take-in", views.take_in, name="import-take-in"),
]
