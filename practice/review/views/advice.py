"""What the client may do: chosen by the preparer, printed or put into the package."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.events import record
from practice.pages.certifying import certified
from practice.pages.pdf import pdf_of
from practice.returns.page import open_page
from practice.review import advising
from taxcore.engine import BadValue


def advice(request, return_id):
    """Every item, each with its switch."""
    return_, result, context = open_page(request, return_id)
    items = advising.items_of(return_, result)
    context |= {"tab": "review", "sub": "advice", "items": items, "on": sum(one.shown for one in items)}
    return render(request, "review/advice.html", context)


@require_POST
def choose(request, return_id):
    """Switch one item on or off."""
    try:
        advising.choose(request.user, return_id, request.POST.get("item", ""), request.POST.get("shown") == "yes")
    except BadValue as bad:
        messages.error(request, bad.says)
    return redirect("advice", return_id)


def page(request, return_id):
    """The client's page as it will look."""
    return_, result, context = open_page(request, return_id)
    return render(
        request, "review/advice_page.html", context | advising.page_of(return_, result) | {"sub": "advice", "tab": "review"}
    )


def as_pdf(request, return_id):
    return_, result, _ = open_page(request, return_id)
    record(request.user, "advice printed", return_)
    made = certified(return_.firm, pdf_of("delivery/advice.html", advising.page_of(return_, result)), "Advice")
    response = HttpResponse(made, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="advice-{return_.pk}.pdf"'
    return response
