"""Settings from the environment, set by the launcher.

There are no guesses: a missing value stops the start.
"""

from __future__ import annotations

import os
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

from instavis.platform import logs
from instavis.platform.addresses import DatabaseAddress, FilesAddress, MailAddress

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
    "django.contrib.staticfiles",
    "allauth",
    "allauth.account",
    "allauth.mfa",
    "channels",
    "csp",
    "ninja",
    "instavis.accounts",
    "instavis.work",
    "instavis.lessons",
    "instavis.capture.shots",
    "instavis.capture.devices",
    "instavis.capture.files",
    "instavis.capture.bridges",
    "instavis.knowledge",
    "instavis.assessment.findings",
    "instavis.assessment.recordings",
    "instavis.assessment.stills",
    "instavis.assessment.films",
    "instavis.assessment.clips",
    "instavis.assessment.cameras",
    "instavis.assessment.eyes",
    "instavis.corrections",
    "instavis.corrections.trials",
    "instavis.corrections.measured",
    "instavis.display.screens",
    "instavis.practice",
    "instavis.archives",
    "instavis.training",
    "instavis.demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "instavis.platform.answers.AnswersMiddleware",
    "instavis.platform.reading.HalfCharacterMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "instavis.accounts.sessions.SessionAgeMiddleware",
    "allauth.account.middleware.AccountMiddleware",
    "instavis.platform.language.LanguageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
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
AUTHENTICATION_BACKENDS = ["instavis.accounts.backend.Backend"]
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.Argon2PasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ("username", "name")},
    },
]

# Of allauth only the second factors are used: names, passwords, sessions and throttles are our own (decision 27).
MFA_ADAPTER = "instavis.accounts.factors.Adapter"
MFA_SUPPORTED_TYPES = ["totp", "webauthn", "recovery_codes"]
MFA_PASSKEY_LOGIN_ENABLED = True
MFA_TOTP_TOLERANCE = 1
MFA_WEBAUTHN_ALLOW_INSECURE_ORIGIN = not SECURE  # browsers accept http only from the same machine
ACCOUNT_RATE_LIMITS = False
SILENCED_SYSTEM_CHECKS = [
    "models.W036"
]  # MariaDB has no conditional rule against two apps, so `factors` locks the coach

DATABASES = {"default": DatabaseAddress.read(os.environ["INSTAVIS_DATABASE_URL"]).for_django()}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

STATIC_URL = "/static/"
STATIC_ROOT = os.environ.get("INSTAVIS_STATIC_ROOT", str(ROOT / ".instavis" / "static"))
STATICFILES_DIRS = [WEB] if WEB.is_dir() else []
# Pages that packages bring along (documentation, forms) are not served.
STATICFILES_FINDERS = ["django.contrib.staticfiles.finders.FileSystemFinder"]
STORAGES = {
    "default": FilesAddress.read(os.environ.get("INSTAVIS_FILES", str(ROOT / ".instavis" / "files"))).for_django(),
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
# Vite names its files by a hash, so they may be cached forever.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+[.-][0-9a-zA-Z_-]{8}\.\w+$"

# Data that several processes share and that may be lost on restart: notifications, counters, the queue.
REDIS_URL = os.environ["INSTAVIS_REDIS_URL"]
WORKER_NICE = int(os.environ.get("INSTAVIS_WORKER_NICE", "10"))  # how far a worker gives way to balls
_ours = DATABASES["default"]["NAME"]  # academies of several databases may share one Redis
CHANNEL_LAYERS = {
    "default": {
        "BACKEND": "instavis.platform.lines.Layer",
        "CONFIG": {
            "hosts": [{"address": REDIS_URL, "socket_timeout": 3, "socket_connect_timeout": 2}],
            "prefix": f"{_ours}-live",
        },
    }
}
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.redis.RedisCache",
        "LOCATION": REDIS_URL,
        "KEY_PREFIX": _ours,
        "OPTIONS": {"socket_timeout": 2, "socket_connect_timeout": 2},
    }
}
CELERY = {
    "broker_url": REDIS_URL,
    "task_default_queue": "quick",
    "task_ignore_result": True,
    "task_publish_retry": False,  # a task without a notification is found by the next round
    "task_time_limit": 30 * 60,
    "worker_max_tasks_per_child": 200,
    "worker_max_memory_per_child": 800_000,  # kB
    "worker_prefetch_multiplier": 1,
    "worker_hijack_root_logger": False,
    "worker_enable_remote_control": False,
    "worker_send_task_events": False,
    "broker_connection_retry_on_startup": True,
    "broker_connection_max_retries": None,
    "broker_transport_options": {
        "socket_timeout": 3,
        "socket_connect_timeout": 2,
        "global_keyprefix": f"{_ours}-",
        # A request does not wait for a worker: an unavailable queue is tried once more, at once.
        "max_retries": 1,
        "interval_start": 0,
        "interval_step": 0,
        "interval_max": 0,
    },
}

_mail = MailAddress.read(os.environ.get("INSTAVIS_MAIL", ""))
MAIL_SENDER = _mail.sender  # empty: no email is sent
EMAIL_HOST, EMAIL_PORT = _mail.host, _mail.port
EMAIL_HOST_USER, EMAIL_HOST_PASSWORD = _mail.user, _mail.password
EMAIL_USE_TLS, EMAIL_USE_SSL = _mail.tls == "start", _mail.tls == "at once"
EMAIL_TIMEOUT = 10

MAX_UPLOAD_BYTES = 10 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = MAX_UPLOAD_BYTES
FILE_UPLOAD_HANDLERS = [
    "django.core.files.uploadhandler.MemoryFileUploadHandler",
    "django.core.files.uploadhandler.TemporaryFileUploadHandler",
]

# In the database, not in a cache: whoever signed out stays signed out, even if Redis is lost.
SESSION_ENGINE = "instavis.accounts.sessions"
SESSION_COOKIE_AGE = 24 * 3600  # without a request; each request renews it
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE
# Over HTTPS, a browser accepts them only from this very host, whatever a neighboring one sets.
_HOST = "__Host-" if SECURE else ""
CSRF_COOKIE_NAME, SESSION_COOKIE_NAME = f"{_HOST}instavis_csrf", f"{_HOST}instavis_session"
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

LOGGING = logs.configuration()
