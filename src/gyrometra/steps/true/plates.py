"""The True page: reading line, moves at the jaws, rounds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import FourPlaces, sentence
from gyrodraw import Scene
from gyrometra.bridge.units import Units
from gyrometra.steps.cuts.plates import BREAKS
from gyrometra.steps.page import JobPage
from gyrometra.steps.true.alerts import alerts_of
from gyrometra.steps.true.before import (
    as_before,
    last_to_undo,
    next_round,
    not_ticked,
    plane_chips,
    plane_next,
    told_before,
)
from gyrometra.steps.true.bound import bound_on_true, method_words, target_words
from gyrometra.steps.true.moved import moves_words, otherwise_words, told_of
from gyrometra.steps.true.parts import oval_on_true, parts_on_true
from gyrometra.steps.true.scene import chart_scene, empty_face, face_scene, face_size
from gyrometra.steps.true.start import first_face
from gyrometra.steps.true.tilt import LEFT_SHARE, walls_drawn
from gyrometra.truing.models import Round
from gyroplan.assess import RoundStanding, Truing, broken_at
from gyroplan.record import BoreRecord


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One place of the reading line."""

    place: int
    name: str
    value: str
    was: str
    active: bool


@dataclass(frozen=True, kw_only=True)
class RoundLine:
    """One closed round in the list."""

    number: int
    total: str
    off: str
    towards: str
    state: str
    #: The depth of its plane, or that walls were run along; empty for one round in one plane.
    plane: str = ""


def broken_words(bore: BoreRecord, angle_deg: float) -> str:
    """Keyways, ports and slots in the bore at an angle; a stylus there falls in."""
    broken = broken_at(bore, angle_deg)
    return "" if broken is None else BREAKS[broken.kind]


def last_reading(page: JobPage, view: RoundStanding | None) -> str:
    """The reading that an undo takes back: the last that stands in the open round."""
    rows = page.rows.rounds[view.round.key].reading_rows if view else []  # type: ignore[attr-defined]
    return str(max(rows, key=lambda row: row["id"])["client_id"]) if rows else ""


def cells(
    view: RoundStanding, before: RoundStanding | None, units: Units, bore: BoreRecord, correct: int | None = None
) -> list[Cell]:
    """The reading line of a round in reading order, with the last round's values; `correct` opens a read cell."""
    was = before.values_mm if before is not None and _is_alike(before, view) else None
    found, active = [], view.next_place if correct is None else correct
    values, angles, circle = view.values_mm, view.round.angles_deg, view.by_circle
    for place in view.round.order:
        old, broken = was[place] if was else None, ""
        if view.round.surface == "inside":
            broken = broken_words(bore, angles[place])
        found.append(
            Cell(
                place=place,
                name=_cell_name(view, place, units),
                value=_cell_words(view, place, values[place], units),
                was=f"{broken}: x skips"
                if broken
                else _circle_says(circle, place, units) or ("" if old is None else f"was {units.signed(old)}"),
                active=place == active,
            )
        )
    again = view.by_place.get(view.round.places)
    found.append(
        Cell(
            place=view.round.places,
            name="back at start",
            value=units.signed(again.value_mm) if again and again.value_mm is not None else "",
            was="",
            active=active == view.round.places,
        )
    )
    return found


def _circle_says(circle: FourPlaces | None, place: int, units: Units) -> str:
    """What three of four readings tell of the fourth."""
    if circle is None or circle.missing != place or circle.predicted_mm is None:
        return ""
    return f"circle rule {units.signed(circle.predicted_mm)}"


def _is_alike(before: RoundStanding, view: RoundStanding) -> bool:
    """Whether a place of the one is the same place of the other: of the same plane, or of the same walls."""
    one, other = before.round, view.round
    return (one.places, one.plane_mm, one.is_walls, one.depths_mm) == (
        other.places, other.plane_mm, other.is_walls, other.depths_mm
    )  # fmt: skip


def _before(earlier: Sequence[RoundStanding], view: RoundStanding) -> RoundStanding | None:
    """The round before of the same places; without one the last of all."""
    alike = [one for one in earlier if _is_alike(one, view)]
    return alike[-1] if alike else earlier[-1] if earlier else None


def _cell_name(view: RoundStanding, place: int, units: Units) -> str:
    name = view.way.place_name(view.round.angles_deg[place])
    if not view.round.is_walls:
        return name
    return f"{name}, {units.length(view.round.depths_mm[place % len(view.round.depths_mm)])}"


