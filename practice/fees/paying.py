"""Payments through a payment service. A client's own page leads to the service's; what the service says counts, not the browser
that comes back.

The row of a checkout is stored before the service is asked, with a key of its own: asked twice with it, the service opens one
payment. A client who never comes back is found by the worker, which asks for every checkout that is open.
"""

import secrets
from datetime import timedelta
from decimal import Decimal

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from practice.fees.billing import settle
from practice.fees.models import Checkout, Invoice, Manner, Payment
from practice.firm import outside
from practice.firm.events import record
from practice.firm.refusals import Cannot
from practice.returns.computing import pack_of

HOURS = 24  # after which a checkout that nobody finished is ended


class PaymentAway(Cannot):
    """The payment service does not answer."""

    def __init__(self):
        super().__init__("The payment service is not available. Nothing was charged; please try again in a few minutes.")


def invoices_for(link):
    """The invoices of the link's return that its client may see."""
    rows = Invoice.objects.across_firms("the client's own").filter(of=link.of, voided_at=None, total__gt=0).exclude(number="")
    return rows.select_related("of__firm", "of__household", "to", "household")


def begin(link, invoice_id, back):
    """A checkout for what is owed; its `url` is the page of the service, which leads to `back`. Cannot where nothing is owed."""
    with transaction.atomic():
        invoice = invoices_for(link).select_for_update(of=("self",)).filter(pk=invoice_id).first()
        if invoice is None:
            raise Cannot("There is no such invoice. Please open the newest link.")
        if invoice.open <= 0:
            raise Cannot("This invoice is paid. Thank you.")
        made = invoice.checkouts.filter(state=Checkout.State.OPEN, amount=invoice.open).first()
        if made is None:
            made = Checkout.objects.create(
                firm=invoice.firm, invoice=invoice, client=link.client, amount=invoice.open, key=secrets.token_urlsafe(24)
            )
    if not made.url:
        asked = {"key": made.key, "amount": str(made.amount), "currency": pack_of(invoice.of).currency_code,
                 "what": f"{invoice.of.firm.name}, invoice {invoice.number}", "back": back}  # fmt: skip
        reply = _call("POST", "/payments", asked)
        made.name, made.url = reply["id"], reply["url"]
        made.save(update_fields=["name", "url"])
    return made


def ask(checkout_id):
    """What the service says of a checkout, taken over: a payment that was made counts once, whoever asks."""
    rows = Checkout.objects.across_firms("what the service says decides")
    found = rows.get(pk=checkout_id)
    if found.state != Checkout.State.OPEN:
        return found
    says = _call("GET", f"/payments/{found.name}") if found.name else {"state": "unknown"}
    with transaction.atomic():
        invoice = Invoice.objects.across_firms("its payment").select_for_update().get(pk=found.invoice_id)
        found = rows.select_for_update(of=("self",)).select_related("client", "invoice__of__firm").get(pk=checkout_id)
        if found.state == Checkout.State.OPEN:
            _take(found, invoice, says)
    return found


def _take(found, invoice, says):
    if says["state"] == "paid":
        paid, firm = Decimal(says["amount"]), found.invoice.of.firm
        Payment.objects.create(
            firm_id=found.firm_id, invoice=invoice, amount=paid, day=firm.today(), manner=Manner.GATEWAY,
            reference=says["reference"][:60], checkout=found,
        )  # fmt: skip
        found.state = Checkout.State.PAID
        settle(invoice)
        says_so = f"{invoice.number}: {paid:,}, {says['reference']}"
        record(None, "invoice paid", found.invoice.of, says=says_so, by=found.client.full_name)
    elif says["state"] == "declined":
        found.state = Checkout.State.DECLINED
        record(None, "payment declined", found.invoice.of, says=invoice.number, by=found.client.full_name)
    elif found.made_at < timezone.now() - timedelta(hours=HOURS):
        found.state = Checkout.State.ENDED
    found.save(update_fields=["state"])


def ask_all():
    """Every checkout that is open. How many were settled."""
    rows = Checkout.objects.across_firms("background work").filter(state=Checkout.State.OPEN)
    settled = 0
    for pk in rows.order_by("pk").values_list("pk", flat=True):
        try:
            settled += ask(pk).state != Checkout.State.OPEN
        except PaymentAway:
            break
    return settled


def _call(method, path, body=None):
    headers = {"Authorization": f"Bearer {settings.PAYMENT_KEY}"}
    try:
        reply = outside.call(method, settings.PAYMENT_URL + path, json=body, headers=headers)
        if reply.status_code == 404:
            return {"state": "unknown"}
        if reply.status_code >= 400:
            raise PaymentAway
        return reply.json()
    except (outside.Away, ValueError) as error:
        raise PaymentAway from error
