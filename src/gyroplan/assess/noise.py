"""What to change when a cut squeals: each change with what it leaves of the chatter load, least upset first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from gyrocore import Cut, EdgeInCut, InvalidInput, cutting_force, finish
from gyrocore.formulas.stability import peak_chatter_load_n_mm
from gyroplan.assess.at import AtBore
from gyroplan.assess.bars import choice_of, pockets_of, rows_of
from gyroplan.assess.standing import Boring
from gyroplan.record import BarRecord, CutterRecord

#: A feed this much coarser is the most that is tried at once; an arc of the nose carries no more (chosen here).
_FEED_MOST, _NOSE_SHARE = 2.0, 0.5
#: A cut deeper than the nose pushes along the bar, not across it: so much deeper is tried (chosen here).
_PAST_NOSE = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One change that can be tried: its code with the figures of its words, and what it leaves of the load.

    `load` is the chatter load over what the bar bears, 1 at the believed limit; None where it cannot be said.
    `refused` says why it cannot be tried; empty where it can.
    """

    code: str
    load: float | None = None
    value: float | None = None
    name: str = ""
    ra_um: float | None = None
    refused: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Chatter:
    """The pass that is heard: its cut, the speed, the bar, the load now, and what can be changed."""

    number: int
    cut: Cut
    rpm: float | None
    frequency_hz: float | None
    damping: float
    load: float | None
    changes: tuple[Change, ...]


def chatter_of(
    boring: Boring, bars: Sequence[BarRecord] = (), cutters: Sequence[CutterRecord] = ()
) -> Chatter | None:  # fmt: skip
    """Return what can be changed about the pass in hand, or the last one that was cut.

    Notes
    -----
    The load is the greatest of any depth up to the cut's own, over 2 k z (1 + z), the ratio z believed by what was
    heard in this set-up. Each change is worked out alone, all else as it is. What can be tried comes first, the least
    upset of the set-up before the more; then what cannot, with its reason.

    References
    ----------
    `gyrocore.stability`; the order is shop practice: levers before cuts, cuts before tools, tools before the set-up.
    """
    at = boring.passes.at
    number, cut, rpm = _heard_pass(boring)
    if cut is None or at.cutter is None or at.bar is None:
        return None
    stiffness = boring.bar.stiffness_n_mm
    damping = boring.bar.believed.ratio if boring.bar.believed else at.bar.damping
    limit = None if not stiffness else 2 * stiffness * damping * (1 + damping)
    found = [
        _pocket(boring, cut, limit), _feed(at, cut, limit), _shallower(at, cut, limit), _past_nose(boring, cut, limit),
        _shorter(boring, cut, damping), _nose(at, cut, limit, cutters), _bar(boring, cut, bars), *_bearing(boring, cut),
    ]  # fmt: skip
    changes = [one for one in found if one is not None]
    order = {one: place for place, one in enumerate(changes)}
    changes.sort(key=lambda one: (bool(one.refused), one.load is not None and one.load > 1, order[one]))
    return Chatter(
        number=number, cut=cut, rpm=rpm, frequency_hz=boring.bar.frequency_hz, damping=damping,
        load=None if limit is None else _load(cut) / limit, changes=tuple(changes),
    )  # fmt: skip


def _heard_pass(boring: Boring) -> tuple[int, Cut | None, float | None]:
    """The pass in hand, else the last that was cut: its number, its cut, its speed."""
    state, planned = boring.passes.state, boring.speeds.planned
    place = len(boring.passes.done)
    if state is None or state.in_hand is None or (place and state.phase != "cut"):
        place -= 1  # what was heard was heard in the pass before
    if not 0 <= place < len(planned):
        return 0, None, None
    row, cutter = planned[place], boring.passes.at.cutter
    if cutter is None or row.cut.depth_mm <= 0:
        return row.cut.number, None, row.rpm
    return row.cut.number, boring.passes.at.cut_of(row.cut, cutter), row.rpm


def _load(cut: Cut) -> float:
    """The greatest chatter load of any depth up to the cut's own [N/mm]."""
    force = cutting_force(cut)
    edge = EdgeInCut(
        kc_mpa=force.kc_mpa, entering_angle_deg=cut.entering_angle_deg, nose_radius_mm=cut.nose_radius_mm,
        feed_mm_rev=cut.feed_mm_rev, thrust_ratio=cut.thrust_ratio,
    )  # fmt: skip
    return peak_chatter_load_n_mm(cut.depth_mm, edge)


def _share(cut: Cut, limit: float | None) -> float | None:
    return None if limit is None else _load(cut) / limit


def _pocket(boring: Boring, cut: Cut, limit: float | None) -> Change | None:
    """Another speed, at which successive turns cut in step."""
    found = pockets_of(boring.passes, boring.bar).value
    if found is None:
        return None
    best = max(found.pockets, key=lambda one: one.limit_depth_mm or float("inf"), default=None)
    if best is None or not found.least_limit_mm:
        return Change(code="speed", refused="no-pocket")
    gain = (best.limit_depth_mm or 10 * found.least_limit_mm) / found.least_limit_mm
    share = _share(cut, limit)
    return Change(code="speed", value=best.speed_rpm, load=None if share is None else share / gain,
                  name=boring.passes.at.machine.lever_for(best.speed_rpm))  # fmt: skip


