"""Pages beside a paper: attached by what they contain, kept encrypted, shown as the pictures that a worker drew (drawing.py)."""

import hashlib
import io
import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone
from PIL import Image

from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, fetch, require
from practice.firm.refusals import Cannot
from practice.intake import drawing, opening, scanning
from practice.intake.models import Attachment
from practice.intake.proposing import proposals
from practice.returns.changing import forget, refreshed
from practice.returns.computing import pack_of
from practice.returns.entry import keyed_paper
from practice.returns.models import Return
from taxcore.engine import BadValue

LARGEST = 12_000_000  # bytes of a file; a scanned page is about one million


_BEGINNINGS = {"pdf": b"%PDF-", "png": b"\x89PNG\r\n\x1a\n", "jpeg": b"\xff\xd8\xff"}


def kind_of(content, tagged=False):
    """pdf, png or jpeg by the first bytes, or xbrl for a page with inline XBRL tags, where those are taken (`tagged`). BadValue
    for anything else, and for a file that is too large."""
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; a page can have {LARGEST / 1e6:.0f}.", "")
    for kind, beginning in _BEGINNINGS.items():
        if content.startswith(beginning):
            return kind
    if tagged and opening.is_tagged(content):
        return "xbrl"
    kinds = "PDF, PNG, JPEG or tagged page (iXBRL)" if tagged else "PDF, PNG or JPEG"
    raise BadValue(f"Attach a {kinds}; this file is none of them, or is damaged.", "")


def given(file):
    """(name, bytes) of an uploaded file; None where there is none. BadValue where it is too large."""
    if file is None:
        return None
    if file.size > LARGEST:
        raise BadValue(f"{file.name} has {file.size / 1e6:.0f} MB; up to {LARGEST / 1e6:.0f} can be attached.", "")
    return file.name, file.read()


@transaction.atomic
def attach(actor, return_id, paper_id, name, content, action="key"):
    """Keep a file beside a paper of a return, or beside the return alone (`paper_id` None). The same file twice is one.

    Also once the return is signed or filed: pages move no line. A worker opens it: what is in a file of a stranger's making holds
    no page and no lock.
    """
    return_ = locked(actor, return_id, action)
    paper = keyed_paper(return_, paper_id) if paper_id else None
    made, fresh = _kept(return_, paper, name, content, actor)
    if fresh:
        record(actor, "document attached", return_, says=made.name, paper=paper_id)
    return made


@transaction.atomic
def receive(return_id, paper_id, name, content, client):
    """The same for a file that a client sent; gives (attachment, whether it is new). Whoever calls this knows that the return is
    theirs."""
    rows = Return.objects.across_firms("a client's own").select_for_update(of=("self",)).select_related("firm", "household")
    return_ = rows.prefetch_related("papers", "overrides").get(pk=return_id)
    paper = next((one for one in return_.papers.all() if one.pk == paper_id and not one.removed_at), None)
    made, fresh = _kept(return_, paper, name, content, None)
    if fresh:
        record(None, "document sent", return_, says=made.name, by=client.full_name, paper=paper_id)
    return made, fresh


