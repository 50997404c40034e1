"""Where the six steps of a job stand, and what is next: codes with millimetres, worded later.

Kept on the job after every change, so that the bench reads one row a job.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from gyrometra.bridge.units import Units
from gyrometra.crib.models import CribItem
from gyrometra.inspection.judged import worst_word
from gyrometra.jobs.in_head import picked_hole
from gyrometra.jobs.models import Job
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.whole import piece_words

STEPS = ("work", "bar", "cuts", "true", "bore", "check")
NAMES = {"work": "Work", "bar": "Bar", "cuts": "Cuts", "true": "True", "bore": "Bore", "check": "Check"}
DONE, AHEAD, WARN, BAD = "done", "ahead", "warn", "bad"


@dataclass(frozen=True, slots=True)
class Station:
    """One step: its state, and the line under its name as a code with values."""

    step: str
    state: str
    code: str
    values: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Next:
    """The next action: the step it is at, its words and its number."""

    step: str
    code: str
    values: dict[str, Any] = field(default_factory=dict)


def in_hand(page: JobPage) -> JobPage:
    """Of several pieces the first that is not in limits yet; else the last."""
    pages = (page.at_piece(piece) for piece in page.pieces)
    undone = (one for one in pages if any(each.judged.word != "in" for each in one.each))
    return next(undone, page.at_piece(page.job.quantity))


def stations(page: JobPage) -> list[Station]:
    """Work out all six: of several bores in line, the one that needs a hand most speaks for its step."""
    return [Station(step, *_worst(page, work)) for step, work in _LINES_OF.items()]


Line = tuple[str, str, dict[str, Any]]
#: The more urgent state first.
_URGENT = (BAD, WARN, AHEAD, DONE)


def _worst(page: JobPage, work: Callable[[JobPage], Line]) -> Line:
    if len(page.bores) == 1:
        return work(page)
    lines = [(one.bore, work(one)) for one in page.each if work is not _true or one.is_end_bore]
    bore, (state, code, values) = min(lines, key=lambda pair: _URGENT.index(pair[1][0]))
    named = values if state == DONE else {**values, "of": bore.name}
    return state, code, named


def _work(page: JobPage) -> Line:
    bore, start = page.bore, page.reckoning.start_mm
    if start is None:
        return AHEAD, "measure_first", {}
    typed = bore.typed.get("wanted") if bore.play_least_mm is None else None
    limits = {"text": bore.wanted, "typed": typed, "lower_mm": float(bore.lower_mm), "upper_mm": float(bore.upper_mm)}
    return DONE, "work", {"start_mm": start, "wanted": limits}


def _bar(page: JobPage) -> Line:
    way = page.job.setup.way.bar_in
    if way == "bearings":
        return _bar_in_line(page)
    if way == "centres":
        return _bar_in_centres(page)
    return _bar_in_head(page) if way == "head" else _bar_out(page)


def _bar_in_line(page: JobPage) -> Line:
    plan, line = page.job.setup.plan, page.line
    if plan.bar is None:
        return AHEAD, "no_bar", {}
    if line is None:
        return (BAD, "bearings_wrong", {}) if plan.bearings_mm else (AHEAD, "no_bearings", {})
    values = {"count": len(line.bearings_mm)}
    if page.reckoning.force is None:
        return WARN, "line_no_cutter", values
    if not line.holds:
        return BAD, "line_over", values
    if line.verdict is not None and line.verdict.state == "caution":
        return DONE, "line_may_chatter", values
    return DONE, "line" if line.layout.ok else "line_over_advice", values


def _bar_in_centres(page: JobPage) -> Line:
    found = page.centres
    if found is None:
        return (BAD, "centres_wrong", {}) if page.reckoning.bar else (AHEAD, "no_bar", {})
    if not found.layout.ok or found.bit_mm is None:
        return BAD, "centres_short", {"reach_mm": found.layout.least_bar_length_mm}
    if found.spring_mm is None:
        return WARN, "centres_no_cutter", {"reach_mm": found.bit_mm}
    return (DONE, "centres", {"reach_mm": found.bit_mm}) if found.holds else (BAD, "centres_over", {})


def _bar_in_head(page: JobPage) -> Line:
    if page.job.setup.plan.head is None:
        return AHEAD, "no_head", {}
    state, code, values = _bar_out(page)
    if state in (DONE, WARN) and picked_hole(page.holes) is None:
        return BAD, "no_hole", {}
    return state, code, values


def _bar_out(page: JobPage) -> Line:
    reckoning = page.reckoning
    reach = reckoning.reach
    if reckoning.bar is None or reach is None:
        return AHEAD, "no_bar", {}
    found = reckoning.overhung
    if found is None:
        return WARN, "no_cutter", {"reach_mm": reach.reach_mm}
    out = reckoning.out_mm or reach.reach_mm
    values = {"reach_mm": out, "bar": reckoning.bar.name}
    if found.state == "ok":
        return DONE, "bar", values
    values["over_mm"] = out - (found.at_mm or 0.0)
    if found.state == "stop":
        return BAD, "bar_over_limit", values
    return DONE, "bar_over_advice" if found.by == "rule" else "bar_may_chatter", values


def _cuts(page: JobPage) -> Line:
    reckoning = page.reckoning
    if reckoning.passes is None or reckoning.cutter is None or reckoning.minutes is None:
        return AHEAD, "no_cuts", {}
    return DONE, "cuts", {"count": len(reckoning.passes.passes), "minutes": reckoning.minutes}


def _true(page: JobPage) -> Line:
    truing, allowed = page.truing, page.runout_to_true_mm / 2
    standing = truing.standing
    if standing is not None and standing.off_centre_mm is not None:
        values = {"offset_mm": standing.off_centre_mm, "limit_mm": allowed}
        return (DONE, "trued", values) if standing.within else (AHEAD, "truing", values)
    last = truing.last_valid
    if truing.state is None or last is None:
        return AHEAD, "not_trued", {}
    return (WARN, "true_moved", {}) if last is truing.rounds[-1] else (AHEAD, "true_reading", {})


def _bore(page: JobPage) -> Line:
    state, ladder = page.reckoning.state, page.reckoning.ladder
    if state is None or ladder is None:
        return AHEAD, "no_cuts", {}
    if state.phase == "over":
        over = state.known_mm - float(page.bore.upper_mm) + float(page.job.setup.plan.hone_allowance_mm)
        return BAD, "bored_over", {"size_mm": state.known_mm, "excess_mm": over}
    if state.phase == "done":
        return DONE, "bored", {"size_mm": state.known_mm}
    if page.rests_until is not None:
        return WARN, "settling", {"day": page.rests_until.isoformat()}
    if not ladder.done and state.phase in ("set", "touch-off"):
        return AHEAD, "not_bored", {}
    number = state.in_hand or len(ladder.done)
    return AHEAD, f"boring_{state.phase.replace('-', '_')}", {"number": number, "count": page.pass_count}


def _check(page: JobPage) -> Line:
    judged = page.judged
    if page.is_signed:
        return DONE, "signed", {"word": page.job.signoff.verdict.get("word", judged.word)}
    if not judged.readings:
        return AHEAD, "not_measured", {}
    word = worst_word(piece_words(page)) if page.bore.pk == page.bores[-1].pk else judged.word
    state = {"in": DONE, "over": BAD}.get(word, WARN)
    return state, "verdict", {"word": word}


_LINES_OF: dict[str, Callable[[JobPage], Line]] = {
    "work": _work, "bar": _bar, "cuts": _cuts, "true": _true, "bore": _bore, "check": _check,
}  # fmt: skip


def next_action(page: JobPage, found: list[Station]) -> Next:
    """What to do now, with its number; of several bores, at the first that is not done there."""
    if page.is_signed:
        return Next("check", "signed", {"who": page.job.signoff.by.username})
    step = next((s.step for s in found if s.state not in (DONE,)), "check")
    if len(page.bores) == 1:
        return _NEXT[step](page)
    each = [one for one in page.each if step != "true" or one.is_end_bore]
    one = next((p for p in each if _LINES_OF[step](p)[0] != DONE), page)
    action = _NEXT[step](one)
    return replace(action, values={**action.values, "of": one.bore.name, "place": one.bore.place})


def _next_work(page: JobPage) -> Next:
    return Next("work", "measure_first")


def _next_bar(page: JobPage) -> Next:
    way, plan = page.job.setup.way.bar_in, page.job.setup.plan
    if way == "bearings":
        return _next_line(page)
    if way == "centres":
        return _next_centres(page)
    if way == "head" and plan.head is None:
        return Next("bar", "choose_head")
    if way == "head" and page.reckoning.overhung is not None and picked_hole(page.holes) is None:
        return Next("bar", "no_hole_reaches")
    return _next_out(page)


def _next_out(page: JobPage) -> Next:
    reach = page.reckoning.reach
    if page.reckoning.bar is None and reach is not None:
        return Next("bar", "choose_bar", {"reach_mm": reach.reach_mm})
    if reach is None:
        return Next("bar", "fix_reach")
    if page.reckoning.overhung is None:
        return Next("bar", "choose_cutter")
    return Next("bar", "bring_bar_in", {"reach_mm": reach.reach_mm})


def _next_centres(page: JobPage) -> Next:
    found = page.centres
    if found is None:
        return Next("bar", "choose_line_bar")
    if not found.layout.ok:
        return Next("bar", "longer_bar", {"reach_mm": found.layout.least_bar_length_mm})
    return Next("bar", "choose_cutter" if found.spring_mm is None else "line_does_not_hold")


def _next_line(page: JobPage) -> Next:
    plan = page.job.setup.plan
    if plan.bar is None:
        return Next("bar", "choose_line_bar")
    if page.line is None:
        return Next("bar", "stand_bearings")
    if page.reckoning.force is None:
        return Next("bar", "choose_cutter")
    better = page.better_line
    if better is not None and better.holds:
        place = next(p for p in better.bearings_mm if p not in page.line.bearings_mm)
        return Next("bar", "one_more_bearing", {"count": len(better.bearings_mm), "at_mm": place})
    return Next("bar", "line_does_not_hold")


def _next_cuts(page: JobPage) -> Next:
    return Next("cuts", "choose_cutter")


def _next_true(page: JobPage) -> Next:
    view, standing = page.truing.open_round, page.truing.standing
    if view is not None:
        return Next("true", "finish_round", {"number": view.round.number, "places": view.round.places})
    if standing is None or not standing.moves:
        if standing is not None and standing.way.moved_is == "nothing":
            return Next("true", "guides_swing", {"value_mm": standing.total_mm})
        return Next("true", "begin_truing", {"number": len(page.rounds) + 1})
    move = standing.moves[0]
    if standing.way.set_by != "dial":
        to = move.slacken if standing.way.moved_is == "work" else move.tighten
        return Next("true", "move_it", {"what": standing.way.moved, "to": to, "value_mm": move.by_mm})
    return Next("true", "move_jaws", {"slacken": move.slacken, "tighten": move.tighten, "value_mm": move.by_mm})


def _next_bore(page: JobPage) -> Next:
    state, ladder = page.reckoning.state, page.reckoning.ladder
    if state is None or ladder is None or state.phase == "done":
        return Next("bore", "begin_boring")
    if page.rests_until is not None:
        return Next("bore", "settling", {"day": page.rests_until.isoformat()})
    if state.phase == "over":
        over = state.known_mm - float(page.bore.upper_mm) + float(page.job.setup.plan.hone_allowance_mm)
        return Next("bore", "over_stop", {"value_mm": over})
    if state.phase == "measure":
        return Next("bore", "measure_pass", {"number": len(ladder.done), "diameter_mm": state.known_mm})
    hand = state.hand
    values = {"number": state.in_hand, "diameter_mm": hand.diameter_mm if hand else state.known_mm}
    return Next("bore", {"set": "bore_to", "cut": "cut_pass"}.get(state.phase, "touch_off"), values)


def _next_check(page: JobPage) -> Next:
    judged = page.judged
    if judged.missing:
        return Next("check", "measure", {"what": judged.missing[0]})
    if judged.word == "in" and worst_word(piece_words(page)) == "in":
        return Next("check", "sign")
    word = worst_word(piece_words(page))
    if word == "incomplete":
        return Next("check", "measure", {"what": "bores in line"})
    away = page.bore.aim_mm - judged.deciding[0].value_mm if judged.deciding else 0.0
    return Next("check", f"way_{word}", {"value_mm": away})


_NEXT: dict[str, Callable[[JobPage], Next]] = {
    "work": _next_work, "bar": _next_bar, "cuts": _next_cuts, "true": _next_true, "bore": _next_bore,
    "check": _next_check,
}  # fmt: skip


def _with_piece(station: Station, piece: int) -> Station:
    """What is logged piece by piece says which piece it speaks of."""
    if station.step not in ("true", "bore", "check"):
        return station
    return replace(station, values={**station.values, "piece": piece})


#: How stations are written; those of an older make are worked out anew when the database is brought up to date.
MADE = 2


def keep_those_of_an_older_make() -> None:
    """Work out the stations of every job that an older make of the product has written."""
    for number, kept in list(Job.objects.values_list("number", "stations")):
        if kept.get("made") != MADE:
            keep(open_page(number, Units()))


def keep(page: JobPage) -> None:
    """Write the stations and the next action on the job, for the rail and the bench."""
    page = in_hand(page)
    found = stations(page)
    following = next_action(page, found)
    if page.pieces:
        following = replace(following, values={**following.values, "piece": page.piece})
        found = [_with_piece(station, page.piece) for station in found]
    page.job.stations = {
        "made": MADE,
        "steps": [asdict(station) for station in found],
        "next": asdict(following),
    }
    Job.objects.filter(pk=page.job.pk).update(stations=page.job.stations)


def keep_all_using(item: CribItem) -> None:
    """Work out again every open job that uses a thing of the crib, after it was changed there."""
    for job in Job.objects.open_using(item):
        keep(open_page(job.number, Units()))
