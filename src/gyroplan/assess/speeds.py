"""Speeds, settings pass by pass, power, times, and how soon an eccentric hole is bored round."""

from __future__ import annotations

from dataclasses import dataclass, replace

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
from gyroplan.assess.at import AtBore
from gyroplan.assess.figure import Figure, found_or_refused
from gyroplan.assess.pairs import pair_of
from gyroplan.assess.passes import Passes
from gyroplan.assess.setting import Setting
from gyroplan.assess.turning import turning_of
from gyroplan.plan.loads import ROUGHING
from gyroplan.record import MachineRecord

#: By how much a listed speed may pass the exact one (the shop's choice), percent.
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
        return self.cut.kind in ROUGHING


@dataclass(frozen=True, slots=True, kw_only=True)
class Copied:
    """How the bar copies an eccentric hole: the first cut's swing, the share a pass leaves, the pass that is round."""

    swing_mm: float
    share: float
    round_at: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Speeds:
    """Speeds and what follows from them for one bore."""

    cap_rpm: float | None
    wanted_rough_m_min: float | None
    wanted_finish_m_min: float | None
    rough: Figure[Speed]
    finish: Figure[Speed]
    #: The passes with setting, speed and time: those that are cut as they were set, then those that are left.
    planned: tuple[PlannedPass, ...]
    #: The hardest pass against the machine's drive.
    power: Figure[PowerCheck]
    #: All passes under feed; None while a speed is missing.
    minutes: float | None
    #: Least and greatest depth of the first pass round the wall.
    first_cut: Figure[FirstCut]
    rough_left: Finish | None
    finish_left: Finish | None

    def wanted(self, stage: str) -> float | None:
        """The surface speed wanted of a stage, rough or finish."""
        return self.wanted_rough_m_min if stage == "rough" else self.wanted_finish_m_min


def machine_speed(
    machine: MachineRecord, diameter_mm: float, surface_speed: float, cap_rpm: float | None = None
) -> Speed:
    """Return the speed that a machine has for a diameter and a surface speed [m/min]."""
    exact = spindle_speed(diameter_mm=diameter_mm, surface_speed_m_min=surface_speed).exact_rpm
    speeds, most = machine.speeds_for(exact, cap_rpm)
    return spindle_speed(
        diameter_mm=diameter_mm, surface_speed_m_min=surface_speed, spindle_speeds_rpm=speeds, max_rpm=most,
        over_percent=OVER_PERCENT,
    )  # fmt: skip


def speeds_of(passes: Passes, off_centre_mm: float | None) -> Speeds:
    """Return the speeds of a bore's passes and what follows; off centre as trued, None before truing [mm]."""
    at = passes.at
    cap = cap_of(at)
    wanted = {stage: wanted_speed(at, stage) for stage in ("rough", "finish")}
    speed = {stage: _speed(passes, stage, wanted[stage], cap) for stage in wanted}
    planned = _planned(passes, speed)
    times = [row.time.minutes for row in planned if row.time]
    return Speeds(
        cap_rpm=cap, wanted_rough_m_min=wanted["rough"], wanted_finish_m_min=wanted["finish"],
        rough=speed["rough"], finish=speed["finish"], planned=planned,
        power=_power(passes, speed["rough"].value or speed["finish"].value),
        minutes=sum(times) if times and len(times) == len(planned) else None,
        first_cut=_first_cut(passes, off_centre_mm),
        rough_left=_finish(at, at.plan.rough_feed_mm_rev), finish_left=_finish(at, at.plan.finish_feed_mm_rev),
    )  # fmt: skip


def cap_of(at: AtBore) -> float | None:
    """The set-up's cap: the least of the plan's own, the machine's, the swung head's and the force's that is allowed.

    None where none is known.
    """
    turning = turning_of(at)
    caps = (
        turning.max_rpm if turning else None,
        at.machine.unbalanced_max_rpm,
        at.plan.head.max_rpm if at.plan.head else None,
        at.plan.max_rpm,
    )
    return min((cap for cap in caps if cap), default=None)


def swings_unbalanced(at: AtBore) -> bool:
    """Whether something unbalanced turns: work in a four-jaw or on a faceplate, a boring head that is set over."""
    return at.setup.way.unbalanced


def wanted_speed(at: AtBore, stage: str) -> float | None:
    """The wanted surface speed: the plan's own, else the material's for this cutter, eased where it is interrupted."""
    own = at.plan.rough_speed_m_min if stage == "rough" else at.plan.finish_speed_m_min
    if own is not None:
        return own
    if at.cutter is None:
        return None
    pair = at.material.speed_m_min[at.cutter.made_of]
    general = pair.rough if stage == "rough" else pair.finish
    return eased_speed_m_min(surface_speed_m_min=general, interrupted=bool(at.bore.breaks))


