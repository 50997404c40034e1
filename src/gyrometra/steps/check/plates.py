"""The Check page: places, form, verdict and the ways forward."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.utils.timezone import localtime

from gyrocore import sentence
from gyrometra.bridge.units import Units
from gyrometra.jobs.history import change_words, limits_changed
from gyrometra.steps import progress_words
from gyrometra.steps.check.batch import batch_words
from gyrometra.steps.check.causes import cause_words
from gyrometra.steps.check.plugs import bounds_words, felt_words
from gyrometra.steps.check.scene import grid_scenes
from gyrometra.steps.check.tapers import two_tapers_words, wall_words
from gyrometra.steps.check.verdict import LIMIT_NAMES, verdict_plate
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.since import changed_since
from gyrometra.steps.sheet import target_words
from gyrometra.steps.true.plates import cells, last_reading, planned, reading_hint
from gyroplan.assess import (
    AskedPlaces,
    Checked,
    LimitFound,
    alike,
    asked_places,
    beyond_mate_mm,
    in_line,
    job_word,
    name_of,
    piece_words,
    shown_digest,
    summary_of,
    worst_named,
    worst_word,
)
from gyroplan.judge import Place


@dataclass(frozen=True, kw_only=True)
class CheckCell:
    """One place of the grid."""

    value: str
    verdict: str
    doubt: str


@dataclass(frozen=True, kw_only=True)
class FormWords:
    """Form or run-out against its limit."""

    name: str
    found: str
    allowed: str
    state: str
    words: str


def check(page: JobPage) -> dict[str, Any]:
    """All that the Check page prints."""
    units, judged = page.units, page.judged
    angles, asked = two_angles(judged), asked_of(page)
    rounds = page.sweeps
    current = rounds[-1] if rounds else None
    open_round = current if current and not current.is_closed else None
    return {
        "judged": judged,
        "angles": angles,
        "grid": _grid(judged, units),
        "depths": [units.length(z) for z in judged.stations_mm],
        "form_lines": [*(_form_words(line, units) for line in judged.limits), *_line_up(page)],
        "asked_notes": [] if page.is_locked else asked_notes(asked, page),
        "wall_run": wall_words(judged, units),
        "hints": [sentence(h, units.unit) for h in (judged.form.hints if judged.form else ())],
        "doubt": units.doubt(judged.expanded_mm),
        "verdict": verdict_plate(page),
        "whole": whole_line(page),
        "job_word": job_word(page.assessment),
        "digest": shown_digest(page.assessment),
        "open_round": open_round,
        "undo": last_reading(page, open_round),
        "last_size": page.rows.sizes[judged.sizes[-1].key].client_id if judged.sizes else "",
        "reading_hint": reading_hint(open_round, units),
        "cells": cells(open_round, None, units, page.bore) if open_round else [],
        "suggested": {"z": units.plain(asked.now[0]), "angle": f"{asked.now[1]:.0f}"},
        **({} if open_round or page.record.setup.only_trued else
           grid_scenes(page, list(asked.places), asked.now, angles)),
        "runout_now": "runout" in judged.state.missing and not {"depths", "directions"} & set(judged.state.missing),
        "room": _room(judged, units),
        "missing": [progress_words.gap_words(gap) for gap in judged.missing],
        "piece_rows": piece_rows(page),
        "bounds": bounds_words(judged, units),
        "felt_between": felt_words(judged, units),
        "cause": cause_words(page),
        "batch": batch_words(page) if page.pieces else None,
        "sides": [line for line in (_target_line(page), _alike_line(page)) if line],
        "conflict": _tried_otherwise(judged, units) or two_tapers_words(judged, units)
        or _against_mate(page) or _conflict(page),
        "moved_limits": _moved_limits(page),
        "shoulder": [units.measured(one.value_mm, one.gauge.resolution_mm) for one in judged.depths],
        "since": changed_since(page),
        "otherwise": _worked_out_otherwise(page),
        "history": [
            {"entry": r.client_id, "at": r.read_at, "z": units.length(r.z_mm), "angle": f"{r.angle_deg:.0f}°",
             "who": r.by.username, "value": units.measured(r.value_mm, r.gauge.resolution_mm), "gauge": r.gauge.name,
             "void": one in judged.pulled}
            for one, r in ((one, page.rows.sizes[one.key]) for one in (*judged.pulled, *judged.sizes)[-12:])
        ],
    }  # fmt: skip


def _worked_out_otherwise(page: JobPage) -> str:
    """A signed verdict that later calculations would put otherwise: the signed one stands, and is said."""
    signoff = getattr(page.job, "signoff", None)
    if signoff is None or signoff.record is None or signoff.verdict.get("digest") == shown_digest(page.assessment):
        return ""
    word = progress_words.VERDICT_WORDS.get(str(signoff.verdict.get("word", "")), "Signed")
    return f"Signed with calculations {signoff.calculations}: {word}. They have changed since; what was signed stands."


def _moved_limits(page: JobPage) -> list[str]:
    """Limits that were changed after the first size was logged: said beside the verdict, with who did it."""
    first = min((page.rows.sizes[one.key].at for one in page.judged.sizes), default=None)
    if first is None:
        return []
    return [
        f"{one.by.username}, {localtime(one.at):%d %b %H:%M}: {change_words(one, page.units, {})}"
        for one in page.changes
        if one.at > first and one.of == page.bore.name and limits_changed(one)
    ]


@dataclass(frozen=True, kw_only=True)
class SideVerdict:
    """A verdict beside the one of the limits: the owner's own target, or how alike bores are."""

    mark: str
    words: str


