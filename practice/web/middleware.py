"""Policy headers, and refusals turned into pages and events."""

import re
from ipaddress import ip_address

from django.conf import settings
from django.db import DataError, OperationalError
from django.shortcuts import render
from django.utils.cache import patch_cache_control

from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.returns.computing import alone_with
from practice.returns.entry import FieldGone, NoSuchField
from practice.web.errors import failed, out_of_reach
from taxcore.engine import BadValue

_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; "
    "form-action 'self'; frame-ancestors 'none'; base-uri 'none'; manifest-src 'self'"
)


def real_address(get_response):
    """The client's own address where the request came through proxies that the settings name; nobody else's word counts."""

    def middleware(request):
        if request.META.get("REMOTE_ADDR") in settings.PROXIES:
            said = [one.strip() for one in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")]
            strangers = [one for one in said if one and one not in settings.PROXIES]
            if strangers and _is_address(strangers[-1]):
                request.META["REMOTE_ADDR"] = strangers[-1]
        return get_response(request)

    return middleware


def _is_address(text):
    try:
        return bool(ip_address(text))
    except ValueError:
        return False


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


_OPENS_FILES = re.compile(r"/(attach|page/\d+\.png|import)$")  # these wait for another process and need no result meanwhile
_OF_A_RETURN = re.compile(r"/returns/(\d+)/")


def one_return_at_a_time(get_response):
    """Requests about one return take turns within this process and share its computed result."""

    def middleware(request):
        found = _OF_A_RETURN.match(request.path)
        if found is None or _OPENS_FILES.search(request.path):
            return get_response(request)
        with alone_with(int(found[1])):
            return get_response(request)

    return middleware


MOST_SENT = 25_000_000  # bytes of one request by somebody who is signed in
MOST_SENT_BY_STRANGERS = 600_000  # a drawn signature is half of it


def upload_limit(get_response):
    """How much may be sent, judged before any of it is read; what does not say how much it is, is not read at all."""

    def middleware(request):
        if request.method in ("POST", "PUT", "PATCH"):
            length = request.META.get("CONTENT_LENGTH") or ""
            if not length and "chunked" in request.META.get("HTTP_TRANSFER_ENCODING", "").lower():
                return failed(request, 411, "Not taken", "The request does not say how long it is.")
            known = request.user.is_authenticated or _sends_pages(request)
            most = MOST_SENT if known else MOST_SENT_BY_STRANGERS
            if length.isascii() and length.isdigit() and int(length) > most:
                says = f"That is {int(length) / 1e6:,.0f} MB; up to {most / 1e6:,.1f} MB can be sent at once."
                return failed(request, 413, "Too large", says)
        return get_response(request)

    return middleware


def _sends_pages(request):
    """Whether a client who proved who they are sends pages that were asked for."""
    return request.path.startswith("/portal/asked/") and "portal" in request.session


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
    """Refused → 403, NotOfThisFirm → 404, what cannot be done → 409, database away → 503; each says what happened."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_exception(self, request, exception):
        if isinstance(exception, Refused):
            says = exception.says
            record(exception.actor, "refused", says=f"{exception.action}: {says}", path=request.path)
            return self._page(request, 403, "Not allowed for your role", says)
        if isinstance(exception, NotOfThisFirm):
            record(exception.actor, "refused", says=f"not of this firm: {exception}", path=request.path)
            return self._page(request, 404, "Page not found", "There is no such page in your practice.")
        if isinstance(exception, FieldGone):
            return self._page(request, 410, "Not saved", exception.says)
        if isinstance(exception, NoSuchField):
            return self._page(
                request, 404, "Not on this return", "This field or paper is no longer on the return. Reload the page."
            )
        if isinstance(exception, Cannot):
            return self._page(request, 409, "Not done", exception.says)
        if isinstance(exception, OperationalError):
            return out_of_reach(request, exception)
        if isinstance(exception, DataError):
            says = "The database can neither find nor keep what was sent: it is too long or too large. Nothing was changed."
            return self._page(request, 400, "Not done", says)
        if isinstance(exception, BadValue):
            return self._page(request, 422, "Not done", exception.says)
        return None

    def _page(self, request, status, title, says):
        template = "web/_refused.html" if request.htmx else "web/refused.html"
        return render(request, template, {"title": title, "says": says, "status": status}, status=status)
