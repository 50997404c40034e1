"""Bore gauges and indicators."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Any

from django.db import models

from gyrometra.crib.models.base import CribItem, mm

#: Kinds that read no size in a bore.
_NOT_IN_BORES = ("outside", "depth", "plug", "ring", "comparator")
#: Kinds that are tried and read nothing.
_TRIED = ("plug", "ring")


class GaugeQuerySet(models.QuerySet[Any]):
    """Gauges by the day of their next check."""

    def measuring(self, size_mm: Any) -> GaugeQuerySet:
        """Gauges in use, those whose range has this size first, the finest of them first."""
        inside = models.Q(range_low_mm__lte=size_mm, range_high_mm__gte=size_mm)
        rank = models.Case(models.When(inside, then=0), default=1)
        of_bores = self.filter(retired=False).exclude(kind__in=_NOT_IN_BORES)
        return of_bores.order_by(rank, "resolution_mm", "name")

    def reading(self) -> GaugeQuerySet:
        """Gauges in use that read a size."""
        return self.filter(retired=False).exclude(kind__in=_TRIED)

    def tried(self, kind: str) -> GaugeQuerySet:
        """Plugs, or rings and gap gauges, in use."""
        return self.filter(retired=False, kind=kind).order_by("range_low_mm", "name")

    def to_set(self, size_mm: Any) -> GaugeQuerySet:
        """Gauges in use that can be set to a size and felt against a bore, comparators first."""
        inside = self.filter(retired=False, range_low_mm__lte=size_mm, range_high_mm__gte=size_mm)
        rank = models.Case(models.When(kind="comparator", then=0), default=1)
        return inside.exclude(kind__in=("depth", *_TRIED)).order_by(rank, "resolution_mm", "name")

    def due_by(self, day: date) -> GaugeQuerySet:
        """Gauges in use whose check is due on that day or before, the first due first."""
        return self.filter(retired=False, due_on__isnull=False, due_on__lte=day).order_by("due_on", "name")


class Gauge(CribItem):
    """A gauge: range, resolution, error limit, standing correction, what it reaches, due date, who repeats."""

    class Kind(models.TextChoices):
        TWO_POINT = "two-point", "two-point bore gauge"
        THREE_POINT = "three-point", "three-point micrometer"
        INSIDE = "inside", "inside micrometer"
        CALLIPER = "calliper", "calliper"
        OUTSIDE = "outside", "outside micrometer"
        DEPTH = "depth", "depth gauge or depth micrometer"
        #: Set across the bore by feel and read with a micrometer: its error limit is that of the micrometer.
        TELESCOPIC = "telescopic", "telescopic gauge, read by micrometer"
        COMPARATOR = "comparator", "comparator, set to a ring"
        #: Its range is from the go side to the no-go side; its correction is what the go side has worn, a minus.
        PLUG = "plug", "plug gauge, go and no-go"
        #: The reverse of a plug: its range is from the no-go side to the go side.
        RING = "ring", "ring or gap gauge, go and no-go"

    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.TWO_POINT)
    #: How deep from the face it can measure; empty for any depth.
    reach_mm = mm(null=True, blank=True)
    #: How well each person repeats with it: user name -> standard deviation of one reading [mm].
    repeats_mm = models.JSONField(default=dict, blank=True)
    #: What its rods add to what the thimble shows: rod -> length as it was measured [mm].
    rods_mm = models.JSONField(default=dict, blank=True)
    range_low_mm = mm()
    range_high_mm = mm()
    resolution_mm = mm()
    error_limit_mm = mm(default=0)
    correction_mm = mm(default=0)
    single_sd_mm = mm(null=True, blank=True)
    due_on = models.DateField(null=True, blank=True)
    #: As they stand on it and on its certificate: printed on reports.
    serial = models.CharField(max_length=40, blank=True)
    certificate = models.CharField(max_length=60, blank=True)
    certified_on = models.DateField(null=True, blank=True)

    objects = GaugeQuerySet.as_manager()

    def single_sd_of(self, username: str, learned_mm: float | None = None) -> float | None:
        """What one reading of this person repeats to: as the card says, else as was learned, else the gauge's own."""
        own = self.repeats_mm.get(username, learned_mm)
        if own is not None:
            return float(own)
        return None if self.single_sd_mm is None else float(self.single_sd_mm)

    def side_mm(self, side: str) -> Decimal:
        """The size of the go or the no-go side of a plug or ring; its correction is what the go side has worn."""
        low, high = self.range_low_mm, self.range_high_mm
        go, no_go = (high, low) if self.kind == self.Kind.RING else (low, high)
        size: Decimal = go + self.correction_mm if side == "go" else no_go
        return size

    def fits(self, lower_mm: float, upper_mm: float) -> bool:
        """Whether a side of a plug or ring lies near these limits: within their distance of either."""
        near = upper_mm - lower_mm
        sides = (float(self.range_low_mm), float(self.range_high_mm))
        return any(lower_mm - near <= side <= upper_mm + near for side in sides)

    def is_overdue(self, today: date) -> bool:
        """Whether its check is past due."""
        return self.due_on is not None and self.due_on < today


class Indicator(CribItem):
    """A dial or lever indicator: one division, and how far it reads."""

    class Pointed(models.TextChoices):
        ASK = "", "not said yet"
        DIVISIONS = "divisions", "divisions"
        UNIT = "unit", "the unit shown"

    step_mm = mm()
    range_mm = mm()
    #: Divisions of one turn of its hand: what its revolution counter counts; empty where it has none.
    per_turn = models.PositiveSmallIntegerField(null=True, blank=True)
    serial = models.CharField(max_length=40, blank=True)
    certificate = models.CharField(max_length=60, blank=True)
    certified_on = models.DateField(null=True, blank=True)
    due_on = models.DateField(null=True, blank=True)
    #: What a reading over 1 with a point means on it: asked once, then remembered.
    pointed = models.CharField(max_length=10, choices=Pointed.choices, blank=True, default="")
