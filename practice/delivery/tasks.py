"""Making a package: letter, summary with a chart, forms, receipts and the signed authorizations, in one PDF."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.utils import timezone

from practice.delivery import printing
from practice.delivery.chart import summary_chart
from practice.delivery.models import Package, Printed
from practice.dispatch.models import Asked
from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.jobs import job
from practice.pages import certifying
from practice.pages.pdf import pdf_of
from practice.returns.computing import pack_of, result_of
from practice.returns.frozen import drawn_of
from practice.returns.models import FILED
from practice.review import advising
from practice.signing.tasks import draw


def _lost(before):
    waiting = Package.objects.across_firms("background work").filter(state="making", asked_at__lt=before)
    return [{"package_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _failed(says, package_id):
    waiting = Package.objects.across_firms("background work").filter(pk=package_id).exclude(state="ready")
    waiting.update(state="failed", trouble=says[:200])


@job("package", lost=_lost, failed=_failed)
def build(package_id):
    """Make the PDF once. What goes wrong is kept on the package and shown."""
    package = (
        Package.objects.across_firms("background work").select_related("of__household", "snapshot__of", "firm").get(pk=package_id)
    )
    if package.state == "ready":
        return
    content, pages = assemble(package)
    package.file = default_storage.save(f"packages/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(content)))
    package.state, package.pages, package.made_at, package.trouble = "ready", pages, timezone.now(), ""
    package.save()
    record(None, "package ready", package.of, says=f"{pages} pages")


def assemble(package):
    """(bytes, pages) of the whole package."""
    writer = certifying.joined(_parts(package), f"{package.of.household.name} {package.of.year}")
    made = certifying.certified(package.firm, certifying.written(writer), f"Package of {package.of.year}")
    return made, len(writer.pages)


def _parts(package):
    frozen = drawn_of(package.snapshot)
    accepted = package.of.submissions.filter(snapshot=package.snapshot, state__in=FILED).order_by("id")
    earlier = package.of.submissions.filter(state__in=FILED).exclude(snapshot=package.snapshot).order_by("id")
    yield pdf_of(
        "delivery/package.html",
        {
            "package": package, "of": package.of, "pack": pack_of(package.of), "firm": package.firm, "result": frozen,
            "extensions": package.of.extensions.filter(state=Asked.ACCEPTED),
            "chart": summary_chart(frozen), "submissions": [*earlier, *accepted], "people": frozen.people,
            "cover": printing.cover_of(package.of),
        },
    )  # fmt: skip
    yield from printing.made_from_figures(package.of, package.snapshot)
    advised = advising.page_of(package.of, result_of(package.of)) if package.of.advice_choices.exists() else {}
    if advised.get("items"):  # only what somebody chose for this client goes out
        yield pdf_of("delivery/advice.html", advised)
    for signature in package.of.signatures.filter(voided_at=None):
        yield draw(signature)


def _unprinted(before):
    waiting = Printed.objects.across_firms("background work").filter(state="making", asked_at__lt=before)
    return [{"printed_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _not_printed(says, printed_id):
    waiting = Printed.objects.across_firms("background work").filter(pk=printed_id).exclude(state="ready")
    waiting.update(state="failed", trouble=says[:200], password="")


@job("print set", lost=_unprinted, failed=_not_printed)
def print_set(printed_id):
    rows = Printed.objects.across_firms("background work").select_related(
        "of__household", "of__firm", "snapshot__of", "set", "asked_by"
    )
    printed = rows.get(pk=printed_id)
    if printed.state == "making":
        printing.store(printed)


def read_package(package):
    """The PDF's bytes."""
    with default_storage.open(package.file) as stored:
        return unseal_bytes(stored.read())
