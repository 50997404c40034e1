"""Machines with their speeds, feeds, dials and drive."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models.base import CribItem, Numbers, Reads, mm


class Machine(CribItem):
    """A machine: its speeds with lever positions, its slide's dial where it has one, its cap when unbalanced."""

    class Kind(models.TextChoices):
        LATHE = "lathe", "lathe"
        MILL = "mill", "mill"
        BORER = "borer", "horizontal borer"
        PORTABLE = "portable", "portable bar"
        STAND = "stand", "boring stand"

    class Shoes(models.TextChoices):
        NONE = "", "has none"
        OUT = "out", "out while it bores"
        IN = "in", "in while it bores"

    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.LATHE)
    division_mm = mm(null=True, blank=True)
    divisions_per_turn = models.PositiveIntegerField(null=True, blank=True)
    dial_reads = models.CharField(max_length=8, choices=Reads.choices, default=Reads.RADIUS)
    #: Whether the dial's numbers rise or fall as the cutter goes outward.
    dial_numbers = models.CharField(max_length=4, choices=Numbers.choices, default=Numbers.RISE)
    unbalanced_max_rpm = models.PositiveIntegerField(null=True, blank=True)
    #: What its bar cuts large, on diameter, as the shop knows it; small is negative. Only where a micrometer sets it.
    cuts_large_mm = mm(null=True, blank=True)
    shoes = models.CharField(max_length=4, choices=Shoes.choices, blank=True)
    #: At the spindle.
    #: Any speed between the slowest and the fastest of its list can be had.
    stepless = models.BooleanField(default=False)
    power_kw = models.DecimalField(max_digits=7, decimal_places=3, null=True, blank=True)
    torque_nm = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True)
    #: Feeds per rev, slowest first [mm]; empty where any feed can be had.
    feeds_mm_rev = models.JSONField(default=list, blank=True)
    travel_mm = mm(null=True, blank=True)
    centres_mm = mm(null=True, blank=True)
    #: Of the spindle's axis, over the table or the saddle.
    axis_height_mm = mm(null=True, blank=True)
    #: Of the slide that sets a cut, in divisions of its dial.
    backlash_divisions = models.DecimalField(max_digits=6, decimal_places=2, null=True, blank=True)
    #: Of the screws that move its bearings, a turn.
    screw_pitch_mm = mm(null=True, blank=True)
    #: The dial of the table or slide that goes from one axis to the next.
    table_division_mm = mm(null=True, blank=True)
    table_divisions_per_turn = models.PositiveIntegerField(null=True, blank=True)
    table_backlash_divisions = models.DecimalField(max_digits=6, decimal_places=2, null=True, blank=True)


class MachineSpeed(models.Model):
    """One spindle speed and the lever positions that give it."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="speeds")
    lever = models.CharField(max_length=12, blank=True)
    rpm = models.DecimalField(max_digits=8, decimal_places=2)

    class Meta:
        ordering = ["rpm"]
        constraints = [models.UniqueConstraint(fields=["machine", "rpm"], name="one_speed_once")]

    def __str__(self) -> str:
        return f"{self.lever} {self.rpm}"
