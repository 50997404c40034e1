"""Gauges that are linked, and what they sent."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from gyrometra.crib.models import Gauge, Indicator, mm


class GaugeLinkQuerySet(models.QuerySet[Any]):
    """Links in use."""

    def in_use(self) -> GaugeLinkQuerySet:
        """Those whose token was not ended."""
        return self.filter(ended_at__isnull=True)


class GaugeLink(models.Model):
    """An indicator or a gauge that sends its readings, by a token of its own; and which page listens to it."""

    indicator = models.ForeignKey(Indicator, null=True, blank=True, on_delete=models.CASCADE, related_name="links")
    gauge = models.ForeignKey(Gauge, null=True, blank=True, on_delete=models.CASCADE, related_name="links")
    #: Of a gauge that shows how far it is off its ring: the size of the ring; empty where it shows the size itself.
    set_mm = mm(null=True, blank=True)
    name = models.CharField(max_length=40)
    #: SHA-256 of the token: the token itself is shown once and kept nowhere.
    token_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True, blank=True)
    seen_at = models.DateTimeField(null=True, blank=True)
    #: The one page that takes what is pressed at the gauge, by its own id.
    listener = models.UUIDField(null=True, blank=True)
    listened_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    pruned_at = models.DateTimeField(null=True, blank=True)

    objects = GaugeLinkQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.CheckConstraint(
                name="a_link_is_of_one_gauge",
                condition=models.Q(indicator__isnull=False, gauge__isnull=True, set_mm__isnull=True)
                | models.Q(indicator__isnull=True, gauge__isnull=False),
            )
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def instrument(self) -> Indicator | Gauge:
        """What sends."""
        found: Indicator | Gauge | None = self.indicator or self.gauge
        assert found is not None  # noqa: S101 - the database holds it
        return found

    @property
    def step_mm(self) -> float:
        """One division of it, or its last digit."""
        item = self.instrument
        return float(item.resolution_mm if isinstance(item, Gauge) else item.step_mm)

    @property
    def from_mm(self) -> float:
        """What a value that it sends counts from."""
        return float(self.set_mm or 0)


class LinkReading(models.Model):
    """One value that a gauge sent, once by its id; those not pressed are kept for an hour."""

    link = models.ForeignKey(GaugeLink, on_delete=models.CASCADE, related_name="readings")
    ident = models.CharField(max_length=64)
    value_mm = mm()
    #: The foot switch, or the gauge's own button: it is to be taken.
    pressed = models.BooleanField(default=False)
    #: By the gauge's own clock, where it has one.
    at = models.DateTimeField(null=True, blank=True)
    came_at = models.DateTimeField()

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["link", "ident"], name="one_link_reading_once")]
        indexes = [
            models.Index(fields=["link", "came_at"], name="what_came_of_a_link"),
            models.Index(fields=["link", "id"], condition=models.Q(pressed=True), name="what_was_pressed"),
        ]

    def __str__(self) -> str:
        return f"{self.value_mm} of {self.link_id}"
