"""Runs along the wall, where no circle can be swept: the lean of the axis told apart from the taper of the bore."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise
from math import atan2, cos, degrees, hypot, radians

import numpy as np
from numpy.typing import NDArray

from gyrocore.checks import TOLERANCE, require_finite
from gyrocore.choices import SurfaceName
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Array = NDArray[np.float64]
#: Angles closer than this are one side; so near to a diameter a side lies on it (core contract, `wall_runs`).
_SAME_SIDE_DEG = 0.5
#: The least singular value of the rows, over sqrt(n), with which all is seen (core contract, `wall_runs`).
_LEAST_SINGULAR = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class AlongWall:
    """One reading on the way along a wall [mm]."""

    z_mm: float
    reading_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WallSide:
    """A run along the wall at one place on the work, counted round it [deg]."""

    angle_deg: float
    readings: tuple[AlongWall, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class WallRow:
    """How the reading rises along one side [mm/m], and how far the worst reading lies off that line [mm]."""

    angle_deg: float
    slope_mm_m: float
    worst_residual_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TiltAlong:
    """The lean toward one side, where only a diameter was read [deg], [mm/m]."""

    angle_deg: float
    tilt_mm_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WallRuns:
    """What the runs tell; None for what these sides cannot see."""

    rows: tuple[WallRow, ...]
    wall_slope_mm_m: float | None
    tilt_x_mm_m: float | None
    tilt_y_mm_m: float | None
    tilt_mm_m: float | None
    tilt_angle_deg: float | None
    tilt_along_mm_m: TiltAlong | None
    notes: tuple[Note, ...] = ()


def wall_runs(*, sides: Sequence[WallSide], surface: SurfaceName = "inside") -> WallRuns:
    """Return the lean of the axis and the wall's own slope from runs of an indicator along the wall.

    Parameters
    ----------
    sides : angles all different by over 0.5 degrees, 360 being 0; on each two readings or more, at unlike z [deg], [mm]
    surface : `inside` or `outside`; a plunger pushed in reads positive

    Returns
    -------
    WallRuns [mm/m], [deg]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Inside, a wall that comes nearer as z grows reads more: the slope of the reading at angle t is
    -(g + tx cos t + ty sin t), g the growth of the radius with z and (tx, ty) the lean of the axis; outside the same
    with +. Three sides or more, well spread, tell all three apart; two opposite walls tell g and the lean along their
    diameter; one wall, or two that are neighbours, cannot tell lean from taper.

    References
    ----------
    Derived here: a cone about a line that leans a little; ordinary least squares over the sides' slopes.

    Examples
    --------
    >>> def run(angle, slope):
    ...     return WallSide(angle_deg=angle, readings=(AlongWall(z_mm=0, reading_mm=0),
    ...                                                AlongWall(z_mm=100, reading_mm=slope)))
    >>> found = wall_runs(sides=[run(0, -0.03), run(180, 0.01)])
    >>> round(found.wall_slope_mm_m, 3), round(found.tilt_along_mm_m.tilt_mm_m, 3)
    (0.1, 0.2)
    """
    _require(sides, surface)
    rows = tuple(_row(side) for side in sides)
    angles = np.radians(np.array([side.angle_deg for side in sides], dtype=np.float64))
    sign = -1.0 if surface == "inside" else 1.0
    slopes = sign * np.array([row.slope_mm_m for row in rows])
    every = np.column_stack([np.ones_like(angles), np.cos(angles), np.sin(angles)])
    if len(sides) >= 3 and _least_singular(every) >= _LEAST_SINGULAR:
        grows, tx, ty = (float(value) for value in np.linalg.lstsq(every, slopes, rcond=None)[0])
        tilt = hypot(tx, ty)
        return WallRuns(
            rows=rows, wall_slope_mm_m=grows, tilt_x_mm_m=tx, tilt_y_mm_m=ty, tilt_mm_m=tilt,
            tilt_angle_deg=degrees(atan2(ty, tx)) % 360 if tilt > TOLERANCE else None, tilt_along_mm_m=None,
            notes=(note("walls_see_all"),),
        )  # fmt: skip
    if _on_one_diameter([side.angle_deg for side in sides]):
        along = np.column_stack([np.ones_like(angles), np.cos(angles - angles[0])])
        grows, toward = (float(value) for value in np.linalg.lstsq(along, slopes, rcond=None)[0])
        return _unseen(rows, "walls_see_one_diameter", grows,
                       TiltAlong(angle_deg=sides[0].angle_deg, tilt_mm_m=toward))  # fmt: skip
    return _unseen(rows, "walls_cannot_tell")


def _unseen(
    rows: tuple[WallRow, ...], why: str, grows: float | None = None, along: TiltAlong | None = None
) -> WallRuns:  # fmt: skip
    return WallRuns(rows=rows, wall_slope_mm_m=grows, tilt_x_mm_m=None, tilt_y_mm_m=None, tilt_mm_m=None,
                    tilt_angle_deg=None, tilt_along_mm_m=along, notes=(note(why),))  # fmt: skip


def _row(side: WallSide) -> WallRow:
    z = np.array([one.z_mm for one in side.readings])
    readings = np.array([one.reading_mm for one in side.readings])
    away = z - z.mean()
    slope = float(away @ (readings - readings.mean()) / (away @ away))
    left = readings - readings.mean() - slope * away
    return WallRow(angle_deg=side.angle_deg, slope_mm_m=1000 * slope, worst_residual_mm=float(np.abs(left).max()))


def _least_singular(rows: Array) -> float:
    return float(np.linalg.svd(rows, compute_uv=False)[-1] / np.sqrt(len(rows)))


def _apart_deg(a: float, b: float) -> float:
    return abs((a - b + 180) % 360 - 180)


def _on_one_diameter(angles_deg: Sequence[float]) -> bool:
    """Whether every side lies on the diameter through the first, and both its ends are there."""
    first = angles_deg[0]
    here = [_apart_deg(one, first) <= _SAME_SIDE_DEG for one in angles_deg]
    there = [_apart_deg(one, first + 180) <= _SAME_SIDE_DEG for one in angles_deg]
    return any(there) and all(a or b for a, b in zip(here, there, strict=True))


def _require(sides: Sequence[WallSide], surface: str) -> None:
    if surface not in ("outside", "inside"):
        raise InvalidInput("surface", "not_a_surface", given=surface)
    if not sides:
        raise InvalidInput("sides", "empty")
    for place, side in enumerate(sides):
        require_finite(**{f"sides.{place}.angle_deg": side.angle_deg})
        _require_run(f"sides.{place}", side)
    for (_, a), (place, b) in combinations(enumerate(sides), 2):
        if _apart_deg(a.angle_deg, b.angle_deg) <= _SAME_SIDE_DEG:
            raise InvalidInput(f"sides.{place}.angle_deg", "repeated", given=b.angle_deg)


def _require_run(field: str, side: WallSide) -> None:
    for place, one in enumerate(side.readings):
        require_finite(**{f"{field}.readings.{place}.z_mm": one.z_mm,
                          f"{field}.readings.{place}.reading_mm": one.reading_mm})  # fmt: skip
    if len(side.readings) < 2:
        raise InvalidInput(f"{field}.readings", "two_along_the_wall", given=len(side.readings), allowed=2)
    places = sorted(one.z_mm for one in side.readings)
    for low, high in pairwise(places):
        if high - low <= TOLERANCE:
            place = next(at for at, one in enumerate(side.readings) if one.z_mm == high)
            raise InvalidInput(f"{field}.readings.{place}.z_mm", "repeated", given=high)


def slope_at(*, wall_slope_mm_m: float, tilt: tuple[float, float], angle_deg: float, surface: SurfaceName) -> float:
    """Return how the reading rises along a wall of a bore that leans and tapers.

    Parameters
    ----------
    wall_slope_mm_m : growth of the radius with z [mm/m]
    tilt : the lean of the axis toward x and y as z grows [mm/m]
    angle_deg : the side, round the work [deg]
    surface : `inside` or `outside`

    Returns
    -------
    slope [mm/m]

    References
    ----------
    The same model as `wall_runs`, the other way round.

    Examples
    --------
    >>> slope_at(wall_slope_mm_m=0.1, tilt=(0.2, 0), angle_deg=0, surface="outside").__round__(3)
    0.3
    """
    angle = radians(angle_deg)
    slope = wall_slope_mm_m + tilt[0] * cos(angle) + tilt[1] * float(np.sin(angle))
    return -slope if surface == "inside" else slope
