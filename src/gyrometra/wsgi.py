"""The server's door; the profile comes from DJANGO_SETTINGS_MODULE."""

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()