def _target_line(page: JobPage) -> SideVerdict | None:
    """Right by the drawing and right by the owner are two things."""
    on = page.judged.on_target
    if page.bore.target_lower_mm is None:
        return None
    target = target_words(page, page.bore)
    if on is None:
        return SideVerdict(mark="wait", words=f"Your own target {target}: not measured")
    words = "every place inside" if on else "not every place inside"
    return SideVerdict(mark="in" if on else "advice", words=f"Your own target {target}: {words}")


def _alike_line(page: JobPage) -> SideVerdict | None:
    """Bores that belong together: the largest mean less the smallest, against what is asked."""
    found, units = alike(page.assessment), page.units
    if found is None:
        return None
    if found.value_mm is None:
        return SideVerdict(mark="wait", words=f"Match between bores within {units.plain(found.asked_mm)}: 2 are needed")
    (low, _), (high, _) = found.rows
    words = f"{high} is {units.planned(found.value_mm)} over {low}, {units.plain(found.asked_mm)} asked"
    return SideVerdict(mark="over" if found.word == "over" else "in",
                       words=f"{'No match' if found.word == 'over' else 'Match'}: {words}")  # fmt: skip


def beside_words(page: JobPage) -> list[str]:
    """What bores keep together, for a report: their match, their line."""
    match = _alike_line(page)
    lines = [f"{one.name}: {one.found or 'not measured'}, {one.allowed} asked: {one.words}" for one in _line_up(page)]
    return [*([] if match is None else [match.words]), *lines]


def _line_up(page: JobPage) -> list[FormWords]:
    """The bores of this piece in line."""
    found, units = in_line(page.assessment, page.piece), page.units
    if found is None:
        return []
    state = {"in": "in", "over": "over", "incomplete": "idle"}.get(found.word, "near")
    words = f"sweep {', '.join(found.missing)}" if found.missing else _FORM_WORDS[state]
    return [
        FormWords(name="Bores in line, on Ø", found=planned(found.value_mm, units),
                  allowed=units.fine(found.asked_mm), state=state, words=words)
    ]  # fmt: skip


def _conflict(page: JobPage) -> str:
    """Bore and Check say two things of one bore: one of them was misread."""
    state, judged, units = page.passes.state, page.judged, page.units
    if state is None or state.known_from != "measured" or not judged.places:
        return ""
    nearest = min(judged.places, key=lambda place: abs(place.value_mm - state.known_mm))
    apart = nearest.value_mm - state.known_mm
    if abs(apart) <= max(0.05, 5 * (nearest.expanded_mm + (state.expanded_mm or 0.0))):
        return ""
    return (
        f"Bore left it at {units.planned(state.known_mm)}; every place here is {units.planned(abs(apart))} or more "
        f"{'larger' if apart > 0 else 'smaller'}. One of the two was misread, or the wrong bore was measured."
    )


def _tried_otherwise(judged: Checked, units: Units) -> str:
    """What was tried and what was read cannot both be true, said with both figures."""
    if not any(gap.code == "plug_contradicts" for gap in judged.missing) or judged.extremes is None:
        return ""
    smallest, largest = (units.planned(place.value_mm) for place in judged.extremes)
    tried = "; ".join(words for words in (bounds_words(judged, units), felt_words(judged, units)) if words)
    return (f"Read {smallest} to {largest}, each known to ± {units.doubt(judged.expanded_mm)}; tried, it is {tried}. "
            "The two cannot both be true: try and measure again.")  # fmt: skip


def _against_mate(page: JobPage) -> str:
    """A bore beyond the part that it must suit, as that was measured: limits, part or size, one of them is wrong."""
    row, units = page.bore_row, page.units
    if row.mate_mm is None:
        return ""
    most = None if row.play_most_mm is None else float(row.play_most_mm)
    off = beyond_mate_mm(page.judged.places, float(row.mate_mm), float(row.play_least_mm or 0), most)
    if off is None:
        return ""
    return (f"The part that it must suit was measured as {units.planned(row.mate_mm)}: this bore leaves "
            f"{units.planned(abs(off))} {'more' if off > 0 else 'less'} clearance than was asked. Measure both again "
            "before anything is cut.")  # fmt: skip