def _kept(return_, paper, name, content, by):
    from practice.intake.tasks import draw_pages

    takes_tagged = pack_of(return_).reads_tagged is not None
    kind, digest = kind_of(content, takes_tagged), hashlib.sha256(content).hexdigest()
    there = return_.attachments.filter(digest=digest, paper=paper, removed_at=None).first()
    if there is not None:
        return there, False
    made = Attachment.objects.create(
        firm=return_.firm, of=return_, paper=paper, name=plain_name(name), kind=kind, size=len(content), digest=digest, by=by,
        file=default_storage.save(f"attachments/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content))),
    )  # fmt: skip
    draw_pages.ask(attachment_id=made.pk)
    count_pages(return_, paper)
    return made, True


def plain_name(name):
    """A file's name without its folders and without what cannot be stored or shown."""
    return "".join(one for one in name.replace("\\", "/").rsplit("/", 1)[-1] if one.isprintable())[:160] or "file"


def locked(actor, return_id, action="key"):
    wanted = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(wanted.prefetch_related("papers", "overrides"), actor, pk=return_id)
    require(actor, action, return_)
    return return_


def count_pages(return_, *papers):
    """Papers know how many files support them, since a diagnostic asks."""
    for paper in filter(None, papers):
        rows = return_.attachments.filter(paper=paper, removed_at=None).exclude(state=Attachment.State.REFUSED)
        if pack_of(return_).paper(paper.kind).stands_for:  # any page may lie beside it; one is chosen to stand behind its totals
            rows = rows.exclude(along="")
        paper.attached = rows.count()
        paper.save(update_fields=["attached"])
    forget(return_, "papers")
    refreshed(return_)


@transaction.atomic
def change_attachment(actor, return_id, token, *, paper_id=None, turn=0, remove=False, again=False):
    """Turn the pages by `turn` degrees, say which paper they support, remove them, or have them read `again`."""
    return_ = locked(actor, return_id)
    row = find(actor, return_id, token)
    touched = [row.paper]
    if turn or again:
        _draw_again(row, turn, again)
    if paper_id:
        row.paper = keyed_paper(return_, paper_id)
        touched.append(row.paper)
    if remove:
        row.removed_at = timezone.now()
        record(actor, "document removed", return_, says=row.name)
    row.save(update_fields=["paper", "removed_at"])  # the rest is the worker's
    if remove or paper_id:
        count_pages(return_, *touched)
    return row


def _draw_again(row, turn, again):
    from practice.intake.tasks import draw_pages

    anew = {"turn": (row.turn + turn) % 360, "drawn": 0, "undrawn": {}, "touched_at": timezone.now()}
    if again:
        anew |= {"pages": 0, "says": ""}
    if again or row.state == Attachment.State.READY:
        anew["state"] = Attachment.State.READING
        draw_pages.ask(attachment_id=row.pk)
    Attachment.objects.for_firm(row.firm_id).filter(pk=row.pk).update(**anew)
    row.refresh_from_db()


def copied(return_, copies):
    """The same pages beside the papers of a correction: one file each, however many returns show it."""
    rows = Attachment.objects.for_firm(return_.firm_id).filter(paper__in=list(copies), removed_at=None)
    names = (
        "name",
        "kind",
        "file",
        "size",
        "state",
        "says",
        "pages",
        "turn",
        "drawn",
        "undrawn",
        "digest",
        "along",
        "along_name",
        "along_to",
        "doubt",
    )
    for row in rows.exclude(state=Attachment.State.READING):
        plain = {name: getattr(row, name) for name in (*names, "by_id", "firm_id")}
        Attachment.objects.create(of=return_, paper=copies[row.paper_id], **plain)


def find(actor, return_id, token):
    """An attachment of one of the firm's returns by its token, or NotOfThisFirm."""
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "view", return_)
    row = return_.attachments.filter(token=token, removed_at=None).select_related("paper").first()
    if row is None:
        raise NotOfThisFirm(actor, Attachment, str(token))
    return row


def attached_to(return_, paper):
    """For a page: what lies beside a paper, and beside no paper yet; and, while any of it is being read, how far that is."""
    rows = [row for row in return_.attachments.filter(removed_at=None) if row.paper_id in (None, paper.pk if paper else None)]
    reading = any(row.state == Attachment.State.READING for row in rows)
    said = proposals(return_, paper, rows) if paper else []
    return {
        "attached": rows,
        "proposed": said,
        "reading": "-".join(str(row.pages + row.drawn) for row in rows) if reading else "",
    }


def content_of(row):
    """The file as it came. Cannot where it holds a virus, or nobody looked for one yet."""
    if row.infected:
        raise Cannot(f"{row.name} holds {row.infected} and is not handed out.")
    if row.state == Attachment.State.READING and scanning.is_wanted() and row.scanned_at is None:
        raise Cannot(f"{row.name} was not scanned for viruses yet. Try again in a minute.")
    return drawing.kept(row.file)


def as_pdf(row):
    """The file as a PDF: itself, the pages of a tagged page, or its picture on a page."""
    if row.kind == "pdf":
        return content_of(row)
    if row.kind == "xbrl":
        return drawing.kept(drawing.paged_name(row))
    made = io.BytesIO()
    with Image.open(io.BytesIO(picture_of(row, 1))) as picture:
        picture.convert("RGB").save(made, "PDF", resolution=150)
    return made.getvalue()


def picture_of(row, page):
    """A page as PNG, upright as it was turned, about 1,400 pixels wide. `page` counts from 1; BadValue where there is no picture,
    with the reason."""
    if row.state == Attachment.State.REFUSED:
        raise BadValue(row.says, page)
    if says := row.undrawn.get(str(page)):
        raise BadValue(says, page)
    if page > row.drawn and row.state == Attachment.State.READING:
        raise BadValue("It is being drawn.", page)
    if not 1 <= page <= row.drawn:
        raise BadValue(f"There is no page {page}.", page)
    return drawing.kept(drawing.picture_name(row, page))
