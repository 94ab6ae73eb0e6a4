"""Names and addresses as return headers take them: letters without marks, digits, blanks and hyphens. Pub. 4164.

Only the filed document is written so; everywhere else a client's own spelling stays.
"""

import re

from anyascii import anyascii

_NOT_IN_NAMES = re.compile(r"[^A-Za-z -]")
_NOT_IN_ADDRESSES = re.compile(r"[^A-Za-z0-9 /-]")


def header_name(text: str) -> str:
    """Béland → Beland, O’Brien → OBrien; empty where nothing of it can be written."""
    return _tidy(_NOT_IN_NAMES.sub("", anyascii(text)))


def header_address(text: str) -> str:
    """12 ½ Rue d’Été, Nº 3 → 12 1/2 Rue dEte No 3."""
    return _tidy(_NOT_IN_ADDRESSES.sub("", anyascii(text)))


def _tidy(text: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"\s*-\s*", "-", text)).strip(" -")