def _cell_words(view: RoundStanding, place: int, value: float | None, units: Units) -> str:
    if value is not None:
        return units.signed(value)
    if place in view.off_scale:
        return "off, " + view.off_scale[place][-1]
    return "skipped" if place in view.by_place else ""


def _struck_lines(page: JobPage, views: Sequence[RoundStanding]) -> list[RoundLine]:
    """Centrings that were taken back: they stay in the list, crossed out."""
    counted, bore = {view.round.key for view in views}, page.bore_row.pk if page.job.setup.way.several else None
    return [
        RoundLine(
            number=row.number, total="", off="", towards="", plane=str(Round.Method(row.method).label), state="back"
        )
        for row in page.rows.rounds.values()
        if row.purpose == "true" and row.piece == page.piece and row.bore_id == bore and row.pk not in counted
    ]


def round_lines(page: JobPage, views: Sequence[RoundStanding]) -> list[RoundLine]:
    """Closed rounds, oldest first; what was taken back among them."""
    lines, units = _struck_lines(page, views), page.units
    for view in views:
        if not view.is_closed:
            continue
        angle = view.sweep.offset_angle_deg if view.sweep else view.tilt_angle_deg
        lines.append(
            RoundLine(
                number=view.round.number,
                total=planned(view.total_mm, units),
                off=bound_words(view, units)
                or planned(view.tilt_mm if view.round.is_walls else view.off_centre_mm, units),
                towards=view.way.place_name(45 * round(angle / 45)) if angle is not None else "",
                plane=_plane_words(view, units),
                state="void" if view.is_void else "in" if view.within else "over",
            )
        )
    return sorted(lines, key=lambda line: line.number)


def _plane_words(view: RoundStanding, units: Units) -> str:
    """What was read, where it was not one round in one plane."""
    if view.round.is_bound:
        return method_words(view)
    if view.round.is_walls:
        return "walls, lean"
    return "" if view.round.plane_mm is None else f"at {units.length(view.round.plane_mm)}"


def reading_hint(view: RoundStanding | None, units: Units) -> str:
    """How a number typed in the reading line is read."""
    if view is None:
        return ""
    step = view.round.indicator_step_mm
    return f"27 is 27 divisions, {units.fine(27 * step)} {units.label}"


def planned(value: float | None, units: Units) -> str:
    return "" if value is None else units.planned(value)


def round_initial(page: JobPage, views: Sequence[RoundStanding], *, check: bool = False) -> dict[str, Any]:
    """The next round is like the last; of two planes it is the other one's turn."""
    bore, units = page.bore, page.units
    depths = " ".join(units.length(bore.length_mm * share) for share in DEPTHS_OFFERED)
    by_wall = page.record.setup.reference == "wall" and not check
    offered: dict[str, Any] = {"depths": depths, "method": "walls" if by_wall else "sweep"}
    if not views:
        return offered
    last = next((one.round for one in reversed(views) if not one.round.is_bound), None)
    if last is None:
        return offered
    walls = next((one.round for one in reversed(views) if one.round.is_walls), None)
    if walls is not None:
        offered |= {"depths": " ".join(units.plain(z) for z in walls.depths_mm), "sides": walls.sides}
    plane = plane_next(views)
    return {
        **offered, "method": last.method, "places": 8 if last.is_walls else last.places,
        "indicator": page.rows.rounds[last.key].indicator_id,
        "closing_mm": "" if last.closing_mm is None else units.plain(last.closing_mm),
        "plus": "out" if last.plus_out else "in", "view": "other" if last.seen_other else "usual",
        **_target_initial(page, last.key),
        "plane_mm": "" if plane is None else units.plain(plane),
    }  # fmt: skip


def _target_initial(page: JobPage, key: int) -> dict[str, Any]:
    """The offset that the last round wanted on purpose."""
    row = page.rows.rounds[key]
    if row.target_mm is None:
        return {}
    return {"target_mm": page.units.plain(row.target_mm), "target_deg": int(row.target_deg or 0)}


#: Depths that are offered for runs along a wall, as shares of the bore's length (chosen here: clear of both ends).
DEPTHS_OFFERED = (0.1, 0.35, 0.65, 0.9)


