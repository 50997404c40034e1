"""The passes of a bore: cut, and left; what each asks of the bar; the heaviest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import Cut, CuttingForce, EdgeInCut, InvalidInput, Pass, PassPlan, cutting_force
from gyroplan.assess.at import AtBore
from gyroplan.assess.figure import Figure, found_or_refused
from gyroplan.assess.setting import SetBy, set_by
from gyroplan.loop import (
    BoreState,
    BoreWork,
    Ladder,
    PassCut,
    Planned,
    Rules,
    first_plan,
    ladder_of,
    replayed,
    require_asked,
)
from gyroplan.plan.loads import ROUGHING, PassLoad, loads_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Passes:
    """The passes of one bore of one piece, as its plan and its log have them."""

    at: AtBore
    rules: Rules
    by: SetBy
    #: The plan with its log, as `bore_state` takes it; None while there is no bore to plan.
    work: BoreWork | None
    ladder: Ladder | None
    #: The passes that are cut as they were set, then those that are left.
    plan: Figure[PassPlan]
    #: What each pass that is left asks of a bar; all of them where none is left.
    loads: tuple[PassLoad, ...]
    #: The roughing passes, cut or left, for the bar that opens the bore up.
    rough_loads: tuple[PassLoad, ...]
    #: The deepest pass that the bar must carry, at its feed: not the opening bar's, where there is one.
    heaviest: Cut | None
    force: Figure[CuttingForce]

    @property
    def state(self) -> BoreState | None:
        """The state of the pass in hand."""
        return self.ladder.replay.now if self.ladder else None

    @property
    def known_mm(self) -> float:
        """The size believed: measured, else as set, else as found."""
        return self.state.known_mm if self.state else self.at.start_mm or 0.0

    @property
    def done(self) -> tuple[PassCut, ...]:
        """The passes that are cut."""
        return self.ladder.done if self.ladder else ()

    @property
    def left(self) -> tuple[Pass, ...]:
        """The passes that are not cut yet."""
        return tuple(self.state.passes_left) if self.state else ()

    @property
    def every(self) -> tuple[Pass, ...]:
        """All passes; none where they are refused."""
        return self.plan.value.passes if self.plan.value else ()

    @property
    def count(self) -> int:
        """Passes in all: cut, and left as things stand."""
        return len(self.done) + len(self.left)

    @property
    def over_mm(self) -> float:
        """How far the size believed is past the upper limit that boring may reach, on diameter; 0 before that."""
        upper = self.ladder.replay.memory.bore.bored_upper_mm if self.ladder else self.at.bore.upper_mm
        return max(0.0, self.known_mm - upper)

    @property
    def carried(self) -> tuple[PassLoad, ...]:
        """The passes that the picked bar is to cut: not the opening bar's, where there is one."""
        if self.at.opening_bar is None:
            return self.loads
        return tuple(load for load in self.loads if load.kind not in ROUGHING)

    def deepest(self, *kinds: str) -> Pass | None:
        """The deepest pass of these kinds, of those left where any are."""
        return _deepest(self.left, self.every, kinds)


def passes_of(at: AtBore) -> Passes:
    """Return the passes of a bore: the plan as it stands now, with what is logged."""
    rules, by = at.rules(), set_by(at)
    asked = _asked(at, rules, by)
    work = at.log.work_as(asked.value)
    ladder = Figure[Ladder]() if work is None else found_or_refused(lambda: ladder_of(replayed(work)))
    plan = _plan(at, work, ladder.value)
    if plan.value is None:
        plan = Figure(refused=asked.refused or ladder.refused, missing="" if at.start_mm else "bore-found")
    every = plan.value.passes if plan.value else ()
    left = ladder.value.replay.now.passes_left if ladder.value else ()
    heaviest = _cut_of(at, _deepest(left, every, ("finish",) if at.opening_bar else (*ROUGHING, "finish")))
    loads = _loads(at, [one for one in left if one.depth_mm > 0] or [one for one in every if one.depth_mm > 0])
    return Passes(
        at=at, rules=rules, by=by, work=work, ladder=ladder.value, plan=plan, loads=loads,
        rough_loads=_rough_loads(at, loads, every), heaviest=heaviest,
        force=Figure(missing="cutter") if heaviest is None else found_or_refused(lambda: cutting_force(heaviest)),
    )  # fmt: skip


