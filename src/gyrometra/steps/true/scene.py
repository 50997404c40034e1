"""The dial face of a round, and how the centre offset converges."""

from __future__ import annotations

from gyrodraw import (
    DialFace,
    Scene,
    convergence_chart,
    dial_face,
)
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyroplan.assess import RoundStanding


def face_scene(
    view: RoundStanding, units: Units, size: tuple[float, float] = (416, 328), *, with_moves: bool = True
) -> Scene:
    """The dial face of one round; circle and arrow only where it is closed and valid."""
    inside = view.round.surface == "inside"
    values, counted = view.values_mm, view.counted_mm
    known = [v for v in counted if v is not None]
    mean = sum(known) / len(known) if known else 0.0
    outward = [None if v is None else (mean - v if inside else v - mean) for v in counted]
    found = view.sweep
    moves = {}
    for move in view.told if view.stands and with_moves else ():
        moves[move.slacken] = ("slacken", "slacken")
        moves[move.tighten] = ("tighten", units.planned(move.by_mm))
    # from the other end right and left change places
    turn = -1 if view.round.seen_other else 1
    top, right, bottom, left = view.way.places
    face = DialFace(
        angles_deg=[turn * angle for angle in view.round.angles_deg],
        outward_mm=outward,
        words=["" if v is None else units.signed(v) for v in values],
        limit_mm=view.limit_mm,
        offset_mm=(found.offset_x_mm, turn * found.offset_y_mm) if found else None,
        offset_words=units.planned(found.eccentricity_mm) if found else "",
        moves=moves,
        places=(top, left, bottom, right) if view.round.seen_other else view.way.places,
        jaws=view.way.jaws,
        seen_from="seen from the other end" if view.round.seen_other else view.way.seen_from,
    )
    return dial_face(face, *size)


def empty_face(page: JobPage, size: tuple[float, float]) -> Scene:
    """Work that was centred without a round: its holding, and the places of a sweep."""
    way, count = page.record.setup.way, 8
    face = DialFace(
        angles_deg=[360 * n / count for n in range(count)], outward_mm=[None] * count, words=[""] * count,
        limit_mm=page.truing.limit_mm, offset_mm=None, offset_words="", moves={}, places=way.places,
        jaws=way.jaws, seen_from=way.seen_from,
    )  # fmt: skip
    return dial_face(face, *size)


def face_size(page: JobPage, *, small: bool) -> tuple[float, float]:
    """The sheet of the end view: a phone's, or beside the section; lower where tabs stand under the band."""
    if small:
        return 390, 320
    return (370, 280) if page.is_several or page.pieces or page.has_setups else (416, 324)


def chart_scene(page: JobPage) -> Scene | None:
    """Convergence of the centre offset, round by round, against what boring allows."""
    units = page.units
    closed = [view for view in page.truing.rounds if view.stands and view.off_centre_mm is not None]
    if not closed:
        return None
    limit, unit_mm = page.truing.limit_mm / 2, 1.0 if units.unit == "mm" else 25.4
    rows = [
        (v.round.number, (v.off_centre_mm or 0.0) / unit_mm, units.planned(v.off_centre_mm or 0.0), False)
        for v in closed[-6:]
    ]  # fmt: skip
    return convergence_chart(rows, limit / unit_mm, f"limit {units.planned(limit)}", None, 200, 168)
