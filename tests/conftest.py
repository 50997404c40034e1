"""Properties are judged by what holds, not by the clock of a busy machine."""

from hypothesis import HealthCheck, settings

settings.register_profile("shop", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("shop")
