"""All that follows from a bore's plan: speeds, settings pass by pass, power, times.

Only joins: stored figure -> core input -> core function -> result. A figure that cannot be worked
out yet is None, and `problems` says why.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from gyrocore import (
    CutTime,
    Finish,
    FirstCut,
    Pass,
    PowerCheck,
    Speed,
    cut_time,
    eased_speed_m_min,
    elastic_passes,
    finish,
    first_cut_depths,
    passes_until_round,
    power_check,
    spindle_speed,
)
from gyrometra.crib.models import Machine
from gyrometra.jobs.bar_in_work import BarInWork
from gyrometra.jobs.setting import Setting
from gyroplan.loop import DialWay
from gyroplan.plan.loads import ROUGHING

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
        """The set-up's cap: the least of the plan's own, the machine's and the swung head's."""
        head = self.plan.head.max_rpm if self.plan.head else None
        caps = [float(cap) for cap in (self.machine.unbalanced_max_rpm, head, self.plan.max_rpm) if cap]
        return min(caps, default=None)

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
        """The passes with setting, speed and time: those that are cut as they were set, then those that are left."""
        ladder = self.ladder
        if ladder is None or self.passes is None:
            return []
        settings = [
            *(
                (cut.from_mm, cut.set_mm, cut.set_as, cut.set_as.to_division if cut.set_as else None)
                for cut in ladder.done
            ),
            *((ahead.from_mm, ahead.cut.diameter_mm, ahead.told, ahead.stands_at) for ahead in ladder.ahead),
        ]
        return [
            self._planned(cut, Setting(from_mm=before, to_mm=to, way=ladder.way, told=told, stands_at=stands,
                                       no_dial=self.way_and_missing[1]))
            for cut, (before, to, told, stands) in zip(self.passes.passes, settings, strict=True)
        ]  # fmt: skip

    def _planned(self, cut: Pass, setting: Setting) -> PlannedPass:
        speed = self.rough_speed if cut.kind in ROUGHING else self.finish_speed
        return PlannedPass(
            cut=cut,
            start_mm=setting.from_mm,
            feed_mm_rev=self.feed_of(cut),
            setting=setting,
            time=self._time(cut, speed),
            rpm=speed.set_rpm if speed else None,
        )

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
    def dial(self) -> DialWay | None:
        """The dial that sets a cut: the slide's, or the boring head's; none where it is set otherwise."""
        way = self.way_and_missing[0]
        return way if isinstance(way, DialWay) else None

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
