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
    Cutting,
    CuttingForce,
    EdgeInCut,
    InvalidInput,
    Pass,
    PassPlan,
    PassRules,
    cutting_force,
    pass_plan,
    passes_left,
)
from gyrometra.crib.models import Bar, Cutter
from gyrometra.jobs.models import Bore, Job

T = TypeVar("T")
#: Kinds of pass that open the bore up; the rest finish it.
ROUGHING = ("rough", "test")
#: A test cut that was not asked for in figures is left out where the stock is too thin for it.
_TEST_CODES = ("test_too_thin", "test_leaves_too_thin")


@dataclass(frozen=True, slots=True, kw_only=True)
class DonePass:
    """A pass that was set: its number and kind, from which size to which, and the divisions moved."""

    number: int
    kind: str
    start_mm: float
    target_mm: float
    divisions: float = 0.0


@dataclass
class CuttingPlan:
    """The passes of one bore: as planned, and once some are cut, what is left of them."""

    job: Job
    bore: Bore
    bars: Sequence[Bar] = ()
    off_centre_mm: float | None = None
    done: Sequence[DonePass] = ()
    #: Size after the passes done: measured, else as set since; None before the first.
    known_mm: float | None = None
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
    def rules(self) -> PassRules:
        """The shop's rules for the passes; a test cut leaves what the finish passes take, unless a figure is given."""
        plan = self.plan
        least = float(self.cutter.least_depth_mm) if self.cutter else 0.05
        finish_depth = float(plan.finish_depth_mm)
        leave = 2 * plan.finish_passes * finish_depth if plan.test_leave_mm is None else float(plan.test_leave_mm)
        return PassRules(
            rough_depth_mm=float(plan.rough_depth_mm),
            finish_depth_mm=finish_depth,
            finish_passes=plan.finish_passes,
            hone_allowance_mm=float(plan.hone_allowance_mm),
            min_depth_mm=least,
            spring_passes=plan.spring_passes,
            test_leave_mm=leave if plan.test_first else None,
        )

    def shared(self) -> PassPlan:
        """How the whole stock is shared among passes; raises the core's InvalidInput."""
        start, aim, rules = self.start_mm or 0.0, self.bore.aim_mm, self.rules
        try:
            return pass_plan(start_diameter_mm=start, aim_diameter_mm=aim, rules=rules)
        except InvalidInput as error:
            if error.code not in _TEST_CODES or self.plan.test_leave_mm is not None:
                raise
        return pass_plan(start_diameter_mm=start, aim_diameter_mm=aim, rules=replace(rules, test_leave_mm=None))

    @cached_property
    def passes(self) -> PassPlan | None:
        """The passes done as they were set, then what is left as it must be now."""
        if self.start_mm is None:
            return None
        return self._try("passes", self._shared_anew if self.done else self.shared)

    def _shared_anew(self) -> PassPlan:
        kinds = [self._kind(done) for done in self.done]
        known = self.known_mm or self.done[-1].target_mm
        cutting = Cutting(known_diameter_mm=known, done=kinds, lower_mm=float(self.bore.lower_mm))
        left = self._try(
            "passes", lambda: passes_left(cutting=cutting, aim_diameter_mm=self.bore.aim_mm, rules=self.rules)
        )
        if left is None:  # what is cut stays in sight, whatever the rules refuse of the rest
            left = PassPlan(passes=(), bored_diameter_mm=known, stock_mm=0.0)
        return replace(left, passes=(*_as_set(self.done, kinds, left.passes), *left.passes))

    def _kind(self, done: DonePass) -> str:
        """Entries of an older make do not name their kind: it is the planned one's of that number."""
        if done.kind:
            return done.kind
        planned = self._try("passes", self.shared)
        kinds = [cut.kind for cut in planned.passes] if planned else []
        return kinds[done.number - 1] if done.number <= len(kinds) else "finish"

    @property
    def left(self) -> list[Pass]:
        """The passes that are not set yet."""
        return list(self.passes.passes[len(self.done) :]) if self.passes else []

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


def _as_set(done: Sequence[DonePass], kinds: Sequence[str], left: Sequence[Pass]) -> list[Pass]:
    """Passes as they were set; measured after where roughing ends, and after every finish pass."""
    following = [*kinds[1:], left[0].kind if left else ""]
    return [
        Pass(
            number=one.number,
            kind=kind,
            depth_mm=max(0.0, (one.target_mm - one.start_mm) / 2),
            diameter_mm=one.target_mm,
            measure_after=(kind == "rough" and after not in ROUGHING) or kind in ("test", "finish") or after == "",
        )
        for one, kind, after in zip(done, kinds, following, strict=True)
    ]
