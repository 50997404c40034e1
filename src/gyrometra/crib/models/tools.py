"""Boring heads, bars and cutters."""

from __future__ import annotations

from functools import lru_cache

from django.db import models

from gyrocore import (
    BarCandidate,
    BarData,
    BarKind,
    BarMaterial,
    BarOut,
    BarSection,
    Dial,
    HeadBar,
    HeadHole,
    Segment,
    TunedPoint,
    Tuning,
    bar_kind,
    bar_kinds,
    bar_out,
    methods,
    segments_out,
    tuning,
)
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


@lru_cache(maxsize=512)
def _bar_out(segments: tuple[Segment, ...], material: BarMaterial) -> BarOut:
    """A bar's beam model, worked out once for each overhang."""
    return bar_out(segments=segments, material=material)


#: A damper that stands this near to its turns is tuned.
_TURNED = 0.05


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
    def material(self) -> BarKind:
        """Rule, modulus, damping and density of its kind."""
        return bar_kind(self.kind)

    @property
    def damping(self) -> float:
        """Its own damping ratio where the shop knows it, else its kind's."""
        return self.material.damping_ratio if self.damping_ratio is None else float(self.damping_ratio)

    def stands_out(self, out_mm: float) -> BarOut:
        """How it answers at its cutter, standing out so far, with its real steps."""
        shank = Segment(
            length_mm=1.0, diameter_mm=float(self.diameter_mm), inner_diameter_mm=float(self.inner_diameter_mm)
        )
        steps = [Segment(length_mm=length, diameter_mm=diameter) for length, diameter in self.steps_mm]
        kind = self.material
        made_of = BarMaterial(youngs_modulus_gpa=kind.youngs_modulus_gpa, density_kg_m3=kind.density_kg_m3)
        return _bar_out(tuple(segments_out(steps, shank, out_mm)), made_of)

    def damping_at(self, out_mm: float) -> float:
        """Its damping standing out so far: a bar whose damper is not tuned for it damps as plain steel does."""
        found = self.tuning_at(out_mm)
        off = found is not None and (found.turns is None or abs(found.move_turns or 0.0) > _TURNED)
        return bar_kind("steel").damping_ratio if off else self.damping

    def data_at(self, out_mm: float) -> BarData:
        """What the shop knows better of this bar than its kind says."""
        return BarData(damping_ratio=self.damping_at(out_mm))

    def tuning_at(self, out_mm: float) -> Tuning | None:
        """What its owner's table says at an overhang; None where it has no table."""
        if not self.tuned:
            return None
        stands = None if self.tuned_turns is None else float(self.tuned_turns)
        points = [TunedPoint(overhang_mm=out, turns=turns) for out, turns in self.tuned]
        return tuning(points=points, overhang_mm=out_mm, stands_turns=stands)

    def section_at(self, out_mm: float) -> BarSection:
        """The bar as the core bends it; a stepped one as the plain bar that is as stiff standing out so far."""
        if self.steps_mm:
            return BarSection(kind=self.kind, diameter_mm=self.stands_out(out_mm).equal_diameter_mm)
        return BarSection(
            kind=self.kind,
            diameter_mm=float(self.diameter_mm),
            inner_diameter_mm=float(self.inner_diameter_mm),
        )

    @property
    def greatest_mm(self) -> float:
        """The thickest part of what goes into the bore."""
        return max([float(self.diameter_mm), *(float(diameter) for _, diameter in self.steps_mm)])

    def candidate_at(self, out_mm: float) -> BarCandidate:
        """The bar as the core ranks it for a reach; a stepped one as the plain bar that is as stiff there."""
        section = self.section_at(out_mm)
        return BarCandidate(
            name=self.name,
            kind=self.kind,
            diameter_mm=section.diameter_mm,
            inner_diameter_mm=section.inner_diameter_mm,
            shank_mm=self.held_by_mm,
            reach_mm=self.reach_mm,
            min_bore_mm=float(self.min_bore_mm),
            fixed_reach=self.is_fixed,
            thickest_mm=self.greatest_mm if self.steps_mm else None,
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
