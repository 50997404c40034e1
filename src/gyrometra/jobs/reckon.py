"""From a job's stored figures to the core's answers, for every step page alike.

Only joins: stored figure -> core input -> core function -> result. A figure that cannot be worked
out yet is None, and `problems` or `missing` says why.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import TypeVar

from gyrocore import (
    SPRING_SHARE,
    BarChoice,
    Cut,
    CutTime,
    CuttingForce,
    Dial,
    Finish,
    FirstCut,
    Habit,
    InvalidInput,
    NextCut,
    Overhang,
    Pass,
    PassPlan,
    PassRules,
    Reach,
    SetAndMeasured,
    Speed,
    choose_bar,
    cut_time,
    cutting_force,
    elastic_passes,
    finish,
    first_cut_depths,
    material,
    next_cut,
    overhang,
    pass_plan,
    passes_until_round,
    reach_needed,
    spindle_speed,
)
from gyrometra.crib.models import Bar, Cutter
from gyrometra.jobs.models import Bore, Job
from gyrometra.jobs.setting import Setting, setting_by_dial, setting_over_bar

T = TypeVar("T")
#: By how much a listed speed may pass the exact one (shop's choice in the first slice), percent.
OVER_PERCENT = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedPass:
    """A pass with all that is set for it."""

    cut: Pass
    start_mm: float
    feed_mm_rev: float
    setting: Setting
    time: CutTime | None
    rpm: float | None

    @property
    def is_roughing(self) -> bool:
        """Whether it belongs to the roughing group (one lever for all of it)."""
        return self.cut.kind in ("rough", "test")


@dataclass
class Reckoning:
    """Everything that follows from one job's figures for one of its bores."""

    job: Job
    bore: Bore
    bars: Sequence[Bar] = ()
    off_centre_mm: float | None = None
    problems: dict[str, InvalidInput] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.setup = self.job.setup
        self.plan = self.setup.plan
        self.machine = self.setup.machine
        self.material = material(self.job.material)
        self.bars = [bar for bar in self.bars if bar.method == self.setup.method]

    def _try(self, name: str, work: Callable[[], T]) -> T | None:
        try:
            return work()
        except InvalidInput as error:
            self.problems[name] = error
            return None

    @property
    def bar(self) -> Bar | None:
        """The bar picked for this set-up; one made for another way of boring does not count."""
        bar = self.plan.bar
        return bar if bar is not None and bar.method == self.setup.method else None

    @property
    def cutter(self) -> Cutter | None:
        """The cutter picked for this set-up."""
        return self.plan.cutter

    @cached_property
    def found_mm(self) -> list[float]:
        """The bore as found, from the open face inward."""
        return [float(size.diameter_mm) for size in self.bore.found.all()]

    @property
    def start_mm(self) -> float | None:
        """The smallest size found: what a bar must enter and the first cut meets."""
        return min(self.found_mm) if self.found_mm else None

    @cached_property
    def budget_mm(self) -> float:
        """Allowed spring on radius: the shop's own figure, else a quarter of the tolerance."""
        if self.plan.budget_mm is not None:
            return float(self.plan.budget_mm)
        return SPRING_SHARE * self.bore.tolerance_mm

    @property
    def trued_off_centre_mm(self) -> float:
        """How far off centre the old bore is taken to lie: as trued, else half the limit."""
        if self.off_centre_mm is not None:
            return self.off_centre_mm
        return float(self.bore.runout_limit_mm) / 2

    @property
    def overrun_mm(self) -> float:
        """How far the cutter runs past the end: not at all into a shoulder or a closed end."""
        return 0.0 if self.bore.stops_the_cutter else float(self.plan.overrun_mm)

    @cached_property
    def reach(self) -> Reach | None:
        """Holder face to cutter point at the end of the cut."""
        room = self.setup.room_behind_mm
        return self._try(
            "reach",
            lambda: reach_needed(
                bore_length_mm=float(self.bore.length_mm),
                overrun_mm=self.overrun_mm,
                clear_mm=float(self.plan.clear_mm),
                room_behind_mm=None if room is None else float(room),
            ),
        )

    @cached_property
    def rules(self) -> PassRules:
        """The shop's rules for the passes."""
        plan = self.plan
        least = float(self.cutter.least_depth_mm) if self.cutter else 0.05
        return PassRules(
            rough_depth_mm=float(plan.rough_depth_mm),
            finish_depth_mm=float(plan.finish_depth_mm),
            finish_passes=plan.finish_passes,
            hone_allowance_mm=float(plan.hone_allowance_mm),
            min_depth_mm=least,
            spring_passes=plan.spring_passes,
            test_leave_mm=None if plan.test_leave_mm is None else float(plan.test_leave_mm),
        )

    @cached_property
    def passes(self) -> PassPlan | None:
        """How the stock is shared among passes."""
        start = self.start_mm
        if start is None:
            return None
        return self._try(
            "passes",
            lambda: pass_plan(start_diameter_mm=start, aim_diameter_mm=self.bore.aim_mm, rules=self.rules),
        )

    @cached_property
    def heaviest_cut(self) -> Cut | None:
        """The deepest pass at its feed: what the bar must carry."""
        if self.passes is None or self.cutter is None:
            return None
        deepest = max(self.passes.passes, key=lambda cut: cut.depth_mm)
        feed = self.feed_of(deepest)
        return Cut(
            kc11_mpa=self.material.kc11_mpa,
            mc=self.material.mc,
            thrust_ratio=self.material.thrust_ratio,
            depth_mm=deepest.depth_mm,
            feed_mm_rev=feed,
            entering_angle_deg=float(self.cutter.entering_angle_deg),
            nose_radius_mm=float(self.cutter.nose_radius_mm),
            diameter_mm=deepest.diameter_mm,
        )

    def feed_of(self, cut: Pass) -> float:
        """Roughing feed for rough and test passes, finishing feed for the rest."""
        roughing = cut.kind in ("rough", "test")
        return float(self.plan.rough_feed_mm_rev if roughing else self.plan.finish_feed_mm_rev)

    @cached_property
    def force(self) -> CuttingForce | None:
        """Forces of the heaviest cut."""
        cut = self.heaviest_cut
        return None if cut is None else self._try("force", lambda: cutting_force(cut))

    @property
    def out_mm(self) -> float | None:
        """How far the picked bar stands out: as the bore asks, or its own fixed reach in a head or a spindle."""
        if self.bar is not None and self.bar.is_fixed:
            return self.bar.reach_mm
        return self.reach.reach_mm if self.reach else None

    def overhang_of(self, bar: Bar) -> Overhang | None:
        """How far a bar may hang out under the heaviest cut."""
        cut = self.heaviest_cut
        if cut is None:
            return None
        return self._try(
            "overhang",
            lambda: overhang(
                bar=bar.section,
                cut=cut,
                budget_mm=self.budget_mm,
                needed_mm=self.out_mm,
            ),
        )

    @cached_property
    def overhang(self) -> Overhang | None:
        """The picked bar's limits."""
        return self.overhang_of(self.bar) if self.bar else None

    @cached_property
    def choice(self) -> BarChoice | None:
        """The crib's bars ranked for this bore."""
        start, reach = self.start_mm, self.reach
        if start is None or reach is None or not self.bars:
            return None
        return self._try(
            "choice",
            lambda: choose_bar(
                candidates=[bar.candidate for bar in self.bars],
                needed_reach_mm=reach.reach_mm,
                bore_mm=start,
                chip_clearance_mm=float(self.plan.chip_clearance_mm),
                holder_shanks_mm=[float(self.plan.head.shank_mm)] if self.plan.head else None,
            ),
        )

    @property
    def tip_stiffness_n_mm(self) -> float | None:
        """How stiff the picked bar is at its cutter, as it stands out here."""
        if self.choice is None or self.bar is None:
            return None
        name = self.bar.name
        return next((row.tip_stiffness_n_mm for row in self.choice.ranked if row.name == name), None)

    @property
    def spring_mm(self) -> float | None:
        """How far the picked bar springs under the heaviest cut, on radius."""
        stiffness = self.tip_stiffness_n_mm
        return None if self.force is None or stiffness is None else abs(self.force.radial_n) / stiffness

    @property
    def cap_rpm(self) -> float | None:
        """The set-up's cap: the plan's own, else the least of the machine's and the swung head's."""
        head = self.plan.head.max_rpm if self.plan.head else None
        caps = [cap for cap in (self.machine.unbalanced_max_rpm, head) if cap]
        cap = self.plan.max_rpm or min(caps, default=None)
        return None if cap is None else float(cap)

    def surface_speed(self, stage: str) -> float | None:
        """The wanted surface speed: the plan's own, else the material's for this cutter."""
        own = getattr(self.plan, f"{stage}_speed_m_min")
        if own is not None:
            return float(own)
        if self.cutter is None:
            return None
        return float(getattr(self.material.speed_m_min[self.cutter.made_of], stage))

    def _speed(self, stage: str) -> Speed | None:
        speed = self.surface_speed(stage)
        if self.passes is None or speed is None:
            return None
        roughing = ("rough", "test")
        diameters = [cut.diameter_mm for cut in self.passes.passes if (cut.kind in roughing) == (stage == "rough")]
        if not diameters:
            return None
        return self._try(
            f"{stage}_speed",
            lambda: spindle_speed(
                diameter_mm=max(diameters),
                surface_speed_m_min=speed,
                spindle_speeds_rpm=self.machine.speeds_rpm(),
                max_rpm=self.cap_rpm,
                over_percent=OVER_PERCENT,
            ),
        )

    @cached_property
    def rough_speed(self) -> Speed | None:
        """One lever for the roughing group, at its largest diameter."""
        return self._speed("rough")

    @cached_property
    def finish_speed(self) -> Speed | None:
        """The lever for the finish passes."""
        return self._speed("finish")

    def finish_of(self, feed_mm_rev: float) -> Finish | None:
        """The roughness a feed leaves with this cutter."""
        cutter = self.cutter
        if cutter is None or cutter.nose_radius_mm <= 0:
            return None
        return self._try(
            "finish",
            lambda: finish(nose_radius_mm=float(cutter.nose_radius_mm), feed_mm_rev=feed_mm_rev),
        )

    @cached_property
    def planned(self) -> list[PlannedPass]:
        """The passes with dial, speed and time."""
        if self.passes is None or self.start_mm is None:
            return []
        before, stand, rows = self.start_mm, 0.0, []
        for cut in self.passes.passes:
            setting = self.setting(before, cut.diameter_mm, at_division=stand)
            speed = self.rough_speed if cut.kind in ("rough", "test") else self.finish_speed
            rows.append(
                PlannedPass(
                    cut=cut,
                    start_mm=before,
                    feed_mm_rev=self.feed_of(cut),
                    setting=setting,
                    time=self._time(cut, speed),
                    rpm=speed.set_rpm if speed else None,
                )
            )
            before, stand = cut.diameter_mm, setting.stands_at
        return rows

    def _time(self, cut: Pass, speed: Speed | None) -> CutTime | None:
        if speed is None:
            return None
        return cut_time(
            length_mm=float(self.bore.length_mm),
            feed_mm_rev=self.feed_of(cut),
            rpm=speed.set_rpm,
            overrun_mm=self.overrun_mm,
        )

    @property
    def dial(self) -> Dial | None:
        """The dial that sets a cut: the slide's, or the boring head's; none where it is set over the bar."""
        if self.setup.way.set_by == "head":
            return self.plan.head.dial if self.plan.head else None
        return self.machine.dial if self.setup.way.set_by == "dial" else None

    def setting(
        self,
        measured_mm: float,
        target_mm: float,
        at_division: float = 0.0,
        history: Sequence[SetAndMeasured] = (),
    ) -> Setting:
        """How the cutter is set from one size to another, by this way of boring."""
        if self.setup.way.set_by == "micrometer":
            learned = self._try("setting", lambda: self._next_cut(target_mm, history))
            return Setting(from_mm=measured_mm, to_mm=target_mm, learned=learned)
        if self.setup.way.set_by == "over-bar" and self.bar is not None:
            return setting_over_bar(measured_mm, target_mm, float(self.bar.diameter_mm))
        return setting_by_dial(measured_mm, target_mm, self.dial, at_division)

    def _next_cut(self, target_mm: float, history: Sequence[SetAndMeasured]) -> NextCut:
        """The habit of the stand's bar: what the crib says, and what these passes have shown."""
        division = self.machine.division_mm
        per_step = 2.0 if self.machine.dial_reads == "radius" else 1.0
        return next_cut(
            history=history,
            aim_mm=target_mm,
            limits_mm=(float(self.bore.lower_mm), float(self.bore.upper_mm)),
            habit=Habit(prior_bias_mm=float(self.machine.cuts_large_mm or 0)),
            dial_step_mm=None if division is None else per_step * float(division),
        )

    @property
    def minutes(self) -> float | None:
        """All passes under feed."""
        times = [row.time.minutes for row in self.planned if row.time]
        return sum(times) if times and len(times) == len(self.planned) else None

    @cached_property
    def first_cut(self) -> FirstCut | None:
        """Least and greatest depth of the first pass round the wall."""
        if self.passes is None:
            return None
        first = self.passes.passes[0].diameter_mm
        return self._try(
            "first_cut",
            lambda: first_cut_depths(
                cut_diameter_mm=first, found_mm=self.found_mm, off_centre_mm=self.trued_off_centre_mm
            ),
        )

    @cached_property
    def copied(self) -> tuple[float, float, int] | None:
        """Swing of the first cut, the share of it that each pass copies, and the pass that is round enough."""
        first, force, cut = self.first_cut, self.force, self.heaviest_cut
        stiffness = self.tip_stiffness_n_mm
        if first is None or force is None or cut is None or stiffness is None or force.radial_n == 0:
            return None
        swing = first.largest_mm - first.smallest_mm
        law = elastic_passes(
            bar_stiffness_n_mm=stiffness,
            cutting_stiffness_n_mm=abs(force.radial_n) / cut.depth_mm,
            depth_mm=cut.depth_mm,
            runout_mm=swing,
            passes=1,
        )
        count = passes_until_round(ratio=law.ratio, runout_mm=swing, allowed_mm=float(self.bore.runout_limit_mm))
        return swing, law.ratio, count

    @cached_property
    def wall_left_mm(self) -> float | None:
        """The thinnest wall once bored to the aim; None where the outside is not known."""
        outside = [float(step.diameter_mm) for step in self.bore.outside.all()]
        return (min(outside) - self.bore.aim_mm) / 2 if outside else None
