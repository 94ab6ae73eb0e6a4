"""How long documents are kept, and letting go of those whose time is over. What was signed and filed stays, frozen.

IRC 6107(b) has preparers keep a copy of a return, or its data, for three years; a practice may keep the papers longer.
"""

from datetime import date

from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from practice.delivery.models import Package, Printed, Statement
from practice.firm import dates
from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.intake import drawing
from practice.intake.models import Attachment
from practice.returns.acts import Done, act
from practice.returns.models import Return
from taxcore.engine import BadValue

LEAST, MOST = 3, 30  # years


@transaction.atomic
def keep_for(actor, years):
    """How many years the practice keeps documents after the one in which a return was last worked on."""
    require(actor, "administer", actor)
    if years is None or not LEAST <= years <= MOST:
        raise BadValue(f"Enter {LEAST} to {MOST} years.", "")
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.keeps_years = years
    firm.save(update_fields=["keeps_years"])
    record(actor, "documents kept for", firm=firm, says=f"{years} years")


def keep_until(return_, firm=None):
    """The last day on which a return's documents are kept: the end of a year, counted from when its newest stage was reached."""
    left = return_.household.left_on
    newest = max([*return_.stages.values(), *([left.isoformat()] if left else [])], default=f"{return_.year + 1}-12-31")
    return date(max(int(newest[:4]), return_.year + 1) + (firm or return_.firm).keeps_years, 12, 31)


def over(actor):
    """Returns whose documents may go, the oldest first: their time is over and there is something left."""
    firm = actor.firm
    rows = Return.objects.for_staff(actor).filter(year__lt=firm.today().year - firm.keeps_years)
    rows = rows.select_related("household", "firm").order_by("year", "household__name")
    return [one for one in rows if keep_until(one, firm) < firm.today() and _files_of(one)]


def _files_of(return_):
    """Names in storage of everything that goes."""
    found = []
    for row in return_.attachments.exclude(file=""):
        found += [row.file, drawing.words_name(row)]
        found += [f"{row.file}.{turn}.{part}" for turn in (0, 90, 180, 270) for part in ("seen", *range(1, row.pages + 1))]
    for model in (Package, Printed, Statement):
        found += model.objects.for_firm(return_.firm_id).filter(of=return_).exclude(file="").values_list("file", flat=True)
    return found


@act("forget", "Delete documents", "administer")
def forget(actor, return_id):
    """Remove the files of a return whose time is over. Cannot before that day."""
    with transaction.atomic():
        return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
        require(actor, "administer", return_)
        until = keep_until(return_)
        if until >= return_.firm.today():
            raise Cannot(f"Its documents are kept until {dates.long(until)}.")
        names, rows = _files_of(return_), Attachment.objects.for_firm(return_.firm_id).filter(of=return_)
        number = rows.exclude(file="").count()
        mine = list(rows.exclude(file="").values_list("file", flat=True))
        others = set(
            Attachment.objects.for_firm(return_.firm_id).filter(file__in=mine).exclude(of=return_).values_list("file", flat=True)
        )
        rows.filter(removed_at=None).update(removed_at=timezone.now())
        rows.update(file="")
        for model in (Package, Printed, Statement):
            made = model.objects.for_firm(return_.firm_id).filter(of=return_)
            made.exclude(file="").update(file="", state="failed", trouble="deleted after retention")
        record(actor, "documents deleted", return_, says=f"{number} documents, kept until {until.isoformat()}")
        # A correction shows the same pages: they go with it
        transaction.on_commit(lambda: _remove([name for name in names if not any(name.startswith(one) for one in others)]))
    return Done(f"{number} documents deleted")


def _remove(names):
    for name in names:
        default_storage.delete(name)
