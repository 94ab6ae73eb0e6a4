"""Pages beside a paper: attached by what they contain, kept encrypted, shown as the pictures that a worker drew (drawing.py)."""

import hashlib
import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, fetch, require
from practice.firm.refusals import Cannot
from practice.intake import drawing, scanning
from practice.intake.models import Attachment
from practice.intake.proposing import proposals
from practice.returns.changing import forget, refreshed
from practice.returns.computing import pack_of
from practice.returns.entry import keyed_paper
from practice.returns.models import Return
from taxcore.engine import BadValue
from taxcore.engine.filed import Enclosure

LARGEST = 12_000_000  # bytes of a file; a scanned page is about one million


_BEGINNINGS = {"pdf": b"%PDF-", "png": b"\x89PNG\r\n\x1a\n", "jpeg": b"\xff\xd8\xff"}


def kind_of(content):
    """pdf, png or jpeg by the first bytes. BadValue for anything else, and for a file that is too large."""
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; a page can have {LARGEST / 1e6:.0f}.", "")
    for kind, beginning in _BEGINNINGS.items():
        if content.startswith(beginning):
            return kind
    raise BadValue("Attach a PDF, PNG or JPEG; this file is none of them, or is damaged.", "")


@transaction.atomic
def attach(actor, return_id, paper_id, name, content):
    """Keep a file beside a paper of a return, or beside the return alone (`paper_id` None). The same file twice is one.

    Also once the return is signed or filed: pages move no line. A worker opens it: what is in a file of a stranger's making holds
    no page and no lock.
    """
    return_ = _locked(actor, return_id)
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

    kind, digest = kind_of(content), hashlib.sha256(content).hexdigest()
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


def _locked(actor, return_id):
    wanted = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(wanted.prefetch_related("papers", "overrides"), actor, pk=return_id)
    require(actor, "key", return_)
    return return_


def count_pages(return_, *papers):
    """Papers know how many files support them, since a diagnostic asks."""
    for paper in filter(None, papers):
        rows = return_.attachments.filter(paper=paper, removed_at=None).exclude(state=Attachment.State.REFUSED)
        if pack_of(return_).paper(paper.kind).stands_for:  # any page may lie beside it; one is chosen to stand behind its totals
            rows = rows.filter(goes_along=True)
        paper.attached = rows.count()
        paper.save(update_fields=["attached"])
    forget(return_, "papers")
    refreshed(return_)


@transaction.atomic
def change_attachment(actor, return_id, token, *, paper_id=None, turn=0, remove=False, again=False):
    """Turn the pages by `turn` degrees, say which paper they support, remove them, or have them read `again`."""
    return_ = _locked(actor, return_id)
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
        "goes_along",
        "doubt",
    )
    for row in rows.exclude(state=Attachment.State.READING):
        plain = {name: getattr(row, name) for name in (*names, "by_id", "firm_id")}
        Attachment.objects.create(of=return_, paper=copies[row.paper_id], **plain)


def going_along(return_):
    """The statements that go with a filing."""
    return return_.attachments.filter(goes_along=True, removed_at=None, paper__removed_at=None).select_related("paper")


def enclosures(return_):
    """The same as they stand in the filed document."""
    return [Enclosure(row.paper.key, row.name, row.kind, row.digest, content_of(row)) for row in going_along(return_)]


LARGEST_ALONG = 5_000_000  # bytes of a statement that goes with a filing


def choose_statement(actor, return_id, token, chosen):
    """Say that a page is the statement behind its paper's totals and goes with the filing, or that it is not. BadValue where it
    cannot go, or is not read yet. What its words lack is kept with it; a scan has none."""
    row = find(actor, return_id, token)
    if chosen and (row.paper is None or not pack_of(row.of).paper(row.paper.kind).stands_for):
        raise BadValue("Only a statement attached to a paper with totals is e-filed.", "")
    if chosen and row.size > LARGEST_ALONG:
        raise BadValue(f"It has {row.size / 1e6:.1f} MB; up to {LARGEST_ALONG / 1e6:.0f} MB can be e-filed.", "")
    if chosen and row.state != Attachment.State.READY:
        raise BadValue("It is still being read. Try again in a moment.", "")
    doubt = _doubt(row) if chosen else ""
    return _choose(actor, return_id, row.pk, chosen, doubt)


@transaction.atomic
def _choose(actor, return_id, row_id, chosen, doubt):
    return_ = _locked(actor, return_id)
    row = return_.attachments.select_related("paper").get(pk=row_id)
    row.goes_along, row.doubt = chosen, doubt
    row.save(update_fields=["goes_along", "doubt"])
    record(actor, "statement chosen" if chosen else "statement no longer chosen", return_, says=row.name)
    count_pages(return_, row.paper)
    return row


def _doubt(row):
    """What a text PDF does not say of its sender: name and number of the paper it stands behind."""
    words = drawing.words_of(row)
    declared = pack_of(row.of).paper(row.paper.kind)
    name = str(row.paper.values.get(declared.party.get("name", declared.heading), "")).lower()
    number = "".join(one for one in str(row.paper.values.get(declared.party.get("number", ""), "")) if one.isalnum())
    plain = "".join(one for one in words if one.isalnum())
    lacks = [
        what for what, there in (("name", not name or name in words), ("number", not number or number in plain)) if not there
    ]
    if not words or not lacks:
        return ""
    return f"it does not show the {' and the '.join(lacks)} of {row.paper.values.get(declared.heading) or 'its sender'}"


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