def _speed(passes: Passes, stage: str, wanted: float | None, cap: float | None) -> Figure[Speed]:
    """One lever for a group of passes, at its largest diameter."""
    if wanted is None:
        return Figure(missing="cutter")
    if cap is None and swings_unbalanced(passes.at):
        return Figure(missing="cap")
    diameters = [cut.diameter_mm for cut in passes.every if (cut.kind in ROUGHING) == (stage == "rough")]
    if not diameters:
        return Figure(missing="pass")
    return found_or_refused(lambda: machine_speed(passes.at.machine, max(diameters), wanted, cap))


def _planned(passes: Passes, speed: dict[str, Figure[Speed]]) -> tuple[PlannedPass, ...]:
    ladder = passes.ladder
    if ladder is None or not passes.every:
        return ()
    settings = [
        *((cut.from_mm, cut.set_mm, cut.set_as, cut.set_as.to_division if cut.set_as else None) for cut in ladder.done),
        *((ahead.from_mm, ahead.cut.diameter_mm, ahead.told, ahead.stands_at) for ahead in ladder.ahead),
    ]
    return tuple(
        _one(passes.at, cut, Setting(from_mm=before, to_mm=to, way=ladder.way, told=told, stands_at=stands,
                                     no_dial=passes.by.no_dial), speed)
        for cut, (before, to, told, stands) in zip(passes.every, settings, strict=True)
    )  # fmt: skip


def _one(at: AtBore, cut: Pass, setting: Setting, speed: dict[str, Figure[Speed]]) -> PlannedPass:
    found = speed["rough" if cut.kind in ROUGHING else "finish"].value
    feed = at.feed_of(cut)
    time = None
    if found is not None:
        time = cut_time(
            length_mm=at.bored_mm, feed_mm_rev=feed, rpm=found.set_rpm, overrun_mm=at.overrun_mm
        )  # fmt: skip
    return PlannedPass(cut=cut, start_mm=setting.from_mm, feed_mm_rev=feed, setting=setting, time=time,
                       rpm=found.set_rpm if found else None)  # fmt: skip


def _power(passes: Passes, speed: Speed | None) -> Figure[PowerCheck]:
    at, drive = passes.at, passes.at.machine.drive
    deepest = passes.deepest(*ROUGHING) or passes.deepest("finish")
    if drive is None:
        return Figure(missing="drive")
    if deepest is None or at.cutter is None or speed is None:
        return Figure(missing="cutter")
    cut = replace(at.cut_of(deepest, at.cutter), surface_speed_m_min=speed.surface_speed_at_set_m_min)
    bits = 2 if at.bore.name in (pair_of(at) or ()) else 1
    return found_or_refused(lambda: power_check(cut=cut, drive=drive, bits=bits))


def _first_cut(passes: Passes, off_centre_mm: float | None) -> Figure[FirstCut]:
    if not passes.every:
        return Figure(missing="bore-found")
    at = passes.at
    off = at.bore.runout_limit_mm / 2 if off_centre_mm is None else off_centre_mm
    found = [diameter for _, diameter in at.bore.found_mm]
    first = passes.every[0].diameter_mm
    return found_or_refused(lambda: first_cut_depths(cut_diameter_mm=first, found_mm=found, off_centre_mm=off))


def _finish(at: AtBore, feed_mm_rev: float) -> Finish | None:
    """The roughness a feed leaves with this cutter."""
    cutter = at.cutter
    if cutter is None or cutter.nose_radius_mm <= 0:
        return None
    return found_or_refused(lambda: finish(nose_radius_mm=cutter.nose_radius_mm, feed_mm_rev=feed_mm_rev)).value


def copied_of(passes: Passes, first: FirstCut | None, stiffness_n_mm: float | None) -> Copied | None:
    """Return how soon an eccentric or oval hole is bored round; None while bar, cutter or first cut are not known."""
    force, cut = passes.force.value, passes.heaviest
    if first is None or force is None or cut is None or stiffness_n_mm is None or force.radial_n == 0:
        return None
    swing = first.largest_mm - first.smallest_mm
    law = elastic_passes(
        bar_stiffness_n_mm=stiffness_n_mm, cutting_stiffness_n_mm=abs(force.radial_n) / cut.depth_mm,
        depth_mm=cut.depth_mm, runout_mm=swing, passes=1,
    )  # fmt: skip
    count = passes_until_round(ratio=law.ratio, runout_mm=swing, allowed_mm=passes.at.bore.runout_limit_mm)
    return Copied(swing_mm=swing, share=law.ratio, round_at=count)
