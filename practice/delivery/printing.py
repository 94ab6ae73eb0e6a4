"""Print sets: which parts of a return go together for whom, declared by the practice; made of a locked return by a worker."""

import io
import uuid
import zipfile

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.template.loader import render_to_string
from django.utils import timezone

from practice.delivery.chart import summary_chart
from practice.delivery.models import Download, Printed, PrintSet
from practice.dispatch.models import Asked
from practice.fees.tasks import read_invoice
from practice.firm.crypto import masked, seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.lettering import unsigned
from practice.gather.models import LetterKind, Wording
from practice.gather.wording import OUTCOME, words_for
from practice.intake import attaching, enclosing
from practice.intake.drawn import as_pdf, enclosed_in
from practice.pages import certifying
from practice.pages.pdf import pdf_from
from practice.portal.links import send_link
from practice.returns.acts import Done, act
from practice.returns.computing import pack_of, result_of
from practice.returns.frozen import document_of, drawn_of
from practice.returns.models import FILED, Return
from practice.review import advising
from practice.signing.representing import written_to
from practice.signing.tasks import draw
from taxcore.engine import BadValue

PARTS = {
    "cover": "Cover, with what is in it",
    "letter": "Letter",
    "changed": "What a correction changed",
    "summary": "Summary with a chart",
    "forms": "Every form and worksheet",
    "made": "Computations and accounts that went along",
    "receipts": "Acknowledgments",
    "authorizations": "Signed authorizations",
    "advice": "Advice, where some was chosen",
    "invoices": "Invoices",
    "pages": "Source documents",
    "by hand": "Signature page",
}
_DRAWN = ("cover", "letter", "changed", "summary", "forms", "receipts", "by hand")
USUAL = (
    ("Client’s copy", ("letter", "changed", "summary", "forms", "made", "receipts", "authorizations", "advice"), True, "", False),
    ("Practice’s copy", ("cover", "summary", "forms", "receipts", "authorizations", "invoices", "pages"), False, "", False),
    ("Lender’s copy", ("cover", "summary", "forms", "receipts"), True, "COPY", True),
)
MOST = 20
PAPER = "Return on paper"


def listed(firm):
    return PrintSet.objects.for_firm(firm).filter(ended_at=None)


@transaction.atomic
def keep_set(actor, name, parts, masked, watermark, apart=False, discloses=False):
    """A set from now on; one of the same name ends. BadValue where it has no name or no part."""
    require(actor, "administer", actor)
    name = written(name, "The name", 60, "Name the set.")
    chosen = [part for part in parts if part in PARTS]
    if not chosen:
        raise BadValue("Choose at least one part.", name)
    watermark = written(watermark, "The word across the pages", 20)
    there = listed(actor.firm)
    there.filter(name=name).update(ended_at=timezone.now())
    if there.count() >= MOST:
        raise BadValue(f"There are {MOST} sets already. End one first.", name)
    made = PrintSet.objects.create(firm=actor.firm, name=name, parts=chosen, masked=masked, watermark=watermark, apart=apart,
                                   discloses=discloses)  # fmt: skip
    record(actor, "print set", firm=actor.firm, says=f"{name}: {', '.join(PARTS[part].lower() for part in chosen)}")
    return made


def begin_with_usual(actor):
    """The usual sets, where the practice has none."""
    if not listed(actor.firm).exists():
        for name, parts, masked, watermark, discloses in USUAL:
            keep_set(actor, name, parts, masked, watermark, discloses=discloses)


@transaction.atomic
def end_set(actor, set_id):
    row = fetch(PrintSet.objects.filter(ended_at=None), actor, pk=set_id)
    require(actor, "administer", row)
    row.ended_at = timezone.now()
    row.save(update_fields=["ended_at"])
    record(actor, "print set ended", firm=actor.firm, says=row.name)


@transaction.atomic
def ask(actor, return_id, set_id, recipient="", password=""):
    """Have a set made of a locked return. Cannot before it is locked."""
    from practice.delivery.tasks import print_set

    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "deliver", return_)
    chosen = fetch(PrintSet.objects.filter(ended_at=None), actor, pk=set_id)
    if return_.snapshot_id is None:
        raise Cannot("Lock the return first: a set is made of what is locked.")
    if chosen.discloses:
        _may_be_disclosed(return_)
    if password and len(password) < 6:
        raise BadValue("A password has at least six characters.", "")
    made = Printed.objects.create(
        firm=return_.firm, of=return_, snapshot=return_.snapshot, set=chosen, asked_by=actor, password=password[:60],
        locked=bool(password), recipient=written(recipient, "The recipient", 80),
    )  # fmt: skip
    record(actor, "set requested", return_, says=chosen.name)
    print_set.ask(printed_id=made.pk)
    return made


