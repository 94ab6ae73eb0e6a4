"""Settings. What differs between machines comes from environment variables, which `./impuesto` sets from the data folder."""

import os
from pathlib import Path

BASE = Path(__file__).resolve().parent
DATA = Path(os.environ.get("IMPUESTO_DATA", BASE.parent / "var"))


def _secret(name: str) -> str:
    """A secret of this installation, from the environment or from a file under the data folder that only its owner reads."""
    if value := os.environ.get(f"IMPUESTO_{name.upper()}"):
        return value
    return (DATA / "secrets" / name).read_text().strip()


SECRET_KEY = _secret("secret_key")
# Newest first; older keys still decrypt. See docs/operations.md for turning keys over
FIELD_KEYS = _secret("field_keys").split()
# For fingerprints of numbers, which must stay the same when the field keys are turned over
DIGEST_KEY = _secret("digest_key")
DEBUG = os.environ.get("IMPUESTO_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("IMPUESTO_HOSTS", "localhost 127.0.0.1 [::1]").split()
PUBLIC_URL = os.environ.get("IMPUESTO_PUBLIC_URL", "http://127.0.0.1:8000")
if os.environ.get("IMPUESTO_HTTPS") == "1":
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = True
    CSRF_TRUSTED_ORIGINS = [PUBLIC_URL]
    SECURE_HSTS_SECONDS = 31_536_000
# Addresses of our own proxies: only what these say about a client's address is believed
PROXIES = os.environ.get("IMPUESTO_PROXIES", "").split()

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django.contrib.humanize",
    "django_htmx",
    "axes",
    "procrastinate.contrib.django",
    "practice.web",
    "practice.firm",
    "practice.clients",
    "practice.returns",
    "practice.review",
    "practice.whatif",
    "practice.intake",
    "practice.gather",
    "practice.fees",
    "practice.staff",
    "practice.signing",
    "practice.dispatch",
    "practice.delivery",
    "practice.portal",
    "practice.track",
    "practice.us",
    "practice.seat",
    "practice.demo",
]

MIDDLEWARE = [
    "practice.web.middleware.real_address",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "practice.web.middleware.content_policy",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "practice.web.middleware.upload_limit",
    "practice.web.middleware.plain_requests",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "practice.firm.middleware.staff_only",
    "practice.web.middleware.one_return_at_a_time",
    "practice.web.middleware.refusals",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "practice.urls"
WSGI_APPLICATION = "practice.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.messages.context_processors.messages",
                "practice.web.context.everywhere",
            ],
            "builtins": ["practice.web.templatetags.figures"],
        },
    }
]


def _options() -> dict:
    """A pool where the server wants one; limits of time, in milliseconds, on waiting for a lock and on one statement, where the
    program that runs has them (ops/start.py): set-up and maintenance have none."""
    limits = {name: os.environ.get(f"IMPUESTO_{name.upper()}") for name in ("lock_timeout", "statement_timeout")}
    given = " ".join(f"-c {name}={int(value)}" for name, value in limits.items() if value)
    pool = {"pool": {"min_size": 1, "max_size": 8, "timeout": 10}} if os.environ.get("IMPUESTO_POOL") == "1" else {}
    return pool | ({"options": given} if given else {})


DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("IMPUESTO_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("IMPUESTO_DB_PORT", "5432"),
        "NAME": os.environ.get("IMPUESTO_DB_NAME", "practice"),
        "USER": os.environ.get("IMPUESTO_DB_USER", "impuesto"),
        "PASSWORD": _secret("db_password"),
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": _options(),
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "firm.Staff"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "/sign-in"
LOGIN_REDIRECT_URL = "/"
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_LOCKOUT_CALLABLE = "practice.firm.views.locked_out"
AXES_USERNAME_FORM_FIELD = "username"
AXES_USERNAME_CALLABLE = "practice.firm.views.attempted_name"
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False

SESSION_COOKIE_AGE = 12 * 60 * 60
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

# The kinds of return that this practice makes, for people and for entities, the usual ones first; its country follows
PACKS = os.environ.get("IMPUESTO_PACKS", "us us-1065 us-1120s us-1120").split()
PACK = PACKS[0]  # the kind that is opened where nothing says which
LANGUAGE_CODE, TIME_ZONE = {"uk": ("en-gb", "Europe/London")}.get(PACK, ("en-us", "America/Chicago"))
USE_TZ = True
USE_I18N = False

STATIC_URL = "/static/"
STATIC_ROOT = DATA / "static"
WHITENOISE_KEEP_ONLY_HASHED_FILES = True
STORAGES = {
    "default": {
        "BACKEND": "django.core.files.storage.FileSystemStorage",
        "OPTIONS": {"location": DATA / "files", "base_url": None},
    },
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"},
}
DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

# Outside services, reached the way the real ones would be
EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
EMAIL_HOST = os.environ.get("IMPUESTO_SMTP_HOST", "127.0.0.1")
EMAIL_PORT = int(os.environ.get("IMPUESTO_SMTP_PORT", "2525"))
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = "office@larkspurrow.example"
AUTHORITY_URL = os.environ.get("IMPUESTO_AUTHORITY_URL", "http://127.0.0.1:8600")
AUTHORITY_KEY = _secret("authority_key")
SET_UP_KEY = _secret("set_up_key")  # opens the page that sets up the first practice
PAYMENT_KEY = _secret("payment_key")
TEXT_KEY = _secret("text_key")
TEXT_URL = os.environ.get("IMPUESTO_TEXT_URL", "http://127.0.0.1:8700")
PAYMENT_URL = os.environ.get("IMPUESTO_PAYMENT_URL", "http://127.0.0.1:8700")
IDENTITY_URL = os.environ.get("IMPUESTO_IDENTITY_URL", "http://127.0.0.1:8700")
SCANNER = os.environ.get("IMPUESTO_SCANNER", "")  # host:port of a virus scanner (clamd); none: files are not scanned
# Where documents come in by themselves: a mailbox (pop:// or pops:// USER@HOST:PORT), and a folder that a scanner writes into,
# with a folder in it for each practice, named by its number
MAIL_IN = os.environ.get("IMPUESTO_MAIL_IN", "")
MAIL_IN_KEY = _secret("mail_in_key") if MAIL_IN else ""
MAIL_IN_ADDRESS = os.environ.get("IMPUESTO_MAIL_IN_ADDRESS", "documents-{firm}@larkspurrow.example")
SCAN_FOLDER = os.environ.get("IMPUESTO_SCAN_FOLDER", "")
OUTSIDE_TIMEOUT = 5.0  # seconds for one call to an outside service
SWEEP_SECONDS = min(int(os.environ.get("IMPUESTO_SWEEP_SECONDS", "60")), 60)  # how often jobs are looked for that died
POLL_SECONDS = int(os.environ.get("IMPUESTO_POLL_SECONDS", "5"))  # between two questions about one submission

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"no_tokens": {"()": "practice.firm.logs.NoTokens"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "filters": ["no_tokens"]}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
