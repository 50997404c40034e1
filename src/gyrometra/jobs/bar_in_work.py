"""The bar that does the cutting: how far out, how stiff, what it may carry, and the bar that opens the bore up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from gyrocore import (
    BarChoice,
    BarOut,
    Cut,
    CuttingForce,
    Pockets,
    Reach,
    Tuning,
    choose_bar,
    cutting_force,
    reach_needed,
    speeds_in_pockets,
)
from gyrometra.crib.models import Bar
from gyrometra.jobs.cutting_plan import CuttingPlan
from gyroplan.plan import ROUGHING, BarVerdict, Deflection, PassLoad, overhang_verdict, worst_deflection


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """The bar that opens the bore up: under its own heaviest cut, at the same reach."""

    bar: Bar
    cut: Cut
    force: CuttingForce
    verdict: BarVerdict
    spring_mm: float
    enters: bool


class BarInWork(CuttingPlan):
    """A bore's plan with its bar."""

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

    @property
    def out_mm(self) -> float | None:
        """How far the picked bar stands out: as the bore asks, or its own fixed reach in a head or a spindle."""
        if self.bar is not None and self.bar.is_fixed:
            return self.bar.reach_mm
        return self.reach.reach_mm if self.reach else None

    @property
    def entry_mm(self) -> float | None:
        """What the finishing bar must enter: the bore as found, or as another bar has opened it up."""
        if self.opening_bar is None or self.passes is None:
            return self.start_mm
        opened = [cut.diameter_mm for cut in self.passes.passes if cut.kind in ROUGHING]
        return max(opened, default=self.start_mm)

    @property
    def carried(self) -> tuple[PassLoad, ...]:
        """The passes that the picked bar is to cut: not the opening bar's, where there is one."""
        if self.opening_bar is None:
            return self.loads
        return tuple(load for load in self.loads if load.kind not in ROUGHING)

    def verdict_of(self, bar: Bar, out_mm: float | None, loads: Sequence[PassLoad]) -> BarVerdict | None:
        """One bar's verdict over the passes it is to cut, standing out so far."""
        if out_mm is None or not loads:
            return None
        found: BarVerdict | None = self._try(
            "overhang", lambda: overhang_verdict(bar.section_at(out_mm), bar.data_at(out_mm), loads, out_mm)
        )
        return found

    @cached_property
    def overhung(self) -> BarVerdict | None:
        """The picked bar's limits and verdict as it stands out; None for a bar held at both ends."""
        if self.bar is None or self.setup.way.bar_in in ("bearings", "centres"):
            return None
        return self.verdict_of(self.bar, self.out_mm, self.carried)

    @cached_property
    def opening(self) -> Opening | None:
        """The opening bar over the roughing passes; None where there is none, or it cannot be worked out."""
        bar, reach, cut = self.opening_bar, self.reach, self.cut_of(self.deepest(*ROUGHING))
        if bar is None or reach is None or cut is None:
            return None
        rough = [load for load in self.loads if load.kind in ROUGHING] or self.opened_by
        found = self.verdict_of(bar, reach.reach_mm, rough)
        force = self._try("force", lambda: cutting_force(cut))
        if found is None or force is None:
            return None
        stiffness = bar.stands_out(reach.reach_mm).response.stiffness_n_mm or float("inf")
        room = bar.greatest_mm + 2 * self.chip_clearance_mm
        start = self.start_mm or 0.0
        return Opening(
            bar=bar, cut=cut, force=force, verdict=found, spring_mm=abs(force.radial_n) / stiffness,
            enters=float(bar.min_bore_mm) <= start and room <= start + 1e-9 and bar.reach_mm >= reach.reach_mm - 1e-9,
        )  # fmt: skip

    @property
    def opened_by(self) -> list[PassLoad]:
        """The roughing passes that are cut already."""
        return [load for load in self.loads_over(self.passes_cut) if load.kind in ROUGHING]

    @property
    def chip_clearance_mm(self) -> float:
        """Chip clearance per side."""
        return float(self.plan.chip_clearance_mm)

    @cached_property
    def choice(self) -> BarChoice | None:
        """The crib's bars ranked for this bore."""
        entry, reach = self.entry_mm, self.reach
        if entry is None or reach is None or not self.bars:
            return None
        return self._try(
            "choice",
            lambda: choose_bar(
                candidates=[bar.candidate_at(reach.reach_mm) for bar in self.bars],
                needed_reach_mm=reach.reach_mm,
                bore_mm=entry,
                chip_clearance_mm=self.chip_clearance_mm,
                holder_shanks_mm=[float(self.plan.head.shank_mm)] if self.plan.head else None,
            ),
        )

    @cached_property
    def stands_out(self) -> BarOut | None:
        """The picked bar with its real steps, as it stands out here."""
        bar, out = self.bar, self.out_mm
        if bar is None or out is None or self.setup.way.bar_in in ("bearings", "centres"):
            return None
        return self._try("bar", lambda: bar.stands_out(out))

    @property
    def tip_stiffness_n_mm(self) -> float | None:
        """How stiff the picked bar is at its cutter, as it stands out here."""
        return self.stands_out.response.stiffness_n_mm if self.stands_out else None

    @cached_property
    def deflection(self) -> Deflection | None:
        """The deflection of the picked bar that is nearest to what its pass allows."""
        return None if self.stands_out is None else worst_deflection(self.carried, self.tip_stiffness_n_mm)

    @cached_property
    def tuning(self) -> Tuning | None:
        """Where the damper of a tuned bar must stand at this overhang; None for any other bar."""
        bar, out = self.bar, self.out_mm
        return None if bar is None or out is None else self._try("tuning", lambda: bar.tuning_at(out))

    @property
    def frequency_hz(self) -> float | None:
        """The lowest mode of the picked bar as it stands out."""
        return self.stands_out.response.natural_frequency_hz if self.stands_out else None

    @cached_property
    def pockets(self) -> Pockets | None:
        """Where chatter begins at the worst speed at this overhang, for the heaviest cut, and the speeds where it is deeper."""
        bar, edge, cut, stiffness = self.bar, self.edge, self.heaviest_cut, self.tip_stiffness_n_mm
        frequency = self.frequency_hz
        if bar is None or edge is None or cut is None or stiffness is None or frequency is None:
            return None
        return self._try(
            "pockets",
            lambda: speeds_in_pockets(
                stiffness_n_mm=stiffness,
                damping_ratio=bar.damping_at(self.out_mm or 0.0),
                natural_frequency_hz=frequency,
                depth_mm=cut.depth_mm,
                edge=edge,
                spindle_speeds_rpm=self.machine.speeds_rpm(),
                stepless=self.machine.stepless,
            ),
        )
