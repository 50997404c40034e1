"""What a bar does beyond its setting: learned from its measured passes, here and in like jobs; the chance to land."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

from gyrocore import (
    Foretold,
    Habit,
    HabitPrior,
    InvalidInput,
    LearnedHabit,
    NextCut,
    Pass,
    SeenCut,
    cutting_force,
    foretold,
    learned_habit,
    next_cut,
)
from gyrocore.checks import TOLERANCE
from gyroplan.assess.at import AtBore
from gyroplan.assess.passes import Passes
from gyroplan.assess.standing import Boring
from gyroplan.gauges import Gauge, doubt_of
from gyroplan.loop import AdvanceWay, DialWay, PassCut, Told, Touched, Way

#: A cut on a like job: standing out within this share of what it does here, at a diameter within that (chosen here).
_OUT_ALIKE, _DIAMETER_ALIKE = 0.1, 0.25
#: A division is set and read to this share of itself; what else of a cut scatters, before one was seen (chosen here).
_DIVISION_SHARE, _CUT_SCATTER_MM = 0.15, 0.003
#: What is believed of a bar that nobody has seen cut: as much either way (chosen here).
_UNSEEN_SD_MM = 0.01
#: What a like job says of this one: its habit, known no better than this (chosen here).
_CARRIED_SD_MM = 0.004
#: A cut is alike where it is as deep within this share, and the deflection makes the same of it within this; of one
#: that is not, so much may be its own (chosen here).
_DEPTH_ALIKE, _SPRUNG_ALIKE_MM, _UNLIKE_MM = 0.25, 0.0005, 0.01
#: A spring pass leaves about this share of the deflection, where it is not worked out (chosen here).
SPRING_LEFT = 0.2


@dataclass(frozen=True, slots=True, kw_only=True)
class CutSeen:
    """A measured pass, with all that says what it is like [mm]; `number` 0 is a tip that was touched since."""

    job: str
    piece: int
    bore: str
    number: int
    kind: str = ""
    #: How much larger than set it came out, on diameter; of a reading, larger than the reading says.
    off_mm: float = 0.0
    #: What the bar's deflection alone would have made of it.
    model_mm: float = 0.0
    bar: int = 0
    cutter: int | None = None
    material: str = ""
    #: dial, advance, over-bar, step or micrometer.
    way: str = ""
    out_mm: float | None = None
    diameter_mm: float = 0.0
    depth_mm: float = 0.0
    #: The entry of its log that measured it, or that touched the tip.
    log_at: int = -1


@dataclass(frozen=True, slots=True, kw_only=True)
class Raised:
    """What would raise the chance: a code with what its words name, and the chance then."""

    code: str
    chance: float
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class HabitStanding:
    """The habit of this bar, here and now [mm]: what it was learned from, and what the pass in hand may expect."""

    own: tuple[CutSeen, ...]
    carried: tuple[CutSeen, ...]
    #: Of the pass in hand; None where none is.
    learned: LearnedHabit | None
    proven: Foretold
    #: The limits that count: narrowed by what the measuring is known to.
    limits_mm: tuple[float, float] | None = None
    #: The pass as it is told, and with the habit taken off; None where it does not end in the limits.
    as_told: NextCut | None = None
    habit_off: NextCut | None = None
    #: What to set with the habit taken off.
    told: Told | None = None
    raised: tuple[Raised, ...] = ()

    @property
    def jobs(self) -> list[str]:
        """The jobs it was carried from, the newest first."""
        return list(dict.fromkeys(one.job for one in reversed(self.carried)))

    @property
    def is_proven(self) -> bool:
        """Whether its own cuts were foretold better by it than without it, and than by a blind copy."""
        return self.proven.is_proven


def cuts_seen(boring: Boring) -> list[CutSeen]:
    """Return what the measured passes of one bore of one piece say of the bar, oldest first; from the last touch on.

    Notes
    -----
    Where a dial is wound on from a measured bore, the bar stood deflected at that size already: what the deflection
    alone makes is 2 (of the pass measured before, less of this pass), on diameter. To a reading it is -2 of this pass.
    Passes that came out twice or half of what was set are slips, not habit, and are left out.

    References
    ----------
    Derived here from the tip's position; deflection as `gyrocore.overhang`: radial force over the stiffness.
    """
    passes, at = boring.passes, boring.passes.at
    if passes.ladder is None or at.bar is None:
        return []
    way, before_mm, found = passes.by.way, 0.0, []
    touched = touched_at(boring)
    for cut in passes.done:
        own = deflection_of(boring, cut)
        if cut.kind == "spring":
            before_mm *= SPRING_LEFT
            continue
        if cut.measured_mm is None:
            continue
        model = 2 * (before_mm - own) if _is_relative(way) else -2 * own
        if cut.suspect is None and cut.cut_at > touched:
            found.append(_seen(boring, cut, model))
        before_mm = own
    return found


def touched_at(boring: Boring) -> int:
    """The entry of this bore's log at which its tip was touched last; -1 for never."""
    entries = boring.passes.at.log.entries
    return max((place for place, one in enumerate(entries) if isinstance(one, Touched)), default=-1)


