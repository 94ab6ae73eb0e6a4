"""Pages of a return's documents put together anew: a scan split, pages joined, put in order, as a document of its own."""

from dataclasses import dataclass
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.texts import written
from practice.intake import attaching
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Attachment
from taxcore.engine import BadValue

MOST = 200  # pages of a document


@dataclass(frozen=True)
class Pick:
    """One page: of which document, and its number from 1."""

    token: UUID
    page: int


def put_together(actor, return_id, picks, name, paper_id=None, replace=False):
    """A new document of the pages in this order, beside a paper or beside none. With `replace` the documents that it is made of
    are removed; their files are kept. BadValue with the reason."""
    if not picks:
        raise BadValue("Choose at least one page.", "")
    if len(picks) > MOST:
        raise BadValue(f"A document has up to {MOST} pages.", "")
    name = written(name, "The name", 120, "Name the new document.")
    rows = {one.token: attaching.find(actor, return_id, one.token) for one in picks}
    for row in rows.values():
        if row.state != Attachment.State.READY:
            raise BadValue(f"{row.name} is still being read, or was not accepted.", "")
    made = _made(list(rows.values()), [(list(rows).index(one.token), one.page, rows[one.token].turn) for one in picks])
    return _kept(actor, return_id, rows.values(), made, name, paper_id, replace)


def _made(rows, pages):
    contents = [attaching.content_of(row) for row in rows]
    files = [[len(content), row.kind] for content, row in zip(contents, rows, strict=True)]
    try:
        made = opened("put_together", b"".join(contents), files=files, pages=pages)
    except NotOpened as error:
        raise BadValue(error.says, "") from None
    if len(made) > attaching.LARGEST:
        raise BadValue(f"Together they have {len(made) / 1e6:.0f} MB; a document can have {attaching.LARGEST / 1e6:.0f}.", "")
    return made


@transaction.atomic
def _kept(actor, return_id, rows, content, name, paper_id, replace):
    return_ = attaching.locked(actor, return_id)
    if replace and (going := next((row for row in rows if row.along), None)):
        raise BadValue(f"{going.name} is e-filed with the return. Remove it from the attachments first.", "")
    file = name if name.lower().endswith(".pdf") else f"{name}.pdf"
    made = attaching.attach(actor, return_id, paper_id or None, file, content)
    if replace:
        for row in rows:
            row.removed_at = timezone.now()
            row.save(update_fields=["removed_at"])
            record(actor, "document removed", return_, says=f"{row.name}: its pages are in {made.name}")
        attaching.count_pages(attaching.locked(actor, return_id), *{row.paper for row in rows if row.paper})
    record(actor, "documents arranged", return_, says=f"{made.name} of {', '.join(row.name for row in rows)}"[:300])
    return made
