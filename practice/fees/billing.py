"""Invoices: drafted from what a return contains, changed by hand, numbered and sent, voided; hours; payments that the office
records.

An invoice that has a number is never changed. Whoever must change it voids it, with a reason, and gets a draft with its lines.
"""

from datetime import timedelta
from decimal import Decimal

from django.db import transaction
from django.db.models import Sum
from django.utils import timezone

from practice.fees.models import ZERO, Checkout, Hours, Invoice, Line, Manner, Payment, Per
from practice.fees.prices import cents, counted_on, listed, money
from practice.firm import dates
from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.models import Wording
from practice.gather.people import asked_first
from practice.gather.wording import words_for
from practice.portal.links import send_link
from practice.returns.acts import Done, act
from practice.returns.computing import result_of
from practice.returns.models import Purpose, Return
from taxcore.engine import BadValue

MOST_LINES = 60
DAYS_TO_PAY = 14
_QUANTITY = Decimal("9999.00")


def _return(actor, return_id):
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household").prefetch_related("papers")
    return_ = fetch(rows, actor, pk=return_id)
    require(actor, "bill", return_)
    if return_.purpose == Purpose.PLANNING:
        raise Cannot("A plan is not invoiced.")
    return return_


def _invoice(actor, invoice_id, draft=None):
    rows = Invoice.objects.select_for_update(of=("self",)).select_related("of__firm", "of__household", "to")
    invoice = fetch(rows, actor, pk=invoice_id)
    require(actor, "bill", invoice)
    if draft is True and (invoice.number or invoice.voided_at):
        raise Cannot("This invoice was sent and cannot be changed. Void it to make another one.")
    if draft is False and not invoice.number:
        raise Cannot("This invoice was not sent yet.")
    return invoice


# Drafts


@transaction.atomic
def drafted(actor, return_id):
    """The draft invoice of a return, with a line for each price that the return calls for."""
    return_ = _return(actor, return_id)
    found = return_.invoices.filter(number="", voided_at=None).first()
    if found is None:
        found = Invoice.objects.create(
            firm=actor.firm,
            of=return_,
            household=return_.household,
            made_by=actor,
            to=asked_first(return_),
            words=words_for(return_, Wording.INVOICE)[:600],
        )
        _count(found)
        record(actor, "invoice drafted", return_, says=f"{found.total:,}")
    return found


@transaction.atomic
def count_again(actor, invoice_id):
    """The lines that the program counted, as the return is now; what somebody wrote or changed stays."""
    invoice = _invoice(actor, invoice_id, draft=True)
    _count(invoice)
    return invoice


def _count(invoice):
    kept = set(invoice.lines.filter(by_hand=True).values_list("of_price_id", flat=True))
    invoice.lines.filter(by_hand=False).delete()
    for place, one in enumerate(_wanted(invoice)):
        if one.price.pk not in kept:
            Line.objects.create(
                firm=invoice.firm, invoice=invoice, position=place, text=one.price.name, quantity=one.quantity,
                price=one.price.amount, amount=one.amount, of_price=one.price,
            )  # fmt: skip
    add_up(invoice)


def _wanted(invoice):
    return counted_on(invoice.of, result_of(invoice.of))


def moved(invoice):
    """Whether the return calls for other lines than the draft has."""
    there = {(line.of_price_id, line.quantity) for line in invoice.lines.all() if line.of_price_id and not line.by_hand}
    by_hand = {line.of_price_id for line in invoice.lines.all() if line.by_hand}
    return there != {(one.price.pk, one.quantity) for one in _wanted(invoice) if one.price.pk not in by_hand}


def add_up(invoice):
    """Discounts count all lines that are none; the total is what is left."""
    lines = list(invoice.lines.all())
    full = sum((line.amount for line in lines if not line.percent), ZERO)
    for line in lines:
        if line.percent:
            line.amount = -cents(full * line.price / 100)
            line.save(update_fields=["amount"])
    invoice.total = sum((line.amount for line in lines), ZERO)
    invoice.save(update_fields=["total"])


@transaction.atomic
def add_line(actor, invoice_id, price_id=None, text="", quantity="1", price=""):
    """A line of the price list's fixed prices and discounts, or one that somebody writes."""
    invoice = _invoice(actor, invoice_id, draft=True)
    if invoice.lines.count() >= MOST_LINES:
        raise Cannot(f"An invoice has {MOST_LINES} lines at most.")
    chosen = None
    if price_id:
        chosen = listed(actor.firm, invoice.of.pack).filter(per__in=[Per.FIXED, Per.DISCOUNT], pk=price_id).first()
        if chosen is None:
            raise BadValue("Choose one of the price list.", price_id)
        text, price = chosen.name, str(chosen.amount)
    text = written(text, "The line", 120, "Say what the line is for.")
    quantity = money(quantity, "The quantity", most=_QUANTITY)
    each = money(price, "The price", least=Decimal("-99999.99"))
    percent = chosen is not None and chosen.per == Per.DISCOUNT
    Line.objects.create(
        firm=actor.firm, invoice=invoice, position=900 if percent else 500, text=text, quantity=1 if percent else quantity,
        price=each, amount=ZERO if percent else cents(quantity * each), percent=percent, of_price=chosen, by_hand=True,
    )  # fmt: skip
    add_up(invoice)
    return invoice