def true(page: JobPage, correct: int | None = None) -> dict[str, Any]:
    """All that the True page prints: advice only from a closed, valid round since which nothing was moved."""
    units, truing = page.units, page.truing
    views, open_round, standing = truing.rounds, truing.open_round, truing.standing
    earlier = [view for view in views if view is not open_round]
    shown = open_round or (earlier[-1] if earlier else None)
    limit, told, before = page.truing.limit_mm, told_of(page), told_before(page, views)
    return {
        "last_bore": page.bores[-1],
        "open_round": open_round,
        "undo": last_reading(page, open_round),
        "cells": cells(open_round, _before(earlier, open_round), units, page.bore, correct) if open_round else [],
        "shown": shown,
        "reading_hint": reading_hint(open_round, units),
        "face": drawn(page, shown, told),
        "face_small": drawn(page, shown, told, small=True),
        "chart": chart_scene(page),
        "lines": round_lines(page, views)[::-1],
        "decided": standing,
        "moves": moves_words(told, units, page.at.machine) if told else [],
        "made": moves_words(before, units, page.at.machine) if before is not None else [],
        "alerts": alerts_of(shown, standing, units),
        "moved_otherwise": otherwise_words(page),
        "made_lean": _made_lean(truing, units) if not standing else "",
        "form_left": standing.figures.is_form_or_too_fine if standing and standing.figures else False,
        "expected": planned(told.expected_mm, units) if told and told.round.method != "flats" else "",
        "total": planned(shown.total_mm, units) if shown else "",
        "swing": _swing_words(shown, units),
        "off": planned(shown.off_centre_mm, units) if shown else "",
        "off_doubt": _doubt_words(shown, units),
        "tenth": _tenth_words(told, units),
        "limit": units.planned(limit),
        "centre_limit": units.planned(limit / 2),
        "round_notes": [
            # that one plane shows no tilt stands beside the drawing
            sentence(n, units.unit)
            for n in (shown.notes if shown and shown.stands else ())
            if n.code not in ("one_plane_no_lean", "walls_see_all")
        ],
        "bound": bound_on_true(page, shown),
        "target": target_words(page, shown),
        "parts": parts_on_true(page, standing) if truing.within else None,
        "oval": oval_on_true(page, standing),
        "next_round": next_round(views, told, units),
        "as_before": as_before(page, views),
        "plane_chips": plane_chips(page, views),
        "not_ticked": not_ticked(page, shown),
        "undoes": last_to_undo(page, views),
        "half_rule": units.planned(shown.total_mm / 2) if shown and shown.total_mm is not None else "",
        "jaws": page.job.setup.way.jaws,
    }  # fmt: skip


def bound_words(view: RoundStanding, units: Units) -> str:
    """How far a centring by other means than a round may lie off."""
    bound = view.round.bound_mm
    return "" if bound is None else f"±{units.planned(bound)}"


def _made_lean(truing: Truing, units: Units) -> str:
    """Of walls the lean that was told before something was moved."""
    last = truing.last_valid
    if last is None or not last.round.is_walls or last.tilt_mm is None or last.tilt_angle_deg is None:
        return ""
    return f"lean {units.planned(last.tilt_mm)} to {last.way.place_name(45 * round(last.tilt_angle_deg / 45))}"


def _doubt_words(view: RoundStanding | None, units: Units) -> str:
    """How well the offset is known, twice its standard deviation; empty where too few places tell it."""
    sd = view.sweep.eccentricity_sd_mm if view is not None and view.sweep is not None else None
    return "" if sd is None or sd < _DOUBT_MM else units.doubt(2 * sd)


#: A doubt smaller than this is none [mm].
_DOUBT_MM = 1e-4


def _tenth_words(told: RoundStanding | None, units: Units) -> str:
    """What a move that lands a tenth off leaves."""
    if told is None or not told.moves or told.off_centre_mm is None:
        return ""
    return units.planned(LEFT_SHARE * told.off_centre_mm)


def drawn(
    page: JobPage, shown: RoundStanding | None, told: RoundStanding | None, *, small: bool = False
) -> Scene:  # fmt: skip
    """The round that is shown: its dial face, or the walls beside each other; before the first the work alone.

    Moves stand at the face only where they are told by the round that is shown.
    """
    size = face_size(page, small=small)
    if shown is None:
        return first_face(page, size)
    if shown.round.is_bound:
        return empty_face(page, size)
    if shown.round.is_walls:
        return walls_drawn(page, shown, small=small)
    return face_scene(shown, page.units, size, with_moves=told is shown)


def _swing_words(view: RoundStanding | None, units: Units) -> str:
    """Where the fitted curve swings further than the places read: a peak between two of them."""
    if view is None or view.swing_mm is None or view.total_mm is None or view.round.method == "flats":
        return ""
    if view.swing_mm - view.total_mm < 5e-4:
        return ""
    return units.planned(view.swing_mm)
