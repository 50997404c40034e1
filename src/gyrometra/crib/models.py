"""What the shop owns: machines, bars, cutters, gauges, indicators."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.conf import settings
from django.db import models

from gyrocore import BarCandidate, BarSection, Dial, GaugeData, HeadBar, HeadHole, bar_kinds, methods


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


class CribChange(models.Model):
    """What was changed of a thing, by whom and when: field -> [before, after], as shown. Append-only."""

    kind = models.CharField(max_length=12)
    item_id = models.BigIntegerField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=12)
    fields = models.JSONField(default=dict)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["kind", "item_id"], name="changes_of_a_thing")]

    def __str__(self) -> str:
        return f"{self.kind} {self.item_id} {self.what}"


class Reads(models.TextChoices):
    """What one division of a dial moves."""

    RADIUS = "radius", "radius"
    DIAMETER = "diameter", "diameter"


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
    unbalanced_max_rpm = models.PositiveIntegerField(null=True, blank=True)
    #: What its bar cuts large, on diameter, as the shop knows it; small is negative. Only where a micrometer sets it.
    cuts_large_mm = mm(null=True, blank=True)
    shoes = models.CharField(max_length=4, choices=Shoes.choices, blank=True)

    @property
    def dial(self) -> Dial | None:
        """The dial of the slide that sets a cut, for the core."""
        if self.division_mm is None or self.divisions_per_turn is None:
            return None
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


class Head(CribItem):
    """A boring head: its dial, how far its slide moves, its holes, and how fast it may turn swung out."""

    division_mm = mm()
    divisions_per_turn = models.PositiveIntegerField()
    dial_reads = models.CharField(max_length=8, choices=Reads.choices)
    slide_travel_mm = mm()
    shank_mm = mm()
    max_rpm = models.PositiveIntegerField(null=True, blank=True)

    @property
    def dial(self) -> Dial:
        """The head's dial for the core."""
        return Dial(
            division_mm=float(self.division_mm), divisions_per_turn=self.divisions_per_turn, reads=self.dial_reads
        )

    def offsets(self) -> list[HeadHole]:
        """The holes with their offsets, nearest the axis first."""
        return [HeadHole(hole=hole.name, offset_mm=float(hole.offset_mm)) for hole in self.holes.all()]


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
    shank_mm = mm(null=True, blank=True)
    method = models.CharField(
        max_length=12, choices=[(key, way.label) for key, way in methods().items()], default="lathe-bar"
    )

    @property
    def held_by_mm(self) -> float:
        """The shank's diameter: the bar's own unless it is stepped."""
        return float(self.diameter_mm if self.shank_mm is None else self.shank_mm)

    @property
    def is_fixed(self) -> bool:
        """Whether it always stands out as far: in a boring head, in a stand's spindle."""
        return self.method in ("head", "stand")

    @property
    def head_bar(self) -> HeadBar:
        """The bar as a boring head swings it."""
        return HeadBar(shank_diameter_mm=float(self.diameter_mm), tip_projection_mm=float(self.tip_mm or 0))

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
            shank_mm=self.held_by_mm,
            reach_mm=self.reach_mm,
            min_bore_mm=float(self.min_bore_mm),
            fixed_reach=self.is_fixed,
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


class GaugeQuerySet(models.QuerySet[Any]):
    """Gauges by the day of their next check."""

    def due_by(self, day: date) -> GaugeQuerySet:
        """Gauges in use whose check is due on that day or before, the first due first."""
        return self.filter(retired=False, due_on__isnull=False, due_on__lte=day).order_by("due_on", "name")


class Gauge(CribItem):
    """A bore gauge: range, resolution, error limit, standing correction, due date."""

    range_low_mm = mm()
    range_high_mm = mm()
    resolution_mm = mm()
    error_limit_mm = mm(default=0)
    correction_mm = mm(default=0)
    single_sd_mm = mm(null=True, blank=True)
    due_on = models.DateField(null=True, blank=True)

    objects = GaugeQuerySet.as_manager()

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
