"""Settings from the environment; the launcher sets it. Nothing is guessed: a missing value stops the start."""

from __future__ import annotations

import os
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

ROOT = Path(__file__).resolve().parents[3]
WEB = ROOT / "web" / "dist"

SECRET_KEY = os.environ["INSTAVIS_SECRET_KEY"]
DEBUG = False
SECURE = os.environ.get("INSTAVIS_HTTPS") == "1"
ALLOWED_HOSTS = os.environ.get("INSTAVIS_HOSTS", "127.0.0.1,localhost").split(",")
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("INSTAVIS_ORIGINS", "").split(",") if o]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "channels",
    "csp",
    "ninja",
    "instavis.accounts",
    "instavis.lessons",
    "instavis.capture.shots",
    "instavis.capture.devices",
    "instavis.capture.files",
    "instavis.knowledge",
    "instavis.assessment.findings",
    "instavis.assessment.recordings",
    "instavis.assessment.stills",
    "instavis.corrections",
    "instavis.corrections.trials",
    "instavis.display.screens",
    "instavis.practice",
    "instavis.archives",
    "instavis.demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "instavis.platform.limits.UploadLimitMiddleware",
    "instavis.platform.errors.DatabaseAwayMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "instavis.platform.language.LanguageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "instavis.project.urls"
ASGI_APPLICATION = "instavis.project.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [WEB],
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]
AUTH_USER_MODEL = "people.Coach"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.Argon2PasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("INSTAVIS_DB_NAME", "instavis"),
        "USER": os.environ.get("INSTAVIS_DB_USER", "instavis"),
        "PASSWORD": os.environ["INSTAVIS_DB_PASSWORD"],
        "HOST": "127.0.0.1",
        "PORT": os.environ["INSTAVIS_DB_PORT"],
        # Persistent connections pile up under an ASGI server's threads.
        "CONN_MAX_AGE": 0,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET time_zone='+00:00', sql_mode='STRICT_TRANS_TABLES,ERROR_FOR_DIVISION_BY_ZERO,"
            "NO_ZERO_DATE,NO_ZERO_IN_DATE,NO_ENGINE_SUBSTITUTION'",
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_uca1400_ai_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

STATIC_URL = "/static/"
STATIC_ROOT = os.environ.get("INSTAVIS_STATIC_ROOT", str(ROOT / ".instavis" / "static"))
STATICFILES_DIRS = [WEB] if WEB.is_dir() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
# Vite names its files with a hash: they may be kept for good.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+[.-][0-9a-zA-Z_-]{8}\.\w+$"

CHANNEL_LAYERS = {"default": {"BACKEND": "channels.layers.InMemoryChannelLayer"}}

MOST_UPLOAD_BYTES = 10 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = MOST_UPLOAD_BYTES
FILE_UPLOAD_HANDLERS = [
    "django.core.files.uploadhandler.MemoryFileUploadHandler",
    "django.core.files.uploadhandler.TemporaryFileUploadHandler",
]
# Files on their way in wait here until their columns are confirmed, a day at most.
DRAFTS_ROOT = os.environ.get("INSTAVIS_DRAFTS", str(ROOT / ".instavis" / "drafts"))

# One process serves everybody (docs/decisions/3-one-process.md): its memory may hold what the database does.
SESSION_ENGINE = "django.contrib.sessions.backends.cached_db"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE
CSRF_COOKIE_NAME = "instavis_csrf"
SESSION_COOKIE_NAME = "instavis_session"
CSRF_FAILURE_VIEW = "instavis.platform.errors.csrf_failure"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
if SECURE:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 31_536_000

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        # The nonce is for the one style element that dialogs need to stop the page behind from scrolling.
        "style-src": [SELF, NONCE],
        "font-src": [SELF],
        "img-src": [SELF, "data:", "blob:"],
        # A video stays in the browser: only the frame the coach grabs is sent.
        "media-src": ["blob:"],
        "connect-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "manifest-src": [SELF],
    }
}

AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
