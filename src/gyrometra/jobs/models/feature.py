"""What a set-up makes beside its bores: faces, angled faces, outsides, reliefs, distances to other axes."""

from __future__ import annotations

from django.db import models

from gyrometra.crib.models import mm
from gyrometra.jobs.models.bore import Bore
from gyrometra.jobs.models.job import SetUp


def _degrees() -> models.DecimalField[str | float | int | None, object]:
    return models.DecimalField(max_digits=7, decimal_places=4, null=True, blank=True)


class Feature(models.Model):
    """One feature with its limits; a limit that is empty is not asked."""

    class Kind(models.TextChoices):
        FACE = "face", "square face, by its depth"
        LENGTH = "length", "square face, by the length left"
        BAND = "band", "face at an angle"
        OUTSIDE = "outside", "outside diameter"
        RELIEF = "relief", "relief, clearance or another bore"
        DISTANCE = "distance", "distance to another axis"

    setup = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="features")
    place = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=20)
    kind = models.CharField(max_length=10, choices=Kind.choices)
    matters = models.CharField(max_length=8, choices=Bore.Matters.choices, default=Bore.Matters.DRAWN)
    #: As written: depth, length left, wide diameter of a band, diameter, distance.
    wanted = models.CharField(max_length=80, blank=True)
    lower_mm = mm(null=True, blank=True)
    upper_mm = mm(null=True, blank=True)
    #: As written, between the face and a plane square to the axis.
    angle = models.CharField(max_length=40, blank=True)
    angle_lower_deg = _degrees()
    angle_upper_deg = _degrees()
    runout_limit_mm = mm(null=True, blank=True)
    #: Of its own shape: roundness, flatness or straightness by its kind.
    form_limit_mm = mm(null=True, blank=True)
    #: Where it lies along the axis, from the open face; and how long it is.
    z_mm = mm(default=0)
    length_mm = mm(null=True, blank=True)
    #: The ring that is faced, and what is to come off.
    inner_mm = mm(null=True, blank=True)
    outer_mm = mm(null=True, blank=True)
    stock_mm = mm(null=True, blank=True)
    #: The axis that a distance is taken from.
    to_setup = models.ForeignKey(SetUp, null=True, blank=True, on_delete=models.PROTECT, related_name="measured_from")
    #: Taken off the list; nothing of it is asked, and it can be put back.
    dropped = models.BooleanField(default=False)
    #: Of an outside: its size as it was last measured, on the first piece; what must suit it asks for it here.
    found_mm = mm(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["setup", "place"], name="one_feature_a_place"),
            models.CheckConstraint(
                name="a_feature_has_limits_the_right_way_round",
                condition=(models.Q(lower_mm=None, upper_mm=None)
                           | models.Q(lower_mm__gt=0, upper_mm__gte=models.F("lower_mm")))
                & (models.Q(angle_lower_deg=None, angle_upper_deg=None)
                   | models.Q(angle_lower_deg__gte=0, angle_upper_deg__gte=models.F("angle_lower_deg"))),
            ),
        ]  # fmt: skip

    def __str__(self) -> str:
        return self.name
