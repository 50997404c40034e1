"""The bar of a bore: how far out, how stiff, its one verdict; the bar that opens it up; the crib's bars ranked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import (
    BarChoice,
    BarOut,
    Cut,
    CuttingForce,
    InvalidInput,
    Pockets,
    RankedBar,
    Reach,
    Tuning,
    choose_bar,
    cutting_force,
    reach_needed,
    speeds_in_pockets,
)
from gyroplan.assess.at import AtBore
from gyroplan.assess.centres import Centres, centres_of, layout_of, response_at
from gyroplan.assess.figure import Figure, found_or_refused
from gyroplan.assess.heads import Holes, holes_of
from gyroplan.assess.heard import heard_of
from gyroplan.assess.lines import Line, line_at, one_more, response_of
from gyroplan.assess.passes import Passes, edge_of
from gyroplan.plan import (
    ROUGHING,
    BarVerdict,
    Believed,
    Deflection,
    PassLoad,
    believed_damping,
    overhang_verdict,
    response_verdict,
    worst_deflection,
)
from gyroplan.record import BarRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """The bar that opens the bore up: under its own heaviest cut, at the same reach."""

    bar: BarRecord
    cut: Cut
    force: CuttingForce
    verdict: BarVerdict
    spring_mm: float
    enters: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BarInWork:
    """The picked bar as it stands in this set-up."""

    at: AtBore
    #: Holder face to cutter point at the end of the cut.
    reach: Figure[Reach]
    #: How far the picked bar stands out: as the bore asks, or its own fixed reach in a head or a spindle.
    out_mm: float | None
    #: What it must enter: the bore as found, or as another bar has opened it up.
    entry_mm: float | None
    #: Its limits as it stands out; none for a bar held at both ends.
    overhung: Figure[BarVerdict]
    stands_out: Figure[BarOut]
    #: The damping that is believed of it, and the pass that moved it; None while it is not known how stiff it is.
    believed: Believed | None
    #: The deflection that is nearest to what its pass allows.
    deflection: Deflection | None
    #: Where the damper of a tuned bar must stand; none for any other bar.
    tuning: Figure[Tuning]
    opening: Opening | None
    #: In bearings as they stand, and with one more where it helps most.
    line: Figure[Line]
    better_line: Line | None
    centres: Figure[Centres]
    #: The boring head's holes against the sizes of the plan.
    holes: Figure[Holes]

    @property
    def verdict(self) -> BarVerdict | None:
        """The one verdict that list, plate, drawing, rail, sheet and Bore show."""
        held = self.at.setup.way.bar_in
        if held == "bearings":
            return self.line.value.verdict if self.line.value else None
        if held == "centres":
            return self.centres.value.verdict if self.centres.value else None
        return self.overhung.value

    @property
    def stiffness_n_mm(self) -> float | None:
        """At its cutter, as it stands out."""
        return self.stands_out.value.response.stiffness_n_mm if self.stands_out.value else None

    @property
    def frequency_hz(self) -> float | None:
        """Its lowest mode as it stands out."""
        return self.stands_out.value.response.natural_frequency_hz if self.stands_out.value else None


def bar_of(passes: Passes) -> BarInWork:
    """Return the picked bar as it stands in this set-up, with its verdict over all passes it is to cut."""
    at = passes.at
    reach = reach_of(at)
    out = at.bar.reach_mm if at.bar is not None and at.bar.is_fixed else reach.value.reach_mm if reach.value else None
    held = at.setup.way.bar_in
    one_end = held not in ("bearings", "centres")
    stands = _stands_out(at, out) if one_end else Figure[BarOut]()
    stiffness = stands.value.response.stiffness_n_mm if stands.value else None
    line, better = _lines(passes) if held == "bearings" else (Figure[Line](), None)
    centres = centres_of(passes) if held == "centres" else Figure[Centres]()
    if line.value is not None:
        stiffness = line.value.softest.stiffness_n_mm
    elif centres.value is not None and centres.value.response is not None:
        stiffness = centres.value.response.stiffness_n_mm
    return BarInWork(
        at=at, reach=reach, out_mm=out, entry_mm=_entry_mm(passes),
        overhung=_overhung(passes, out) if one_end else Figure(),
        believed=believed_of(passes, at.bar, out) if one_end and at.bar is not None else None,
        stands_out=stands,
        deflection=None if stiffness is None else worst_deflection(passes.carried, stiffness),
        tuning=_tuning(at, out), opening=_opening(passes, reach.value if one_end else None),
        line=line, better_line=better,
        centres=centres,
        holes=holes_of(passes) if held == "head" else Figure(),
    )  # fmt: skip


def reach_of(at: AtBore) -> Figure[Reach]:
    """Holder face to cutter point at the end of the cut."""
    return found_or_refused(
        lambda: reach_needed(
            bore_length_mm=at.bored_mm, overrun_mm=at.overrun_mm, clear_mm=at.plan.clear_mm,
            room_behind_mm=at.setup.room_behind_mm,
        )
    )  # fmt: skip


def believed_of(passes: Passes, bar: BarRecord, out_mm: float | None) -> Believed | None:
    """The damping believed of a bar standing out so far, by what was heard of it; None where it cannot stand so."""
    stands = None if out_mm is None else found_or_refused(lambda: bar.stands_out(out_mm)).value
    if stands is None or out_mm is None:
        return None
    return believed_damping(bar.damping_at(out_mm), stands.response.stiffness_n_mm, heard_of(passes.at, bar))


def verdict_of(
    bar: BarRecord, out_mm: float | None, loads: Sequence[PassLoad], believed: Believed | None = None
) -> Figure[BarVerdict]:
    """One bar's verdict over the passes it is to cut, standing out so far."""
    if out_mm is None:
        return Figure(missing="reach")
    if not loads:
        return Figure(missing="cutter")
    ratio = believed.ratio if believed is not None and believed.number is not None else None
    found = found_or_refused(
        lambda: overhang_verdict(bar.section_at(out_mm), bar.data_at(out_mm), loads, out_mm, ratio)
    )  # fmt: skip
    return Figure(found.value, found.refused)


