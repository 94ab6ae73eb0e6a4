"""Settings of the simulated authorities."""

import os
from pathlib import Path

BASE = Path(__file__).resolve().parent
DATA = Path(os.environ.get("IMPUESTO_DATA", BASE.parent / "var"))


def _secret(name: str) -> str:
    return os.environ.get(f"IMPUESTO_{name.upper()}") or (DATA / "secrets" / name).read_text().strip()


SECRET_KEY = _secret("secret_key")
TRANSMITTER_KEY = _secret("authority_key")
ALLOWED_HOSTS = ["localhost", "127.0.0.1"]
DEBUG = False
INSTALLED_APPS = ["authority"]
MIDDLEWARE = ["django.middleware.security.SecurityMiddleware", "django.middleware.csrf.CsrfViewMiddleware"]
ROOT_URLCONF = "authority.urls"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("IMPUESTO_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("IMPUESTO_DB_PORT", "5432"),
        "NAME": os.environ.get("IMPUESTO_AUTHORITY_DB", "authority"),
        "USER": os.environ.get("IMPUESTO_DB_USER", "impuesto"),
        "PASSWORD": _secret("db_password"),
        "CONN_HEALTH_CHECKS": True,
        "CONN_MAX_AGE": 60,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "America/Chicago"
DATA_UPLOAD_MAX_MEMORY_SIZE = 60_000_000  # documents carry statements
STATIC_URL = "/static/"
SCHEMAS = Path(os.environ.get("IMPUESTO_SCHEMAS") or BASE / "schemas")  # of returns; made at set-up
EXTENSION = BASE / "schemas" / "extension.xsd"
REGISTRY = BASE / "registry" / "demo.json"
WORKING_SECONDS = int(os.environ.get("IMPUESTO_AUTHORITY_SECONDS", "3"))  # from receipt to acknowledgement
