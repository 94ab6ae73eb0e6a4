"""Calls to the services outside: authorities, identity check, payments, texts. The library is loaded by the first of them."""

from functools import cache

from django.conf import settings


class Away(Exception):
    """There was no answer; says what was raised."""


def call(method, url, **more):
    """One request, with the patience of this practice."""
    import httpx

    try:
        return httpx.request(method, url, timeout=settings.OUTSIDE_TIMEOUT, verify=_certificates(), **more)
    except httpx.HTTPError as error:
        raise Away(type(error).__name__) from error


@cache
def _certificates():
    """Read once: reading them takes longer than most of the calls."""
    import httpx

    return httpx.create_ssl_context()
