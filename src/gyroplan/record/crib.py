"""Things of the crib as they were: machine, head, bar, cutter, fixture [mm]."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from gyrocore import (
    BarCandidate,
    BarData,
    BarKind,
    BarMaterial,
    BarOut,
    BarResponse,
    BarSection,
    Dial,
    Drive,
    HeadBar,
    HeadHole,
    Segment,
    Support,
    Tool,
    TunedPoint,
    Tuning,
    bar_kind,
    bar_out,
    bar_response,
    segments_out,
    tuning,
)

#: A damper that stands this near to its turns is tuned (chosen here: what a hand sets it to).
TURNED_WITHIN = 0.05
Reads = Literal["radius", "diameter"]
Numbers = Literal["rise", "fall"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedRecord:
    """A spindle speed [rpm] and the lever positions that give it."""

    rpm: float
    lever: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class MachineRecord:
    """A machine: its speeds, slowest first, its slide's dial where it has one, its drive, what it takes."""

    name: str
    kind: str
    speeds: tuple[SpeedRecord, ...] = ()
    stepless: bool = False
    division_mm: float | None = None
    divisions_per_turn: int | None = None
    dial_reads: Reads = "radius"
    dial_numbers: Numbers = "rise"
    backlash_divisions: float | None = None
    #: Of the screws that move its bearings, a turn.
    screw_pitch_mm: float | None = None
    #: The dial of the table or slide that goes from one axis to the next.
    table_division_mm: float | None = None
    table_divisions_per_turn: int | None = None
    table_backlash_divisions: float | None = None
    #: Most that unbalanced work may turn on it; None where the shop has not said.
    unbalanced_max_rpm: float | None = None
    #: What its bar cuts large, on diameter; only where a micrometer sets it.
    cuts_large_mm: float | None = None
    power_kw: float | None = None
    torque_nm: float | None = None
    #: Slowest first; empty where any feed can be had.
    feeds_mm_rev: tuple[float, ...] = ()
    travel_mm: float | None = None
    centres_mm: float | None = None
    #: Of the spindle's axis, over the table or the saddle.
    axis_height_mm: float | None = None

    @property
    def drive(self) -> Drive | None:
        """What it gives at the spindle; None where its power is not known."""
        return None if self.power_kw is None else Drive(power_w=1000 * self.power_kw, torque_nm=self.torque_nm)

    @property
    def dial(self) -> Dial | None:
        """The dial of the slide that sets a cut."""
        if self.division_mm is None or self.divisions_per_turn is None:
            return None
        return Dial(division_mm=self.division_mm, divisions_per_turn=self.divisions_per_turn, reads=self.dial_reads)

    def feed_had(self, feed_mm_rev: float) -> float:
        """The machine's feed for a wanted one: the nearest that is not coarser, else its finest."""
        finer = [feed for feed in self.feeds_mm_rev if feed <= feed_mm_rev * (1 + 1e-9)]
        return max(finer, default=min(self.feeds_mm_rev, default=feed_mm_rev))

    def speeds_for(self, exact_rpm: float, cap_rpm: float | None) -> tuple[list[float] | None, float | None]:
        """What a speed is chosen from: the listed ones, or of a stepless drive none and its own top speed."""
        speeds = self.speeds_rpm
        if not self.stepless:
            return speeds, cap_rpm
        if exact_rpm < speeds[0]:
            return speeds[:1], cap_rpm
        return None, speeds[-1] if cap_rpm is None else min(cap_rpm, speeds[-1])

    @property
    def speeds_rpm(self) -> list[float]:
        """All spindle speeds, slowest first."""
        return [speed.rpm for speed in self.speeds]

    def lever_for(self, rpm: float) -> str:
        """The lever position of a speed."""
        return next((speed.lever for speed in self.speeds if abs(speed.rpm - rpm) < 1e-6), "")


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadRecord:
    """A boring head: its dial, how far its slide moves, its holes nearest the axis first."""

    name: str
    division_mm: float
    divisions_per_turn: int
    slide_travel_mm: float
    shank_mm: float
    holes: tuple[HeadHole, ...] = ()
    dial_reads: Reads = "radius"
    dial_numbers: Numbers = "rise"
    max_rpm: float | None = None
    #: Room wanted behind the heel of its bar, on radius.
    clearance_mm: float = 0.5
    #: Carried on the end of a bar instead of in the spindle: that bar's diameter, and how far it stands out.
    carrier_mm: float | None = None
    carrier_out_mm: float | None = None

    @property
    def dial(self) -> Dial:
        """The head's dial."""
        return Dial(division_mm=self.division_mm, divisions_per_turn=self.divisions_per_turn, reads=self.dial_reads)