@transaction.atomic
def change_line(actor, invoice_id, line_id, quantity=None, price=None, remove=False):
    """Another quantity or price, or no such line. Nothing less than zero in all."""
    invoice = _invoice(actor, invoice_id, draft=True)
    line = fetch(Line.objects.filter(invoice=invoice), actor, pk=line_id)
    if remove:
        line.delete()
    else:
        line.quantity = money(quantity, "The quantity", most=_QUANTITY)
        line.price = money(
            price, "The price", least=Decimal("-99999.99"), most=Decimal(100) if line.percent else Decimal("99999.99")
        )
        line.by_hand, line.amount = True, cents(line.quantity * line.price)
        line.save()
    add_up(invoice)
    return invoice


@transaction.atomic
def add_hours(actor, return_id, hours, words, day=None):
    """Time worked on a return; it goes on the next invoice where the list has a price for an hour."""
    return_ = _return(actor, return_id)
    worked = money(hours, "The hours", most=Decimal(24))
    words = written(words, "What was done", 120, "Say what was done.")
    day = day or return_.firm.today()
    if day > return_.firm.today():
        raise BadValue("That day is still to come.", day)
    made = Hours.objects.create(firm=actor.firm, of=return_, by=actor, day=day, minutes=max(int(worked * 60), 1), words=words)
    record(actor, "hours worked", return_, says=f"{worked} h, {words}")
    return made


@transaction.atomic
def remove_hours(actor, return_id, hours_id):
    row = fetch(Hours.objects.filter(of=_return(actor, return_id), removed_at=None), actor, pk=hours_id)
    if row.invoice_id:
        raise Cannot("These hours were invoiced.")
    row.removed_at = timezone.now()
    row.save(update_fields=["removed_at"])
    record(actor, "hours removed", row.of, says=row.words)


# Sent


@transaction.atomic
def send(actor, invoice_id, words="", due=None):
    """Number an invoice and mail a link to it. One that comes to nothing is kept as “no charge” and not mailed."""
    from practice.fees.tasks import draw_invoice

    invoice = _invoice(actor, invoice_id, draft=True)
    return_, today = invoice.of, invoice.of.firm.today()
    if invoice.total < 0:
        raise Cannot("The total is less than zero. Change a line first.")
    if not invoice.lines.exists():
        raise Cannot("There is no line on it. Add one first, or leave the fee out for this client.")
    due = due or today + timedelta(days=DAYS_TO_PAY)
    if due < today:
        raise Cannot("That day is over. Choose a later one.")
    invoice.to = asked_first(return_) or invoice.to
    if invoice.to is None:
        raise Cannot("Nobody on this return has an email address. Enter one on the client’s page.")
    invoice.words = written(words, "The word above it", 600)
    invoice.number, invoice.sent_on, invoice.due, invoice.sent_by = _next_number(return_.firm), today, due, actor
    invoice.asked_at = timezone.now()
    invoice.save()
    return_.hours.filter(removed_at=None, invoice=None).update(invoice=invoice)
    draw_invoice.ask(invoice_id=invoice.pk)
    if invoice.total:
        send_link(return_, invoice.to, "invoice")
    record(actor, "invoice sent", return_, says=f"{invoice.number}, {invoice.total:,}, to {invoice.to.full_name}")
    return invoice


def _next_number(firm):
    """The year and a number without gaps; the firm's row is held until the invoice is stored."""
    Firm.objects.select_for_update().get(pk=firm.pk)
    year = firm.today().year
    there = Invoice.objects.for_firm(firm).filter(number__startswith=f"{year}-")
    return f"{year}-{there.count() + 1:04d}"


@transaction.atomic
def void(actor, invoice_id, why, again=False):
    """An invoice that does not hold any more; with `again`, a draft with its lines. Cannot where something was paid on it."""
    invoice = _invoice(actor, invoice_id, draft=False)
    why = written(why, "The reason", 200, "Say why it is voided.")
    if invoice.voided_at:
        return invoice
    if invoice.paid:
        raise Cannot("Something was paid on it. Take the payment back first.")
    if invoice.checkouts.filter(state=Checkout.State.OPEN).exists():
        raise Cannot("The client began to pay it. Wait until that is settled.")
    invoice.voided_at, invoice.voided_by, invoice.void_why = timezone.now(), actor, why
    invoice.save(update_fields=["voided_at", "voided_by", "void_why"])
    invoice.hours.update(invoice=None)
    record(actor, "invoice voided", invoice.of, says=f"{invoice.number}: {why}")
    if again and not invoice.of.invoices.filter(number="", voided_at=None).exists():
        return _copied(actor, invoice)
    return invoice


