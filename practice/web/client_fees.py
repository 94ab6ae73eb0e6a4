"""The client's invoices in the portal, paid with the payment service."""

from django.conf import settings
from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.fees import paying
from practice.fees.tasks import read_invoice
from practice.firm.refusals import Cannot
from practice.web.client_pages import client_only, portal_page


def _invoice(link, invoice_id):
    found = paying.invoices_for(link).prefetch_related("lines", "payments").filter(pk=invoice_id).first()
    if found is None:
        raise Http404
    return found


@client_only
def invoice(request, invoice_id, status=200, **more):
    """What it is for, what was paid, and the way to pay what is owed."""
    found = _invoice(request.link, invoice_id)
    begun = found.checkouts.filter(state="open").exclude(url="").last()
    context = portal_page(request.link) | {"invoice": found, "begun": begun, "payments": found.payments.filter(back_at=None)}
    return render(request, "portal/invoice.html", context | more, status=status)


@require_POST
@client_only
def pay(request, invoice_id):
    """A payment is begun; the page then leads to the payment service by a link, since a form may only lead to ourselves."""
    back = settings.PUBLIC_URL + reverse("portal-paid", args=[invoice_id])
    try:
        paying.begin(request.link, invoice_id, back)
    except Cannot as cannot:
        return invoice(request, invoice_id, 409, refused=cannot.says)
    return redirect("portal-invoice", invoice_id)


@client_only
def came_back(request, invoice_id):
    """From the payment service: what it says counts."""
    found = _invoice(request.link, invoice_id)
    last = found.checkouts.last()
    if last is not None:
        try:
            state = paying.ask(last.pk).state
        except paying.PaymentAway:
            messages.error(request, "The payment service does not answer. If you have paid, it will show here in a few minutes.")
        else:
            says = {"paid": "Thank you. Your payment was received.", "declined": "The card was declined. Nothing was paid."}
            messages.success(request, says.get(state, "Nothing was paid yet."))
    return redirect("portal-invoice", invoice_id)


@client_only
def pdf(request, invoice_id):
    found = _invoice(request.link, invoice_id)
    if not found.file:
        raise Http404
    response = HttpResponse(read_invoice(found), content_type="application/pdf")
    response["Content-Disposition"] = f'attachment; filename="invoice-{found.number}.pdf"'
    return response