@lru_cache(maxsize=512)
def _bar_out(segments: tuple[Segment, ...], material: BarMaterial) -> BarOut:
    """A bar's beam model, worked out once for each overhang."""
    return bar_out(segments=segments, material=material)


@dataclass(frozen=True, slots=True, kw_only=True)
class BarRecord:
    """A boring bar: held by its shank, in a boring head's hole, or in bearings."""

    key: int
    name: str
    kind: str
    #: The method of boring that it is made for.
    method: str
    diameter_mm: float
    length_mm: float
    min_bore_mm: float
    inner_diameter_mm: float = 0.0
    grip_mm: float | None = None
    #: Tip from the bar's own centre: only bars for a boring head have one.
    tip_mm: float | None = None
    #: Held crosswise in a head: how far it stands out on the far side of the axis.
    tail_mm: float = 0.0
    shank_mm: float | None = None
    #: Sections from the cutter's end, each (length, diameter); the rest is the bar's own diameter.
    steps_mm: tuple[tuple[float, float], ...] = ()
    #: The tool angle from square to the axis by this much.
    tilt_deg: float = 0.0
    damping_ratio: float | None = None
    #: The owner's own table of a tuned damped bar, each (overhang, turns out); and where the damper stands now.
    tuned: tuple[tuple[float, float], ...] = ()
    tuned_turns: float | None = None
    #: A second bit on the same bar stands so far from the first; the two are a matched pair.
    bits_apart_mm: float | None = None
    #: Pads that guide it in the bore it has just cut: how far behind the cutter, and the size they stand at, on Ø.
    pads_behind_mm: float | None = None
    pads_mm: float | None = None
    #: What carries its boring head, (length, diameter); none in the spindle itself.
    carrier: tuple[float, float] | None = None

    @property
    def held_by_mm(self) -> float:
        """The shank's diameter: the bar's own unless it is stepped."""
        return self.diameter_mm if self.shank_mm is None else self.shank_mm

    @property
    def is_fixed(self) -> bool:
        """Whether it always stands out as far: in a boring head, in a stand's spindle."""
        return self.method in ("head", "stand")

    @property
    def head_bar(self) -> HeadBar:
        """The bar as a boring head swings it."""
        return HeadBar(shank_diameter_mm=self.diameter_mm, tip_projection_mm=self.tip_mm or 0.0, tail_mm=self.tail_mm)

    @property
    def reach_mm(self) -> float:
        """What can stand out: three diameters stay in the clamp unless the shop says otherwise."""
        own = self.length_mm - (3 * self.diameter_mm if self.grip_mm is None else self.grip_mm)
        return own if self.carrier is None else own + self.carrier[0]

    def clamped_mm(self, out_mm: float) -> float:
        """What stays in the clamp when it stands out so far; what carries its head is no part of it."""
        return self.length_mm - out_mm + (0.0 if self.carrier is None else self.carrier[0])

    def on_head(self, head: HeadRecord | None) -> BarRecord:
        """The bar as this boring head carries it: at the end of another bar where the head is on one."""
        if head is None or head.carrier_mm is None or head.carrier_out_mm is None or self.method != "head":
            return self
        return replace(self, carrier=(head.carrier_out_mm, head.carrier_mm))

    @property
    def made_of(self) -> BarKind:
        """Rule, modulus, damping and density of its kind."""
        return bar_kind(self.kind)

    @property
    def material(self) -> BarMaterial:
        """Modulus and density of its kind."""
        kind = self.made_of
        return BarMaterial(youngs_modulus_gpa=kind.youngs_modulus_gpa, density_kg_m3=kind.density_kg_m3)

    @property
    def damping(self) -> float:
        """Its own damping ratio where the shop knows it, else its kind's."""
        return self.made_of.damping_ratio if self.damping_ratio is None else self.damping_ratio

    @property
    def greatest_mm(self) -> float:
        """Its thickest part."""
        return max([self.diameter_mm, *(diameter for _, diameter in self.steps_mm)])

    def carrier_within(self, depth_mm: float) -> bool:
        """Whether what carries its boring head goes into a bore so deep."""
        return self.carrier is not None and depth_mm > self.reach_mm - self.carrier[0] + 1e-9

    def thickest_within_mm(self, depth_mm: float) -> float:
        """The thickest part of what goes so deep into a bore: a thick part that stays outside does not count."""
        at, found = 0.0, []
        if self.carrier is not None and self.carrier_within(depth_mm):
            found.append(self.carrier[1])
        for length, diameter in self.steps_mm:
            if at < depth_mm - 1e-9:
                found.append(diameter)
            at += length
        return max([*found, self.diameter_mm]) if at < depth_mm - 1e-9 else max(found, default=self.diameter_mm)

    def stands_out(self, out_mm: float) -> BarOut:
        """How it answers at its cutter, standing out so far, with its real steps."""
        shank = Segment(length_mm=1.0, diameter_mm=self.diameter_mm, inner_diameter_mm=self.inner_diameter_mm)
        return _bar_out(tuple(self._segments_out(shank, out_mm)), self.material)

    def _segments_out(self, shank: Segment, out_mm: float) -> list[Segment]:
        steps = [Segment(length_mm=length, diameter_mm=diameter) for length, diameter in self.steps_mm]
        if self.carrier is None:
            return segments_out(steps, shank, out_mm)
        length, diameter = self.carrier
        return [Segment(length_mm=length, diameter_mm=diameter), *segments_out(steps, shank, out_mm - length)]

    def held_by_pads(self, out_mm: float) -> BarResponse | None:
        """How it answers at its cutter once its pads are in the bore; None where it has none, or they stay outside."""
        behind = self.pads_behind_mm
        if behind is None or self.pads_mm is None or behind >= out_mm:
            return None
        shank = Segment(length_mm=1.0, diameter_mm=self.diameter_mm, inner_diameter_mm=self.inner_diameter_mm)
        return bar_response(
            segments=self._segments_out(shank, out_mm), tool=Tool(position_mm=out_mm), material=self.material,
            supports=[Support(position_mm=0, kind="clamped"), Support(position_mm=out_mm - behind, kind="bearing")],
        )  # fmt: skip

    def damping_at(self, out_mm: float) -> float:
        """Its damping standing out so far: a bar whose damper is not tuned for it damps as plain steel does."""
        found = self.tuning_at(out_mm)
        off = found is not None and (found.turns is None or abs(found.move_turns or 0.0) > TURNED_WITHIN)
        return bar_kind("steel").damping_ratio if off else self.damping

    def data_at(self, out_mm: float) -> BarData:
        """What the shop knows better of this bar than its kind says."""
        return BarData(damping_ratio=self.damping_at(out_mm))

    def tuning_at(self, out_mm: float) -> Tuning | None:
        """What its owner's table says at an overhang; None where it has no table."""
        if not self.tuned:
            return None
        points = [TunedPoint(overhang_mm=out, turns=turns) for out, turns in self.tuned]
        return tuning(points=points, overhang_mm=out_mm, stands_turns=self.tuned_turns)

    def section_at(self, out_mm: float) -> BarSection:
        """The bar as the core bends it; a stepped one as the plain bar that is as stiff standing out so far."""
        if self.steps_mm or self.carrier is not None:
            return BarSection(kind=self.kind, diameter_mm=self.stands_out(out_mm).equal_diameter_mm)
        return BarSection(
            kind=self.kind, diameter_mm=self.diameter_mm, inner_diameter_mm=self.inner_diameter_mm
        )  # fmt: skip

    def candidate_at(self, needed_mm: float, entering_mm: float) -> BarCandidate:
        """The bar as the core ranks it for a reach; one of a fixed reach as it stands out, whatever is needed.

        `entering_mm` of it goes into the bore: only that must be thin enough.
        """
        section = self.section_at(self.reach_mm if self.is_fixed else needed_mm)
        return BarCandidate(
            name=self.name,
            kind=self.kind,
            diameter_mm=section.diameter_mm,
            inner_diameter_mm=section.inner_diameter_mm,
            shank_mm=self.held_by_mm,
            reach_mm=self.reach_mm,
            min_bore_mm=self.min_bore_mm,
            fixed_reach=self.is_fixed,
            thickest_mm=self.thickest_within_mm(entering_mm) if self.steps_mm or self.carrier else None,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class CutterRecord:
    """A bit: material, nose, entering angle, and the least depth that it still cuts."""

    key: int
    name: str
    made_of: str
    nose_radius_mm: float
    entering_angle_deg: float
    least_depth_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FixtureRecord:
    """A fixture, a plate or packing that holds the work."""

    name: str
    kind: str
    height_mm: float | None = None
