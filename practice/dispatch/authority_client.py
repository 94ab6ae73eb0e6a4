"""The HTTP conversation with an authority. Knows no row; says plainly what came back."""

from dataclasses import dataclass, field

from django.conf import settings

from practice.firm import outside


class AuthorityAway(Exception):
    """No usable answer: unreachable, closed, or the answer was lost. Trying again is safe."""


class AuthorityRefuses(Exception):
    """The authority will not take this request, however often it is repeated."""


@dataclass(frozen=True)
class Answer:
    state: str
    faults: list = field(default_factory=list)
    raw: dict = field(default_factory=dict)


def hand_in(authority, year, key, document, what="returns"):
    """Send a document under its key; returns the receipt, the same for the same key. `what` is returns or extensions."""
    url = f"{settings.AUTHORITY_URL}/efile/{authority}/{year}/{what}"
    headers = {"Idempotency-Key": str(key), "Content-Type": "application/xml"}
    return _call("POST", url, headers, document)["receipt"]


def ask(receipt):
    """What became of the document with this receipt."""
    found = _call("GET", f"{settings.AUTHORITY_URL}/efile/receipts/{receipt}", {}, None)
    return Answer(found["state"], found.get("faults", []), found)


def _call(method, url, headers, content):
    headers = headers | {"X-Transmitter-Key": settings.AUTHORITY_KEY}
    try:
        reply = outside.call(method, url, headers=headers, content=content)
    except outside.Away as error:
        raise AuthorityAway(f"no connection ({error})") from error
    if reply.status_code >= 500 or reply.status_code in (408, 425, 429):
        raise AuthorityAway(f"it answered {reply.status_code}")
    if reply.status_code >= 400:
        raise AuthorityRefuses(f"it answered {reply.status_code}: {reply.text[:120]}")
    try:
        return reply.json()
    except ValueError as error:
        raise AuthorityAway("its answer was not readable") from error
