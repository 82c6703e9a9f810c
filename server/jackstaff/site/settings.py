"""Settings, all from the environment; every default is safe on one's own machine.

JACKSTAFF_DATA_DIR     where the database and the secret key live (default ./var)
DATABASE_URL           PostgreSQL in place of the database file (docs/scale.md)
JACKSTAFF_DEMO=1       sign a first local visit in as the demo account
JACKSTAFF_HOSTS        comma-separated host names to answer besides the local ones
JACKSTAFF_PROXIES      how many proxies of one's own stand in front, speaking TLS (default 0)
JACKSTAFF_CERT, _KEY   certificate and key, where this server speaks TLS itself (make serve sets them)
JACKSTAFF_AUTHORITY    the certificate that phones are told to trust, where it is this machine's own
JACKSTAFF_SERVED_AT    the address by which phones reach it
JACKSTAFF_ACCESS_LOG=1 say on the console what was asked and how it went, never by whom
JACKSTAFF_DEV=1        Django's debug pages, for make dev only
"""

import os
import re
from pathlib import Path

from jackstaff.backups.copies import CannotKeep, writable

from .database import database
from .secret import secret_key

ROOT = Path(__file__).resolve().parents[3]
DATA_DIR = Path(os.environ.get("JACKSTAFF_DATA_DIR", ROOT / "var")).resolve()
try:
    writable(DATA_DIR)
except CannotKeep as error:
    raise SystemExit(str(error)) from error
WEB_DIST = ROOT / "web" / "dist"

DEBUG = os.environ.get("JACKSTAFF_DEV") == "1"
DEMO = os.environ.get("JACKSTAFF_DEMO") == "1"
SECRET_KEY = secret_key(DATA_DIR / "secret_key")
LOCAL_HOSTS = ["127.0.0.1", "localhost"]
SERVED_HOSTS = [host for host in os.environ.get("JACKSTAFF_HOSTS", "").split(",") if host]
ALLOWED_HOSTS = LOCAL_HOSTS + SERVED_HOSTS
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in SERVED_HOSTS]

# What a sender claims of addresses counts only from a proxy of one's own; without one it counts for nothing.
NINJA_NUM_PROXIES = int(os.environ.get("JACKSTAFF_PROXIES", "0"))
TLS = (
    (Path(os.environ["JACKSTAFF_CERT"]), Path(os.environ["JACKSTAFF_KEY"])) if "JACKSTAFF_CERT" in os.environ else None
)
AUTHORITY = Path(os.environ["JACKSTAFF_AUTHORITY"]) if "JACKSTAFF_AUTHORITY" in os.environ else None
SERVED_AT = os.environ.get("JACKSTAFF_SERVED_AT", "")
SECURE = bool(NINJA_NUM_PROXIES or TLS)
if NINJA_NUM_PROXIES:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
if SECURE:
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = True
    # Whoever looks after the server asks it from beside it.
    SECURE_REDIRECT_EXEMPT = [r"^api/health$"]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "ninja",
    "jackstaff.records",
    "jackstaff.commands",
]
MIDDLEWARE = [
    # Headers stand above WhiteNoise, or the page and the scripts go out without them.
    "django.middleware.security.SecurityMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "jackstaff.site.headers.SecurityHeaders",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "jackstaff.site.compress.CompressJson",
    "jackstaff.site.faults.WrongMethod",
    "jackstaff.site.deadline.Deadline",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]
X_FRAME_OPTIONS = "DENY"
# Over plain HTTP on one's own machine it would lock the browser out; and with a certificate of one's own it would lock
# every other server of the same name out of that browser.
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365 if SECURE and AUTHORITY is None else 0
# Whether other names below this one speak TLS is not ours to say.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021", *(["security.W004"] if AUTHORITY else [])]
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
ROOT_URLCONF = "jackstaff.site.urls"
WSGI_APPLICATION = "jackstaff.site.wsgi.application"

DATABASES = {"default": database(DATA_DIR, os.environ.get("DATABASE_URL", ""))}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
_VALIDATION = "django.contrib.auth.password_validation"
AUTH_PASSWORD_VALIDATORS = [
    # Short names: the default of 0.7 lets "edda.edda" pass for edda.
    {"NAME": f"{_VALIDATION}.UserAttributeSimilarityValidator", "OPTIONS": {"max_similarity": 0.6}},
    *(
        {"NAME": f"{_VALIDATION}.{name}"}
        for name in ("MinimumLengthValidator", "CommonPasswordValidator", "NumericPasswordValidator")
    ),
]

SESSION_COOKIE_NAME = "jackstaff_session"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 90
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_NAME = "jackstaff_csrf"
CSRF_COOKIE_SAMESITE = "Lax"

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
APPEND_SLASH = False
DATA_UPLOAD_MAX_MEMORY_SIZE = 4_000_000

STATIC_URL = "static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = True
WHITENOISE_MAX_AGE = 0
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json", ".whl": "application/zip"}

# Vite names hashed files NAME-HASH8.ext; only those never change.
_HASHED = re.compile(r"^/assets/.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+$")


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 (WhiteNoise's own name)
    """Return True for a built file whose name carries its content's hash."""
    return bool(_HASHED.match(url))


LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"one_line": {"()": "jackstaff.site.faults.OneLine"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler"},
        "line": {"class": "logging.StreamHandler", "filters": ["one_line"]},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    # Refusals are answers, not events; nor is it one that somebody waits for a moment.
    "loggers": {
        "django.request": {"level": "ERROR"},
        "django.security.DisallowedHost": {"handlers": ["line"], "propagate": False},
    },
}

# Memory-hard, and far quicker to check on a small machine than a million rounds; older passwords move over at sign-in.
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
