"""Policy headers, and refusals turned into pages and events."""

import re

from django.conf import settings
from django.db import DataError, OperationalError
from django.shortcuts import render
from django.utils.cache import patch_cache_control

from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.returns.changing import Settled
from practice.returns.computing import alone_with
from practice.returns.entry import FieldGone, NoSuchField
from practice.signing.needed import CannotSign
from practice.web.errors import failed, out_of_reach
from taxcore.engine import BadValue

_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; "
    "form-action 'self'; frame-ancestors 'none'; base-uri 'none'; manifest-src 'self'"
)


def content_policy(get_response):
    """No inline script or style, nothing from elsewhere; pages with clients' data are not kept by caches."""

    def middleware(request):
        response = get_response(request)
        response["Content-Security-Policy"] = _POLICY
        response["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()"
        if not request.path.startswith(settings.STATIC_URL):
            patch_cache_control(response, private=True, no_store=True)
        return response

    return middleware


_OF_A_RETURN = re.compile(r"/returns/(\d+)/")


def one_return_at_a_time(get_response):
    """Requests about one return take turns within this process and share its computed result."""

    def middleware(request):
        found = _OF_A_RETURN.match(request.path)
        if found is None:
            return get_response(request)
        with alone_with(int(found[1])):
            return get_response(request)

    return middleware


def plain_requests(get_response):
    """Addresses and forms hold nothing that the database cannot store. A paper's field refuses it itself, at its place."""

    def middleware(request):
        if _refused_in(request):
            return failed(request, 400, "Not done", _REFUSED_SAYS)
        return get_response(request)

    return middleware


_REFUSED_SAYS = (
    "What was typed holds a character that cannot be stored, such as a NUL or half of a character. Nothing was changed. Go back, "
    "type it again, and send it once more."
)
_UNSTORABLE = re.compile("[\0\ud800-\udfff]")


def _refused_in(request):
    given = [request.path, *request.GET.values(), *request.GET.keys()]
    if request.method == "POST" and request.content_type != "multipart/form-data" and not request.path.endswith("/field"):
        given += [*request.POST.values(), *request.POST.keys()]
    return any(_UNSTORABLE.search(text) for text in given)


class refusals:
    """Refused → 403, NotOfThisFirm → 404, Settled → 409, database away → 503; each says what happened."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_exception(self, request, exception):
        if isinstance(exception, Refused):
            says = exception.says
            record(exception.actor, "refused", says=f"{exception.action}: {says}", path=request.path)
            return self._page(request, 403, "That is not for your role", says)
        if isinstance(exception, NotOfThisFirm):
            record(exception.actor, "refused", says=f"not of this firm: {exception}", path=request.path)
            return self._page(request, 404, "Nothing here", "There is nothing at this address in your practice.")
        if isinstance(exception, FieldGone):
            return self._page(request, 410, "Not saved", exception.says)
        if isinstance(exception, NoSuchField):
            return self._page(request, 404, "Nothing here", "This field or paper is not on the return any more. Reload the page.")
        if isinstance(exception, (Settled, CannotSign)):
            return self._page(request, 409, "Not done", exception.says)
        if isinstance(exception, OperationalError):
            return out_of_reach(request, exception)
        if isinstance(exception, DataError):
            return self._page(request, 404, "Nothing here", "There is nothing at this address in your practice.")
        if isinstance(exception, BadValue):
            return self._page(request, 422, "Not done", exception.says)
        return None

    def _page(self, request, status, title, says):
        template = "web/_refused.html" if request.htmx else "web/refused.html"
        return render(request, template, {"title": title, "says": says, "status": status}, status=status)
