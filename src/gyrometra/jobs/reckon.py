"""All that follows from a bore's plan: speeds, settings pass by pass, power, times.

Only joins: stored figure -> core input -> core function -> result. A figure that cannot be worked
out yet is None, and `problems` says why.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from gyrocore import (
    CutTime,
    Dial,
    Finish,
    FirstCut,
    Habit,
    NextCut,
    Pass,
    PowerCheck,
    SetAndMeasured,
    Speed,
    cut_time,
    eased_speed_m_min,
    elastic_passes,
    finish,
    first_cut_depths,
    next_cut,
    passes_until_round,
    power_check,
    spindle_speed,
)
from gyrometra.crib.models import Machine
from gyrometra.jobs.bar_in_work import BarInWork
from gyrometra.jobs.cutting_plan import ROUGHING
from gyrometra.jobs.setting import Setting, relative_setting, setting_by_dial, setting_over_bar

#: By how much a listed speed may pass the exact one (the shop's choice), percent.
OVER_PERCENT = 5.0


def machine_speed(machine: Machine, diameter_mm: float, surface_speed: float, cap_rpm: float | None = None) -> Speed:
    """The speed that a machine has for a diameter and a surface speed [m/min]."""
    exact = spindle_speed(diameter_mm=diameter_mm, surface_speed_m_min=surface_speed).exact_rpm
    speeds, most = machine.speeds_for(exact, cap_rpm)
    return spindle_speed(
        diameter_mm=diameter_mm, surface_speed_m_min=surface_speed, spindle_speeds_rpm=speeds, max_rpm=most,
        over_percent=OVER_PERCENT,
    )  # fmt: skip


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
        return self.cut.kind in ROUGHING


class Reckoning(BarInWork):
    """Everything that follows from one job's figures for one of its bores."""

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
        general = float(getattr(self.material.speed_m_min[self.cutter.made_of], stage))
        return eased_speed_m_min(surface_speed_m_min=general, interrupted=self.bore.is_interrupted)

    def _speed(self, stage: str) -> Speed | None:
        speed = self.surface_speed(stage)
        if self.passes is None or speed is None:
            return None
        diameters = [cut.diameter_mm for cut in self.passes.passes if (cut.kind in ROUGHING) == (stage == "rough")]
        if not diameters:
            return None
        return self._try(
            f"{stage}_speed",
            lambda: machine_speed(self.machine, max(diameters), speed, self.cap_rpm),
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
        for place, cut in enumerate(self.passes.passes):
            before, stand = self._from_here(place, before, stand)
            setting = self.setting(before, cut.diameter_mm, at_division=stand)
            speed = self.rough_speed if cut.kind in ROUGHING else self.finish_speed
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

    def _from_here(self, place: int, before_mm: float, stand: float) -> tuple[float, float]:
        """Size and dial before a pass: of one done as they were then, of the first left as they are now."""
        if place < len(self.done):
            return self.done[place].start_mm, stand
        if place == len(self.done) and self.done and self.known_mm is not None:
            return self.known_mm, self.dial_stands_at
        return before_mm, stand

    @property
    def dial_stands_at(self) -> float:
        """Where the dial stands after all that was set, from 0 at touch; 0 where there is none."""
        if self.dial is None:
            return 0.0
        stand = sum(done.divisions for done in self.done) % self.dial.divisions_per_turn
        return 0.0 if self.dial.divisions_per_turn - stand < 1e-6 else stand

    @cached_property
    def power(self) -> PowerCheck | None:
        """The hardest pass against the machine's drive; None where its power is not known."""
        drive, deepest = self.machine.drive, self.deepest(*ROUGHING) or self.deepest("finish")
        speed = self.rough_speed or self.finish_speed
        cut = self.cut_of(deepest)
        if drive is None or cut is None or speed is None:
            return None
        at_speed = replace(cut, surface_speed_m_min=speed.surface_speed_at_set_m_min)
        return self._try("power", lambda: power_check(cut=at_speed, drive=drive))

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
            if self.plan.set_with == self.plan.SetWith.INDICATOR:
                return relative_setting(measured_mm, target_mm, float(self.bar.tilt_deg))
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
