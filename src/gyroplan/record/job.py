"""A job with its set-up, its plan, and the bores of its axis, as they were asked for [mm]."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date
from typing import Literal

from gyrocore import BoreInLine, Limits, Material, Method, held
from gyrocore.choices import LevelAbout
from gyroplan.record.crib import BarRecord, CutterRecord, FixtureRecord, HeadRecord, MachineRecord
from gyroplan.record.features import FeatureReadingRecord, FeatureRecord
from gyroplan.record.logs import BetweenRecord, CutLogRecord, DepthRecord, PlugRecord, RoundRecord, SizeRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class BreakRecord:
    """A place where the wall is broken: from and to along the bore, where on the circle, how wide."""

    kind: str
    from_mm: float
    to_mm: float
    angle_deg: float
    width_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ThereRecord:
    """Another hole on the axis that is not cut: from and to from the open face, and its size [mm]."""

    name: str
    from_mm: float
    to_mm: float
    diameter_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreRecord:
    """One bore of the axis: where it lies, as found, as it must become, what else it must keep."""

    key: int
    name: str
    #: Its number along the axis.
    place: int
    start_mm: float
    length_mm: float
    ends: Literal["through", "shoulder", "blind"] = "through"
    #: The finished size as it was written, and the unit that was meant where the text names none.
    wanted: str
    wanted_unit: str = "mm"
    nominal_mm: float | None = None
    lower_mm: float
    upper_mm: float
    target_lower_mm: float | None = None
    target_upper_mm: float | None = None
    depth_lower_mm: float | None = None
    depth_upper_mm: float | None = None
    inspection: Literal["reduced", "normal", "critical"] = "normal"
    runout_limit_mm: float
    roundness_limit_mm: float | None = None
    taper_limit_mm: float | None = None
    #: As found, each (depth from the open face, diameter); and the outside, each (length, diameter).
    found_mm: tuple[tuple[float, float], ...] = ()
    #: As one piece alone was found, where it came in unlike the others: each (piece, depth, diameter).
    found_alone_mm: tuple[tuple[int, float, float], ...] = ()
    #: Those of both lists that were found in a direction: each (depth, diameter, degrees from the mark).
    found_at_deg: tuple[tuple[float, float, float], ...] = ()
    outside_mm: tuple[tuple[float, float], ...] = ()
    breaks: tuple[BreakRecord, ...] = ()
    #: Holes on the same axis that are only there.
    there: tuple[ThereRecord, ...] = ()

    def of_piece(self, piece: int) -> BoreRecord:
        """As that piece was found; a piece without sizes of its own came in like the rest."""
        own = tuple((z, diameter) for of, z, diameter in self.found_alone_mm if of == piece)
        return replace(self, found_mm=own) if own else self

    @property
    def limits(self) -> Limits:
        """The limits of size for the core."""
        return Limits(self.nominal_mm, self.lower_mm, self.upper_mm, self.tolerance_mm, self.aim_mm, ())

    @property
    def tolerance_mm(self) -> float:
        """Upper less lower limit."""
        return self.upper_mm - self.lower_mm

    @property
    def aim_mm(self) -> float:
        """The middle of the owner's own target, else of the limits."""
        if self.target_lower_mm is not None and self.target_upper_mm is not None:
            return (self.target_lower_mm + self.target_upper_mm) / 2
        return (self.lower_mm + self.upper_mm) / 2

    @property
    def smallest_found_mm(self) -> float | None:
        """The smallest size found: what a bar must enter and the first cut meets."""
        return min((diameter for _, diameter in self.found_mm), default=None)

    def found_in_deg(self, z_mm: float, diameter_mm: float) -> float | None:
        """In which direction a size was found; None where it was not said."""
        return next((deg for z, d, deg in self.found_at_deg if (z, d) == (z_mm, diameter_mm)), None)

    @property
    def oval_found_mm(self) -> tuple[float, float] | None:
        """The largest difference of two directions at one depth as found, and that depth; None where none has two."""
        by_depth: dict[float, list[float]] = {}
        for z, diameter in self.found_mm:
            by_depth.setdefault(z, []).append(diameter)
        ovals = [(max(sizes) - min(sizes), z) for z, sizes in by_depth.items() if len(sizes) > 1]
        return max(ovals, default=None)

    @property
    def end_mm(self) -> float:
        """Where it ends along the axis."""
        return self.start_mm + self.length_mm

    @property
    def in_line(self) -> BoreInLine:
        """Its place along the axis, for the core."""
        return BoreInLine(name=self.name, start_mm=self.start_mm, end_mm=self.end_mm, closed=self.ends == "blind")

    @property
    def stops_the_cutter(self) -> bool:
        """Whether the cutter cannot run past its end."""
        return self.ends != "through"


