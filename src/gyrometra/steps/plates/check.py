"""The Check page: places, form, verdict and the ways forward."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from gyrocore import sentence
from gyrometra.bridge.units import Units
from gyrometra.inspection.judged import FormLine, Judged, Place
from gyrometra.steps import progress_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.true import cells, planned


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
    angles = _two_angles(judged)
    rounds = judged.runout_rounds
    current = rounds[-1] if rounds else None
    open_round = current if current and not current.is_closed else None
    return {
        "judged": judged,
        "angles": angles,
        "grid": _grid(judged, units),
        "depths": [units.length(z) for z in judged.stations_mm],
        "form_lines": [_form_words(line, units) for line in judged.lines],
        "hints": [sentence(h, units.unit) for h in (judged.form.hints if judged.form else ())],
        "doubt": units.planned(judged.expanded_mm),
        "verdict": verdict_plate(page),
        "open_round": open_round,
        "cells": cells(open_round, None, units, page.bore) if open_round else [],
        "suggested": _next_place(judged),
        "room": _room(judged, units),
        "piece_rows": piece_rows(page),
        "sides": [line for line in (_target_line(page), _alike_line(page)) if line],
        "history": [
            {"z": units.length(r.z_mm), "angle": f"{r.angle_deg:.0f}°", "who": r.by.username, "at": r.at,
             "value": units.measured(r.value_mm, r.gauge.resolution_mm), "gauge": r.gauge.name}
            for r in judged.readings[-6:]
        ],
    }  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class SideVerdict:
    """A verdict beside the one of the limits: the owner's own target, or how alike bores are."""

    mark: str
    words: str


def _target_line(page: JobPage) -> SideVerdict | None:
    """Right by the drawing and right by the owner are two things."""
    bore, on = page.bore, page.judged.on_target
    if not bore.target:
        return None
    if on is None:
        return SideVerdict(mark="wait", words=f"Your own target {bore.target}: not measured")
    words = "every place inside" if on else "not every place inside"
    return SideVerdict(mark="in" if on else "advice", words=f"Your own target {bore.target}: {words}")


def _alike_line(page: JobPage) -> SideVerdict | None:
    """Bores that belong together: the largest mean less the smallest, against what is asked."""
    asked, units = page.job.setup.match_mm, page.units
    if asked is None:
        return None
    sizes = [(mean, _name_of(one)) for one in measured_pages(page) if (mean := one.judged.mean_mm) is not None]
    if len(sizes) < 2:
        return SideVerdict(mark="wait", words=f"Alike within {units.plain(asked)}: {len(sizes)} measured, 2 are needed")
    low, high = min(sizes), max(sizes)
    apart = high[0] - low[0]
    holds = apart <= float(asked) + 1e-9
    words = f"{high[1]} is {units.planned(apart)} over {low[1]}, {units.plain(asked)} asked"
    return SideVerdict(mark="in" if holds else "over", words=f"{'Alike' if holds else 'Not alike'}: {words}")


def measured_pages(page: JobPage) -> list[JobPage]:
    """Every bore of every piece that has something in its logs."""
    return [one for piece in page.begun_pieces for one in page.at_piece(piece).each]


def _name_of(page: JobPage) -> str:
    """`H1`, `piece 3`, or `H1 of piece 3`."""
    piece = f"piece {page.piece}" if page.pieces else ""
    if not page.is_several:
        return piece or page.bore.name
    return f"{page.bore.name} of {piece}" if piece else page.bore.name


def first_waiting(page: JobPage) -> str:
    """Which bore or piece still keeps the verdict incomplete, as ` of ...`; empty where none does."""
    for piece in page.pieces or range(1, 2):
        for one in page.at_piece(piece).each:
            if one.judged.word == "incomplete":
                return f" of {_name_of(one)}" if page.query else " here"
    return ""


@dataclass(frozen=True, kw_only=True)
class PieceRow:
    """One piece of the batch: its mean sizes and its verdict."""

    piece: int
    sizes: str
    mark: str
    words: str


_MARKS = {"in": "in", "over": "over", "metal-left": "under", "not-proven": "near", "incomplete": "wait"}
#: The word that speaks for a piece of several bores: the worst.
_WORST = ("over", "metal-left", "not-proven", "incomplete", "in")


