"""Encryption of what must not be read from a stolen disk or dump: taxpayer numbers, accounts, frozen documents.

Fernet (AES-128-CBC with HMAC-SHA-256). The first key encrypts, all keys decrypt, so that keys can be turned over.
"""

import hashlib
import hmac
from functools import lru_cache

from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings
from django.db import models

MARK = "enc:"


@lru_cache(maxsize=1)
def _cipher():
    return MultiFernet([Fernet(key) for key in settings.FIELD_KEYS])


def seal(text: str) -> str:
    """Encrypted text; the empty string stays empty."""
    return MARK + _cipher().encrypt(text.encode()).decode() if text else ""


def unseal(text: str) -> str:
    """Plain text of what `seal` made; anything else comes back as it is."""
    return _cipher().decrypt(text[len(MARK) :].encode()).decode() if is_sealed(text) else text


def is_sealed(text) -> bool:
    return isinstance(text, str) and text.startswith(MARK)


def seal_bytes(content: bytes) -> bytes:
    return _cipher().encrypt(content)


def unseal_bytes(content: bytes) -> bytes:
    return _cipher().decrypt(bytes(content))


def digest(firm_id: int, text: str) -> str:
    """A keyed fingerprint, to find an encrypted number within one firm without decrypting every row."""
    key = settings.FIELD_KEYS[-1].encode()
    return hmac.new(key, f"{firm_id}:{text}".encode(), hashlib.sha256).hexdigest()


def masked(number: str) -> str:
    """Only the last four characters: •••-••-1234."""
    plain = "".join(character for character in number if character.isalnum())
    return f"•••-••-{plain[-4:]}" if len(plain) == 9 else "•" * max(len(plain) - 4, 0) + plain[-4:]


class SealedField(models.TextField):
    """Text that is encrypted in the database and plain in Python."""

    def from_db_value(self, value, expression, connection):
        return unseal(value) if value else value

    def get_prep_value(self, value):
        value = super().get_prep_value(value)
        return seal(value) if value and not is_sealed(value) else value
