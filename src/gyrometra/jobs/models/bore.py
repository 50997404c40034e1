"""A bore of a set-up's axis: as found, as wanted, its outside, what breaks its wall."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import mm
from gyrometra.jobs.models.job import SetUp
from gyrometra.jobs.queries import BoreQuerySet


class Bore(models.Model):
    """One bore of a set-up's axis: where it lies, as it is, as it must become, what else it must keep."""

    class Ends(models.TextChoices):
        THROUGH = "through", "through"
        SHOULDER = "shoulder", "counterbore, ends at a shoulder"
        BLIND = "blind", "blind, closed at its end"

    class Matters(models.TextChoices):
        LITTLE = "little", "reduced"
        DRAWN = "drawn", "normal"
        MUCH = "much", "critical"

    setup = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="bores")
    #: The same bore as it was begun in an earlier set-up, which handed it on as it was measured.
    follows = models.ForeignKey("self", null=True, blank=True, on_delete=models.PROTECT, related_name="followed_by")
    name = models.CharField(max_length=20, default="bore")
    place = models.PositiveSmallIntegerField(default=1)
    #: From the open face of the first bore, along the axis.
    start_mm = mm(default=0)
    length_mm = mm()
    ends = models.CharField(max_length=10, choices=Ends.choices, default=Ends.THROUGH)
    #: The part that it must suit, as measured, and the clearance wanted on diameter; negative is a press.
    mate_mm = mm(null=True, blank=True)
    #: The outside of another job that is that part: its size is taken from there.
    mate_feature = models.ForeignKey(
        "jobs.Feature", null=True, blank=True, on_delete=models.SET_NULL, related_name="mates"
    )
    play_least_mm = mm(null=True, blank=True)
    play_most_mm = mm(null=True, blank=True)
    #: Depth of the shoulder from the open face: as written, and its limits.
    depth_wanted = models.CharField(max_length=80, blank=True)
    depth_lower_mm = mm(null=True, blank=True)
    depth_upper_mm = mm(null=True, blank=True)
    wanted = models.CharField(max_length=80)
    nominal_mm = mm(null=True, blank=True)
    lower_mm = mm()
    upper_mm = mm()
    #: The owner's own target inside the limits, as written and as limits; its middle is what is aimed at.
    target = models.CharField(max_length=80, blank=True)
    target_lower_mm = mm(null=True, blank=True)
    target_upper_mm = mm(null=True, blank=True)
    matters = models.CharField(max_length=8, choices=Matters.choices, default=Matters.DRAWN)
    runout_limit_mm = mm()
    roundness_limit_mm = mm(null=True, blank=True)
    taper_limit_mm = mm(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    objects = BoreQuerySet.as_manager()

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["setup", "place"], name="one_bore_a_place"),
            models.UniqueConstraint(fields=["setup", "name"], name="one_bore_a_name"),
            models.CheckConstraint(
                name="a_bore_has_limits_and_a_length",
                condition=models.Q(length_mm__gt=0, lower_mm__gt=0, upper_mm__gte=models.F("lower_mm")),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.name} {self.wanted}"

    @property
    def has_shoulder(self) -> bool:
        """Whether the cut ends at a shoulder."""
        return self.ends == self.Ends.SHOULDER

    @property
    def stops_the_cutter(self) -> bool:
        """Whether the cutter cannot run past its end."""
        return self.ends != self.Ends.THROUGH


class FoundSize(models.Model):
    """The bore as found at one depth from the open face."""

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="found")
    #: The piece that was found so, where pieces came in unlike; empty: all that have no sizes of their own.
    piece = models.PositiveSmallIntegerField(null=True, blank=True)
    z_mm = mm()
    diameter_mm = mm()
    #: In which direction, clockwise from jaw 1 or the mark; empty where it was not said.
    angle_deg = models.DecimalField(max_digits=6, decimal_places=2, null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["z_mm", "angle_deg"]

    def __str__(self) -> str:
        return f"{self.diameter_mm} at {self.z_mm}"


class OutsideStep(models.Model):
    """A step of the outside, from the open face: so long, so thick."""

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="outside")
    place = models.PositiveSmallIntegerField()
    length_mm = mm()
    diameter_mm = mm()
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return f"{self.length_mm} of {self.diameter_mm}"


class OnlyThere(models.Model):
    """Another hole on the same axis that is not cut, from the open face: the bar must pass it."""

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="there")
    place = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=20)
    from_mm = mm()
    to_mm = mm()
    diameter_mm = mm()
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return f"{self.name} {self.diameter_mm}, not cut"


class Interruption(models.Model):
    """A place where the wall is broken: from and to along the bore, and where on the circle."""

    class Kind(models.TextChoices):
        KEYWAY = "keyway", "keyway"
        PORT = "port", "port"
        CROSS_HOLE = "cross-hole", "cross hole"
        SLOT = "slot", "slot"

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="interruptions")
    place = models.PositiveSmallIntegerField()
    kind = models.CharField(max_length=12, choices=Kind.choices)
    from_mm = mm()
    to_mm = mm()
    angle_deg = models.DecimalField(max_digits=6, decimal_places=2, default=0)
    #: How wide it is across, at the wall.
    width_mm = mm()
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return f"{self.get_kind_display()} {self.from_mm} to {self.to_mm}"
