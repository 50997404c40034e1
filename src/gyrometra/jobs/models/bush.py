"""A bush or a shaft that is made to suit a bore, and the job that makes it."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from gyrometra.crib.models import Material, mm
from gyrometra.jobs.models.bore import Bore
from gyrometra.jobs.models.job import Job


class Bush(models.Model):
    """What is asked of a bush for a seat: the fit, its material, the bore wanted in place, its blank.

    Or of a solid shaft, which has no bore of its own.
    """

    class Kind(models.TextChoices):
        BUSH = "bush", "bush or sleeve"
        SHAFT = "shaft", "shaft, solid"

    class PutIn(models.TextChoices):
        PRESS = "press", "press"
        HEAT = "heat", "heat the hub"
        COOL = "cool", "cool the bush"

    seat = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="bushes")
    piece = models.PositiveSmallIntegerField(default=1)
    #: The job that makes it; empty while it is only planned.
    job = models.OneToOneField(Job, null=True, blank=True, on_delete=models.SET_NULL, related_name="suits")
    kind = models.CharField(max_length=5, choices=Kind.choices, default=Kind.BUSH)
    material = models.ForeignKey(Material, on_delete=models.PROTECT, related_name="+")
    #: Interference on diameter; negative is clearance.
    least_mm = mm()
    most_mm = mm()
    #: The bore wanted once it is in place: as written, and its limits; a shaft has none.
    finish = models.CharField(max_length=80, blank=True)
    finish_lower_mm = mm(null=True, blank=True)
    finish_upper_mm = mm(null=True, blank=True)
    #: Left in its bore on diameter until it is pressed.
    leave_mm = mm(default=0)
    length_mm = mm()
    blank_outside_mm = mm(null=True, blank=True)
    blank_inside_mm = mm(null=True, blank=True)
    #: A flange that stays outside the seat: how thick along the axis, how large; empty for none.
    flange_mm = mm(null=True, blank=True)
    flange_diameter_mm = mm(null=True, blank=True)
    put_in = models.CharField(max_length=6, choices=PutIn.choices, default=PutIn.PRESS)
    #: Its outside's limits as they were when its job was made, or taken over anew.
    lower_mm = mm(null=True, blank=True)
    upper_mm = mm(null=True, blank=True)
    #: What they are by the seat as it is measured now; empty where it cannot be made to suit any more.
    now_lower_mm = mm(null=True, blank=True)
    now_upper_mm = mm(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["seat", "piece"], name="one_bush_a_seat"),
            models.CheckConstraint(
                name="a_bush_has_a_fit_and_a_bore",
                condition=models.Q(most_mm__gt=models.F("least_mm"), length_mm__gt=0)
                & (models.Q(kind="shaft")
                   | models.Q(finish_lower_mm__gt=0, finish_upper_mm__gte=models.F("finish_lower_mm"))),
            ),
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.kind} for {self.seat}"

    @property
    def has_moved(self) -> bool:
        """Whether the seat was measured anew since its job took the limits over."""
        now, then = (self.now_lower_mm, self.now_upper_mm), (self.lower_mm, self.upper_mm)
        return self.job_id is not None and now != then
