"""Calls to the services outside: authorities, identity check, payments, texts."""

from functools import cache

import httpx
from django.conf import settings


def call(method, url, **more):
    """One request, with the patience of this practice; what httpx raises comes through."""
    return httpx.request(method, url, timeout=settings.OUTSIDE_TIMEOUT, verify=_certificates(), **more)


@cache
def _certificates():
    """Read once: reading them takes longer than most of the calls."""
    return httpx.create_ssl_context()