def piece_rows(page: JobPage) -> list[PieceRow]:
    """Every piece that is begun, with the mean size of each of its bores."""
    rows = []
    for piece in page.begun_pieces if page.pieces else ():
        each = page.at_piece(piece).each
        word = min((one.judged.word for one in each), key=_WORST.index)
        means = [one.judged.mean_mm for one in each]
        sizes = ", ".join("·" if mean is None else f"Ø{page.units.planned(mean)}" for mean in means)
        rows.append(PieceRow(piece=piece, sizes=sizes, mark=_MARKS[word], words=progress_words.VERDICT_WORDS[word]))
    return rows


def _two_angles(judged: Judged) -> tuple[float, float]:
    angles = sorted({angle for _, angle in judged.places})
    first = angles[0] if angles else 0.0
    second = next((a for a in angles if a != first), 90.0)
    return first, second


def _grid(judged: Judged, units: Units) -> list[tuple[str, list[CheckCell | None]]]:
    rows = []
    for angle in sorted({angle for _, angle in judged.places}):
        row: list[CheckCell | None] = []
        for z in judged.stations_mm:
            place = judged.places.get((z, angle))
            row.append(_cell(place, units) if place else None)
        rows.append((f"{angle:.0f}°", row))
    return rows


def _cell(place: Place, units: Units) -> CheckCell:
    value = place.measured.value_mm if place.measured else 0.0
    step = float(place.readings[-1].gauge.resolution_mm)
    return CheckCell(
        value=units.measured(value, step),
        verdict=place.verdict.verdict if place.verdict else "",
        doubt=units.planned(place.measured.expanded_mm) if place.measured else "",
    )


def _form_words(line: FormLine, units: Units) -> FormWords:
    if line.judged is not None:
        state = {"in": "in", "over": "over"}.get(line.judged.verdict, "near")
        words = {"in": "In limits", "over": "Over", "near": "Not proven"}[state]
    else:
        state = "idle"
        words = "no limit asked" if line.allowed_mm is None and line.found_mm is not None else "not measured"
    return FormWords(
        name=line.name,
        found=planned(line.found_mm, units),
        allowed=planned(line.allowed_mm, units),
        state=state,
        words=words,
    )


def _next_place(judged: Judged) -> dict[str, str]:
    """The first place that a verdict still needs: both ends, the middle, directions evenly round half a turn."""
    length, asked = float(judged.bore.length_mm), judged.asked
    shares = (1 / 7, 1 / 2, 6 / 7) if asked.stations > 2 else (1 / 7, 6 / 7)
    depths: list[float] = [round(length * share) for share in shares]
    known = judged.stations_mm
    if len(known) >= len(depths):
        depths = [round(z, 6) for z in known]
    angles = (0.0, 60.0, 120.0) if asked.directions > 2 else (0.0, 90.0)[: asked.directions]
    for again in range(asked.repeats):
        for angle in angles:
            for z in depths:
                place = judged.places.get((float(z), angle))
                if place is None or len(place.readings) <= again:
                    return {"z": f"{z:g}", "angle": f"{angle:.0f}", "repeat": "yes" if place else ""}
    return {"z": f"{depths[0]:g}", "angle": "0"}


def _room(judged: Judged, units: Units) -> str:
    if judged.deciding is None:
        return ""
    smallest, largest = judged.deciding
    low = smallest.verdict.room_low_mm if smallest.verdict else 0.0
    high = largest.verdict.room_high_mm if largest.verdict else 0.0
    return f"{units.planned(low)} over the bottom limit, {units.planned(high)} under the top"


@dataclass(frozen=True, kw_only=True)
class VerdictPlate:
    """The verdict: word, shape, one line of reason, and every way forward."""

    word: str
    title: str
    reason: str
    ways: Sequence[tuple[str, str, bool]]
    number: str = ""
    number_label: str = ""


def verdict_plate(page: JobPage) -> VerdictPlate:
    """The verdict plate of a bore."""
    word = page.judged.word
    title = progress_words.VERDICT_WORDS[word]
    reason, ways, number, label = _REASONS[word](page)
    return VerdictPlate(word=word, title=title, reason=reason, ways=ways, number=number, number_label=label)


Reason = tuple[str, Sequence[tuple[str, str, bool]], str, str]


def _extremes(page: JobPage) -> tuple[Place, Place]:
    found = page.judged.deciding
    if found is None:
        raise LookupError("no place is measured")
    return found