def _overhung(passes: Passes, out_mm: float | None) -> Figure[BarVerdict]:
    bar = passes.at.bar
    if bar is None:
        return Figure(missing="bar")
    return verdict_of(bar, out_mm, passes.carried, believed_of(passes, bar, out_mm))


def _stands_out(at: AtBore, out_mm: float | None) -> Figure[BarOut]:
    bar = at.bar
    if bar is None or out_mm is None:
        return Figure(missing="bar")
    return found_or_refused(lambda: bar.stands_out(out_mm))


def _tuning(at: AtBore, out_mm: float | None) -> Figure[Tuning]:
    bar = at.bar
    if bar is None or out_mm is None or not bar.tuned:
        return Figure()
    found = found_or_refused(lambda: bar.tuning_at(out_mm))
    return Figure(found.value, found.refused)


def _entry_mm(passes: Passes) -> float | None:
    start, narrowest = passes.at.start_mm, passes.at.narrowest_mm
    if passes.at.opening_bar is None or not passes.every or start is None or narrowest is None:
        return narrowest
    opened = max((cut.diameter_mm for cut in passes.every if cut.kind in ROUGHING), default=start)
    return opened if narrowest >= start - 1e-9 else min(opened, narrowest)


def _lines(passes: Passes) -> tuple[Figure[Line], Line | None]:
    stand = passes.at.plan.bearings_mm
    line = line_at(passes, stand)
    if line.value is not None and line.value.holds and line.value.layout.ok:
        return line, None
    place = one_more(passes.at, stand)
    return line, None if place is None else line_at(passes, (*stand, place)).value


def _opening(passes: Passes, reach: Reach | None) -> Opening | None:
    """The opening bar over the roughing passes; None where there is none, or it cannot be worked out."""
    at, bar = passes.at, passes.at.opening_bar
    deepest = passes.deepest(*ROUGHING)
    if bar is None or deepest is None or at.cutter is None:
        return None
    cut = at.cut_of(deepest, at.cutter)
    if at.setup.way.bar_in in ("bearings", "centres"):
        return _opening_at_both_ends(passes, bar, cut)
    if reach is None:
        return None
    verdict = verdict_of(bar, reach.reach_mm, passes.rough_loads, believed_of(passes, bar, reach.reach_mm)).value
    force = found_or_refused(lambda: cutting_force(cut)).value
    stands = found_or_refused(lambda: bar.stands_out(reach.reach_mm)).value
    if verdict is None or force is None or stands is None:
        return None
    spring = abs(force.radial_n) / (stands.response.stiffness_n_mm or float("inf"))
    return Opening(bar=bar, cut=cut, force=force, verdict=verdict, spring_mm=spring,
                   enters=enters(at, bar) and bar.reach_mm >= reach.reach_mm - 1e-9)  # fmt: skip


