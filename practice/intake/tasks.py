"""Reading and taking in long files in the background. A file's row is the truth; doing either twice does no harm."""

from procrastinate.contrib.django import app

from practice.intake import importing
from practice.intake.models import Import
from practice.returns.changing import Settled
from taxcore.engine import BadValue


def _row(import_id):
    return Import.objects.across_firms("background work").select_related("of__firm", "paper", "by", "firm").get(pk=import_id)


@app.task(retry=3)
def read_file(import_id):
    row = _row(import_id)
    if row.state == Import.State.READING:
        importing.read(row)


@app.task(retry=3)
def take_file_in(import_id):
    row = _row(import_id)
    if row.state != Import.State.TAKING:
        return
    try:
        importing.take_in(row)
    except (BadValue, Settled) as refused:
        row.state, row.errors = Import.State.FAILED, [{"row": 0, "field": "", "given": "", "says": refused.says}]
        row.save()