def _feed(at: AtBore, cut: Cut, limit: float | None) -> Change:
    """A coarser feed: successive turns overlap less."""
    most = min(_FEED_MOST * cut.feed_mm_rev, _NOSE_SHARE * cut.nose_radius_mm)
    listed = [one for one in at.machine.feeds_mm_rev if cut.feed_mm_rev * (1 + 1e-6) < one <= most * (1 + 1e-9)]
    feed = max(listed, default=0.0) if at.machine.feeds_mm_rev else most
    if feed <= cut.feed_mm_rev:
        return Change(code="feed", refused="nose" if most <= cut.feed_mm_rev else "no-feed")
    coarser = replace(cut, feed_mm_rev=feed)
    ra = None if cut.nose_radius_mm <= 0 else finish(nose_radius_mm=cut.nose_radius_mm, feed_mm_rev=feed).ra_um
    return Change(code="feed", value=feed, load=_share(coarser, limit), ra_um=ra)


def _shallower(at: AtBore, cut: Cut, limit: float | None) -> Change:
    """Half as deep: the pass as two."""
    half, least = cut.depth_mm / 2, at.cutter.least_depth_mm if at.cutter else 0.0
    if half < least - 1e-9:
        return Change(code="shallower", value=half, refused="rubs")
    return Change(code="shallower", value=half, load=_share(replace(cut, depth_mm=half), limit))


def _past_nose(boring: Boring, cut: Cut, limit: float | None) -> Change | None:
    """Deeper than the nose, where there is that much to come off: the chip then pushes along the bar."""
    state, deeper = boring.passes.state, _PAST_NOSE * cut.nose_radius_mm
    if cut.depth_mm >= cut.nose_radius_mm or state is None:
        return None
    if state.to_come_off_mm / 2 < deeper:
        return Change(code="deeper", value=deeper, refused="no-metal")
    # past the nose it is the depth itself that counts: a shallower one on the way is no steady cut
    force = cutting_force(replace(cut, depth_mm=deeper))
    now = cutting_force(cut)
    if limit is None or not now.radial_n:
        return Change(code="deeper", value=deeper)
    return Change(code="deeper", value=deeper, load=_load(cut) / limit * abs(force.radial_n / now.radial_n)
                  * cut.depth_mm / deeper)  # fmt: skip


def _shorter(boring: Boring, cut: Cut, damping: float) -> Change | None:
    """The bar less far out, where the bore lets it."""
    bar, reach, out = boring.passes.at.bar, boring.bar.reach.value, boring.bar.out_mm
    if bar is None or reach is None or out is None:
        return None
    bare = reach.reach_mm - boring.passes.at.plan.clear_mm
    if bar.is_fixed:
        return Change(code="shorter", refused="fixed")
    if bare >= out - 1:
        return Change(code="shorter", refused="reach")
    try:
        stiff = bar.stands_out(bare).response.stiffness_n_mm
    except InvalidInput:
        return None
    if not stiff:
        return None
    return Change(code="shorter", value=bare, load=_load(cut) / (2 * stiff * damping * (1 + damping)))


def _nose(at: AtBore, cut: Cut, limit: float | None, cutters: Sequence[CutterRecord]) -> Change | None:
    """A cutter with a smaller nose: less of the chip pushes across the bar."""
    smaller = [one for one in cutters if one.nose_radius_mm < cut.nose_radius_mm - 1e-9 and at.cutter
               and one.made_of == at.cutter.made_of and one.least_depth_mm <= cut.depth_mm]  # fmt: skip
    if not smaller:
        return Change(code="nose", refused="no-cutter")
    pick = max(smaller, key=lambda one: one.nose_radius_mm)
    cut = replace(cut, nose_radius_mm=pick.nose_radius_mm, entering_angle_deg=pick.entering_angle_deg)
    ra = None if pick.nose_radius_mm <= 0 else finish(nose_radius_mm=pick.nose_radius_mm, feed_mm_rev=cut.feed_mm_rev)
    return Change(code="nose", value=pick.nose_radius_mm, name=pick.name, load=_share(cut, limit),
                  ra_um=ra.ra_um if ra else None)  # fmt: skip


def _bar(boring: Boring, cut: Cut, bars: Sequence[BarRecord]) -> Change | None:
    """A stiffer bar of the crib that goes in."""
    choice = choice_of(boring.passes, boring.bar, bars).value if bars else None
    if choice is None:
        return None
    now = boring.bar.stiffness_n_mm or 0.0
    rows = [one for one in rows_of(boring.passes, boring.bar, choice, bars)
            if one.ranked.usable and not one.is_picked and one.ranked.tip_stiffness_n_mm > now]  # fmt: skip
    if not rows:
        return Change(code="bar", refused="no-bar")
    best = max(rows, key=lambda one: one.ranked.tip_stiffness_n_mm * one.bar.damping)
    damping, stiff = best.bar.damping, best.ranked.tip_stiffness_n_mm
    return Change(code="bar", name=best.bar.name, value=stiff, load=_load(cut) / (2 * stiff * damping * (1 + damping)))


def _bearing(boring: Boring, cut: Cut) -> list[Change]:
    """Of a bar in bearings: one more, where it helps most."""
    better, bar = boring.bar.better_line, boring.passes.at.bar
    if better is None or bar is None or not better.softest.stiffness_n_mm:
        return []
    stiff, damping = better.softest.stiffness_n_mm, bar.damping
    return [Change(code="bearing", value=stiff, load=_load(cut) / (2 * stiff * damping * (1 + damping)))]
