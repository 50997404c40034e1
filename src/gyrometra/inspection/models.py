"""Sizes of the finished bore at depths by directions, depths of its shoulder: each with a named gauge, as it was."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import Gauge, Indicator, mm
from gyrometra.jobs.models import Bore, Feature, LogEntry, SetUp


class SizeReading(LogEntry):
    """One diameter at one depth in one direction; several of one place belong together."""

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="sizes")
    bore = models.ForeignKey(Bore, on_delete=models.PROTECT, related_name="sizes")
    gauge = models.ForeignKey(Gauge, on_delete=models.PROTECT, related_name="sizes")
    #: Which of the pieces alike; the plan is shared, the logs are apart.
    piece = models.PositiveSmallIntegerField(default=1)
    z_mm = mm()
    angle_deg = models.DecimalField(max_digits=6, decimal_places=2)
    value_mm = mm()
    part_temp_c = models.DecimalField(max_digits=5, decimal_places=2, default=20)
    gauge_temp_c = models.DecimalField(max_digits=5, decimal_places=2, default=20)
    temp_u_c = models.DecimalField(max_digits=5, decimal_places=2, default=0)
    #: The gauge as it was, in this person's hands; empty in entries of an older make.
    rests_on = models.JSONField(default=dict, blank=True)

    class Meta(LogEntry.Meta):
        constraints = [
            models.CheckConstraint(
                name="a_finished_size_has_a_place",
                condition=models.Q(value_mm__gt=0, z_mm__gte=0, angle_deg__gte=0, angle_deg__lt=360, piece__gte=1),
            )
        ]

    def __str__(self) -> str:
        return f"{self.value_mm} at {self.z_mm}"


class DepthReading(LogEntry):
    """The depth of a shoulder, from the open face."""

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="shoulder_depths")
    bore = models.ForeignKey(Bore, on_delete=models.PROTECT, related_name="shoulder_depths")
    gauge = models.ForeignKey(Gauge, on_delete=models.PROTECT, related_name="+")
    piece = models.PositiveSmallIntegerField(default=1)
    value_mm = mm()
    rests_on = models.JSONField(default=dict, blank=True)

    class Meta(LogEntry.Meta):
        constraints = [
            models.CheckConstraint(name="a_shoulder_is_deep", condition=models.Q(value_mm__gt=0, piece__gte=1))
        ]

    def __str__(self) -> str:
        return f"shoulder {self.value_mm}"


class FeatureReading(LogEntry):
    """One reading of a face, a band, an outside, a relief or a distance."""

    class What(models.TextChoices):
        SIZE = "size", "size"
        ANGLE = "angle", "angle"
        RUNOUT = "runout", "run-out (TIR)"
        FORM = "form", "form"

    class Over(models.TextChoices):
        CENTRES = "centres", "centre to centre"
        NEAR = "near-walls", "between the near walls"
        FAR = "far-walls", "over the far walls"

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="feature_readings")
    feature = models.ForeignKey(Feature, on_delete=models.PROTECT, related_name="readings")
    piece = models.PositiveSmallIntegerField(default=1)
    what = models.CharField(max_length=8, choices=What.choices)
    #: Millimetres; of an angle degrees.
    value = models.DecimalField(max_digits=12, decimal_places=6)
    gauge = models.ForeignKey(Gauge, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    indicator = models.ForeignKey(Indicator, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    #: How well the instrument tells an angle or a swing, in the value's unit.
    expanded = models.DecimalField(max_digits=12, decimal_places=6, default=0)
    #: Of a distance: what it was read over, and the sizes of the two bores as they were known then.
    over = models.CharField(max_length=12, choices=Over.choices, default=Over.CENTRES)
    first_mm = mm(null=True, blank=True)
    second_mm = mm(null=True, blank=True)
    walls_expanded_mm = mm(default=0)
    #: Of a ring or gap gauge: the side that was tried, its size the value, and whether it goes over.
    side = models.CharField(max_length=5, choices=[("go", "go"), ("no-go", "no-go")], blank=True)
    goes = models.BooleanField(default=False)
    #: The gauge as it was, in this person's hands.
    rests_on = models.JSONField(default=dict, blank=True)

    class Meta(LogEntry.Meta):
        constraints = [
            models.CheckConstraint(
                name="a_feature_is_read_with_something",
                condition=models.Q(value__gte=0, piece__gte=1, expanded__gte=0)
                & (~models.Q(what="size") | models.Q(gauge__isnull=False, value__gt=0))
                & (models.Q(side="", goes=False) | models.Q(side__in=["go", "no-go"], what="size")),
            )
        ]

    def __str__(self) -> str:
        return f"{self.what} {self.value}"


class PlugReading(LogEntry):
    """What was tried in a finished bore: a side of a plug or the mating part goes or not, a set gauge is felt."""

    class Side(models.TextChoices):
        GO = "go", "go"
        NO_GO = "no-go", "no-go"
        MATE = "mate", "mating part"
        SET = "set", "gauge set to a size"

    class Felt(models.TextChoices):
        TIGHTER = "tighter", "tighter"
        SAME = "same", "the same"
        LOOSER = "looser", "looser"

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="plugs")
    bore = models.ForeignKey(Bore, on_delete=models.PROTECT, related_name="plugs")
    #: Empty for the mating part.
    gauge = models.ForeignKey(Gauge, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    piece = models.PositiveSmallIntegerField(default=1)
    side = models.CharField(max_length=5, choices=Side.choices)
    goes = models.BooleanField()
    #: Of a set gauge.
    felt = models.CharField(max_length=8, choices=Felt.choices, blank=True)
    #: The size of the side as it was; of the mating part as it was measured; what a gauge was set to.
    size_mm = mm()
    rests_on = models.JSONField(default=dict, blank=True)

    class Meta(LogEntry.Meta):
        constraints = [
            models.CheckConstraint(
                name="a_plug_has_a_size_and_a_side",
                condition=models.Q(size_mm__gt=0, piece__gte=1, side__in=["go", "no-go", "mate", "set"])
                & (models.Q(side="mate") | models.Q(gauge__isnull=False))
                & (
                    models.Q(side="set", felt__in=["tighter", "same", "looser"])
                    | (~models.Q(side="set") & models.Q(felt=""))
                ),
            )
        ]

    def __str__(self) -> str:
        return f"{self.gauge_id} {self.side}: {self.felt or ('goes' if self.goes else 'does not go')}"
