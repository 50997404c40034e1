"""What all things of the crib have in common, and their history."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models


def mm(**kwargs: Any) -> Any:
    """A length column: millimetres to a nanometre."""
    return models.DecimalField(max_digits=12, decimal_places=6, **kwargs)


class CribItem(models.Model):
    """A named thing of the shop; what was typed is kept beside the values."""

    name = models.CharField(max_length=60, unique=True)
    notes = models.CharField(max_length=300, blank=True)
    typed = models.JSONField(default=dict, blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    #: Counts its changes: who edits it says which one was shown.
    version = models.PositiveIntegerField(default=1)
    changed_at = models.DateTimeField(null=True, blank=True)
    retired = models.BooleanField(default=False)

    class Meta:
        abstract = True
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class CribChange(models.Model):
    """What was changed of a thing, by whom and when: field -> [before, after], as shown. Append-only."""

    kind = models.CharField(max_length=12)
    item_id = models.BigIntegerField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=12)
    fields = models.JSONField(default=dict)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["kind", "item_id"], name="changes_of_a_thing")]

    def __str__(self) -> str:
        return f"{self.kind} {self.item_id} {self.what}"


class Reads(models.TextChoices):
    """What one division of a dial moves."""

    RADIUS = "radius", "radius"
    DIAMETER = "diameter", "diameter"


class Numbers(models.TextChoices):
    """Which way a dial's numbers run as the cutter goes outward."""

    RISE = "rise", "rise"
    FALL = "fall", "fall"
