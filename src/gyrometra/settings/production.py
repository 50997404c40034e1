"""Behind HTTPS. SECRET_KEY, ALLOWED_HOSTS and DATABASE_URL come from the environment."""

from django.core.exceptions import ImproperlyConfigured

from gyrometra.settings.base import *

_MISSING = [name for name in ("SECRET_KEY", "ALLOWED_HOSTS", "DATABASE_URL") if not env(name, default="")]
if _MISSING:
    raise ImproperlyConfigured(f"Production needs {', '.join(_MISSING)} in its environment; see docs/operations.md.")
if len(SECRET_KEY) < 50:
    raise ImproperlyConfigured("SECRET_KEY is too short: 50 characters or more, made at random.")
#: Where forms may come from when the public address has a port of its own: https://shop.example:8443.
CSRF_TRUSTED_ORIGINS = env.list("TRUSTED_ORIGINS", default=[])
SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"},
}
