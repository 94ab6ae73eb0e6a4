"""Invoices over all clients: what is owed, and how long it is overdue."""

from decimal import Decimal

from django.db.models import F, Q, Sum

from practice.fees.models import ZERO, Invoice
from practice.returns.leaving import without_left
from practice.returns.models import Purpose, Return, Stage

AGES = ((0, "Not due"), (30, "1 to 30"), (60, "31 to 60"), (90, "61 to 90"), (None, "Over 90"))
WHICH = {
    "none": "to invoice", "drafts": "drafts", "open": "owed", "late": "overdue", "paid": "paid", "void": "voided",
}  # fmt: skip
_READY = (Stage.SIGN, Stage.FILE, Stage.DELIVER, Stage.DONE)


def to_invoice(actor):
    """Returns that are ready to be signed, or further, and have no invoice: of the season and after."""
    rows = without_left(Return.objects.for_staff(actor), actor.firm).filter(
        stage__in=_READY, purpose=Purpose.FILING, year__gte=actor.firm.season, given_up_at=None
    )
    return rows.exclude(invoices__in=Invoice.objects.for_firm(actor.firm).filter(voided_at=None)).select_related(
        "household", "preparer"
    )


def invoices(actor, which):
    """The invoices of one list, those due first."""
    rows = Invoice.objects.for_staff(actor).select_related("of__preparer", "household", "to")
    live = rows.filter(voided_at=None)
    owed = live.exclude(number="").filter(total__gt=F("paid"))
    return {
        "drafts": live.filter(number=""),
        "open": owed,
        "late": owed.filter(due__lt=actor.firm.today()),
        "paid": live.exclude(number="").filter(total__lte=F("paid")),
        "void": rows.exclude(voided_at=None),
    }[which].order_by("due", "number", "id")


def age(invoice, today):
    """The place in AGES of an invoice that is owed."""
    days = (today - invoice.due).days
    return next(place for place, (most, _) in enumerate(AGES) if most is None or days <= most)


def columns(rows, today):
    """[(invoice, [its open amount in the column of its age, None elsewhere])], and the sums of the columns."""
    found, sums = [], [ZERO] * len(AGES)
    for one in rows:
        place = age(one, today)
        sums[place] += one.open
        found.append((one, [one.open if at == place else None for at in range(len(AGES))]))
    return found, sums


def numbers(actor):
    """How many there are of each list, and what is owed in all and overdue."""
    counted = {which: invoices(actor, which).count() for which in WHICH if which != "none"} | {"none": to_invoice(actor).count()}
    today = actor.firm.today()
    owed = invoices(actor, "open").aggregate(
        all=Sum(F("total") - F("paid")), late=Sum(F("total") - F("paid"), filter=Q(due__lt=today))
    )
    return counted, {name: amount or Decimal("0.00") for name, amount in owed.items()}
