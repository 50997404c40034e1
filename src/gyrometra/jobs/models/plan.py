"""How a set-up is bored."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Bar, Cutter, Head, mm
from gyrometra.jobs.models.job import SetUp


class Plan(models.Model):
    """How the set-up is bored: bar, cutter, reach, spring, feeds, passes."""

    class SetWith(models.TextChoices):
        OWN = "", "as this way sets it"
        PROTRUSION = "protrusion", "step gauge, point above the bar"
        INDICATOR = "indicator", "indicator behind the bit"
        JIG = "jig", "micrometer jig on the bar"

    setup = models.OneToOneField(SetUp, on_delete=models.CASCADE, related_name="plan")
    bar = models.ForeignKey(Bar, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    cutter = models.ForeignKey(Cutter, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    head = models.ForeignKey(Head, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    #: Another bar that opens the bore up before the one above finishes it; empty: one bar does both.
    opening_bar = models.ForeignKey(Bar, null=True, blank=True, on_delete=models.PROTECT, related_name="opening_plans")
    #: What the cutter is set with, where the way leaves a choice.
    set_with = models.CharField(max_length=12, choices=SetWith.choices, blank=True)
    #: What the jig reads with the point flush with the bar.
    jig_zero_mm = mm(null=True, blank=True)
    #: Play of a pilot bar in its guides, on diameter.
    guide_play_mm = mm(null=True, blank=True)
    #: Between centres: what the driver and the tail centre take of the bar, and the work's own length.
    driver_mm = mm(default=40)
    tail_mm = mm(default=20)
    work_length_mm = mm(null=True, blank=True)
    #: How high the work's own axis lies over its foot: the packing follows from it.
    foot_mm = mm(null=True, blank=True)
    #: How far the tip of the indicator's arm hangs: half of what top and bottom of a true ring differ by.
    droop_mm = mm(default=0)
    #: Set true to a face: the circle on which it is read, and that of the supports, jaws or clamps under it.
    face_read_mm = mm(null=True, blank=True)
    supports_mm = mm(null=True, blank=True)
    #: How far the supports, screws or the pivot lie behind the open face: tilting carries the centre along.
    pivot_mm = mm(null=True, blank=True)
    #: Whether its supports only lift it (shims, packing, jacks), or tip it over a pivot in their middle.
    level_about = models.CharField(
        max_length=6, choices=[("lowest", "only lift it"), ("pivot", "tip it over a pivot")], default="lowest"
    )
    #: Places of the bearings along the axis, from the open face of the first bore [mm].
    bearings_mm = models.JSONField(default=list, blank=True)
    #: From two sides: how far the second cuts past where the first one ended.
    overlap_mm = mm(default=2)
    #: How deep a through bore is cut from this side; empty for right through.
    side_depth_mm = mm(null=True, blank=True)
    #: On packing: how far the axis may lie off in height; how much the table or saddle falls to the front, over what.
    axis_allowed_mm = mm(null=True, blank=True)
    falls_mm = mm(null=True, blank=True)
    falls_over_mm = mm(null=True, blank=True)
    #: What turns off the axis: each a name, kg, mm out, degrees clockwise from the mark.
    masses = models.JSONField(default=list, blank=True)
    #: The circle of holes where a counterweight can be bolted, the least weight, and the greatest force allowed.
    plate_radius_mm = mm(null=True, blank=True)
    plate_holes = models.PositiveSmallIntegerField(default=8)
    weight_step_kg = models.DecimalField(max_digits=7, decimal_places=3, default="0.1")
    force_limit_n = models.DecimalField(max_digits=9, decimal_places=1, null=True, blank=True)
    overrun_mm = mm(default=5)
    clear_mm = mm(default=20)
    chip_clearance_mm = mm(default=5)
    budget_mm = mm(null=True, blank=True)
    rough_speed_m_min = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    finish_speed_m_min = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    rough_feed_mm_rev = mm(default="0.2")
    finish_feed_mm_rev = mm(default="0.08")
    rough_depth_mm = mm(default="0.5")
    finish_depth_mm = mm(default="0.2")
    finish_passes = models.PositiveSmallIntegerField(default=2)
    spring_passes = models.PositiveSmallIntegerField(default=0)
    #: A test cut short of size before the finish passes; how much short, empty: what the finish passes take.
    test_first = models.BooleanField(default=True)
    test_leave_mm = mm(null=True, blank=True)
    #: Left on diameter for honing: the passes end that much short.
    hone_allowance_mm = mm(default=0)
    #: Roughed work rests until this day before it is finished.
    rest_until = models.DateField(null=True, blank=True)
    max_rpm = models.PositiveIntegerField(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    def __str__(self) -> str:
        return f"plan of {self.setup.job.number}"