def _is_relative(way: Way) -> bool:
    return isinstance(way, DialWay | AdvanceWay)


def _seen(boring: Boring, cut: PassCut, model_mm: float) -> CutSeen:
    at, way, set_mm = boring.passes.at, boring.passes.by.way, cut.set_mm
    if not isinstance(way, DialWay | AdvanceWay) and cut.set_as is not None and cut.set_as.reading_mm is not None:
        set_mm = way.diameter_mm(cut.set_as.reading_mm)
    bar, cutter = at.bar, at.cutter
    return CutSeen(
        job=at.record.number, piece=at.piece, bore=at.bore.name, number=cut.number, kind=cut.kind,
        off_mm=(cut.measured_mm or set_mm) - set_mm, model_mm=model_mm, bar=bar.key if bar else 0,
        cutter=cutter.key if cutter else None, material=at.material.key, way=way.way, out_mm=boring.bar.out_mm,
        diameter_mm=cut.set_mm, depth_mm=cut.depth_mm, log_at=cut.sizes_at[-1] if cut.sizes_at else -1,
    )  # fmt: skip


def _as_pass(cut: PassCut) -> Pass:
    return Pass(number=cut.number, kind=cut.kind, depth_mm=cut.depth_mm, diameter_mm=cut.set_mm, measure_after=True)


def deflection_of(boring: Boring, cut: PassCut) -> float:
    """Return how far the bar bent under a pass that was cut, on radius [mm]; 0 where its stiffness is not known."""
    return _deflection_mm(boring, _as_pass(cut))


def _deflection_mm(boring: Boring, one: Pass) -> float:
    """How far the bar bends under a pass, on radius; 0 where its stiffness is not known."""
    at, stiffness = boring.passes.at, boring.bar.stiffness_n_mm
    if at.cutter is None or not stiffness or one.depth_mm <= 0:
        return 0.0
    try:
        return abs(cutting_force(at.cut_of(one, at.cutter)).radial_n) / stiffness
    except InvalidInput:
        return 0.0


def _alike_cuts(boring: Boring, others: Sequence[CutSeen]) -> list[CutSeen]:
    """Return the cuts of other bores, pieces and jobs that were made as this one is, since the tip was touched last.

    Of a like kind: the same bar, cutter, material and way of setting, standing out and as large within a share.
    """
    at, out = boring.passes.at, boring.bar.out_mm
    touched = max((n for n, one in enumerate(others) if one.number == 0), default=-1)
    return [one for one in others[touched + 1 :] if _is_alike(at, out, boring.passes.by.way, one)]


def _is_alike(at: AtBore, out_mm: float | None, way: Way, one: CutSeen) -> bool:
    bar, cutter, size = at.bar, at.cutter, at.bore.aim_mm
    if bar is None or cutter is None or one.bar != bar.key or one.cutter != cutter.key:
        return False
    near = out_mm is None or one.out_mm is None or abs(one.out_mm - out_mm) <= _OUT_ALIKE * out_mm
    same = one.material == at.material.key and one.way == way.way
    return same and near and abs(one.diameter_mm - size) <= _DIAMETER_ALIKE * size


def habit_of(
    boring: Boring, others: Sequence[CutSeen] = (), gauges: Sequence[Gauge] = ()
) -> HabitStanding | None:  # fmt: skip
    """Return the habit of this bore's bar, and the chance of the pass in hand to land.

    Parameters
    ----------
    boring : the bore
    others : measured cuts of this bar elsewhere, oldest first
    gauges : what the shop could measure it with

    Returns
    -------
    None without a plan, a bar or a cutter
    """
    passes, at = boring.passes, boring.passes.at
    if passes.ladder is None or at.bar is None or at.cutter is None:
        return None
    own, carried = cuts_seen(boring), _alike_cuts(boring, others)
    prior = _prior(passes)
    bare = HabitStanding(own=tuple(own), carried=tuple(carried), learned=None, proven=foretold(seen=(), prior=prior))
    hand = passes.state.hand if passes.state else None
    if hand is None or passes.state is None or hand.kind == "spring" or hand.depth_mm <= 0:
        return bare
    model = _model_ahead(boring, hand)
    rows = [_as_seen(one, hand, model) for one in (*carried, *own)]
    # only what was cut as this pass is proves anything of it
    bare = replace(bare, proven=foretold(seen=[one for one in rows if one.apart_mm == 0], prior=prior))
    learned = learned_habit(seen=rows, model_mm=model, prior=prior)
    standing = replace(bare, learned=learned)
    return _with_chance(boring, standing, hand, gauges)


