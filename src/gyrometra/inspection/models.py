"""Sizes of the finished bore, at stations by directions, with a named gauge."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Gauge, mm
from gyrometra.jobs.models import Bore, LogEntry, SetUp


class SizeReading(LogEntry):
    """One diameter at one depth in one direction; several of one place are repeats."""

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="sizes")
    bore = models.ForeignKey(Bore, on_delete=models.PROTECT, related_name="sizes")
    gauge = models.ForeignKey(Gauge, on_delete=models.PROTECT, related_name="sizes")
    #: Which of the pieces alike; the plan is shared, the logs are apart.
    piece = models.PositiveSmallIntegerField(default=1)
    z_mm = mm()
    angle_deg = models.DecimalField(max_digits=6, decimal_places=2)
    value_mm = mm()
    part_temp_c = models.DecimalField(max_digits=5, decimal_places=2, default=20)

    def __str__(self) -> str:
        return f"{self.value_mm} at {self.z_mm}"
