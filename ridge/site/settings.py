"""Settings for three modes, chosen by ``RIDGE_MODE``: demo, serve and test. ``DEBUG`` is off in all of them."""

from __future__ import annotations

import os
from pathlib import Path

import dj_email_url
from csp.constants import NONCE, NONE, SELF

from ridge.site.database import database
from ridge.site.secrets import secret_key

ROOT = Path(__file__).resolve().parent.parent.parent
DATA = Path(os.environ.get("RIDGE_DATA", ROOT / "data"))
MODE = os.environ.get("RIDGE_MODE", "demo")
if MODE not in ("demo", "serve", "test"):
    raise SystemExit(f"RIDGE_MODE is demo, serve or test, not {MODE!r}.")
SERVING = MODE == "serve"

DEBUG = False
SECRET_KEY = secret_key(DATA / f"{MODE}-secret.txt") if MODE != "test" else "only-for-tests-" + "0" * 40
ALLOWED_HOSTS = os.environ.get("RIDGE_HOSTS", "").split() if SERVING else ["127.0.0.1", "localhost", "testserver"]
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if SERVING else []

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.messages",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "csp",
    "ridge.accounts",
    "ridge.studies",
    "ridge.classes",
]
MIDDLEWARE = [
    "ridge.site.for_the_host.ForTheHost",
    "ridge.site.watch.Watched",
    "ridge.site.answers.OfTheApi",
    "csp.middleware.CSPMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "ridge.site.in_turn.InTurn",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "ridge.accounts.sign_of_user.DecimalSign",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "ridge.site.urls"
WSGI_APPLICATION = "ridge.site.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "ridge" / "site" / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "csp.context_processors.nonce",
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]

DATABASES = {"default": database(DATA, MODE)}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
DATA.mkdir(parents=True, exist_ok=True)

AUTH_USER_MODEL = "accounts.User"
PASSWORD_HASHERS = ["ridge.site.hashing.PatientHasher"]
AUTHENTICATION_BACKENDS = ["ridge.accounts.attempts.PatientBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in ("UserAttributeSimilarityValidator", "MinimumLengthValidator", "CommonPasswordValidator")
]
PASSWORD_RESET_TIMEOUT = 24 * 3600
OUTBOX = MODE == "demo"
"""The demo keeps its letters in a folder and shows them."""
if OUTBOX:
    EMAIL_BACKEND, EMAIL_FILE_PATH = "django.core.mail.backends.filebased.EmailBackend", DATA / "letters"
elif address := os.environ.get("RIDGE_MAIL", ""):
    mail = {**dj_email_url.parse(address), "EMAIL_TIMEOUT": 20}
    globals().update(mail)
    DEFAULT_FROM_EMAIL = os.environ.get("RIDGE_MAIL_FROM", mail["EMAIL_HOST_USER"])
else:
    EMAIL_BACKEND = ""
# A guest's studies belong to this signed cookie: it lasts for 90 days from the last visit.
SESSION_ENGINE = "ridge.accounts.sessions"
SESSION_COOKIE_AGE = 90 * 24 * 3600
SESSION_SAVE_EVERY_REQUEST = True
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_NAME = f"ridge-{MODE}-session"
CSRF_COOKIE_NAME = f"ridge-{MODE}-csrf"
CSRF_FAILURE_VIEW = "ridge.site.views.csrf_failure"

if SERVING:
    # A TLS proxy stands in front and sets this header on every request (README, "Serving it").
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_SSL_REDIRECT = True
    # Browsers keep to TLS for this host; for those below it, and before a first visit, only where its owner says so.
    SECURE_HSTS_SECONDS = int(os.environ.get("RIDGE_HSTS_DAYS", "365")) * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = os.environ.get("RIDGE_HSTS_SUBDOMAINS") == "1"
    SECURE_HSTS_PRELOAD = os.environ.get("RIDGE_HSTS_PRELOAD") == "1"
    SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "frame-src": [SELF],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

# The long lane (ridge.site.lane): in tests of single requests there is none.
LANE = MODE != "test"
LANE_BODY = 300_000
"""Bytes of a request from which on it takes the long lane."""
LANE_ROWS = 5000
"""Rows of a study from which on all its requests do."""
LANE_ROOM, LANE_ROOM_EACH = 12, 6
"""Requests that wait or are under way for each of the two server processes: in all, and of one person."""
LANE_SECONDS = 60
"""Seconds of processor time that a request may take there."""
LANE_LARGE = 600 << 20
"""Bytes that a process of the lane may still hold after a request; one that holds more is replaced."""
LANE_MEMORY = 4 << 30

# What one person, or one address, may have or do; said when it is reached.
STUDIES_EACH = int(os.environ.get("RIDGE_STUDIES_EACH", "1000"))
"""Studies of one person, those in the bin among them."""
BYTES_EACH = int(os.environ.get("RIDGE_MEGABYTES_EACH", "400")) * 1_000_000
"""Of all studies of one person with their histories, pictures apart."""
REQUESTS_A_MINUTE = int(os.environ.get("RIDGE_REQUESTS_A_MINUTE", "3000" if MODE != "test" else "1000000"))
"""Of one person to each of the two server processes; a hand that drags makes up to 30 a second."""
GUESTS_A_MINUTE = int(os.environ.get("RIDGE_GUESTS_A_MINUTE", "120" if MODE != "test" else "1000000"))
"""New guests from one address to each of the two server processes: a class behind one address begins within a minute."""

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "static"
STATICFILES_DIRS = [ROOT / "web" / "dist"] if (ROOT / "web" / "dist").exists() else []
# Vite's names carry a hash of the content, so they may be kept for good.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+$"
WHITENOISE_ALLOW_ALL_ORIGINS = False
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
VITE_MANIFEST = ROOT / "web" / "dist" / "manifest.json"

# A hundred thousand pasted rows fit; much more is refused before it is read.
DATA_UPLOAD_MAX_MEMORY_SIZE = 24 * 1024 * 1024
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"
TEST_RUNNER = "tests.runner.CountingRunner"
SLOW = float(os.environ.get("RIDGE_SLOW_SECONDS", "2"))
"""Seconds from which on it is noted where the time of a request went."""
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"dated": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "dated"}},
    "loggers": {
        "ridge": {"handlers": ["console"], "level": {"serve": "INFO", "test": "ERROR"}.get(MODE, "WARNING")},
        "django": {"handlers": ["console"], "level": "CRITICAL" if MODE == "test" else "WARNING", "propagate": False},
    },
}