@dataclass(frozen=True, slots=True, kw_only=True)
class HeavyRecord:
    """Something that turns off the axis: how heavy, how far out, where clockwise from the mark."""

    name: str
    mass_kg: float
    radius_mm: float
    angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRecord:
    """How the set-up is bored: bar, cutter, reach, feeds, passes."""

    bar: BarRecord | None = None
    #: Another bar that opens the bore up before the one above finishes it.
    opening_bar: BarRecord | None = None
    cutter: CutterRecord | None = None
    head: HeadRecord | None = None
    #: What the cutter is set with, where the method leaves a choice.
    set_with: Literal["", "protrusion", "indicator", "jig"] = ""
    jig_zero_mm: float | None = None
    guide_play_mm: float | None = None
    driver_mm: float = 40.0
    tail_mm: float = 20.0
    work_length_mm: float | None = None
    bearings_mm: tuple[float, ...] = ()
    #: How far the tip of the indicator's arm hangs: half of what top and bottom of a true ring differ by.
    droop_mm: float = 0.0
    #: Set true to a face: the circle on which it is read, and that of the supports, jaws or clamps under it.
    face_read_mm: float | None = None
    supports_mm: float | None = None
    #: How far the supports, screws or the pivot lie behind the open face.
    pivot_mm: float | None = None
    #: What levels the work: shims or screws that only lift, or screws over a pivot in their middle.
    level_about: LevelAbout = "lowest"
    #: How high the work's own axis lies over its foot, where it stands on a table or a saddle.
    foot_mm: float | None = None
    overrun_mm: float = 5.0
    clear_mm: float = 20.0
    chip_clearance_mm: float = 5.0
    #: From two sides: how far the second cuts past where the first one ended.
    overlap_mm: float = 2.0
    #: How deep a through bore is cut from this side; None for right through.
    side_depth_mm: float | None = None
    #: On packing: how far the axis may lie off in height, and how much the table or saddle falls over a length.
    axis_allowed_mm: float | None = None
    falls_mm: float | None = None
    falls_over_mm: float | None = None
    #: What turns off the axis with the work, and where a counterweight can be bolted.
    masses: tuple[HeavyRecord, ...] = ()
    plate_radius_mm: float | None = None
    plate_holes: int = 8
    weight_step_kg: float = 0.1
    force_limit_n: float | None = None
    #: The shop's own figure for the deflection allowed, on radius.
    budget_mm: float | None = None
    rough_speed_m_min: float | None = None
    finish_speed_m_min: float | None = None
    rough_feed_mm_rev: float = 0.2
    finish_feed_mm_rev: float = 0.08
    rough_depth_mm: float = 0.5
    finish_depth_mm: float = 0.2
    finish_passes: int = 2
    spring_passes: int = 0
    test_first: bool = True
    test_leave_mm: float | None = None
    hone_allowance_mm: float = 0.0
    rest_until: date | None = None
    max_rpm: float | None = None


