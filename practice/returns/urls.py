from django.urls import path

from practice.returns.views import forms, papers

urlpatterns = [
    path("<int:return_id>/papers", papers.papers, name="papers"),
    path("<int:return_id>/papers/add", papers.add, name="add-paper"),
    path("<int:return_id>/papers/undo", papers.undo, name="undo"),
    path("<int:return_id>/papers/<int:paper_id>", papers.papers, name="paper"),
    path("<int:return_id>/papers/<int:paper_id>/field", papers.save, name="save-field"),
    path("<int:return_id>/papers/<int:paper_id>/reveal", papers.reveal, name="reveal"),
    path("<int:return_id>/papers/<int:paper_id>/rows/add", papers.add_row, name="add-row"),
    path("<int:return_id>/papers/<int:paper_id>/rows/remove", papers.remove_row, name="remove-row"),
    path("<int:return_id>/papers/<int:paper_id>/remove", papers.remove, name="remove-paper"),
    path("<int:return_id>/papers/<int:paper_id>/restore", papers.restore, name="restore-paper"),
    path("<int:return_id>/presence", papers.presence, name="presence"),
    path("<int:return_id>/lineage", papers.lineage, name="lineage"),
    path("<int:return_id>/return.json", papers.download, name="download-return"),
    path("<int:return_id>/forms", forms.forms, name="forms"),
    path("<int:return_id>/forms/override", forms.override, name="override"),
    path("<int:return_id>/forms/<str:code>", forms.forms, name="form"),
]
