"""Addresses of the pages of one return."""

from django.urls import path

from practice.seat.views import arranging, changes, exports, figures, flow, forms, grid, guide, papers

urlpatterns = [
    path("<int:return_id>/papers", papers.papers, name="papers"),
    path("<int:return_id>/papers/add", papers.add, name="add-paper"),
    path("<int:return_id>/papers/undo", papers.undo, name="undo"),
    path("<int:return_id>/papers/control", arranging.control, name="control"),
    path("<int:return_id>/papers/table/<str:kind>", grid.grid, name="grid"),
    path("<int:return_id>/papers/table/<str:kind>/add", grid.add_to_grid, name="grid-add"),
    path("<int:return_id>/papers/table/<str:kind>/paste", grid.paste, name="grid-paste"),
    path("<int:return_id>/papers/<int:paper_id>", papers.papers, name="paper"),
    path("<int:return_id>/papers/<int:paper_id>/field", papers.save, name="save-field"),
    path("<int:return_id>/papers/<int:paper_id>/reveal", papers.reveal, name="reveal"),
    path("<int:return_id>/papers/<int:paper_id>/rows", papers.rows, name="some-rows"),
    path("<int:return_id>/papers/<int:paper_id>/row", papers.one_row, name="one-row"),
    path("<int:return_id>/papers/<int:paper_id>/rows/add", papers.add_row, name="add-row"),
    path("<int:return_id>/papers/<int:paper_id>/rows/remove", papers.remove_row, name="remove-row"),
    path("<int:return_id>/papers/<int:paper_id>/remove", papers.remove, name="remove-paper"),
    path("<int:return_id>/papers/<int:paper_id>/restore", papers.restore, name="restore-paper"),
    path("<int:return_id>/papers/<int:paper_id>/copy", arranging.copy, name="copy-paper"),
    path("<int:return_id>/papers/<int:paper_id>/repeat", arranging.repeat, name="repeat-paper"),
    path("<int:return_id>/papers/<int:paper_id>/order", arranging.reorder, name="reorder-paper"),
    path("<int:return_id>/papers/<int:paper_id>/confirm", arranging.confirm, name="confirm-brought"),
    path("<int:return_id>/papers/<int:paper_id>/sender", arranging.take_party, name="take-party"),
    path("<int:return_id>/at", figures.at, name="at"),
    path("<int:return_id>/guide", guide.guide, name="guide"),
    path("<int:return_id>/changes", changes.changes, name="changes"),
    path("<int:return_id>/presence", papers.presence, name="presence"),
    path("<int:return_id>/lineage", figures.lineage, name="lineage"),
    path("<int:return_id>/lineage/movers", figures.most_moving, name="most-moving"),
    path("<int:return_id>/ripple", figures.ripple, name="ripple"),
    path("<int:return_id>/flow", flow.flow, name="flow"),
    path("<int:return_id>/return.json", exports.download, name="download-return"),
    path("<int:return_id>/return.xlsx", exports.workbook, name="download-workbook"),
    path("<int:return_id>/lines", exports.lines, name="download-lines"),
    path("<int:return_id>/forms", forms.forms, name="forms"),
    path("<int:return_id>/forms/override", forms.override, name="override"),
    path("<int:return_id>/forms/<str:code>", forms.forms, name="form"),
]
