"""Small pages of no other part: health, theme, errors."""

from django.db import connection
from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_POST

from practice.pages.back import back_or


def healthy(request):
    """For load balancers and the start command: the pages are up and the database answers."""
    with connection.cursor() as cursor:
        cursor.execute("select 1")
    return HttpResponse("yes", content_type="text/plain")


@require_POST
def theme(request):
    """Light, dark, or as the machine has it; kept in a cookie."""
    response = HttpResponse(status=303, headers={"Location": back_or(request, "/")})
    chosen = request.POST.get("theme", "")
    response.set_cookie("theme", chosen if chosen in ("light", "dark") else "", max_age=31_536_000, samesite="Lax", httponly=True)
    return response


def not_found(request, exception=None):
    return render(
        request, "web/refused.html", {"title": "Page not found", "says": "There is no page at this address."}, status=404
    )
