"""Pages for what went wrong that need nothing: no database, no session, no signed-in person."""

import sys

from django.db import OperationalError
from django.http import HttpResponse
from django.template.loader import get_template
from psycopg import errors

_AWAY = "The database is not responding. Nothing is lost; it is retried."
_LOCKED = "Someone else has been saving in this return for too long, so this was not done. Nothing is lost; try again."
_TOO_LONG = "This took too long and was stopped. Nothing was changed. Ask for less at once, or try again in a quiet minute."


def failed(request, status, title, says):
    """A page, or for htmx its fragment, made from the words alone."""
    small = request.headers.get("HX-Request") == "true"
    template = get_template("web/_refused.html" if small else "web/failed.html")
    return HttpResponse(template.render({"title": title, "says": says, "status": status}), status=status)


def out_of_reach(request, error):
    """503 for a database that is away, and for what its limits of time stopped."""
    cause = error.__cause__
    says = (
        _LOCKED if isinstance(cause, errors.LockNotAvailable) else _TOO_LONG if isinstance(cause, errors.QueryCanceled) else _AWAY
    )
    return failed(request, 503, "Not saved", says)


def handler500(request):
    """What nobody caught: a database that went away in the middle of it is 503, anything else is our fault."""
    error = sys.exc_info()[1]
    if isinstance(error, OperationalError):
        return out_of_reach(request, error)
    return failed(
        request,
        500,
        "This failed",
        "A program error occurred. Nothing was changed; it is logged. Try again, or do it another way.",
    )