def require_passes(at: AtBore) -> None:
    """Raise InvalidInput, at the plan's own field, where the stock cannot be shared among passes by these rules."""
    try:
        first_plan(at.in_work, at.rules())
    except InvalidInput as error:
        field_name = error.field.split(".")[-1]
        raise InvalidInput(field_name, error.code, given=error.given, allowed=error.allowed, **error.values) from None


def _asked(at: AtBore, rules: Rules, by: SetBy) -> Figure[Planned]:
    """The plan as it stands now; none while there is no bore to plan, or it is refused."""
    if at.start_mm is None:
        return Figure(missing="bore-found")
    tool = f"{at.bar.name if at.bar else ''} / {at.cutter.name if at.cutter else ''}"
    made = Planned(bore=at.in_work, rules=rules, setting=by.way, tool=tool)

    def checked() -> Planned:
        require_asked(made.bore, made.rules, made.setting)
        return made

    return found_or_refused(checked)


def _plan(at: AtBore, work: BoreWork | None, ladder: Ladder | None) -> Figure[PassPlan]:
    if work is None or ladder is None:
        return Figure()
    cut = tuple(_as_pass(one) for one in ladder.done)
    replay = ladder.replay
    first = found_or_refused(lambda: first_plan(work.bore, work.rules)).value
    lasting = [one for one in (first.notes if first else ()) if not cut or one.code == "hone_left"]
    aim = replay.memory.bore.bored_aim_mm
    return Figure(
        PassPlan(
            passes=(*cut, *replay.now.passes_left), bored_diameter_mm=aim, stock_mm=aim - (at.start_mm or aim),
            notes=(*lasting, *replay.loop.notes(replay.memory, replay.now)),
        )
    )  # fmt: skip


def _as_pass(cut: PassCut) -> Pass:
    """A pass as it was set."""
    return Pass(
        number=cut.number, kind=cut.kind, depth_mm=cut.depth_mm, diameter_mm=cut.set_mm,
        measure_after=cut.measured_mm is not None,
    )  # fmt: skip


def _deepest(left: Sequence[Pass], every: Sequence[Pass], kinds: Sequence[str]) -> Pass | None:
    for cuts in (left, every):
        right = [cut for cut in cuts if cut.kind in kinds and cut.depth_mm > 0]
        if right:
            return max(right, key=lambda cut: cut.depth_mm)
    return None


def _cut_of(at: AtBore, deepest: Pass | None) -> Cut | None:
    return None if deepest is None or at.cutter is None else at.cut_of(deepest, at.cutter)


def _loads(at: AtBore, passes: Sequence[Pass]) -> tuple[PassLoad, ...]:
    cutter = at.cutter
    if cutter is None or not passes:
        return ()
    tolerance = at.bore.tolerance_mm
    found = found_or_refused(lambda: loads_of(passes, lambda one: at.cut_of(one, cutter), tolerance, at.plan.budget_mm))
    return found.value or ()


def _rough_loads(at: AtBore, loads: Sequence[PassLoad], every: Sequence[Pass]) -> tuple[PassLoad, ...]:
    left = tuple(load for load in loads if load.kind in ROUGHING)
    if left or at.opening_bar is None:
        return left
    return tuple(load for load in _loads(at, [one for one in every if one.depth_mm > 0]) if load.kind in ROUGHING)


def edge_of(passes: Passes) -> EdgeInCut | None:
    """How strongly the heaviest cut excites a bar, but for its depth; None while it is not known."""
    cut, force = passes.heaviest, passes.force.value
    if cut is None or force is None:
        return None
    return EdgeInCut(
        kc_mpa=force.kc_mpa, entering_angle_deg=cut.entering_angle_deg, nose_radius_mm=cut.nose_radius_mm,
        feed_mm_rev=cut.feed_mm_rev, thrust_ratio=cut.thrust_ratio,
    )  # fmt: skip
