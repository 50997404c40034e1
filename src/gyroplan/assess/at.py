"""One bore of a job with all that is asked of it: what every part of the assessment starts from."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gyrocore import SPRING_SHARE, Cut, InvalidInput, Material, Pass
from gyroplan.loop import BoreInWork, BoreLog, Rules, first_plan
from gyroplan.plan.loads import ROUGHING
from gyroplan.record import BarRecord, BoreRecord, CutterRecord, JobRecord, MachineRecord, PlanRecord, SetUpRecord

#: A test cut that was not asked for in figures is left out where the stock is too thin for it.
_TEST_CODES = ("test_too_thin", "test_leaves_too_thin")
#: Thinnest cut that is planned while no cutter is picked [mm].
_NO_CUTTER_LEAST_MM = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class AtBore:
    """A job at one of its bores, one piece of it."""

    record: JobRecord
    bore: BoreRecord
    piece: int = 1

    @property
    def setup(self) -> SetUpRecord:
        """The set-up."""
        return self.record.setup

    @property
    def plan(self) -> PlanRecord:
        """How it is bored."""
        return self.record.setup.plan

    @property
    def machine(self) -> MachineRecord:
        """What it is bored on."""
        return self.record.setup.machine

    @property
    def material(self) -> Material:
        """What it is made of."""
        return self.record.material

    @property
    def bar(self) -> BarRecord | None:
        """The bar picked for this set-up; one made for another method does not count."""
        bar = self.plan.bar
        return self.as_carried(bar) if bar is not None and bar.method == self.setup.way.bars else None

    def as_carried(self, bar: BarRecord) -> BarRecord:
        """A bar of this method as this set-up holds it: in its boring head, which another bar may carry."""
        return bar.on_head(self.plan.head)

    @property
    def opening_bar(self) -> BarRecord | None:
        """Another bar that opens the bore up first; None where one bar does both."""
        bar = self.plan.opening_bar
        if bar is None or bar.method != self.setup.way.bars or bar == self.plan.bar:
            return None
        return self.as_carried(bar)

    @property
    def cutter(self) -> CutterRecord | None:
        """The cutter picked."""
        return self.plan.cutter

    @property
    def start_mm(self) -> float | None:
        """The smallest size found."""
        return self.bore.smallest_found_mm

    @property
    def narrowest_mm(self) -> float | None:
        """What the bar must pass: the bore as found, and whatever else stands in its way that is not cut.

        From the open face only what lies before the cut's end is in the way; a bar held at both ends passes all.
        """
        start = self.start_mm
        if start is None:
            return None
        both_ends = self.setup.way.bar_in in ("bearings", "centres")
        in_way = [one.diameter_mm for one in self.bore.there if both_ends or one.from_mm < self.bored_mm]
        return min([start, *in_way])

    @property
    def budget_mm(self) -> float:
        """Deflection allowed on radius: the shop's own figure, else a quarter of the tolerance."""
        return SPRING_SHARE * self.bore.tolerance_mm if self.plan.budget_mm is None else self.plan.budget_mm

    @property
    def overrun_mm(self) -> float:
        """How far the cutter runs past the end: not at all into a shoulder or a closed end, or where a side ends."""
        return 0.0 if self.bore.stops_the_cutter or self.is_one_side else self.plan.overrun_mm

    @property
    def is_one_side(self) -> bool:
        """Whether only a part of a through bore is cut here, the rest from the other side."""
        depth, both_ends = self.plan.side_depth_mm, self.setup.way.bar_in in ("bearings", "centres")
        return self.bore.ends == "through" and not both_ends and depth is not None and depth < self.bore.length_mm

    @property
    def bored_mm(self) -> float:
        """How deep it is bored here: right through, or as far as this side goes."""
        depth = self.plan.side_depth_mm
        return depth if self.is_one_side and depth is not None else self.bore.length_mm

    @property
    def in_work(self) -> BoreInWork:
        """The bore as the loop of its passes takes it."""
        return BoreInWork(
            start_mm=self.start_mm or 0.0, lower_mm=self.bore.lower_mm, upper_mm=self.bore.upper_mm,
            aim_mm=self.bore.aim_mm, hone_allowance_mm=self.plan.hone_allowance_mm,
        )  # fmt: skip

    @property
    def log(self) -> BoreLog:
        """The cutting log of this bore of this piece."""
        of = (self.bore.place, self.piece)
        log = next((one.log for one in self.record.cuts if (one.bore, one.piece) == of), BoreLog())
        return replace(log, part_expansion_um_m_k=self.material.expansion_um_m_k)

    def feed_of(self, cut: Pass) -> float:
        """Roughing feed for rough and test passes, finishing feed for the rest; the machine's next finer one."""
        plan = self.plan
        return self.machine.feed_had(plan.rough_feed_mm_rev if cut.kind in ROUGHING else plan.finish_feed_mm_rev)

    def cut_of(self, cut: Pass, cutter: CutterRecord) -> Cut:
        """A pass as the core cuts it."""
        return self.cut_as(
            cutter, depth_mm=cut.depth_mm, feed_mm_rev=self.feed_of(cut), diameter_mm=cut.diameter_mm
        )  # fmt: skip

    def cut_as(self, cutter: CutterRecord, *, depth_mm: float, feed_mm_rev: float, diameter_mm: float | None) -> Cut:
        """A cut in this material with this cutter."""
        return Cut(
            kc11_mpa=self.material.kc11_mpa,
            mc=self.material.mc,
            thrust_ratio=self.material.thrust_ratio,
            depth_mm=depth_mm,
            feed_mm_rev=feed_mm_rev,
            entering_angle_deg=cutter.entering_angle_deg,
            nose_radius_mm=cutter.nose_radius_mm,
            diameter_mm=diameter_mm,
        )

    def rules(self) -> Rules:
        """The shop's rules for the passes; a test cut leaves what the finish passes take, unless a figure is given."""
        plan = self.plan
        leave = 2 * plan.finish_passes * plan.finish_depth_mm if plan.test_leave_mm is None else plan.test_leave_mm
        rules = Rules(
            rough_depth_mm=plan.rough_depth_mm,
            finish_depth_mm=plan.finish_depth_mm,
            finish_passes=plan.finish_passes,
            min_depth_mm=self.cutter.least_depth_mm if self.cutter else _NO_CUTTER_LEAST_MM,
            spring_passes=plan.spring_passes,
            test_leave_mm=leave if plan.test_first else None,
        )
        if plan.test_first and plan.test_leave_mm is None and self._is_too_thin_for_test(rules):
            return replace(rules, test_leave_mm=None)
        return rules

    def _is_too_thin_for_test(self, rules: Rules) -> bool:
        try:
            first_plan(self.in_work, rules)
        except InvalidInput as error:
            return error.code in _TEST_CODES
        return False
