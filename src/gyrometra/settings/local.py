"""For `./start`: plain HTTP on loopback, or on the shop's own network with HOST=0.0.0.0."""

from gyrometra.settings.base import *

WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