def _as_seen(one: CutSeen, hand: Pass, model_mm: float) -> SeenCut:
    """A cut as the pass in hand sees it: alike, as deep and as sprung before it; else it may differ by itself."""
    deep = abs(one.depth_mm - hand.depth_mm) <= _DEPTH_ALIKE * hand.depth_mm
    sprung = abs(one.model_mm - model_mm) <= _SPRUNG_ALIKE_MM + _DEPTH_ALIKE * abs(model_mm)
    return SeenCut(off_mm=one.off_mm, model_mm=one.model_mm, apart_mm=0.0 if deep and sprung else _UNLIKE_MM)


def _prior(passes: Passes) -> HabitPrior:
    """What is believed of a bar before its cuts: the scatter of a setting and of two measurements."""
    way, state = passes.by.way, passes.state
    division = way.on_diameter_mm if isinstance(way, DialWay) else 0.0
    measured = (state.expanded_mm or 0.0) / 4 if state else 0.0  # what repeats of it: about half of its doubt
    scatter = hypot(_DIVISION_SHARE * division, _CUT_SCATTER_MM, measured)
    return HabitPrior(bias_sd_mm=max(_UNSEEN_SD_MM, scatter), scatter_mm=scatter)


def _model_ahead(boring: Boring, hand: Pass) -> float:
    """What the deflection alone makes of the pass in hand."""
    own = _deflection_mm(boring, hand)
    if not _is_relative(boring.passes.by.way):
        return -2 * own
    before = 0.0
    for cut in boring.passes.done:
        if cut.kind == "spring":
            before *= SPRING_LEFT
        elif cut.measured_mm is not None:
            before = deflection_of(boring, cut)
    return 2 * (before - own)


def _with_chance(
    boring: Boring, standing: HabitStanding, hand: Pass, gauges: Sequence[Gauge]
) -> HabitStanding:  # fmt: skip
    passes, learned = boring.passes, standing.learned
    if passes.ladder is None or learned is None:
        return standing
    bore = passes.ladder.replay.memory.bore
    lower, upper, target = bore.bored_lower_mm, bore.bored_upper_mm, hand.diameter_mm
    if not lower - TOLERANCE <= target <= upper + TOLERANCE:
        return standing
    doubt = passes.state.expanded_mm or 0.0 if passes.state else 0.0
    doubt = doubt if passes.at.record.rule == "guarded" else 0.0
    limits = _proven_within(lower, upper, doubt)
    as_told = _landing(learned, target, _set_to(passes, target), limits)
    habit_off = _landing(learned, target, None, limits)
    told = _told(boring, habit_off.set_diameter_mm, hand)
    return replace(
        standing, limits_mm=limits, as_told=as_told, habit_off=habit_off, told=told,
        raised=_raised(boring, learned, (lower, upper, target), doubt, gauges),
    )  # fmt: skip


def _set_to(passes: Passes, target_mm: float) -> float:
    """What the pass in hand is set to, as it is told or as it stands; of a reading, what the reading itself says."""
    state, way, ladder = passes.state, passes.by.way, passes.ladder
    if state is None or ladder is None:
        return target_mm
    if isinstance(way, DialWay | AdvanceWay):
        return state.set_diameter_mm if state.phase == "cut" and state.set_diameter_mm else target_mm
    reading = state.told.reading_mm if state.told is not None else ladder.replay.memory.reading_mm
    return target_mm if reading is None else way.diameter_mm(reading)


def _proven_within(lower: float, upper: float, doubt: float) -> tuple[float, float]:
    """The limits that a measured size must lie in to be proven in; the middle alone where the doubt takes all."""
    middle = (lower + upper) / 2
    return min(lower + doubt, middle), max(upper - doubt, middle)


