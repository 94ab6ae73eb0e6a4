"""Encryption of what must not be read from a stolen disk or dump: taxpayer numbers, accounts, frozen documents.

Fernet (AES-128-CBC with HMAC-SHA-256). The first key encrypts, all keys decrypt, so that keys can be turned over.
"""

import hashlib
import hmac
import re
from functools import lru_cache

from cryptography.fernet import Fernet, InvalidToken, MultiFernet
from django.conf import settings
from django.db import models

SEALED = "sealed"  # the only key of a sealed value inside a JSON object: nothing that is typed can have that shape
_MARK = "enc:"  # before the token in a column whose every value is sealed


@lru_cache(maxsize=1)
def _cipher():
    return MultiFernet([Fernet(key) for key in settings.FIELD_KEYS])


class CannotUnseal(ValueError):
    """A sealed value that no key of this installation opens."""


def seal_text(text: str) -> str:
    """Encrypted text, for a place whose every value is sealed; the empty string stays empty."""
    return _cipher().encrypt(text.encode()).decode() if text else ""


def unseal_text(token: str) -> str:
    """Plain text of what `seal_text` made. CannotUnseal for anything else."""
    try:
        return _cipher().decrypt(token.encode()).decode() if token else ""
    except InvalidToken as error:
        raise CannotUnseal(token[:16]) from error


def seal(text: str):
    """A sealed value for a JSON object that holds plain ones too; the empty string stays empty."""
    return {SEALED: seal_text(text)} if text else ""


def unseal(value):
    """Plain text of what `seal` made; anything else is returned as it is. CannotUnseal where no key opens it."""
    return unseal_text(value[SEALED]) if is_sealed(value) else value


def is_sealed(value) -> bool:
    """Whether a value of a JSON object is sealed: told by its shape."""
    return isinstance(value, dict) and value.keys() == {SEALED} and isinstance(value[SEALED], str)


def seal_bytes(content: bytes) -> bytes:
    return _cipher().encrypt(content)


def unseal_bytes(content: bytes) -> bytes:
    return _cipher().decrypt(bytes(content))


def plain_number(text):
    """Letters and digits of a number as somebody may be known by, however it was written."""
    return "".join(one for one in str(text).upper() if one.isascii() and one.isalnum())


def digest(firm_id: int, text: str) -> str:
    """A keyed fingerprint, to find an encrypted number within one firm without decrypting every row."""
    return hmac.new(settings.DIGEST_KEY.encode(), f"{firm_id}:{text}".encode(), hashlib.sha256).hexdigest()


_OF_ENTITY = re.compile(r"\d{2}-\d{7}")


def masked(number: str) -> str:
    """Only the last four characters: •••-••-1234 of a person, ••-•••1234 of an entity that writes its number so."""
    plain = "".join(character for character in number if character.isalnum())
    if _OF_ENTITY.fullmatch(number):
        return f"••-•••{plain[-4:]}"
    return f"•••-••-{plain[-4:]}" if len(plain) == 9 and plain.isdigit() else "•" * max(len(plain) - 4, 0) + plain[-4:]


class SealedField(models.TextField):
    """Text that is encrypted in the database and plain in Python."""

    def from_db_value(self, value, expression, connection):
        return unseal_text(value.removeprefix(_MARK)) if value else value

    def get_prep_value(self, value):
        value = super().get_prep_value(value)
        return _MARK + seal_text(value) if value else value
