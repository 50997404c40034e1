"""From a bore's stored figures to its passes and the heaviest cut: what every other answer rests on.

Only joins: stored figure -> core input -> core function -> result. A figure that cannot be worked
out yet is None, and `problems` says why.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TypeVar

from gyrocore import (
    SPRING_SHARE,
    Cut,
    CuttingForce,
    EdgeInCut,
    InvalidInput,
    Pass,
    PassPlan,
    cutting_force,
)
from gyrometra.crib.models import Bar, Cutter
from gyrometra.jobs.models import Bore, Job
from gyrometra.jobs.setting import way_of
from gyroplan.loop import (
    AdvanceWay,
    BoreInWork,
    BoreLog,
    BoreState,
    BoreWork,
    Ladder,
    OverBarWay,
    PassCut,
    Planned,
    Rules,
    StepWay,
    Way,
    first_plan,
    ladder_of,
    replayed,
    require_asked,
)
from gyroplan.plan.loads import ROUGHING, PassLoad, loads_of

T = TypeVar("T")
#: A test cut that was not asked for in figures is left out where the stock is too thin for it.
_TEST_CODES = ("test_too_thin", "test_leaves_too_thin")


@dataclass
class CuttingPlan:
    """The passes of one bore: as planned, and once some are cut, what is left of them."""

    job: Job
    bore: Bore
    bars: Sequence[Bar] = ()
    off_centre_mm: float | None = None
    #: What was logged of this bore of this piece.
    log: BoreLog = field(default_factory=BoreLog)
    problems: dict[str, InvalidInput] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.setup = self.job.setup
        self.plan = self.setup.plan
        self.machine = self.setup.machine
        self.material = self.job.material.data
        self.bars = [bar for bar in self.bars if bar.method == self.setup.way.bars]

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
        return bar if bar is not None and bar.method == self.setup.way.bars else None

    @property
    def opening_bar(self) -> Bar | None:
        """Another bar that opens the bore up first; None where one bar does both."""
        bar = self.plan.opening_bar
        right = bar is not None and bar.method == self.setup.way.bars
        return bar if right and bar != self.bar else None

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

    @cached_property
    def rules(self) -> Rules:
        """The shop's rules for the passes; a test cut leaves what the finish passes take, unless a figure is given.

        A test cut that was not asked for in figures is left out where the stock is too thin for it.
        """
        plan = self.plan
        finish_depth = float(plan.finish_depth_mm)
        leave = 2 * plan.finish_passes * finish_depth if plan.test_leave_mm is None else float(plan.test_leave_mm)
        rules = Rules(
            rough_depth_mm=float(plan.rough_depth_mm),
            finish_depth_mm=finish_depth,
            finish_passes=plan.finish_passes,
            min_depth_mm=float(self.cutter.least_depth_mm) if self.cutter else 0.05,
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

    @property
    def in_work(self) -> BoreInWork:
        """The bore as the loop of its passes takes it."""
        bore = self.bore
        return BoreInWork(
            start_mm=self.start_mm or 0.0, lower_mm=float(bore.lower_mm), upper_mm=float(bore.upper_mm),
            aim_mm=bore.aim_mm, hone_allowance_mm=float(self.plan.hone_allowance_mm),
        )  # fmt: skip

    @cached_property
    def way_and_missing(self) -> tuple[Way, bool]:
        """What sets the cutter, and whether its dial is not known."""
        way, missing = way_of(self.setup.way.set_by, self.plan, self.machine, self.bar)
        if isinstance(way, OverBarWay | StepWay) and self.start_mm and way.bar_diameter_mm >= self.start_mm:
            self.problems["setting"] = InvalidInput(
                "bar_diameter_mm", "not_under", given=way.bar_diameter_mm, allowed=self.start_mm
            )
            return AdvanceWay(), True
        return way, missing

    @cached_property
    def asked(self) -> Planned | None:
        """The plan as it stands now; None while there is no bore to plan, or it is refused."""
        if self.start_mm is None:
            return None
        tool = f"{self.bar or ''} / {self.cutter or ''}"
        made = Planned(bore=self.in_work, rules=self.rules, setting=self.way_and_missing[0], tool=tool)
        refused = self._try("passes", lambda: require_asked(made.bore, made.rules, made.setting))
        return None if refused is None and "passes" in self.problems else made

    def require_passes(self) -> None:
        """Raise the core's InvalidInput where the stock cannot be shared among passes by these rules."""
        try:
            first_plan(self.in_work, self.rules)
        except InvalidInput as error:
            field_name = error.field.split(".")[-1]
            raise InvalidInput(
                field_name, error.code, given=error.given, allowed=error.allowed, **error.values
            ) from None

    @cached_property
    def work(self) -> BoreWork | None:
        """The plan with its log."""
        log = replace(self.log, part_expansion_um_m_k=self.material.expansion_um_m_k)
        return log.work_as(self.asked)

    @cached_property
    def ladder(self) -> Ladder | None:
        """The passes that are cut and those that are left; None where nothing can be planned."""
        work = self.work
        return None if work is None else self._try("passes", lambda: ladder_of(replayed(work)))

    @property
    def state(self) -> BoreState | None:
        """The state of the pass in hand."""
        return self.ladder.replay.now if self.ladder else None

    @property
    def known_mm(self) -> float:
        """The size believed: measured, else as set, else as found."""
        return self.state.known_mm if self.state else self.start_mm or 0.0

    @property
    def done(self) -> tuple[PassCut, ...]:
        """The passes that are cut."""
        return self.ladder.done if self.ladder else ()

    @cached_property
    def passes(self) -> PassPlan | None:
        """The passes that are cut as they were set, then those that are left."""
        ladder, work = self.ladder, self.work
        if ladder is None or work is None:
            return None
        cut = tuple(_as_pass(one) for one in ladder.done)
        left = ladder.replay.now.passes_left
        notes = ladder.replay.loop.notes(ladder.replay.memory, ladder.replay.now)
        first = self._try("plan", lambda: first_plan(work.bore, work.rules))
        lasting = [one for one in (first.notes if first else ()) if not cut or one.code == "hone_left"]
        notes = (*lasting, *notes)
        aim = ladder.replay.memory.bore.bored_aim_mm
        return PassPlan(passes=(*cut, *left), bored_diameter_mm=aim, stock_mm=aim - (self.start_mm or aim), notes=notes)

    @property
    def left(self) -> list[Pass]:
        """The passes that are not cut yet."""
        return list(self.state.passes_left) if self.state else []

    def deepest(self, *kinds: str) -> Pass | None:
        """The deepest pass of these kinds, of those left where any are."""
        every = list(self.passes.passes) if self.passes else []
        for cuts in (self.left, every):
            right = [cut for cut in cuts if cut.kind in kinds and cut.depth_mm > 0]
            if right:
                return max(right, key=lambda cut: cut.depth_mm)
        return None

    @cached_property
    def heaviest_cut(self) -> Cut | None:
        """The deepest pass that the bar must carry, at its feed: not the opening bar's, where there is one."""
        kinds = ("finish",) if self.opening_bar else ("rough", "test", "finish")
        return self.cut_of(self.deepest(*kinds))

    def cut_of(self, deepest: Pass | None) -> Cut | None:
        """A pass as the core cuts it; None without it or without a cutter."""
        if deepest is None or self.cutter is None:
            return None
        return Cut(
            kc11_mpa=self.material.kc11_mpa,
            mc=self.material.mc,
            thrust_ratio=self.material.thrust_ratio,
            depth_mm=deepest.depth_mm,
            feed_mm_rev=self.feed_of(deepest),
            entering_angle_deg=float(self.cutter.entering_angle_deg),
            nose_radius_mm=float(self.cutter.nose_radius_mm),
            diameter_mm=deepest.diameter_mm,
        )

    def feed_of(self, cut: Pass) -> float:
        """Roughing feed for rough and test passes, finishing feed for the rest; the machine's next finer one."""
        wanted = self.plan.rough_feed_mm_rev if cut.kind in ROUGHING else self.plan.finish_feed_mm_rev
        return self.machine.feed_had(float(wanted))

    @cached_property
    def loads(self) -> tuple[PassLoad, ...]:
        """What each pass that is left asks of a bar; of all passes where none is left."""
        return self.loads_over([one for one in self.left if one.depth_mm > 0] or self.passes_cut)

    def loads_over(self, passes: Sequence[Pass]) -> tuple[PassLoad, ...]:
        """What each of these passes asks of a bar; nothing without a cutter."""
        if self.cutter is None or not passes:
            return ()
        own = None if self.plan.budget_mm is None else float(self.plan.budget_mm)

        def cut(one: Pass) -> Cut:
            found = self.cut_of(one)
            assert found is not None  # noqa: S101 - there is a cutter
            return found

        made = self._try("force", lambda: loads_of(passes, cut, self.bore.tolerance_mm, own))
        return made or ()

    @property
    def passes_cut(self) -> list[Pass]:
        """All passes that take metal."""
        return [one for one in (self.passes.passes if self.passes else ()) if one.depth_mm > 0]

    @cached_property
    def force(self) -> CuttingForce | None:
        """Forces of the heaviest cut."""
        cut = self.heaviest_cut
        return None if cut is None else self._try("force", lambda: cutting_force(cut))

    @property
    def edge(self) -> EdgeInCut | None:
        """How strongly the heaviest cut excites a bar, but for its depth; None while it is not known."""
        cut, force = self.heaviest_cut, self.force
        if cut is None or force is None:
            return None
        return EdgeInCut(
            kc_mpa=force.kc_mpa,
            entering_angle_deg=cut.entering_angle_deg,
            nose_radius_mm=cut.nose_radius_mm,
            feed_mm_rev=cut.feed_mm_rev,
            thrust_ratio=cut.thrust_ratio,
        )


def _as_pass(cut: PassCut) -> Pass:
    """A pass as it was set."""
    return Pass(
        number=cut.number, kind=cut.kind, depth_mm=cut.depth_mm, diameter_mm=cut.set_mm,
        measure_after=cut.measured_mm is not None,
    )  # fmt: skip