def _landing(
    learned: LearnedHabit, target_mm: float, set_mm: float | None, limits_mm: tuple[float, float]
) -> NextCut:  # fmt: skip
    """The chance of a cut set to a size, or with the habit taken off where none is given."""
    believed = Habit(
        prior_bias_mm=learned.off_mm, prior_sd_mm=max(learned.off_sd_mm, 1e-9), reading_sd_mm=learned.scatter_mm
    )
    # set as told, the habit comes out on top of the size it aims at
    aim = target_mm if set_mm is None else set_mm + learned.off_mm
    return next_cut(history=(), aim_mm=aim, limits_mm=limits_mm, habit=believed)


def _told(boring: Boring, set_mm: float, hand: Pass) -> Told | None:
    """What is turned or read to set a pass to another size than its own."""
    ladder, state, way = boring.passes.ladder, boring.passes.state, boring.passes.by.way
    if ladder is None or state is None or state.told is None:
        return None
    change = set_mm - hand.diameter_mm
    if isinstance(way, DialWay):
        divisions = (state.told.divisions or 0.0) + change / way.on_diameter_mm
        return Told(divisions=divisions, to_division=way.turned(ladder.replay.memory.dial, divisions))
    if isinstance(way, AdvanceWay):
        return Told(advance_mm=(state.told.advance_mm or 0.0) + way.told(change, 0.0).amount)
    return Told(reading_mm=way.reading_mm(set_mm))


def _raised(
    boring: Boring, learned: LearnedHabit, sizes: tuple[float, float, float], doubt: float, gauges: Sequence[Gauge]
) -> tuple[Raised, ...]:  # fmt: skip
    """What would raise the chance of the pass in hand, the most first; only what raises it by two in a hundred."""
    lower, upper, target = sizes
    limits = _proven_within(lower, upper, doubt)
    now = _landing(learned, target, None, limits).chance_in_limits
    found = []
    if doubt > 0 and gauges:
        finest = min(gauges, key=doubt_of)
        finer = _landing(learned, target, None, _proven_within(lower, upper, doubt_of(finest)))
        found.append(Raised(code="finer", chance=finer.chance_in_limits, name=finest.name))
    warm = _cold_doubt(boring, doubt)
    if warm is not None:
        colder = _landing(learned, target, None, _proven_within(lower, upper, warm))
        found.append(Raised(code="cold", chance=colder.chance_in_limits))
    if _has_room(boring):
        weight = (learned.scatter_mm / max(learned.off_sd_mm, 1e-9)) ** 2
        surer = replace(learned, off_sd_mm=learned.scatter_mm / sqrt(weight + 1))
        found.append(Raised(code="alike", chance=_landing(surer, target, None, limits).chance_in_limits))
    steadier = _by_finer_step(boring, learned)
    if steadier is not None:
        found.append(Raised(code="step", chance=_landing(steadier, target, None, limits).chance_in_limits))
    return tuple(sorted((one for one in found if one.chance >= now + 0.02), key=lambda one: -one.chance))


#: A hand sets a dial to about a fifth of a division either way; an indicator on the slide takes that out, but never
#: more than half of what was seen to scatter (both chosen here).
_HAND_SHARE, _MOST_OF_IT = 0.2, 0.5


def _by_finer_step(boring: Boring, learned: LearnedHabit) -> LearnedHabit | None:
    """The habit as it would scatter, were the slide moved by an indicator; None where no dial is turned."""
    way = boring.passes.by.way
    if not isinstance(way, DialWay) or learned.scatter_mm <= 0:
        return None
    hand = _HAND_SHARE * abs(way.on_diameter_mm) / sqrt(3)
    left = max(learned.scatter_mm**2 - hand**2, (_MOST_OF_IT * learned.scatter_mm) ** 2)
    return replace(learned, scatter_mm=sqrt(left))


def _cold_doubt(boring: Boring, doubt: float) -> float | None:
    """The doubt of the last size without that of its temperature; None where it was cold."""
    row = boring.passes.ladder.replay.memory.row if boring.passes.ladder else ()
    worst = max((one.temp_u_c for one in row), default=0.0)
    if worst == 0:
        return None
    known = boring.passes.known_mm
    warm = 2 * known * max(boring.passes.at.material.expansion_um_m_k, 11.5) * 1e-6 * worst
    return sqrt(max(0.0, doubt**2 - warm**2))


def _has_room(boring: Boring) -> bool:
    """Whether another pass as deep as the edge cuts fits before the last."""
    state, rules = boring.passes.state, boring.passes.rules
    return state is not None and state.to_come_off_mm / 2 >= 2 * rules.min_depth_mm - TOLERANCE
