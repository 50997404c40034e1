"""Where the six steps of a job stand, and what is next: codes with millimetres, worded later."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from gyroplan.assess.check import worst_word
from gyroplan.assess.here import AHEAD, BAD, DONE, URGENT, WARN, Here, Line, Next, Station, Steps
from gyroplan.assess.line_moves import is_moved_at_bearings
from gyroplan.assess.standing import Assessment
from gyroplan.assess.steps_true import next_true, true_line
from gyroplan.assess.together import piece_words, summary_of
from gyroplan.record import PieceSummary

#: What is logged piece by piece.
BY_PIECE = ("true", "bore", "check")
#: Of work that is only set true.
_NOT_CUT: Line = (DONE, "not_cut", {})


def steps_of(job: Assessment) -> Steps:
    """Return where the six steps stand: of a batch the piece in hand, of a line the bore that needs a hand most."""
    piece = in_hand(job)
    here = Here(job=job, piece=piece, bore=job.record.setup.bores[0].of_piece(piece))
    found = tuple(Station(step, *_worst(here, work)) for step, work in _LINES_OF.items())
    following = _next(here, found)
    if job.record.quantity > 1:
        found = tuple(_with_piece(station, piece) for station in found)
        following = replace(following, values={**following.values, "piece": piece})
    return Steps(found, following)


def stations_of(job: Assessment, piece: int) -> tuple[Station, ...]:
    """Return the stations that are logged piece by piece, of one piece of a batch, whichever is in hand."""
    here = Here(job=job, piece=piece, bore=job.record.setup.bores[0].of_piece(piece))
    return tuple(_with_piece(Station(step, *_worst(here, _LINES_OF[step])), piece) for step in BY_PIECE)


def in_hand(job: Assessment) -> int:
    """Of several pieces the first that is not in limits yet; else the last."""
    record = job.record
    undone = (p for p in record.pieces if any(word != "in" for word in _own_words(summary_of(job, p))))
    return next(undone, record.quantity)


def _own_words(found: PieceSummary) -> list[str]:
    return [one.word for one in (*found.bores, *found.features)]


def _with_piece(station: Station, piece: int) -> Station:
    """What is logged piece by piece says which piece it speaks of."""
    if station.step not in BY_PIECE:
        return station
    return replace(station, values={**station.values, "piece": piece})


def _worst(here: Here, work: Callable[[Here], Line]) -> Line:
    if here.setup.only_trued and work in (_bar, _cuts, _bore):
        return _NOT_CUT
    if not here.setup.is_several:
        return work(here)
    lines = [(one.bore, work(one)) for one in here.each if work is not true_line or one.is_end]
    bore, (state, code, values) = min(lines, key=lambda pair: URGENT.index(pair[1][0]))
    named = values if state == DONE else {"of": bore.name, **values}
    return state, code, named


def _work(here: Here) -> Line:
    bore, start = here.bore, here.bore.smallest_found_mm
    if here.setup.only_trued:
        return DONE, "only_trued", {"limit_mm": here.setup.tightest_runout_mm}
    if start is None:
        return AHEAD, "measure_first", {}
    limits = {"text": bore.wanted, "unit": bore.wanted_unit, "lower_mm": bore.lower_mm, "upper_mm": bore.upper_mm}
    return DONE, "work", {"start_mm": start, "wanted": limits}


def _bar(here: Here) -> Line:
    held = here.setup.way.bar_in
    if held == "bearings":
        return _bar_in_line(here)
    if held == "centres":
        return _bar_in_centres(here)
    return _bar_in_head(here) if held == "head" else _bar_out(here)


def _bar_in_line(here: Here) -> Line:
    passes, bar = here.boring.passes, here.boring.bar
    line = bar.line.value
    if passes.at.bar is None:
        return AHEAD, "no_bar", {}
    if line is None:
        return (BAD, "bearings_wrong", {}) if here.setup.plan.bearings_mm else (AHEAD, "no_bearings", {})
    values = {"count": len(line.bearings_mm)}
    if passes.force.value is None:
        return WARN, "line_no_cutter", values
    if not line.holds:
        # bar and bearings are the same for all: the bore that fails is named, whichever is looked at
        return BAD, "line_over", {**values, "of": line.fails_at} if line.fails_at else values
    if line.verdict is not None and line.verdict.state == "caution":
        return DONE, "line_may_chatter", values
    return DONE, "line" if line.layout.ok else "line_over_advice", values


def _bar_in_centres(here: Here) -> Line:
    found = here.boring.bar.centres.value
    if found is None:
        return (BAD, "centres_wrong", {}) if here.boring.passes.at.bar else (AHEAD, "no_bar", {})
    if not found.layout.ok or found.bit_mm is None:
        return BAD, "centres_short", {"reach_mm": found.layout.least_bar_length_mm}
    if found.spring_mm is None:
        return WARN, "centres_no_cutter", {"reach_mm": found.bit_mm}
    return (DONE, "centres", {"reach_mm": found.bit_mm}) if found.holds else (BAD, "centres_over", {})


def _bar_in_head(here: Here) -> Line:
    if here.setup.plan.head is None:
        return AHEAD, "no_head", {}
    state, code, values = _bar_out(here)
    if state in (DONE, WARN) and not _has_hole(here):
        return BAD, "no_hole", {}
    return state, code, values


def _has_hole(here: Here) -> bool:
    holes = here.boring.bar.holes.value
    return holes is not None and (holes.picked is not None or bool(holes.changes))


def _bar_out(here: Here) -> Line:
    bar, picked = here.boring.bar, here.boring.passes.at.bar
    if picked is None or bar.reach.value is None:
        return AHEAD, "no_bar", {}
    found, out = bar.overhung.value, bar.out_mm or bar.reach.value.reach_mm
    if found is None:
        return WARN, "no_cutter", {"reach_mm": out}
    values = {"reach_mm": out, "bar": picked.name}
    if found.state == "ok":
        return DONE, "bar", values
    values["over_mm"] = out - (found.at_mm or 0.0)
    if found.state == "stop":
        return BAD, "bar_over_limit", values
    return DONE, "bar_over_advice" if found.by == "rule" else "bar_may_chatter", values


def _cuts(here: Here) -> Line:
    passes, speeds = here.boring.passes, here.boring.speeds
    if not passes.every or passes.at.cutter is None or speeds.minutes is None:
        return AHEAD, "no_cuts", {}
    return DONE, "cuts", {"count": len(passes.every), "minutes": speeds.minutes}


def _bore(here: Here) -> Line:
    boring, passes = here.boring, here.boring.passes
    state, ladder = passes.state, passes.ladder
    if state is None or ladder is None:
        return AHEAD, "no_cuts", {}
    if state.phase == "over":
        return BAD, "bored_over", {"size_mm": state.known_mm, "excess_mm": passes.over_mm}
    if state.phase == "done":
        return DONE, "bored", {"size_mm": state.known_mm}
    if boring.rests_until is not None:
        return WARN, "settling", {"day": boring.rests_until.isoformat()}
    if not ladder.done and state.phase in ("set", "touch-off"):
        return AHEAD, "not_bored", {}
    number = state.in_hand or len(ladder.done)
    return AHEAD, f"boring_{state.phase.replace('-', '_')}", {"number": number, "count": passes.count}


def _check(here: Here) -> Line:
    check, record = here.check, here.record
    if record.signed_by:
        return DONE, "signed", {"word": record.signed_word or check.word}
    if check.pulled and not check.sizes and not check.by_plugs:
        return WARN, "measured_before", {}
    if not check.sizes and not here.setup.only_trued:
        return AHEAD, "not_measured", {}
    if check.word == "incomplete" and here.setup.only_trued:
        return AHEAD, "not_trued", {}
    last = here.bore.place == here.setup.bores[-1].place
    word = worst_word(piece_words(here.job, here.piece)) if last else check.word
    return {"in": DONE, "over": BAD}.get(word, WARN), "verdict", {"word": word}


_LINES_OF: dict[str, Callable[[Here], Line]] = {
    "work": _work, "bar": _bar, "cuts": _cuts, "true": true_line, "bore": _bore, "check": _check,
}  # fmt: skip


def _next(here: Here, found: tuple[Station, ...]) -> Next:
    """What to do now, with its number; of several bores, at the first that is not done there."""
    if here.record.signed_by:
        return Next("check", "signed", {"who": here.record.signed_by})
    if here.record.closed_reason:
        return Next("work", "closed", {"reason": here.record.closed_reason})
    if here.setup.closed_reason:
        return Next("work", "setup_closed", {"setup": here.setup.letter, "reason": here.setup.closed_reason})
    step = next((s.step for s in found if s.state != DONE), "check")
    if not here.setup.is_several:
        return _NEXT[step](here)
    each = [one for one in here.each if step != "true" or one.is_end]
    one = next((p for p in each if _LINES_OF[step](p)[0] != DONE), here)
    if step == "true" and is_moved_at_bearings(here.job):
        one = next((p for p in each if p.truing.standing is None), one)
    action = _NEXT[step](one)
    return replace(action, values={**action.values, "of": one.bore.name, "place": one.bore.place})


def _next_work(here: Here) -> Next:
    return Next("work", "measure_first")


def _next_bar(here: Here) -> Next:
    held, plan, bar = here.setup.way.bar_in, here.setup.plan, here.boring.bar
    if held == "bearings":
        return _next_line(here)
    if held == "centres":
        return _next_centres(here)
    if held == "head" and plan.head is None:
        return Next("bar", "choose_head")
    if held == "head" and bar.overhung.value is not None and not _has_hole(here):
        return Next("bar", "no_hole_reaches")
    return _next_out(here)


def _next_out(here: Here) -> Next:
    reach = here.boring.bar.reach.value
    if reach is None:
        return Next("bar", "fix_reach")
    if here.boring.passes.at.bar is None:
        return Next("bar", "choose_bar", {"reach_mm": reach.reach_mm})
    if here.boring.bar.overhung.value is None:
        return Next("bar", "choose_cutter")
    return Next("bar", "bring_bar_in", {"reach_mm": reach.reach_mm})


def _next_centres(here: Here) -> Next:
    found = here.boring.bar.centres.value
    if found is None:
        return Next("bar", "choose_line_bar")
    if not found.layout.ok:
        return Next("bar", "longer_bar", {"reach_mm": found.layout.least_bar_length_mm})
    return Next("bar", "choose_cutter" if found.spring_mm is None else "line_does_not_hold")


def _next_line(here: Here) -> Next:
    passes, bar = here.boring.passes, here.boring.bar
    line, better = bar.line.value, bar.better_line
    if passes.at.bar is None:
        return Next("bar", "choose_line_bar")
    if line is None:
        return Next("bar", "stand_bearings")
    if passes.force.value is None:
        return Next("bar", "choose_cutter")
    if better is not None and better.holds:
        place = next(p for p in better.bearings_mm if p not in line.bearings_mm)
        return Next("bar", "one_more_bearing", {"count": len(better.bearings_mm), "at_mm": place})
    return Next("bar", "line_does_not_hold")


def _next_cuts(here: Here) -> Next:
    if "cap" in (here.boring.speeds.rough.missing, here.boring.speeds.finish.missing):
        return Next("cuts", "give_cap")
    return Next("cuts", "choose_cutter")


def _next_bore(here: Here) -> Next:
    boring, passes = here.boring, here.boring.passes
    state, ladder = passes.state, passes.ladder
    if state is None or ladder is None or state.phase == "done":
        return Next("bore", "begin_boring")
    if boring.rests_until is not None:
        return Next("bore", "settling", {"day": boring.rests_until.isoformat()})
    if state.phase == "over":
        return Next("bore", "over_stop", {"value_mm": passes.over_mm})
    if state.phase == "measure":
        return Next("bore", "measure_pass", {"number": len(ladder.done), "diameter_mm": state.known_mm})
    hand = state.hand
    values = {"number": state.in_hand, "diameter_mm": hand.diameter_mm if hand else state.known_mm}
    return Next("bore", {"set": "bore_to", "cut": "cut_pass"}.get(state.phase, "touch_off"), values)


def _next_check(here: Here) -> Next:
    check = here.check
    if check.missing:
        gap = check.missing[0]
        return Next("check", "measure", {"what": {"code": gap.code, "count": gap.count, "name": gap.name}})
    word = worst_word(piece_words(here.job, here.piece))
    if check.word == "in" and word == "in":
        waits = next((one for one in here.record.others if not one.closed_reason and one.word == "incomplete"), None)
        return Next("check", "sign") if waits is None else Next("work", "go_on_in", {"setup": waits.letter})
    waits_for = next((one for one in here.job.features(here.piece) if one.word != "in" and one.lines), None)
    if waits_for is not None and check.word == "in":
        return Next("check", "feature", {"name": waits_for.feature.name, "word": waits_for.word})
    if word == "incomplete":
        return Next("check", "measure", {"what": {"code": "bores_in_line", "count": 0, "name": ""}})
    away = here.bore.aim_mm - check.extremes[0].value_mm if check.extremes else 0.0
    return Next("check", f"way_{word}", {"value_mm": away})


_NEXT: dict[str, Callable[[Here], Next]] = {
    "work": _next_work, "bar": _next_bar, "cuts": _next_cuts, "true": next_true, "bore": _next_bore,
    "check": _next_check,
}  # fmt: skip