def _may_be_disclosed(return_):
    """26 CFR 301.7216-3(a): nothing of a return goes to somebody else before everybody who signs it has consented in writing."""
    for person in unsigned(return_, LetterKind.DISCLOSE)[:1]:
        raise Cannot(
            f"{person.full_name} has not signed a consent to disclosure. Send it from Requests, letters and messages first."
        )


@transaction.atomic
def ask_paper(actor, return_id, code):
    """Have printed what is mailed to one authority: mailing sheet, explanation, forms, a page to sign, what goes along."""
    from practice.delivery.tasks import print_set

    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "deliver", return_)
    route = return_.routes.filter(authority=code, way="paper").first()
    if return_.snapshot_id is None or route is None:
        raise Cannot("Lock the return, and say that it goes there on paper.")
    sets = PrintSet.objects.for_firm(return_.firm)
    of, _ = sets.get_or_create(name=PAPER, ended_at__isnull=False, parts=["paper"], defaults={
        "firm": return_.firm, "ended_at": timezone.now(), "masked": False,
    })  # fmt: skip
    made = Printed.objects.create(
        firm=return_.firm, of=return_, snapshot=return_.snapshot, set=of, asked_by=actor, authority=code,
        recipient=route.mail_to.split("\n")[0][:80],
    )  # fmt: skip
    record(actor, "set requested", return_, says=f"{PAPER}, {code.upper()}")
    print_set.ask(printed_id=made.pk)
    return made


@act("print", "Make a print set", "deliver")
def print_one(actor, return_id, set_id):
    made = ask(actor, return_id, set_id)
    return Done(f"{made.set.name} asked for")


# Made


def make(printed):
    """(bytes, pages) of a set: one PDF, or a ZIP with one for each part."""
    if not printed.set.apart:
        return _one_pdf(printed, _pieces(printed), printed.set.name)
    packed, pages = io.BytesIO(), 0
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file:
        for number, part in enumerate(printed.set.parts, 1):
            pieces = [_drawn(printed, [part])] if part in _DRAWN else list(_BROUGHT[part](printed))
            if pieces:
                content, more = _one_pdf(printed, pieces, PARTS[part])
                file.writestr(f"{number:02d} {PARTS[part]}.pdf", content)
                pages += more
    return packed.getvalue(), pages


def _one_pdf(printed, pieces, what):
    writer = certifying.joined(pieces, f"{printed.of.household.name} {printed.of.year}")
    if printed.password:
        writer.encrypt(printed.password, algorithm="AES-256")
    content = certifying.written(writer)
    return certifying.certified(printed.of.firm, content, what, printed.password), len(writer.pages)


def preview(actor, return_id, set_id, recipient=""):
    """The PDF's bytes of a set as it would be, marked and unsigned; nothing is kept."""
    return_ = fetch(Return.objects.select_related("firm", "household", "snapshot"), actor, pk=return_id)
    require(actor, "deliver", return_)
    chosen = fetch(PrintSet.objects.filter(ended_at=None), actor, pk=set_id)
    if return_.snapshot_id is None:
        raise Cannot("Lock the return first: a set is made of what is locked.")
    if not chosen.masked:
        require(actor, "reveal", return_)
    chosen.watermark = "PREVIEW"
    made = Printed(firm=return_.firm, of=return_, snapshot=return_.snapshot, set=chosen, asked_by=actor, asked_at=timezone.now(),
                   recipient=written(recipient, "The recipient", 80))  # fmt: skip
    record(actor, "set previewed", return_, says=chosen.name)
    return certifying.written(certifying.joined(_pieces(made), f"{return_.household.name} {return_.year}"))


@transaction.atomic
def share(actor, printed_id):
    """Put a set into the portal and tell those who sign the return. Cannot where it is not made, or is an authority's."""
    printed = fetch(Printed.objects.select_related("of__firm", "of__household", "set"), actor, pk=printed_id)
    require(actor, "deliver", printed)
    if printed.state != "ready" or printed.authority:
        raise Cannot("Only a set that is made for somebody is shared.")
    if printed.shared_at is None:
        printed.shared_at = timezone.now()
        printed.save(update_fields=["shared_at"])
        for client in written_to(printed.of):
            if client.email:
                send_link(printed.of, client, "set")
        record(actor, "set shared", printed.of, says=printed.set.name)
    return printed


@transaction.atomic
def note_taken(printed, client):
    Download.objects.create(firm=printed.firm, printed=printed, client=client)
    record(None, "set downloaded", printed.of, says=printed.set.name, by=client.full_name)


def _pieces(printed):
    """PDFs in the order of the parts; what our own pages draw is one document as long as nothing else comes between."""
    run = []
    for part in printed.set.parts:
        if part in _DRAWN:
            run.append(part)
            continue
        if run:
            yield _drawn(printed, run)
            run = []
        yield from _BROUGHT[part](printed)
    if run:
        yield _drawn(printed, run)


