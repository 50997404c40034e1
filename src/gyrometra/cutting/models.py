"""What was set, what came out, how it sounded and looked."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Gauge, mm
from gyrometra.jobs.models import Bore, LogEntry, SetUp


class CutEntry(LogEntry):
    """One entry of the cutting log; `kind` says which of the columns it fills."""

    class Kind(models.TextChoices):
        GUARD = "guard", "guard steps confirmed"
        SET = "set", "dial set"
        SIZE = "size", "size measured"
        REMARK = "remark", "sound and look"
        TOUCHED = "touched", "tip stoned, turned, swapped or knocked"

    class Sound(models.TextChoices):
        QUIET = "quiet", "quiet"
        HUM = "hum", "hums"
        SQUEAL = "squeal", "squeals"

    class Look(models.TextChoices):
        CLEAN = "clean", "clean"
        TORN = "torn", "torn"
        WAVES = "waves", "chatter marks"

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="cuts")
    #: Empty for what belongs to the whole set-up: the guard steps.
    bore = models.ForeignKey(Bore, null=True, on_delete=models.PROTECT, related_name="cuts")
    #: Which of the pieces alike; the plan is shared, the logs are apart.
    piece = models.PositiveSmallIntegerField(default=1)
    kind = models.CharField(max_length=8, choices=Kind.choices)
    number = models.PositiveSmallIntegerField(default=0)
    value_mm = mm(null=True, blank=True)
    change_mm = mm(null=True, blank=True)
    divisions = models.DecimalField(max_digits=10, decimal_places=3, null=True, blank=True)
    #: What a micrometer was set to, over the bar or on its own scale; empty where a dial was turned.
    setting_mm = mm(null=True, blank=True)
    #: Of a setting: what kind of pass it was, and the spindle speed it was planned with.
    pass_kind = models.CharField(max_length=8, blank=True)
    rpm = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    gauge = models.ForeignKey(Gauge, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    sound = models.CharField(max_length=8, choices=Sound.choices, blank=True)
    look = models.CharField(max_length=8, choices=Look.choices, blank=True)

    def __str__(self) -> str:
        return f"pass {self.number} {self.kind}"
