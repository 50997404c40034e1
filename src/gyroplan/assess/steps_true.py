"""The step True: how true the work is, and what is moved next."""

from __future__ import annotations

from typing import Any

from gyroplan.assess.here import AHEAD, DONE, WARN, Here, Line, Next
from gyroplan.assess.level import is_by_face, level_of
from gyroplan.assess.line_moves import is_moved_at_bearings, line_moves_of
from gyroplan.assess.tilt import tilt_of, wall_lean_of
from gyroplan.assess.truing import RoundStanding


def true_line(here: Here) -> Line:
    """The line under True: trued, in how many planes, or what is left."""
    truing = here.truing
    line = line_moves_of(here.job, here.piece)
    if line is not None:
        found = {"offset_mm": line.worst_mm, "limit_mm": line.limit_mm / 2}
        return (DONE, "trued", found) if line.within else (AHEAD, "truing", found)
    if here.setup.reference == "wall":
        lean = wall_lean_of(here.job, here.piece, here.bore.place)
        if lean is not None:
            values = {"lean_mm": lean.lean_mm, "limit_mm": lean.limit_mm}
            return (DONE, "wall_trued", values) if lean.within else (AHEAD, "wall_leans", values)
    elif (standing := truing.standing) is not None and standing.round.bound_mm is not None:
        by = {"how": standing.round.method, "offset_mm": standing.round.bound_mm}
        return (DONE, "trued_by", by) if standing.within else (AHEAD, "centred_by", by)
    elif standing is not None and standing.off_centre_mm is not None:
        return _by_sweep(here, standing)
    last = truing.last_valid
    if not truing.rounds or last is None:
        return AHEAD, "not_trued", {}
    return (WARN, "true_moved", {}) if last is truing.rounds[-1] else (AHEAD, "true_reading", {})


def _by_sweep(here: Here, standing: RoundStanding) -> Line:
    """By the centre offset of the plane that was swept last; of several planes all count."""
    truing = here.truing
    values: dict[str, Any] = {"offset_mm": standing.off_centre_mm, "limit_mm": truing.limit_mm / 2}
    if not standing.within:
        return AHEAD, "truing", values
    if not truing.within:
        return AHEAD, "plane_waits", values
    if len(truing.planes) < 2:
        return DONE, "trued" if here.setup.reference == "face" else "trued_plane", values
    worst = max(one.off_centre_mm or 0.0 for one in truing.planes)
    return DONE, "trued_planes", {**values, "offset_mm": worst, "count": len(truing.planes)}


def next_true(here: Here) -> Next:
    """What is read or moved next."""
    view = here.truing.open_round
    if view is not None:
        return Next("true", "finish_round", {"number": view.round.number, "places": view.round.places})
    if is_moved_at_bearings(here.job):
        return _next_bearing(here)
    if here.setup.reference == "wall":
        return _next_wall(here)
    return _next_lift(here) if is_by_face(here.job) else _next_move(here)


def _next_wall(here: Here) -> Next:
    """Of walls the largest lift of a support, or the lean at the open end; before they were read, a run along them."""
    lean = wall_lean_of(here.job, here.piece, here.bore.place)
    if lean is None or lean.within:
        return Next("true", "read_walls", {"number": len(here.truing.rounds) + 1})
    if lean.lifts:
        lift = max(lean.lifts, key=lambda one: one.lift_mm)  # over a pivot the one raised: its opposite goes down alike
        return Next("true", "lift_it", {"what": f"{here.setup.way.place_word}{lift.name}", "value_mm": lift.lift_mm})
    return Next("true", "take_lean_out", {"value_mm": lean.lean_mm})


def _next_move(here: Here) -> Next:
    """The larger move of the last round, at the jaws or the slides."""
    standing = here.truing.standing
    tilt = tilt_of(here.job, here.piece, here.bore.place)
    if tilt is not None and tilt.at.within and not tilt.tap.within:
        return Next("true", "tap_it", {"at_mm": tilt.tap.round.plane_mm, "value_mm": tilt.tap_mm})
    if tilt is not None and standing is not None:
        standing = tilt.at
    if standing is None or not standing.moves:
        if standing is not None and standing.way.moved_is == "nothing":
            return Next("true", "guides_swing", {"value_mm": standing.total_mm})
        return Next("true", "begin_truing", {"number": len(here.truing.rounds) + 1})
    move = standing.moves[0]
    if standing.way.set_by != "dial":
        to = move.slacken if standing.way.moved_is == "work" else move.tighten
        return Next("true", "move_it", {"what": standing.way.moved, "to": to, "value_mm": move.by_mm})
    return Next("true", "move_jaws", {"slacken": move.slacken, "tighten": move.tighten, "value_mm": move.by_mm})


def _next_bearing(here: Here) -> Next:
    """Of a line bar the largest move of a bearing; before both ends were swept, a sweep of the one that lacks it."""
    line = line_moves_of(here.job, here.piece)
    if line is None:
        return Next("true", "begin_truing", {"number": len(here.truing.rounds) + 1})
    ways = [(abs(by), one.number, up if by > 0 else down) for one in line.moves
            for by, up, down in ((one.up_mm, "up", "down"), (one.right_mm, "right", "left"))]  # fmt: skip
    by, number, way = max(ways)
    return Next("true", "move_bearing", {"number": number, "way": way, "value_mm": by})


def _next_lift(here: Here) -> Next:
    """Of a face the largest lift of a support; a sweep before it is read, or its circles are known."""
    level = level_of(here.job, here.piece)
    if level is None or level.within:
        return Next("true", "begin_truing", {"number": len(here.truing.rounds) + 1})
    lift = max(level.lifts, key=lambda one: one.lift_mm)
    return Next("true", "lift_it", {"what": f"{here.setup.way.place_word}{lift.name}", "value_mm": lift.lift_mm})
