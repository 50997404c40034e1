"""For `./check`: quick password hashing, no throttle between tests."""

from gyrometra.settings.base import *

SECRET_KEY = "for-tests-only"  # noqa: S105 - no secret, tests sign nothing that matters
ALLOWED_HOSTS = ["*"]
DEMO = True
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
DATABASES["default"]["CONN_MAX_AGE"] = 0
LOGGING = {"version": 1, "disable_existing_loggers": False}
