"""Levelling a face that leans: how much each support is lifted, or its screw turned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot

from gyrocore.checks import TOLERANCE, require_finite, require_positive, require_unique
from gyrocore.choices import LevelAbout
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SupportPoint:
    """A bolt, shim or screw under the work, as seen from above [mm]."""

    name: str
    x_mm: float
    y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pivot:
    """The place that stays as high as it is [mm]."""

    x_mm: float
    y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SupportMove:
    """What one support does: lifted so much, so many turns of its screw; positive raises [mm]."""

    name: str
    lift_mm: float
    turns: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SupportMoves:
    """The moves that level the face."""

    moves: tuple[SupportMove, ...]
    notes: tuple[Note, ...] = ()


def support_moves(
    *, points: Sequence[SupportPoint], tilt_x_mm_m: float, tilt_y_mm_m: float,
    about: LevelAbout = "lowest", pivot: Pivot | None = None, screw_pitch_mm: float | None = None,
) -> SupportMoves:  # fmt: skip
    """Return the lifts of its supports that level a face.

    Parameters
    ----------
    points : three or more, names unlike, not all on one line [mm]
    tilt_x_mm_m, tilt_y_mm_m : the face rises so much toward x and toward y [mm/m]
    about : `lowest` (nothing is lowered: shims only add) or `pivot`
    pivot : only for `pivot`, and needed there [mm]
    screw_pitch_mm : over 0, where the supports are screws [mm]

    Returns
    -------
    SupportMoves [mm], [turns]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    lift = -(tx (x - x0) + ty (y - y0)) / 1000 about the pivot. About the lowest the least lift is taken off all, so
    that it is 0 and none is negative. For small tilts: cos is taken as 1.

    References
    ----------
    Derived here: a plane through the supports.

    Examples
    --------
    >>> feet = [SupportPoint(name=n, x_mm=x, y_mm=y) for n, x, y in (("a", 0, 0), ("b", 200, 0), ("c", 0, 300))]
    >>> [round(one.lift_mm, 3) for one in support_moves(points=feet, tilt_x_mm_m=0.5, tilt_y_mm_m=0).moves]
    [0.1, 0.0, 0.1]
    """
    require_points(points)
    require_finite(tilt_x_mm_m=tilt_x_mm_m, tilt_y_mm_m=tilt_y_mm_m)
    if about not in ("lowest", "pivot"):
        raise InvalidInput("about", "unknown_choice", given=about, choices="lowest, pivot")
    if (about == "pivot") is not (pivot is not None):
        code = "missing" if pivot is None else "only_about_pivot"
        raise InvalidInput("pivot", code, given="pivot", allowed=about)
    if pivot is not None:
        require_finite(**{"pivot.x_mm": pivot.x_mm, "pivot.y_mm": pivot.y_mm})
    require_positive(screw_pitch_mm=screw_pitch_mm)
    x0, y0 = (0.0, 0.0) if pivot is None else (pivot.x_mm, pivot.y_mm)
    lifts = [-(tilt_x_mm_m * (one.x_mm - x0) + tilt_y_mm_m * (one.y_mm - y0)) / 1000 for one in points]
    least = min(lifts) if pivot is None else 0.0
    moves = tuple(
        SupportMove(
            name=one.name,
            lift_mm=lift - least,
            turns=None if screw_pitch_mm is None else (lift - least) / screw_pitch_mm,
        )
        for one, lift in zip(points, lifts, strict=True)
    )
    return SupportMoves(moves=moves, notes=(note("lifts_about_lowest" if pivot is None else "lifts_about_pivot"),))


def require_points(points: Sequence[SupportPoint]) -> None:
    """Refuse fewer than three supports, two of one name, or all on one line."""
    if len(points) < 3:
        raise InvalidInput("points", "three_supports", given=len(points), allowed=3)
    require_unique("points.*.name", [one.name for one in points])
    require_finite(**{f"points.{place}.x_mm": one.x_mm for place, one in enumerate(points)})
    require_finite(**{f"points.{place}.y_mm": one.y_mm for place, one in enumerate(points)})
    first, last = max(combinations(points, 2), key=lambda pair: _apart(*pair))
    length = _apart(first, last)
    if length <= TOLERANCE or all(_off_line(one, first, last) / length <= TOLERANCE for one in points):
        raise InvalidInput("points", "supports_on_one_line", given=len(points))


def _apart(a: SupportPoint, b: SupportPoint) -> float:
    return hypot(b.x_mm - a.x_mm, b.y_mm - a.y_mm)


def _off_line(point: SupportPoint, a: SupportPoint, b: SupportPoint) -> float:
    """Twice the area of the three: length times distance."""
    return abs((b.x_mm - a.x_mm) * (point.y_mm - a.y_mm) - (b.y_mm - a.y_mm) * (point.x_mm - a.x_mm))
