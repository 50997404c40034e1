"""Moving the bearings of a line bar until it lies on the housings' own line: sag and droop taken off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SweptHousing:
    """A housing as swept from the bar: its centre, how low the bar hangs there, how far the arm's tip hangs [mm]."""

    name: str
    z_mm: float
    off_x_mm: float
    off_y_mm: float
    sag_mm: float = 0.0
    droop_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TrueHousing:
    """Where a housing truly lies from the line through the bearings; what is left of it after the moves [mm]."""

    name: str
    true_x_mm: float
    true_y_mm: float
    off_mm: float
    angle_deg: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingMove:
    """How far a bearing is moved [mm]."""

    z_mm: float
    move_x_mm: float
    move_y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineBarMoves:
    """Housings as they are, bearings as they are moved, and the worst that is left [mm]."""

    housings: tuple[TrueHousing, ...]
    moves: tuple[BearingMove, ...]
    worst_off_mm: float
    notes: tuple[Note, ...] = ()


def line_bar_moves(
    *, housings: Sequence[SweptHousing], bearings_mm: tuple[float, float], datum: tuple[str, str] | None = None,
    down_deg: float = 180.0,
) -> LineBarMoves:  # fmt: skip
    """Return the moves of a line bar's two bearings that put it on the housings' line.

    Parameters
    ----------
    housings : two or more, names and places unlike [mm]; sag is negative where the bar's end rises; droop 0 or more
    bearings_mm : places of the two bearings, unlike [mm]
    datum : the two housings that decide; without them the least-squares line of all
    down_deg : which way is down, as angles are counted

    Returns
    -------
    LineBarMoves [mm], [deg]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    A sagging bar lies low, and a drooping arm makes the housing look high: true = off + (sag + droop) toward down, from
    the straight line through the bearings. Each bearing goes to the line at its own place.

    References
    ----------
    Derived here; least squares of a line, each direction by itself.

    Examples
    --------
    >>> ends = [SweptHousing(name="a", z_mm=0, off_x_mm=0.1, off_y_mm=0),
    ...         SweptHousing(name="b", z_mm=500, off_x_mm=0.3, off_y_mm=0)]
    >>> [round(one.move_x_mm, 3) for one in line_bar_moves(housings=ends, bearings_mm=(-100, 600)).moves]
    [0.06, 0.34]
    """
    require_housings(housings)
    require_finite(**{"bearings_mm.0": bearings_mm[0], "bearings_mm.1": bearings_mm[1], "down_deg": down_deg})
    if abs(bearings_mm[1] - bearings_mm[0]) <= TOLERANCE:
        raise InvalidInput("bearings_mm.1", "repeated", given=bearings_mm[1])
    _require_datum(datum, housings)
    down = (cos(radians(down_deg)), sin(radians(down_deg)))
    true = [
        tuple(
            off + (one.sag_mm + one.droop_mm) * way for off, way in zip((one.off_x_mm, one.off_y_mm), down, strict=True)
        )
        for one in housings
    ]
    lines = [_line(housings, [at[axis] for at in true], datum) for axis in (0, 1)]
    left = [_left(one, at, lines) for one, at in zip(housings, true, strict=True)]
    moves = tuple(
        BearingMove(z_mm=z, move_x_mm=_at(lines[0], z), move_y_mm=_at(lines[1], z)) for z in bearings_mm
    )  # fmt: skip
    return LineBarMoves(
        housings=tuple(left), moves=moves, worst_off_mm=max(one.off_mm for one in left),
        notes=(note("axis_by_datum" if datum else "axis_least_squares"),),
    )  # fmt: skip


Line = tuple[float, float]


def require_housings(housings: Sequence[SweptHousing]) -> None:
    """Refuse fewer than two housings, or two of one name or at one place."""
    if len(housings) < 2:
        raise InvalidInput("housings", "two_housings", given=len(housings), allowed=2)
    require_unique("housings.*.name", [one.name for one in housings])
    for place, one in enumerate(housings):
        own = {"z_mm": one.z_mm, "off_x_mm": one.off_x_mm, "off_y_mm": one.off_y_mm, "sag_mm": one.sag_mm}
        require_finite(**{f"housings.{place}.{name}": value for name, value in own.items()})
        require_not_negative(**{f"housings.{place}.droop_mm": one.droop_mm})
        if any(abs(one.z_mm - other.z_mm) <= TOLERANCE for other in housings[:place]):
            raise InvalidInput(f"housings.{place}.z_mm", "repeated", given=one.z_mm)


def _require_datum(datum: tuple[str, str] | None, housings: Sequence[SweptHousing]) -> None:
    if datum is None:
        return
    names = [one.name for one in housings]
    for place, name in enumerate(datum):
        if name not in names:
            raise InvalidInput(f"datum.{place}", "unknown_choice", given=name, choices=", ".join(names))
    require_unique("datum.*", datum)


def _line(housings: Sequence[SweptHousing], values: Sequence[float], datum: tuple[str, str] | None) -> Line:
    """Value at 0 and slope, of the line through the datum housings or nearest to all."""
    known = {one.name: (one.z_mm, value) for one, value in zip(housings, values, strict=True)}
    if datum is None:
        z, at = (np.array(column) for column in zip(*known.values(), strict=True))
        middle = float(z.mean())
        slope = float(((z - middle) * (at - at.mean())).sum() / ((z - middle) ** 2).sum())
        return float(at.mean()) - slope * middle, slope
    (z1, y1), (z2, y2) = known[datum[0]], known[datum[1]]
    slope = (y2 - y1) / (z2 - z1)
    return y1 - slope * z1, slope


def _at(line: Line, z_mm: float) -> float:
    return line[0] + line[1] * z_mm


def _left(one: SweptHousing, at: tuple[float, ...], lines: Sequence[Line]) -> TrueHousing:
    x, y = (true - _at(line, one.z_mm) for true, line in zip(at, lines, strict=True))
    off = hypot(x, y)
    angle = degrees(atan2(y, x)) % 360
    return TrueHousing(
        name=one.name, true_x_mm=at[0], true_y_mm=at[1], off_mm=off,
        angle_deg=None if off <= TOLERANCE else 0.0 if 360 - angle <= TOLERANCE else angle,
    )  # fmt: skip
