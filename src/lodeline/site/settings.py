"""Settings. What differs between installations comes from the environment, with safe defaults."""

import os
import secrets
from pathlib import Path

from lodeline.api.limits import MOST_OF_ALL
from lodeline.site.data import DATABASE, data_folder
from lodeline.site.logs import configuration, level

BASE = Path(__file__).resolve().parents[3]
LODELINE_DATA = data_folder()
DEMO = os.environ.get("LODELINE_DEMO") == "1"
DEBUG = False


def _secret() -> str:
    """The signing key: made on the first start, and where it is empty; kept beside the data, readable by its owner."""
    path = LODELINE_DATA / "secret_key"
    if not path.is_file() or not path.read_text().strip():
        part = path.with_name(f".secret_key-{os.getpid()}")
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
            file.write(secrets.token_urlsafe(50))
        os.replace(part, path)
    return path.read_text().strip()


SECRET_KEY = _secret()
# the code with which the first account is made, where a network is served
CLAIM = os.environ.get("LODELINE_CLAIM", "")
_HOSTS = [host.strip() for host in os.environ.get("LODELINE_HOSTS", "").split(",")]
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]", *filter(None, _HOSTS)]
HTTPS = os.environ.get("LODELINE_HTTPS") == "1"
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "lodeline.logbook",
    "lodeline.accounts",
]
MIDDLEWARE = [
    "lodeline.site.logs.RequestLog",
    "lodeline.site.answers.ApiForm",
    "django.middleware.security.SecurityMiddleware",
    # before what serves files, so that these have their heads too
    "csp.middleware.CSPMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "lodeline.site.reader.Reader",
    "lodeline.site.older.AsOf",
]
ROOT_URLCONF = "lodeline.site.urls"
WSGI_APPLICATION = "lodeline.site.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "lodeline.site.turns",
        "NAME": LODELINE_DATA / DATABASE,
        # opening one takes as long as what most requests ask of it
        "CONN_MAX_AGE": 300,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 8,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON; "
            # the log is shortened by whoever has written, after their turn; its file too, so that its size says so
            "PRAGMA wal_autocheckpoint=0; PRAGMA journal_size_limit=1048576;",
        },
    }
}
# what is derived from the log is shared by the server's workers; it may be thrown away at any time
CACHES = {
    "default": {
        "BACKEND": "lodeline.logbook.common.Common",
        "LOCATION": LODELINE_DATA / "cache",
        "OPTIONS": {"MAX_ENTRIES": 50_000},
    }
}
PASSWORD_HASHERS = ["lodeline.accounts.hashing.Argon2"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in ("UserAttributeSimilarityValidator", "MinimumLengthValidator", "CommonPasswordValidator")
]
USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False
DATA_UPLOAD_MAX_MEMORY_SIZE = MOST_OF_ALL

WEB = BASE / "web" / "dist"
WHITENOISE_ROOT = WEB if WEB.is_dir() else None  # before it is built there is nothing to serve
STATIC_URL = "/static/"
WHITENOISE_MAX_AGE = 60
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8,}\..+$"

SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_AGE = 60 * 60 * 24 * 90
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_SSL_REDIRECT = HTTPS
SECURE_REDIRECT_EXEMPT = [r"^api/health$"]
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365 if HTTPS else 0
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        # the style library writes its rules into the page
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:"],
        "object-src": ["'none'"],
        "base-uri": ["'self'"],
        "frame-ancestors": ["'none'"],
        "form-action": ["'self'"],
    }
}
LOGGING = configuration(level())
