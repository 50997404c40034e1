"""Boring heads, bars and cutters."""

from __future__ import annotations

from django.db import models

from gyrocore import bar_kinds, methods
from gyrometra.crib.models.base import CribItem, Numbers, Reads, mm


class Head(CribItem):
    """A boring head: its dial, how far its slide moves, its holes, and how fast it may turn swung out."""

    division_mm = mm()
    divisions_per_turn = models.PositiveIntegerField()
    dial_reads = models.CharField(max_length=8, choices=Reads.choices)
    #: Whether the dial's numbers rise or fall as the cutter goes outward.
    dial_numbers = models.CharField(max_length=4, choices=Numbers.choices, default=Numbers.RISE)
    slide_travel_mm = mm()
    shank_mm = mm()
    max_rpm = models.PositiveIntegerField(null=True, blank=True)
    #: Room wanted behind the heel of its bar, on radius.
    clearance_mm = mm(default="0.5")
    #: Carried on the end of a bar instead of in the spindle: that bar's diameter, and how far it stands out.
    carrier_mm = mm(null=True, blank=True)
    carrier_out_mm = mm(null=True, blank=True)


class Hole(models.Model):
    """A hole of a boring head: how far off the spindle's axis it lies with the slide home."""

    head = models.ForeignKey(Head, on_delete=models.CASCADE, related_name="holes")
    name = models.CharField(max_length=12)
    offset_mm = mm()

    class Meta:
        ordering = ["offset_mm"]
        constraints = [models.UniqueConstraint(fields=["head", "name"], name="one_hole_once")]

    def __str__(self) -> str:
        return f"hole {self.name}"


class Bar(CribItem):
    """A boring bar: held by its shank, in a boring head's hole, or in bearings."""

    kind = models.CharField(max_length=20, choices=[(k, v.label) for k, v in bar_kinds().items()])
    diameter_mm = mm()
    inner_diameter_mm = mm(default=0)
    length_mm = mm()
    grip_mm = mm(null=True, blank=True)
    min_bore_mm = mm()
    #: Tip from the bar's own centre: only bars for a boring head have one.
    tip_mm = mm(null=True, blank=True)
    #: Held crosswise in a boring head: how far it stands out on the far side of the axis.
    tail_mm = mm(null=True, blank=True)
    shank_mm = mm(null=True, blank=True)
    #: Sections from the cutter's end, each [length, diameter]; the rest is the bar's own diameter [mm].
    steps_mm = models.JSONField(default=list, blank=True)
    #: The tool angle from square to the axis by this much.
    tilt_deg = models.DecimalField(max_digits=5, decimal_places=2, default=0)
    damping_ratio = models.DecimalField(max_digits=5, decimal_places=4, null=True, blank=True)
    #: The owner's own table of a tuned damped bar, each [overhang, turns out]; and where the damper stands now.
    tuned = models.JSONField(default=list, blank=True)
    tuned_turns = models.DecimalField(max_digits=6, decimal_places=2, null=True, blank=True)
    #: A second bit on the same bar stands so far from the first; the two are a matched pair.
    bits_apart_mm = mm(null=True, blank=True)
    #: Pads that guide it in the bore it has just cut: how far behind the cutter, and the size they stand at, on Ø.
    pads_behind_mm = mm(null=True, blank=True)
    pads_mm = mm(null=True, blank=True)
    method = models.CharField(
        max_length=12, choices=[(key, way.label) for key, way in methods().items()], default="lathe-bar"
    )


class Cutter(CribItem):
    """A bit: material, nose, entering angle, and the least depth that it still cuts."""

    class Made(models.TextChoices):
        CARBIDE = "carbide", "carbide"
        HSS = "hss", "high-speed steel"

    made_of = models.CharField(max_length=10, choices=Made.choices)
    nose_radius_mm = mm()
    entering_angle_deg = models.DecimalField(max_digits=6, decimal_places=2, default=90)
    least_depth_mm = mm()
    corners = models.PositiveSmallIntegerField(default=1)
    corners_used = models.PositiveSmallIntegerField(default=0)

    @property
    def corners_left(self) -> int:
        """Fresh corners, the one in use not counted."""
        return max(0, self.corners - self.corners_used)