def _reason_in(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    low, high = (p.measured.value_mm if p.measured else 0.0 for p in (smallest, largest))
    count = len(page.judged.places)
    return (
        f"All {count} places, {units.planned(low)} to {units.planned(high)}, each by its own doubt.",
        [("Sign off", "the lead signs; nothing changes after", True)], "", "",
    )  # fmt: skip


def _reason_left(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    aim = page.bore.aim_mm
    middle = sum(p.measured.value_mm for p in (smallest, largest) if p.measured) / 2
    left = aim - middle
    least = page.reckoning.rules.min_depth_mm
    can_cut = left / 2 >= least
    ways = [
        ("Finish cut", f"{units.planned(left)} on diameter" if can_cut else
         f"no: {units.planned(left / 2)} on radius, the edge needs {units.planned(least)}", can_cut),
        ("Hone", f"{units.planned(left)} on diameter, then measure again", True),
        ("Accept as it is", "no: the smallest place is under the bottom limit", False),
    ]  # fmt: skip
    low = smallest.measured.value_mm if smallest.measured else 0.0
    return (
        f"The smallest place is {units.planned(low)}.",
        ways,
        units.planned(left),
        "Metal left, on diameter",
    )


def _reason_over(page: JobPage) -> Reason:
    units = page.units
    over_lines = [line.name.lower() for line in page.judged.lines if line.judged and line.judged.verdict == "over"]
    ways = [
        ("Ring or bush", "bore out and fit one, where the wall allows", True),
        ("Next oversize", "where a mating part of that size exists", True),
        ("Accept as it is", "no: past the limit by more than the doubt", False),
    ]
    if over_lines:
        return f"{', '.join(over_lines).capitalize()} over its limit.", ways, "", ""
    _, largest = _extremes(page)
    high = largest.measured.value_mm if largest.measured else 0.0
    room = largest.verdict.room_high_mm if largest.verdict else 0.0
    words = f"The largest place is {units.planned(high)}."
    return words, ways, units.planned(-room), "Over the top limit by"


def _reason_near(page: JobPage) -> Reason:
    judged, units = page.judged, page.units
    near = [p for p in judged.places.values() if p.verdict and p.verdict.verdict.startswith("undecided")]
    forms = [line.name.lower() for line in judged.lines if line.judged and line.judged.verdict == "undecided-high"]
    what = f"{len(near)} of {len(judged.places)} places" if near else ", ".join(forms)
    ways: list[tuple[str, str, bool]] = [
        ("Measure again", "more repeats at these places shrink the doubt", True),
        (
            "Finer gauge",
            f"the doubt is {units.planned(judged.expanded_mm)}; a smaller error limit would prove it",
            True,
        ),
        ("Accept as it is", "no: not proven", False),
    ]
    return (
        f"{what[:1].upper()}{what[1:]} too near a limit to call.",
        ways,
        units.planned(judged.expanded_mm),
        "Doubt, either side",
    )


def _reason_missing(page: JobPage) -> Reason:
    missing = page.judged.missing
    return (f"Missing: {missing[0]}.", [("Measure", what, True) for what in missing], "", "")


_REASONS = {
    "in": _reason_in, "metal-left": _reason_left, "over": _reason_over, "not-proven": _reason_near,
    "incomplete": _reason_missing,
}  # fmt: skip


def signed_verdict(page: JobPage, at: datetime) -> dict[str, Any]:
    """What is frozen under the lead's name: verdict, deciding sizes, doubt, form, run-out."""
    judged = page.judged
    smallest, largest = _extremes(page)
    return {
        "word": judged.word,
        "at": at.isoformat(),
        "rule": "guarded",
        "smallest_mm": smallest.measured.value_mm if smallest.measured else None,
        "largest_mm": largest.measured.value_mm if largest.measured else None,
        "expanded_mm": judged.expanded_mm,
        "lower_mm": float(page.bore.lower_mm),
        "upper_mm": float(page.bore.upper_mm),
        "target": page.bore.target,
        "on_target": judged.on_target,
        "each": [
            {"name": _name_of(one), "word": one.judged.word, "mean_mm": one.judged.mean_mm}
            for one in measured_pages(page)
        ],
        "lines": [
            {"name": line.name, "found_mm": line.found_mm, "allowed_mm": line.allowed_mm} for line in judged.lines
        ],
    }
