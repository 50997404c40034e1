"""What the shop owns: machines, bars, cutters, gauges, indicators."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import models

from gyrocore import BarCandidate, BarSection, Dial, GaugeData, bar_kinds


def mm(**kwargs: Any) -> Any:
    """A length column: millimetres to a nanometre."""
    return models.DecimalField(max_digits=12, decimal_places=6, **kwargs)


class CribItem(models.Model):
    """A named thing of the shop; what was typed is kept beside the values."""

    name = models.CharField(max_length=60, unique=True)
    notes = models.CharField(max_length=300, blank=True)
    typed = models.JSONField(default=dict, blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    retired = models.BooleanField(default=False)

    class Meta:
        abstract = True
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Machine(CribItem):
    """A lathe: its speeds with lever positions, its cross-slide dial, its cap when unbalanced."""

    class Reads(models.TextChoices):
        RADIUS = "radius", "radius"
        DIAMETER = "diameter", "diameter"

    division_mm = mm()
    divisions_per_turn = models.PositiveIntegerField()
    dial_reads = models.CharField(max_length=8, choices=Reads.choices)
    unbalanced_max_rpm = models.PositiveIntegerField(null=True, blank=True)

    @property
    def dial(self) -> Dial:
        """The cross-slide's dial for the core."""
        return Dial(
            division_mm=float(self.division_mm),
            divisions_per_turn=self.divisions_per_turn,
            reads=self.dial_reads,
        )

    def speeds_rpm(self) -> list[float]:
        """All spindle speeds, slowest first."""
        return [float(speed.rpm) for speed in self.speeds.all()]

    def lever_for(self, rpm: float) -> str:
        """The lever position of a speed."""
        return next((s.lever for s in self.speeds.all() if abs(float(s.rpm) - rpm) < 1e-6), "")


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


class Bar(CribItem):
    """A boring bar held by its shank."""

    kind = models.CharField(max_length=20, choices=[(k, v.label) for k, v in bar_kinds().items()])
    diameter_mm = mm()
    inner_diameter_mm = mm(default=0)
    length_mm = mm()
    grip_mm = mm(null=True, blank=True)
    min_bore_mm = mm()

    @property
    def least_grip_mm(self) -> float:
        """What must stay in the clamp: three diameters unless the shop says otherwise."""
        return float(self.grip_mm) if self.grip_mm is not None else 3 * float(self.diameter_mm)

    @property
    def reach_mm(self) -> float:
        """What can stand out."""
        return float(self.length_mm) - self.least_grip_mm

    @property
    def section(self) -> BarSection:
        """The bar as the core bends it."""
        return BarSection(
            kind=self.kind,
            diameter_mm=float(self.diameter_mm),
            inner_diameter_mm=float(self.inner_diameter_mm),
        )

    @property
    def candidate(self) -> BarCandidate:
        """The bar as the core ranks it."""
        return BarCandidate(
            name=self.name,
            kind=self.kind,
            diameter_mm=float(self.diameter_mm),
            inner_diameter_mm=float(self.inner_diameter_mm),
            shank_mm=float(self.diameter_mm),
            reach_mm=self.reach_mm,
            min_bore_mm=float(self.min_bore_mm),
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


class Gauge(CribItem):
    """A bore gauge: range, resolution, error limit, standing correction, due date."""

    range_low_mm = mm()
    range_high_mm = mm()
    resolution_mm = mm()
    error_limit_mm = mm(default=0)
    correction_mm = mm(default=0)
    single_sd_mm = mm(null=True, blank=True)
    due_on = models.DateField(null=True, blank=True)

    @property
    def data(self) -> GaugeData:
        """The gauge as the core judges with it."""
        return GaugeData(
            resolution_mm=float(self.resolution_mm),
            error_limit_mm=float(self.error_limit_mm),
            correction_mm=float(self.correction_mm),
            single_sd_mm=None if self.single_sd_mm is None else float(self.single_sd_mm),
        )

    def is_overdue(self, today: date) -> bool:
        """Whether its check is past due."""
        return self.due_on is not None and self.due_on < today


class Indicator(CribItem):
    """A dial or lever indicator: one division, and how far it reads."""

    step_mm = mm()
    range_mm = mm()
