"""For `./start`: plain HTTP on loopback, or on the shop's own network with HOST=0.0.0.0."""

from gyrometra.settings.base import *

WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
# Nobody signs certificates for a shop's own network: what these ask for would lock every tablet out. A server that
# others reach runs the production settings behind a proxy with HTTPS (docs/operations.md).
SILENCED_SYSTEM_CHECKS = [
    "security.W004",  # HSTS
    "security.W008",  # redirect to HTTPS
    "security.W012",  # session cookie over HTTPS alone
    "security.W016",  # CSRF cookie over HTTPS alone
]
