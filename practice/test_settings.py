"""Settings of the unit tests: the same, with quick hashing, plain static files and a throwaway data folder."""

import gc
import os
import tempfile
from pathlib import Path

from cryptography.fernet import Fernet

gc.set_threshold(500_000, 10, 10)  # results are circles: looking for them more often takes a fifth of all tests' time

_TEMPORARY = tempfile.mkdtemp(prefix="impuesto-test-")
os.environ.setdefault("IMPUESTO_SECRET_KEY", "only for tests " * 4)
os.environ.setdefault("IMPUESTO_FIELD_KEYS", Fernet.generate_key().decode())
os.environ.setdefault("IMPUESTO_DIGEST_KEY", "only for tests")
os.environ.setdefault("IMPUESTO_AUTHORITY_KEY", "only for tests")
os.environ.setdefault("IMPUESTO_PAYMENT_KEY", "only for tests")
os.environ.setdefault("IMPUESTO_TEXT_KEY", "only for tests")
os.environ.setdefault("IMPUESTO_MAIL_IN_KEY", "only for tests")
os.environ.setdefault("IMPUESTO_SET_UP_KEY", "only-for-tests")

from practice.settings import *  # noqa: E402, F403
from practice.settings import STORAGES  # noqa: E402

DATA = Path(_TEMPORARY)
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
STORAGES = STORAGES | {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage", "OPTIONS": {"location": DATA / "files"}},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
SECURE_SSL_REDIRECT = False
