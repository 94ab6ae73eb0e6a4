"""The practice's print sets and price list, and invoices of clients who are ready to sign or further."""

from datetime import date
from types import SimpleNamespace

from practice.delivery.printing import begin_with_usual
from practice.fees import billing, prices
from practice.fees.models import Invoice, Payment, Per
from practice.firm.packs import usual_pack
from practice.returns.models import Return

_PRICES = (
    (Per.RETURN, "Individual return", "340", "", 0),
    (Per.AUTHORITY, "State return", "65", "", 0),
    (Per.FORM, "Itemized deductions", "55", "us.sch-a", 0),
    (Per.FORM, "Business, Schedule C", "140", "us.sch-c", 0),
    (Per.FORM, "Premium tax credit, Form 8962", "60", "us.8962", 0),
    (Per.PAPER, "Wage statements beyond two", "15", "w2", 2),
    (Per.PAPER, "Brokerage statements beyond one", "20", "1099-b", 1),
    (Per.HOUR, "Bookkeeping, sorting of papers", "120", "", 0),
    (Per.FIXED, "Letter to a lender", "75", "", 0),
    (Per.FIXED, "Estimated payments for the next year", "60", "", 0),
    (Per.DISCOUNT, "First year with us", "10", "", 0),
)


def lay_out(firm):
    """Invoices of those who are ready: one paid, one in part, one overdue; and a draft with hours."""
    staff = {person.initials: person for person in firm.staff.all()}
    begin_with_usual(staff["SH"])
    for per, name, amount, code, included in _PRICES:
        prices.add(staff["SH"], usual_pack(), per, name, amount, code, included)
    rows = Return.objects.for_firm(firm).filter(year=2025, purpose="filing").select_related("household")
    ready = {one.household.name: one for one in rows.filter(stage__in=("sign", "file"))}
    made = [_invoiced(staff["AP"], return_) for _, return_ in sorted(ready.items())]
    _age(firm, made[0], sent=date(2026, 1, 12), due=date(2026, 1, 26))
    _paid(staff["AP"], made[1], SimpleNamespace(amount=made[1].total, day=date(2026, 2, 9), reference="1207"))
    _paid(staff["AP"], made[2], SimpleNamespace(amount=100, day=date(2026, 2, 6), reference="884"))
    review = rows.filter(stage="review").order_by("household__name").first()
    billing.add_hours(staff["BT"], review.pk, "1.25", "Sorted the brokerage statements", date(2026, 2, 3))
    billing.drafted(staff["AP"], review.pk)


def _invoiced(actor, return_):
    return billing.send(actor, billing.drafted(actor, return_.pk).pk)


def _age(firm, invoice, **days):
    Invoice.objects.for_firm(firm).filter(pk=invoice.pk).update(sent_on=days["sent"], due=days["due"])


def _paid(actor, invoice, how):
    made = billing.pay(actor, invoice.pk, str(how.amount), "check", how.day, how.reference)
    Payment.objects.for_firm(actor.firm).filter(pk=made.pk).update(day=how.day)
