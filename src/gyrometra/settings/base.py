"""What holds in every profile. The environment is read in this package and nowhere else."""

from datetime import timedelta
from pathlib import Path

import environ
from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

env = environ.Env()
BASE_DIR = Path(__file__).resolve().parents[3]

SECRET_KEY = env("SECRET_KEY", default="")
DEBUG = False
ALLOWED_HOSTS = env.list("ALLOWED_HOSTS", default=[])
DEMO = env.bool("DEMO", default=False)
#: What stands over sheets and reports: the shop's name, and a line under it.
SHOP_NAME = env.str("SHOP_NAME", default="")
SHOP_LINE = env.str("SHOP_LINE", default="")
#: How a shop judges near a limit: "guarded", limits narrowed by the uncertainty (ISO 14253-1), or "simple", as read.
JUDGE_RULE = env.str("JUDGE_RULE", default="guarded")
if JUDGE_RULE not in ("guarded", "simple"):
    raise ImproperlyConfigured(f"JUDGE_RULE is guarded or simple; {JUDGE_RULE} was given.")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "django_htmx",
    "gyrometra.pages",
    "gyrometra.drawings",
    "gyrometra.accounts",
    "gyrometra.crib",
    "gyrometra.links",
    "gyrometra.jobs",
    "gyrometra.health",
    "gyrometra.truing",
    "gyrometra.cutting",
    "gyrometra.inspection",
    "gyrometra.steps",
    "gyrometra.practice",
    "gyrometra.bench",
    "gyrometra.records",
    "gyrometra.samples",
]
MIDDLEWARE = [
    "gyrometra.pages.middleware.request_log",
    "django.middleware.security.SecurityMiddleware",
    # over the static files too: they and the pages leave compressed in every profile (forms' tokens are masked anew
    # in each answer, so that their compressed length tells nothing)
    "django.middleware.gzip.GZipMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "gyrometra.accounts.middleware.SignedIn",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "axes.middleware.AxesMiddleware",
    "gyrometra.accounts.middleware.no_store",
]
ROOT_URLCONF = "gyrometra.urls"
WSGI_APPLICATION = "gyrometra.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "gyrometra.pages.context.shop",
            ],
        },
    }
]
DATABASES = {"default": env.db("DATABASE_URL", default="postgres://gyrometra@127.0.0.1/gyrometra")}
DATABASES["default"]["CONN_MAX_AGE"] = 600
DATABASES["default"]["CONN_HEALTH_CHECKS"] = True
# Our joins follow foreign keys in the order they are written; planning other orders costs more than it finds.
# Statements are prepared once a connection, and planned once for whatever they are given, since planning them took
# longer than running them.
DATABASES["default"]["OPTIONS"] = {
    "options": "-c join_collapse_limit=1 -c plan_cache_mode=force_generic_plan",
    "server_side_binding": True,
    "prepare_threshold": 2,
}
# A choice of some twenty machines needs no cursor of its own, which costs two more round trips.
DATABASES["default"]["DISABLE_SERVER_SIDE_CURSORS"] = True
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 8}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "sign-in"
LOGIN_REDIRECT_URL = "bench"
LOGOUT_REDIRECT_URL = "sign-in"
#: Proxies whose X-Forwarded-For is believed: their own addresses.
TRUSTED_PROXIES = env.list("TRUSTED_PROXIES", default=[])
# Wrong passwords: so many for a name from one address; more for a name wherever from, and for an address whatever the
# name (`accounts.services.is_locked_out`). A try during the lock-out does not make it longer.
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_CLIENT_IP_CALLABLE = "gyrometra.accounts.address.client_address"
AXES_USERNAME_CALLABLE = "gyrometra.accounts.address.name_of"
MOST_WRONG_FOR_A_NAME, MOST_WRONG_FROM_AN_ADDRESS = 24, 40
AXES_LOCKOUT_TEMPLATE = "accounts/locked.html"
AXES_VERBOSE = False

LANGUAGE_CODE = "en-gb"
TIME_ZONE = env("TIME_ZONE", default="UTC")
USE_TZ = True
USE_I18N = False

STATIC_URL = "static/"
STATIC_ROOT = BASE_DIR / "var" / "static"
STATICFILES_DIRS = [BASE_DIR / "static"]

CSRF_FAILURE_VIEW = "gyrometra.pages.views.forbidden"
#: One line a request and a fault, as JSON on standard error.
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"id": {"()": "gyrometra.pages.middleware.WithId"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "{asctime}{levelname}{name}{message}{request_id}",
            "style": "{",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "by"},
        }
    },
    "handlers": {"json": {"class": "logging.StreamHandler", "formatter": "json", "filters": ["id"]}},
    "root": {"handlers": ["json"], "level": "WARNING"},
    "loggers": {
        "gyrometra": {"level": "INFO"},
        "django": {"level": "WARNING", "handlers": [], "propagate": True},
        "django.server": {"level": "WARNING", "handlers": [], "propagate": True},
        "axes": {"level": "WARNING"},
    },
}

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "font-src": [SELF],
        "img-src": [SELF, "data:"],
        "connect-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_AGE = 60 * 60 * 24 * 14
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