def whole_line(page: JobPage) -> str:
    """What else of the job is not in limits; empty where this bore is all there is, or all is in."""
    own = name_of(page.record, page.piece, page.bore.name)
    others = [(name, word) for name, word in worst_named(page.assessment) if name != own]
    if not others:
        return ""
    shown = "; ".join(f"{name}: {progress_words.VERDICT_WORDS[word].lower()}" for name, word in others[:4])
    return shown + (f"; and {len(others) - 4} more" if len(others) > 4 else "")


def first_waiting(page: JobPage) -> str:
    """What still keeps the verdict incomplete, as ` of ...`; empty where nothing does."""
    waits = next((name for name, word in worst_named(page.assessment) if word == "incomplete"), "")
    if not waits:
        return ""
    return f" of {waits}" if page.query or waits == "match between bores" else " here"


@dataclass(frozen=True, kw_only=True)
class PieceRow:
    """One piece of the batch: its mean sizes and its verdict."""

    piece: int
    sizes: str
    mark: str
    words: str


_MARKS = {"in": "in", "over": "over", "metal-left": "under", "not-proven": "near", "incomplete": "wait"}


def piece_rows(page: JobPage) -> list[PieceRow]:
    """Every piece that is begun, with the mean size of each of its bores."""
    rows = []
    for piece in page.assessment.begun if page.pieces else ():
        word = worst_word(piece_words(page.assessment, piece))
        means = [bore.mean_mm for bore in summary_of(page.assessment, piece).bores]
        sizes = ", ".join("·" if mean is None else f"Ø{page.units.planned(mean)}" for mean in means)
        rows.append(PieceRow(piece=piece, sizes=sizes, mark=_MARKS[word], words=progress_words.VERDICT_WORDS[word]))
    return rows


def two_angles(judged: Checked) -> tuple[float, float]:
    angles = sorted({place.angle_deg for place in judged.places})
    first = angles[0] if angles else 0.0
    second = next((a for a in angles if a != first), 90.0)
    return first, second


def _grid(judged: Checked, units: Units) -> list[tuple[str, list[CheckCell | None]]]:
    rows = []
    for angle in sorted({place.angle_deg for place in judged.places}):
        found = (judged.place(z, angle) for z in judged.stations_mm)
        rows.append((f"{angle:.0f}°", [None if place is None else _cell(judged, place, units) for place in found]))
    return rows


def _cell(judged: Checked, place: Place, units: Units) -> CheckCell:
    step = min(one.gauge.resolution_mm for one in judged.sizes_at(place))
    doubt = f"± {units.doubt(place.expanded_mm)}"
    if (place.z_mm, place.angle_deg) in judged.by_bounds:
        doubt = f"{doubt}, and what was tried"
    return CheckCell(
        value=units.measured(place.value_mm, step),
        verdict=place.verdict,
        doubt=f"{doubt}, gauges disagree" if place.agree is False else doubt,
    )


_FORM_WORDS = {"in": "In limits", "over": "Over", "near": "Not proven", "under": "Metal left", "idle": "Incomplete"}


def _form_words(line: LimitFound, units: Units) -> FormWords:
    state, words = "idle", "no limit asked"
    if line.found is not None:
        state = {"in": "in", "over": "over", "under": "under", "incomplete": "idle"}.get(line.found.verdict, "near")
        words = _FORM_WORDS[state] if line.found.value_mm is not None else "not measured"
    return FormWords(
        name=LIMIT_NAMES[line.name],
        found=planned(line.found.value_mm if line.found else None, units),
        allowed="" if line.allowed_mm is None else units.fine(line.allowed_mm),
        state=state,
        words=words,
    )


def asked_of(page: JobPage) -> AskedPlaces:
    """Where this bore is measured."""
    units = page.units
    return asked_places(page.judged, page.record.setup.holding, lambda z: _round_depth(z, units))


def asked_notes(asked: AskedPlaces, page: JobPage) -> list[str]:
    """Why it is measured there and not elsewhere."""
    units, notes = page.units, []
    if asked.for_jaws:
        notes.append("Three directions: three jaws may have sprung it to three lobes.")
    if asked.turned_deg:
        notes.append(f"Turned by {asked.turned_deg:.0f}°: the wall is broken in the usual directions.")
    if asked.blocked:
        left = "; ".join(f"{units.length(z)} deep at {angle:.0f}°" for z, angle in asked.blocked)
        notes.append(f"Left out, the wall is broken there: {left}.")
    return notes


def _round_depth(z_mm: float, units: Units) -> float:
    """A depth that a person reads off easily: whole millimetres, or tenths of an inch."""
    if units.unit == "mm":
        return float(round(z_mm)) if z_mm >= 3 else round(z_mm, 1)
    return round(z_mm / 25.4, 1 if z_mm > 10 else 2) * 25.4


def _room(judged: Checked, units: Units) -> str:
    if judged.extremes is None:
        return ""
    smallest, largest = judged.extremes
    low = smallest.value_mm - judged.bore.lower_mm
    high = judged.bore.upper_mm - largest.value_mm
    return f"{units.planned(low)} over the bottom limit, {units.planned(high)} under the top"
