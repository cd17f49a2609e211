"""Django's settings. What differs between machines comes from the environment (`environment.py`)."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path
from urllib.parse import unquote, urlsplit

from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

from .environment import LARGEST_BODY, ROOT, SettingsRefused, read_environment
from .logs import logging_settings

try:
    ENVIRONMENT = read_environment()
except SettingsRefused as error:
    raise ImproperlyConfigured(str(error)) from error

VAR = ENVIRONMENT.var
WEB = ROOT / "web" / "dist"
MEDIA: Path = ENVIRONMENT.media or VAR / "media"

SECRET_KEY = ENVIRONMENT.secret
DEBUG = False
ALLOWED_HOSTS = ENVIRONMENT.hosts
CSRF_TRUSTED_ORIGINS = ENVIRONMENT.origins
ROOT_URLCONF = "config.urls"
ASGI_APPLICATION = "config.asgi.application"
AUTH_USER_MODEL = "people.Person"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
APPEND_SLASH = False

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "procrastinate.contrib.django",
    "people",
    "projects",
    "jobs",
    "elements",
    "comps",
    "deliveries",
    "scenes",
    "maintenance",
]

MIDDLEWARE = [
    "config.middleware.with_request_id",
    "config.middleware.checked_requests",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]

_url = urlsplit(ENVIRONMENT.database)
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": _url.path.lstrip("/"),
        "USER": unquote(_url.username or ""),
        "PASSWORD": unquote(_url.password or ""),
        "HOST": _url.hostname,
        "PORT": _url.port,
        # After a restart of the database a kept connection is found dead and replaced.
        "CONN_HEALTH_CHECKS": True,
        # One connection a thread, kept; the threads are bounded (asgi.py).
        "CONN_MAX_AGE": None,
        # A process that froze or whose machine is gone keeps no row locked: a worker that starts would
        # wait for the row of one that stopped in the middle of saying that it is alive.
        "OPTIONS": {"options": "-c idle_in_transaction_session_timeout=30s"},
    }
}
# In the database alone: who signs out of one web process is signed out of all.
SESSION_ENGINE = "django.contrib.sessions.backends.db"

AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesBackend",
    "django.contrib.auth.backends.ModelBackend",
]
# As hard to guess as Django's default, in a tenth of the time: signing in is not to be waited for.
PASSWORD_HASHERS = ["django.contrib.auth.hashers.ScryptPasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
SILENCED_SYSTEM_CHECKS = ["axes.W002"]  # lockouts are answered by people/api.py
# Against guessing: eight wrong passwords for one name from one address lock it for five minutes.
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = timedelta(minutes=5)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
#: Proxies of our own in front of the application.
PROXIES = ENVIRONMENT.proxies
AXES_CLIENT_IP_CALLABLE = "people.address.client_address"

if ENVIRONMENT.tls:
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
if ENVIRONMENT.tls_proxy:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
# Browsers treat loopback as a secure origin, so that secure cookies work there without TLS.
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Strict"
SESSION_COOKIE_AGE = 14 * 24 * 3600
CSRF_FAILURE_VIEW = "config.errors.csrf_failure"
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "blob:", "data:"],
        # Radix sets positions as style attributes.
        "style-src": [SELF, "'unsafe-inline'"],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

DATA_UPLOAD_MAX_MEMORY_SIZE = LARGEST_BODY
#: Bytes of a request that are taken before it is known who sends it.
LARGEST_UNSIGNED = 1 << 20
# Uploads are raw request bodies that go to disk as they arrive.
FILE_UPLOAD_TEMP_DIR = str(VAR / "tmp")
LARGEST_UPLOAD = ENVIRONMENT.largest_upload_gb << 30
#: Folders below which libraries may lie, parted by colons: nobody can look at anything else on the disk.
LIBRARY_ROOTS = ENVIRONMENT.libraries or [VAR / "library"]

#: Folders of the server that deliveries may go to, besides the projects' own.
DELIVERY_FOLDERS = ENVIRONMENT.delivery_folders or []

PROCRASTINATE_IMPORT_PATHS = ["config.tasks"]
PROCRASTINATE_AUTODISCOVER_MODULE_NAME = "tasks"
PROCRASTINATE_WORKER_DEFAULTS = {
    "fetch_job_polling_interval": 1.0,
    "abort_job_polling_interval": 2.0,
    "shutdown_graceful_timeout": 5,
    "update_heartbeat_interval": 2,
    "stalled_worker_timeout": 8,
    "delete_jobs": "successful",
}
#: A worker that has not been heard of for so long is dead; its jobs are done again.
STALLED_SECONDS = 8

#: Frames that one order of a delivery or a render may have.
LARGEST_RANGE = ENVIRONMENT.largest_range

#: Bytes of pictures kept in memory by the web process and by each worker.
CACHE_BYTES = ENVIRONMENT.cache_mb << 20
EDGE_BYTES = ENVIRONMENT.edges_mb << 20

LOGGING = logging_settings(ENVIRONMENT)
