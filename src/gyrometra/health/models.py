"""Checks of machines, what was changed of them, and their limits."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Indicator, Machine, mm
from gyrometra.jobs.models import LogEntry
from gyroplan.machine import KINDS

#: An entry that says what was changed of a machine: it stands in the run of every check.
CHANGED = "changed"


class MachineCheck(LogEntry):
    """One check of a machine, or what was changed of it. Append-only."""

    class Changed(models.TextChoices):
        KNOCKED = "knocked", "knocked"
        SET = "set", "bearings or head set"
        REPAIRED = "repaired", "repaired"
        MOVED = "moved", "moved or levelled"

    machine = models.ForeignKey(Machine, on_delete=models.PROTECT, related_name="checks")
    kind = models.CharField(
        max_length=10, choices=[*((key, one.label) for key, one in KINDS.items()), (CHANGED, CHANGED)]
    )
    day = models.DateField()
    #: What was read, by name: lengths [mm], directions [deg]; and each as it was typed.
    values = models.JSONField(default=dict)
    typed = models.JSONField(default=dict)
    changed = models.CharField(max_length=8, choices=Changed.choices, blank=True)
    indicator = models.ForeignKey(Indicator, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["day", "pk"]
        indexes = [models.Index(fields=["machine", "kind"], name="checks_of_a_machine")]

    def __str__(self) -> str:
        return f"{self.kind} of {self.machine_id} on {self.day}"


class MachineLimit(models.Model):
    """What this shop allows of a check of one machine, and how often it is due; empty takes the general rule."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="limits")
    kind = models.CharField(max_length=10, choices=[(key, one.label) for key, one in KINDS.items()])
    limit_mm = mm(null=True, blank=True)
    every_days = models.PositiveSmallIntegerField(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["machine", "kind"], name="one_limit_a_check")]

    def __str__(self) -> str:
        return f"{self.kind} of {self.machine_id}"
