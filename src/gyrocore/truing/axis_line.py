"""An axis from its centre in two planes or more: where it lies, how it leans, what brings it true."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees, hypot

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Plane:
    """The centre of a bore in one plane square to the axis of rotation [mm]."""

    z_mm: float
    offset_x_mm: float
    offset_y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AtZero:
    """Where the axis lies at z = 0 [mm]."""

    offset_x_mm: float
    offset_y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneMove:
    """What the work moves at one place so that its axis comes true [mm]."""

    z_mm: float
    move_x_mm: float
    move_y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AxisAt:
    """How far the axis is off at one place, and the swing an indicator would show there [mm]."""

    z_mm: float
    eccentricity_mm: float
    total_reading_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AxisLine:
    """The axis as a straight line: its lean, how well the planes fit it, the moves, and what any place would read."""

    tilt_mm_m: float
    tilt_angle_deg: float
    at_zero: AtZero
    worst_residual_mm: float
    moves: tuple[PlaneMove, ...]
    report: tuple[AxisAt, ...]
    notes: tuple[Note, ...] = ()


def axis_line(
    *, planes: Sequence[Plane], adjust_z_mm: tuple[float, float], report_z_mm: Sequence[float] = ()
) -> AxisLine:  # fmt: skip
    """Return where the axis through the centres of several planes lies, and what brings it true.

    Parameters
    ----------
    planes : at two or more different z [mm]
    adjust_z_mm : the two places where the work is moved, unlike [mm]
    report_z_mm : places of which the swing is wanted [mm]

    Returns
    -------
    AxisLine [mm/m], [deg] from 0 up to 360, [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Least squares of a straight line, x and y each by itself; with two planes it goes through both. A move at each
    adjusting place is what is off there, the other way: both together take offset and lean out, one alone only its
    own place. The residual is the distance of a plane's centre from the line: with two planes none is seen.

    References
    ----------
    Ordinary least squares of a line.

    Examples
    --------
    >>> found = axis_line(planes=[Plane(z_mm=0, offset_x_mm=0.02, offset_y_mm=0),
    ...                           Plane(z_mm=100, offset_x_mm=0.05, offset_y_mm=0)], adjust_z_mm=(0, 200))
    >>> round(found.tilt_mm_m, 3), [round(one.move_x_mm, 3) for one in found.moves]
    (0.3, [-0.02, -0.08])
    """
    _require(planes, adjust_z_mm, report_z_mm)
    z = np.array([one.z_mm for one in planes])
    centres = np.array([(one.offset_x_mm, one.offset_y_mm) for one in planes])
    middle = float(z.mean())
    rows = np.column_stack([np.ones_like(z), z - middle])
    fitted, *_ = np.linalg.lstsq(rows, centres, rcond=None)
    slope = (float(fitted[1, 0]), float(fitted[1, 1]))

    def at(place_mm: float) -> tuple[float, float]:
        return (float(fitted[0, 0]) + slope[0] * (place_mm - middle),
                float(fitted[0, 1]) + slope[1] * (place_mm - middle))  # fmt: skip

    left = centres - rows @ fitted
    zero = at(0.0)
    return AxisLine(
        tilt_mm_m=1000 * hypot(*slope),
        tilt_angle_deg=degrees(atan2(slope[1], slope[0])) % 360,
        at_zero=AtZero(offset_x_mm=zero[0], offset_y_mm=zero[1]),
        worst_residual_mm=float(np.hypot(left[:, 0], left[:, 1]).max()),
        moves=tuple(PlaneMove(z_mm=place, move_x_mm=-at(place)[0], move_y_mm=-at(place)[1]) for place in adjust_z_mm),
        report=tuple(
            AxisAt(z_mm=place, eccentricity_mm=hypot(*at(place)), total_reading_mm=2 * hypot(*at(place)))
            for place in report_z_mm
        ),
        notes=(note("axis_of_two_planes" if len(set(z.tolist())) == 2 else "axis_of_planes"),),
    )


def _require(planes: Sequence[Plane], adjust_z_mm: tuple[float, float], report_z_mm: Sequence[float]) -> None:
    for place, one in enumerate(planes):
        own = {"z_mm": one.z_mm, "offset_x_mm": one.offset_x_mm, "offset_y_mm": one.offset_y_mm}
        require_finite(**{f"planes.{place}.{name}": value for name, value in own.items()})
    places = [one.z_mm for one in planes]
    if not places or max(places) - min(places) <= TOLERANCE:
        raise InvalidInput("planes", "two_planes", given=len(planes), allowed=2)
    require_finite(**{f"adjust_z_mm.{place}": one for place, one in enumerate(adjust_z_mm)})
    require_finite(**{f"report_z_mm.{place}": one for place, one in enumerate(report_z_mm)})
    if abs(adjust_z_mm[1] - adjust_z_mm[0]) <= TOLERANCE:
        raise InvalidInput("adjust_z_mm.1", "repeated", given=adjust_z_mm[1])