def letter_of(place: int) -> str:
    """`A` for the first set-up."""
    return chr(ord("A") + place - 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class SetUpRecord:
    """One axis of rotation on one machine, held one way, from one side."""

    #: Its number in the order of the work.
    place: int = 1
    #: From which side of the part it is bored: as it lies first, or turned round.
    side: Literal["first", "other"] = "first"
    #: Why it was given up; what was cut in it stands as cut. Empty while it is not.
    closed_reason: str = ""
    machine: MachineRecord
    method: str
    #: How the work is held; empty is the method's usual way.
    holding: str = ""
    #: Set true to the old bore, the outside, a face, a wall along the axis, or a bore that an earlier set-up finished.
    reference: Literal["old-bore", "outside", "face", "wall", "finished"]
    plan: PlanRecord
    bores: tuple[BoreRecord, ...]
    room_behind_mm: float | None = None
    coaxiality_mm: float | None = None
    match_mm: float | None = None
    fixtures: tuple[FixtureRecord, ...] = ()
    #: What it makes beside its bores: faces, bands, outsides, reliefs, distances to other axes.
    features: tuple[FeatureRecord, ...] = ()
    #: Nothing is cut: the work is only set true, and its first bore is the surface that is read.
    only_trued: bool = False

    @property
    def way(self) -> Method:
        """The method of boring as the work is held: which part turns, what is trued, how a cut is set."""
        return held(self.method, self.holding)

    @property
    def letter(self) -> str:
        """What it is called on a page."""
        return letter_of(self.place)

    @property
    def surface(self) -> Literal["inside", "outside", "face"]:
        """The surface that is swept."""
        if self.reference == "face":
            return "face"
        return "outside" if self.reference == "outside" else "inside"

    @property
    def moves_bearings(self) -> bool:
        """Whether the axis is moved at two bearings that both end bores decide: one bore alone tells no move."""
        return self.way.moved_is == "axis" and self.way.bar_in == "bearings" and self.is_several

    @property
    def tightest_runout_mm(self) -> float:
        """What the whole set-up must be trued to."""
        return min(bore.runout_limit_mm for bore in self.bores)

    @property
    def is_several(self) -> bool:
        """Whether there are several bores in line."""
        return len(self.bores) > 1


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreSummary:
    """What one bore of a piece came to: its verdict, and the mean of its sizes; None before a size [mm]."""

    name: str
    word: str
    mean_mm: float | None
    expanded_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceSummary:
    """What a piece came to: its bores, their line where it is asked, and the digest of all that is shown of it."""

    piece: int
    bores: tuple[BoreSummary, ...]
    features: tuple[BoreSummary, ...] = ()
    line_word: str = ""
    digest: str = ""
    #: The last day on which none of its gauges is overdue; None for always.
    good_until: date | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SetUpSummary:
    """What another set-up of the job came to: its verdict, what is not in limits by name, and a digest of it all."""

    place: int
    closed_reason: str = ""
    word: str
    not_in: tuple[tuple[str, str], ...] = ()
    digest: str
    #: The last day on which none of its gauges is overdue; None for always.
    good_until: date | None = None
    #: How far its work was trued off the axis, where it was read.
    off_centre_mm: float | None = None
    #: Mean sizes of its first bore with their uncertainty, each (piece, diameter, expanded); for distances over walls.
    first_bore_mm: tuple[tuple[int, float, float], ...] = ()

    @property
    def letter(self) -> str:
        """What it is called on a page."""
        return letter_of(self.place)


@dataclass(frozen=True, slots=True, kw_only=True)
class JobRecord:
    """A job at one of its set-ups: what came in, how it is bored there, and the logs of that set-up.

    Of a large batch the logs of some pieces only; of the others stands what they came to.
    """

    number: str
    part: str
    material: Material
    setup: SetUpRecord
    quantity: int = 1
    due_on: date | None = None
    cuts: tuple[CutLogRecord, ...] = ()
    rounds: tuple[RoundRecord, ...] = ()
    between: tuple[BetweenRecord, ...] = ()
    sizes: tuple[SizeRecord, ...] = ()
    depths: tuple[DepthRecord, ...] = ()
    feature_readings: tuple[FeatureReadingRecord, ...] = ()
    plugs: tuple[PlugRecord, ...] = ()
    #: Pieces whose logs are left out, as they stood when they last changed.
    summaries: tuple[PieceSummary, ...] = ()
    #: The job's other set-ups, as they stood when they last changed.
    others: tuple[SetUpSummary, ...] = ()
    #: The verdict that the lead has signed, and who; empty before.
    signed_word: str = ""
    signed_by: str = ""
    #: Why it was given up; empty while it is not.
    closed_reason: str = ""
    #: Near a limit: limits narrowed by the uncertainty, or as read where the shop says so.
    rule: Literal["guarded", "simple"] = "guarded"

    @property
    def pieces(self) -> range:
        """The numbers of the pieces."""
        return range(1, self.quantity + 1)

    @property
    def begun_pieces(self) -> list[int]:
        """Pieces that have anything in their logs."""
        logs = (self.cuts, self.rounds, self.sizes, self.depths, self.feature_readings, self.plugs,
                self.summaries)  # fmt: skip
        return sorted({one.piece for log in logs for one in log})

    def bore_at(self, place: int, piece: int = 1) -> BoreRecord:
        """The bore at a place along the axis, as that piece was found; the first where there is none."""
        bores = self.setup.bores
        return next((bore for bore in bores if bore.place == place), bores[0]).of_piece(piece)