def _opening_at_both_ends(passes: Passes, bar: BarRecord, cut: Cut) -> Opening | None:
    """An opening bar that is held at both ends: as it answers at this bore, in the same bearings or between centres."""
    at = passes.at
    try:
        if at.setup.way.bar_in == "bearings":
            response = response_of(at, bar, at.plan.bearings_mm)
            row = next(one for one in response.rows if one.bore == at.bore.name)
            stiffness, frequency = row.stiffness_n_mm, response.natural_frequency_hz
        else:
            layout = layout_of(at, bar)
            if layout.bit_to_mm is None:
                return None
            answer = response_at(bar, (layout.bit_from_mm + layout.bit_to_mm) / 2)
            stiffness, frequency = answer.stiffness_n_mm, answer.natural_frequency_hz
        force = cutting_force(cut)
    except (InvalidInput, StopIteration):
        return None
    verdict = response_verdict(stiffness, frequency, bar.damping, passes.rough_loads)
    if verdict is None:
        return None
    start = at.narrowest_mm
    enters = start is not None and bar.diameter_mm + 2 * at.plan.chip_clearance_mm <= start + 1e-9
    return Opening(bar=bar, cut=cut, force=force, verdict=verdict, enters=enters,
                   spring_mm=abs(force.radial_n) / (stiffness or float("inf")))  # fmt: skip


def entering_mm(at: AtBore) -> float:
    """How much of a bar goes into the bore."""
    return at.bored_mm + at.overrun_mm


def enters(at: AtBore, bar: BarRecord) -> bool:
    """Whether a bar goes into the bore as found, with room for chips on both sides."""
    start = at.narrowest_mm
    if start is None or bar.min_bore_mm > start:
        return False
    return bar.thickest_within_mm(entering_mm(at)) + 2 * at.plan.chip_clearance_mm <= start + 1e-9


def choice_of(passes: Passes, bar: BarInWork, crib: Sequence[BarRecord]) -> Figure[BarChoice]:
    """The crib's bars for this method ranked, standing out as this bore asks; of two alike the first is picked."""
    at, entry, reach = passes.at, bar.entry_mm, bar.reach.value
    if entry is None:
        return Figure(missing="bore-found")
    if reach is None:
        return Figure(refused=bar.reach.refused)
    bars = [at.as_carried(one) for one in crib if one.method == at.setup.way.bars]
    if not bars:
        return Figure(missing="bar")
    return found_or_refused(
        lambda: choose_bar(
            candidates=[one.candidate_at(reach.reach_mm, entering_mm(at)) for one in bars],
            needed_reach_mm=reach.reach_mm,
            bore_mm=entry,
            chip_clearance_mm=at.plan.chip_clearance_mm,
            holder_shanks_mm=[at.plan.head.shank_mm] if at.plan.head else None,
        )
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BarRow:
    """A bar of the crib for this bore: as the core ranks it, its verdict, the deflection nearest to what is allowed."""

    bar: BarRecord
    ranked: RankedBar
    #: ok, caution, stop, or out where it cannot go in.
    state: str
    verdict: BarVerdict | None
    worst: Deflection | None
    is_picked: bool
    is_by_rule: bool
    is_stiffest: bool


def rows_of(passes: Passes, bar: BarInWork, choice: BarChoice, crib: Sequence[BarRecord]) -> tuple[BarRow, ...]:
    """The crib's bars, best first, each with its verdict over all passes it is to cut."""
    by_name = {one.name: passes.at.as_carried(one) for one in crib}
    rows = [_row(passes, bar, choice, ranked, by_name[ranked.name]) for ranked in choice.ranked]
    order = {"ok": 0, "caution": 0, "stop": 1, "out": 2}
    return tuple(sorted(rows, key=lambda row: order[row.state]))


def _row(passes: Passes, now: BarInWork, choice: BarChoice, ranked: RankedBar, bar: BarRecord) -> BarRow:
    picked = passes.at.bar is not None and passes.at.bar.key == bar.key
    out = ranked.overhang_mm
    verdict = now.verdict if picked else verdict_of(bar, out, passes.carried, believed_of(passes, bar, out)).value
    return BarRow(
        bar=bar, ranked=ranked, verdict=verdict, is_picked=picked,
        state="out" if not ranked.usable else verdict.state if verdict else "ok",
        worst=worst_deflection(passes.carried, ranked.tip_stiffness_n_mm),
        is_by_rule=choice.by_rule == ranked.name, is_stiffest=choice.by_stiffness == ranked.name,
    )  # fmt: skip


def pockets_of(passes: Passes, bar: BarInWork) -> Figure[Pockets]:
    """Where chatter begins at the worst speed, for the heaviest cut, and the machine's speeds where it is deeper."""
    at, edge, cut = passes.at, edge_of(passes), passes.heaviest
    stiffness, frequency, picked = bar.stiffness_n_mm, bar.frequency_hz, at.bar
    if picked is None or edge is None or cut is None or stiffness is None or frequency is None:
        return Figure(missing="bar" if picked is None else "cutter")
    return found_or_refused(
        lambda: speeds_in_pockets(
            stiffness_n_mm=stiffness, damping_ratio=bar.believed.ratio if bar.believed else picked.damping,
            natural_frequency_hz=frequency, depth_mm=cut.depth_mm, edge=edge,
            spindle_speeds_rpm=at.machine.speeds_rpm, stepless=at.machine.stepless,
        )
    )  # fmt: skip
