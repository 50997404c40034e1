"""What was set, what came out, how it sounded and looked."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Bar, Cutter, Gauge, mm
from gyrometra.jobs.models import Bore, LogEntry, SetUp


class CutEntry(LogEntry):
    """One entry of the cutting log; `kind` says which of the columns it fills."""

    class Kind(models.TextChoices):
        GUARD = "guard", "guard steps confirmed"
        SET = "set", "cutter set"
        CUT = "cut", "pass cut"
        SIZE = "size", "size measured"
        REMARK = "remark", "sound and finish"
        TOUCHED = "touched", "tool reground, indexed or bumped"
        TOUCH_OFF = "touch-off", "touched off"
        ZERO = "zero", "dial turned to a number"
        PLAN = "plan", "the plan it was made by"
        NOISE = "noise", "what was heard"
        TRIED = "tried", "what was changed against it"
        SEEN = "seen", "chips, coolant, edge, words"

    class Sound(models.TextChoices):
        QUIET = "quiet", "quiet"
        HUM = "hum", "hums"
        SQUEAL = "squeal", "squeals"

    class Look(models.TextChoices):
        CLEAN = "clean", "clean"
        TORN = "torn", "torn"
        WAVES = "waves", "chatter marks"

    class Chips(models.TextChoices):
        BROKEN = "broken", "short, broken"
        LONG = "long", "long"
        PACKED = "packed", "pack in the bore"
        DUST = "dust", "dust"

    class Coolant(models.TextChoices):
        DRY = "dry", "dry"
        BRUSHED = "brushed", "oil, brushed on"
        MIST = "mist", "mist or air"
        FLOOD = "flood", "flood"

    class Edge(models.TextChoices):
        GOOD = "good", "good"
        WORN = "worn", "worn"
        CHIPPED = "chipped", "chipped"
        BUILT_UP = "built-up", "built up"

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="cuts")
    #: Empty for what belongs to the whole set-up: the guard steps.
    bore = models.ForeignKey(Bore, null=True, on_delete=models.PROTECT, related_name="cuts")
    #: Which of the pieces alike; the plan is shared, the logs are apart.
    piece = models.PositiveSmallIntegerField(default=1)
    kind = models.CharField(max_length=10, choices=Kind.choices)
    number = models.PositiveSmallIntegerField(default=0)
    #: A measured size; of a setting the diameter it cuts.
    value_mm = mm(null=True, blank=True)
    #: What was really moved or read: divisions, millimetres along the bit, or the reading. Empty only in settings of
    #: an older make, which stand for set and cut at once and have the three figures below instead.
    actual = models.DecimalField(max_digits=22, decimal_places=12, null=True, blank=True)
    change_mm = mm(null=True, blank=True)
    divisions = models.DecimalField(max_digits=10, decimal_places=3, null=True, blank=True)
    setting_mm = mm(null=True, blank=True)
    #: Of a cut: the last pass of a bundle.
    through = models.PositiveSmallIntegerField(null=True, blank=True)
    #: What the dial was turned to, or showed as the tip touched.
    at_division = models.DecimalField(max_digits=12, decimal_places=6, null=True, blank=True)
    part_temp_c = models.DecimalField(max_digits=5, decimal_places=2, default=20)
    gauge_temp_c = models.DecimalField(max_digits=5, decimal_places=2, default=20)
    temp_u_c = models.DecimalField(max_digits=5, decimal_places=2, default=0)
    #: What it rested on, as it was: the gauge of a size, bar, cutter, feed and speed of a pass, the plan of a plan.
    rests_on = models.JSONField(default=dict, blank=True)
    #: Of a setting or a cut: what kind of pass it was, and the spindle speed it was planned with.
    pass_kind = models.CharField(max_length=8, blank=True)
    rpm = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    gauge = models.ForeignKey(Gauge, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    sound = models.CharField(max_length=8, choices=Sound.choices, blank=True)
    look = models.CharField(max_length=8, choices=Look.choices, blank=True)
    #: Of what was seen: one of these a tap, or words in `text`.
    chips = models.CharField(max_length=8, choices=Chips.choices, blank=True)
    coolant = models.CharField(max_length=8, choices=Coolant.choices, blank=True)
    edge = models.CharField(max_length=8, choices=Edge.choices, blank=True)

    class Meta(LogEntry.Meta):
        constraints = [
            models.CheckConstraint(
                name="a_set_pass_has_a_number_and_a_size",
                condition=~models.Q(kind="set") | models.Q(number__gte=1, value_mm__gt=0),
            ),
            models.CheckConstraint(
                name="a_cut_pass_has_a_number", condition=~models.Q(kind="cut") | models.Q(number__gte=1)
            ),
            models.CheckConstraint(
                name="a_size_has_a_value_and_a_gauge",
                condition=~models.Q(kind="size") | models.Q(value_mm__gt=0, gauge__isnull=False, bore__isnull=False),
            ),
            models.CheckConstraint(name="a_cut_is_of_a_piece", condition=models.Q(piece__gte=1)),
        ]

    def __str__(self) -> str:
        return f"pass {self.number} {self.kind}"


class BarSeen(models.Model):
    """What a measured pass said of its bar, worked out from the log and kept so that other jobs can be told of it.

    Made anew after every change of its bore; `number` 0 is a tip that was touched.
    """

    setup = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="+")
    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="+")
    piece = models.PositiveSmallIntegerField()
    number = models.PositiveSmallIntegerField()
    bar = models.ForeignKey(Bar, on_delete=models.CASCADE, related_name="seen")
    cutter = models.ForeignKey(Cutter, null=True, on_delete=models.CASCADE, related_name="+")
    material = models.CharField(max_length=40)
    kind = models.CharField(max_length=8)
    way = models.CharField(max_length=12)
    off_mm = models.FloatField()
    model_mm = models.FloatField()
    out_mm = models.FloatField(null=True)
    diameter_mm = models.FloatField()
    depth_mm = models.FloatField()
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "pk"]
        indexes = [models.Index(fields=["bar", "-at"], name="what_was_seen_of_a_bar")]

    def __str__(self) -> str:
        return f"{self.off_mm} of {self.bar_id}"