def _copied(actor, invoice):
    made = Invoice.objects.create(firm=actor.firm, of=invoice.of, household=invoice.household, made_by=actor, to=invoice.to)
    for line in invoice.lines.all():
        line.pk, line.invoice, line._state.adding = None, made, True
        line.save()
    add_up(made)
    return made


@transaction.atomic
def remind(actor, invoice_id):
    """A mail with a link to an invoice that is not paid."""
    invoice = _invoice(actor, invoice_id, draft=False)
    if invoice.voided_at or invoice.open <= 0:
        raise Cannot("Nothing is owed on it.")
    send_link(invoice.of, invoice.to, "invoice")
    invoice.reminded_on = invoice.of.firm.today()
    invoice.save(update_fields=["reminded_on"])
    record(actor, "reminded of an invoice", invoice.of, says=invoice.number)
    return invoice


# Payments


@transaction.atomic
def pay(actor, invoice_id, amount, manner, day=None, reference=""):
    """Money that came to the office. BadValue where it is more than is owed."""
    invoice = _invoice(actor, invoice_id, draft=False)
    if invoice.voided_at:
        raise Cannot("This invoice was voided.")
    if manner not in Manner.values or manner == Manner.GATEWAY:
        raise BadValue("Choose how it was paid.", manner)
    amount, day = money(amount, "The amount"), day or invoice.of.firm.today()
    if amount > invoice.open:
        raise BadValue(f"That is more than is owed: {max(invoice.open, ZERO):,}.", str(amount))
    if day > invoice.of.firm.today():
        raise BadValue("That day is still to come.", str(day))
    made = Payment.objects.create(
        firm=actor.firm, invoice=invoice, amount=amount, day=day, manner=manner, by=actor,
        reference=written(reference, "The reference", 60),
    )  # fmt: skip
    settle(invoice)
    record(actor, "payment recorded", invoice.of, says=f"{invoice.number}: {amount:,}, {made.get_manner_display()}")
    return made


@transaction.atomic
def take_back(actor, payment_id, why):
    """A payment that never came, or was refunded."""
    row = fetch(Payment.objects.filter(back_at=None), actor, pk=payment_id)
    invoice = _invoice(actor, row.invoice_id)
    row.back_why = written(why, "The reason", 200, "Say why it is taken back.")
    row.back_at, row.back_by = timezone.now(), actor
    row.save(update_fields=["back_at", "back_by", "back_why"])
    settle(invoice)
    record(actor, "payment taken back", invoice.of, says=f"{invoice.number}: {row.amount:,}, {row.back_why}")
    return row


def settle(invoice):
    """What is paid on an invoice, from its payments."""
    paid = invoice.payments.filter(back_at=None).aggregate(all=Sum("amount"))["all"]
    invoice.paid = paid or ZERO
    invoice.save(update_fields=["paid"])


# Many at once


@act("invoice", "Send invoices", "bill")
def invoice_one(actor, return_id):
    """One of many: drafted from the price list and sent, unless the return has an invoice."""
    return_ = _return(actor, return_id)
    there = return_.invoices.filter(voided_at=None).exclude(number="").first()
    if there is not None:
        return Done(f"left: {there} of {dates.short_day(there.sent_on)} already")
    draft = count_again(actor, drafted(actor, return_id).pk)
    if not draft.total:
        raise Cannot("The price list has nothing for this return.")
    sent = send(actor, draft.pk, draft.words)
    return Done(f"{sent.number}, {sent.total:,}, sent to {sent.to.full_name}")


@act("dun", "Remind of invoices", "bill")
def remind_one(actor, return_id):
    """Every invoice of a return that is not paid."""
    open_ones = [one for one in _return(actor, return_id).invoices.filter(voided_at=None).exclude(number="") if one.open > 0]
    if not open_ones:
        return Done("left: nothing is owed")
    for one in open_ones:
        remind(actor, one.pk)
    return Done(f"reminded {open_ones[0].to.full_name} of {', '.join(one.number for one in open_ones)}")


def is_settled(return_):
    """Whether a return was invoiced and everything is paid."""
    rows = list(return_.invoices.filter(voided_at=None).exclude(number=""))
    return bool(rows) and all(one.open <= 0 for one in rows)
