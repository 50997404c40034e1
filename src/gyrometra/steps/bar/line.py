"""Plates and rows of a bar in bearings: where they stand, what sags and springs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import BEARING_CLEAR_MM, error_sentence, sentence
from gyrometra.steps.bar.says import home_words
from gyrometra.steps.cuts.plates import first_dial, spindle_plate
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import LIMIT_WORDS, Because, Plate
from gyroplan.assess import Line, pair_of


@dataclass(frozen=True, kw_only=True)
class LineCell:
    """One bore on one set of bearings."""

    distance: str
    sag: str
    spring: str
    state: str
    words: str


@dataclass(frozen=True, kw_only=True)
class LineRow:
    """One bore on the bearings as they stand, and with one more."""

    name: str
    span: str
    now: LineCell
    more: LineCell | None


@dataclass(frozen=True, kw_only=True)
class LineTable:
    """All bores, the counts of bearings, and how far the middle ones hang off the line."""

    rows: Sequence[LineRow]
    count: int
    more: int
    off_line: tuple[str, str]
    off_states: tuple[str, str]
    asked: str
    better_places: str
    pair: str
    stroke: str
    home: str


def line_table(page: JobPage) -> LineTable | None:
    """The table of the Bar page; None while the line is not known."""
    line, better, units = page.bar.line.value, page.bar.better_line, page.units
    if line is None:
        return None
    rows = [
        LineRow(
            name=bore.name,
            span=f"{units.length(bore.start_mm)} to {units.length(bore.end_mm)}",
            now=_cell(line, bore.name, page),
            more=_cell(better, bore.name, page) if better else None,
        )
        for bore in page.bores
    ]
    both = [line, *([better] if better else [])]
    asked = line.coaxiality_mm
    return LineTable(
        rows=rows,
        count=len(line.bearings_mm),
        more=len(better.bearings_mm) if better else 0,
        off_line=(units.planned(both[0].off_line_mm), units.planned(both[-1].off_line_mm)),
        off_states=("in" if both[0].straight_enough else "over", "in" if both[-1].straight_enough else "over"),
        asked="" if asked is None else units.plain(asked),
        better_places="; ".join(units.plain(place) for place in better.bearings_mm) if better else "",
        pair=_pair_words(page),
        stroke=_stroke_words(page, line),
        home=home_words(page),
    )


def _stroke_words(page: JobPage, line: Line) -> str:
    """Where the cutter goes in and comes out of this bore, how far the feed must go, and what stands in its way."""
    units, bore, travel = page.units, page.bore, page.at.machine.travel_mm
    first, last = bore.start_mm - page.at.plan.overrun_mm, bore.end_mm + page.at.overrun_mm
    words = f"{bore.name}: the cutter goes in at {units.length(first)} and comes out at {units.length(last)}"
    words += f", a stroke of {units.length(last - first)}"
    if travel is not None and last - first > travel + 1e-9:
        words += f": more than the {units.length(travel)} that the feed travels"
    meets = [place for place in line.bearings_mm if first < place < last]
    if meets:
        words += f"; a bearing at {units.length(meets[0])} stands in its way"
    return f"{words}."


def _pair_words(page: JobPage) -> str:
    """Two bits on one bar are a matched pair."""
    bar, pair = page.at.bar, pair_of(page.at)
    if bar is None or bar.bits_apart_mm is None:
        return ""
    if pair is None:
        return (
            f"Two bits {page.units.plain(bar.bits_apart_mm)} apart: no two bores of one size lie so; use one of them."
        )
    return (
        f"Two bits cut {pair[0]} and {pair[1]} at once: set both to one reading. They are a matched pair: "
        "indexed or bumped voids both."
    )


def _cell(line: Line, bore: str, page: JobPage) -> LineCell:
    units = page.units
    if bore in line.guides:
        return LineCell(distance="", sag="", spring="", state="in", words="finished, guides the bar")
    row = next(one for one in line.response.rows if one.bore == bore)
    found = next(one for one in line.layout.rows if one.bore == bore)
    verdict = line.verdict_at(found.bore)
    state, words = "in", "OK"
    if not line.layout.bearings_ok or not line.long_enough:
        state, words = "over", "bar too short" if not line.long_enough else "bearings too close"
    elif verdict is not None and verdict.state == "stop":
        state, words = "over", "deflects too far" if verdict.by == "deflection" else "chatters"
    elif verdict is not None and verdict.state == "caution":
        state, words = "advice", "may chatter"
    elif not found.ok:
        state, words = "advice", f"{units.length(found.distance_mm - found.allowed_mm)} past advice"
    return LineCell(
        distance=units.length(found.distance_mm), sag=units.planned(row.sag_mm), spring=units.small(row.spring_mm),
        state=state, words=words,
    )  # fmt: skip


def line_plates(page: JobPage) -> list[Plate]:
    """Bearings, cutter over the bar, spindle."""
    return [_bearing_plate(page), _cutter_plate(page), spindle_plate(page)]


def _cutter_plate(page: JobPage) -> Plate:
    if page.at.bar is None or not page.speeds.planned:
        missing = "the bar" if page.at.bar is None else "the bore as found"
        return Plate(label="Cutter over the bar", governs="Missing:", reason=missing)
    return first_dial(page)


def _bearing_plate(page: JobPage) -> Plate:
    units, line, better, problem = page.units, page.bar.line.value, page.bar.better_line, page.bar.line.refused
    if line is None:
        missing = "the line bar" if page.at.bar is None else "two bearings"
        why = error_sentence(problem, units.unit, "bearings") if problem else missing
        return Plate(label="Bearings", governs="Missing:" if problem is None else "Refused:", reason=why)
    if page.job.setup.method == "pilot" and line.layout.bearings_ok:
        return _pilot_plate(page, line)
    if (line.holds and line.layout.ok) or better is None:
        return _standing_plate(page, line)
    place = next(at for at in better.bearings_mm if at not in line.bearings_mm)
    first = page.bores[0]
    return Plate(
        label=f"Put bearing {len(better.bearings_mm)} at",
        number=units.length(place),
        unit=units.label,
        words=(f"from the {first.name} open face", f"{units.length(abs(place - line.bearings_mm[0]))} from bearing 1"),
        governs=_governs(better),
        reason=_worst_words(better, page),
        state="plain" if line.holds else "warn",
        because=_because(better, page),
    )


def _pilot_plate(page: JobPage, line: Line) -> Plate:
    """What the guides prove: closer than this a bore is measured, not taken from them."""
    units, guidance, asked = page.units, line.guidance, line.coaxiality_mm
    label = "Position held by the guides, on Ø"
    if guidance is None:
        return Plate(label=label, governs="Missing:", reason="play in the guides, on diameter")
    proved = line.off_line_mm
    short = asked is not None and proved > asked + 1e-9
    return Plate(
        label=label,
        number=units.planned(proved),
        unit=units.label,
        words=(
            f"leans {guidance.lean_mm_m:.3f} in 1000 at most",
            "" if asked is None else f"asked {units.fine(asked)}",
        ),
        governs="Guides prove too little:" if short else "Limited by play:",
        reason="measure each bore against the guides" if short else f"{units.fine(page.job.setup.plan.guide_play_mm)}",
        state="warn" if short else "bad" if line.verdict and line.verdict.state == "stop" else "plain",
        because=Because(
            formula="off = play / 2 x (|1 - s| + |s|), s along the guides; sag on top; as a diameter twice that",
            inputs=[
                *((row.bore, f"{units.planned(row.off_mm)} off by play") for row in guidance.rows),
                ("sag off the line", units.planned(line.off_line_mm - 2 * guidance.worst_mm)),
                *((sentence(n, units.unit), "") for n in guidance.notes),
            ],
            source="Derived: a straight bar held within a gap at two places.",
        ),
    )


def _standing_plate(page: JobPage, line: Line) -> Plate:
    units = page.units
    worst = max(line.layout.rows, key=lambda row: row.distance_mm)
    return Plate(
        label="Farthest place from a bearing",
        number=units.length(worst.distance_mm),
        unit=units.label,
        words=(f"in {worst.bore}", f"bar {units.length(line.layout.least_bar_length_mm)} long at least"),
        governs=_governs(line),
        reason=_worst_words(line, page),
        state="bad" if not line.holds else "plain" if line.layout.ok else "warn",
        because=_because(line, page),
    )


def _governs(line: Line) -> str:
    if not line.long_enough:
        return "Bar too short:"
    if not line.layout.bearings_ok:
        return "Bearings too close:"
    if line.worst is not None and line.worst[1].state == "stop":
        return f"Do not run, {LIMIT_WORDS[line.worst[1].by]} in {line.worst[0]}:"
    if not line.straight_enough:
        return "Do not run, off the line:"
    return "Limited by distance:" if line.layout.ok else "Caution, distance:"


def _worst_words(line: Line, page: JobPage) -> str:
    units = page.units
    verdict, soft = line.verdict, page.bar.deflection
    if verdict is not None and verdict.state == "stop" and verdict.by == "deflection" and soft is not None:
        return f"{units.planned(soft.spring_mm)} of {units.fine(round(soft.load.budget_mm, 5))} allowed"
    if verdict is not None and verdict.state == "stop" and line.depth_mm is not None:
        begins = units.about(verdict.at_mm or 0)
        return f"certain from {begins} deep, the heaviest cut is {units.planned(line.depth_mm)}"
    if not line.straight_enough and line.coaxiality_mm is not None:
        return f"{units.planned(line.off_line_mm)} of {units.fine(line.coaxiality_mm)} asked"
    worst = max(line.layout.rows, key=lambda row: row.distance_mm)
    return f"{units.length(worst.distance_mm)} of {units.limit(worst.allowed_mm)} allowed in {worst.bore}"


def _because(line: Line, page: JobPage) -> Because:
    units = page.units
    notes = [*line.layout.notes, *line.response.notes]
    return Because(
        formula="distance to the nearest bearing against 7 D; sag and spring of the whole bar on its bearings",
        inputs=[
            ("bearings", "; ".join(units.plain(place) for place in line.bearings_mm)),
            (f"give at the softest place, in {line.softest.bore}", _stiffness_words(line)),
            ("chatter begins at", _chatter_words(line, page)),
            ("lowest mode", f"{line.response.natural_frequency_hz:.0f} Hz"),
            ("a bearing needs clear", units.length(BEARING_CLEAR_MM)),
            *((sentence(n, units.unit), "") for n in notes),
        ],
        source="Distance: shop practice. Sag and spring: Euler-Bernoulli beam on rigid bearings. "
        "Chatter: oriented one-mode limit.",
    )


def _stiffness_words(line: Line) -> str:
    stiffness = line.softest.stiffness_n_mm
    return f"{stiffness / 1000:.1f} N/µm" if stiffness else "rigid"


def _chatter_words(line: Line, page: JobPage) -> str:
    if line.chatter is None:
        return "the cutter is missing"
    limit = line.chatter.limit_depth_mm
    return f"{page.units.about(limit)} deep" if limit is not None else "no depth up to ten times this cut"