def _drawn(printed, parts):
    return_, frozen = printed.of, drawn_of(printed.snapshot)
    html = render_to_string("delivery/print.html", {
        "run": printed, "set": printed.set, "in_full": not printed.set.masked, "parts": parts,
        "contents": [PARTS[part] for part in printed.set.parts if part != "cover"],
        "package": printed, "of": return_, "pack": pack_of(return_), "firm": return_.firm, "result": frozen,
        "extensions": return_.extensions.filter(state=Asked.ACCEPTED), "chart": summary_chart(frozen), "people": frozen.people,
        "submissions": return_.submissions.filter(state__in=FILED).order_by("id"), "cover": cover_of(return_),
    })  # fmt: skip
    return pdf_from(_masked(html, frozen) if printed.set.masked else html)


def cover_of(return_):
    """The practice's words in a package's letter: what stands before the outcome, and after it; none where it has none."""
    mark = "\0"
    before, _, after = words_for(return_, Wording.COVER, **{OUTCOME: mark}).partition(mark)
    return (before, after) if before or after else None


def _masked(html, frozen):
    """No number of a person in full, wherever it stands."""
    for person in frozen.people:
        for number in filter(None, {person.number, person.number.replace("-", "")}):
            html = html.replace(number, masked(person.number))
    return html


def made_for(return_, snapshot, authority):
    """(name, bytes) of what followed from the figures and stands in the locked document for an authority, and of tagged pages
    that went in its place."""
    theirs = {row.along_name or row.name for row in enclosing.going_along(return_) if row.kind != "xbrl"}
    return [(name, content) for name, content in enclosed_in(document_of(snapshot, authority)) if name not in theirs]


def made_from_figures(return_, snapshot):
    """All of it as PDFs, authority by authority."""
    for line in snapshot.bottom_lines:
        yield from (as_pdf(content) for _, content in made_for(return_, snapshot, line["code"]))


def _made(printed):
    yield from made_from_figures(printed.of, printed.snapshot)


def _authorizations(printed):
    for signature in printed.of.signatures.filter(voided_at=None):
        yield draw(signature)


def _advice(printed):
    advised = advising.page_of(printed.of, result_of(printed.of)) if printed.of.advice_choices.exists() else {}
    if advised.get("items"):
        yield pdf_from(render_to_string("delivery/advice.html", advised))


def _invoices(printed):
    for invoice in printed.of.invoices.filter(voided_at=None).exclude(file="").order_by("pk"):
        yield read_invoice(invoice)


def _pages(printed):
    rows = printed.of.attachments.filter(removed_at=None, state="ready")
    for page in rows.exclude(kind="xbrl", along__gt="").order_by("pk"):
        yield attaching.as_pdf(page)


def _on_paper(printed):
    """What goes into the envelope. Numbers are in full: an authority reads them."""
    return_, frozen = printed.of, drawn_of(printed.snapshot)
    authority = pack_of(return_).authority(printed.authority)
    route, outgoing = return_.routes.get(authority=printed.authority), pack_of(return_).outgoing
    line = frozen.bottom_line(printed.authority)
    forms = [one for one in frozen.forms if one.jurisdiction == authority.form.jurisdiction and one.filed and not one.worksheet]
    along = [
        row
        for row in enclosing.going_along(return_)
        if row.kind != "xbrl" and (row.along_to == authority.code or not (row.along_to or authority.after))
    ]
    made = made_for(return_, printed.snapshot, printed.authority)
    yield pdf_from(render_to_string("delivery/paper_return.html", {
        "of": return_, "firm": return_.firm, "authority": authority, "route": route, "reason": outgoing.reason(route.reason),
        "paper_form": outgoing.paper_form if not authority.after else "", "line": line, "forms": forms, "along": along,
        "made": made, "people": frozen.people, "printed": printed,
        "signers": [person for person in frozen.people if person.role in frozen.signers],
    }))  # fmt: skip
    for _, content in made:
        yield as_pdf(content)
    for row in along:
        yield attaching.as_pdf(row)


_BROUGHT = {
    "paper": _on_paper,
    "made": _made,
    "authorizations": _authorizations,
    "advice": _advice,
    "invoices": _invoices,
    "pages": _pages,
}


def store(printed):
    """Make it once and keep it; the password is forgotten then."""
    content, pages = make(printed)
    printed.file = default_storage.save(f"printed/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(content)))
    printed.state, printed.pages, printed.password, printed.trouble = "ready", pages, "", ""
    printed.save()
    record(None, "set ready", printed.of, says=f"{printed.set.name}, {pages} pages")


def read(printed):
    with default_storage.open(printed.file) as stored:
        return unseal_bytes(stored.read())
