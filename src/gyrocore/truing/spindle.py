"""A spindle read near its nose and farther out: an offset told from a tilt, and the play from push and pull."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, radians, sin

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Vector = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpindleReading:
    """The swing of a test bar at one distance from the nose, and where it reads highest [mm], [deg]."""

    distance_mm: float
    total_reading_mm: float
    high_angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SpindleCheck:
    """Off centre at the nose, tilt, the swing at the tool, and the play; None where push or pull was not read."""

    nose_eccentricity_mm: float
    tilt_mm_m: float
    total_reading_at_tool_mm: float
    play_mm: float | None
    notes: tuple[Note, ...] = ()


def spindle_check(
    *, near: SpindleReading, far: SpindleReading, tool_length_mm: float, push_mm: float | None = None,
    pull_mm: float | None = None,
) -> SpindleCheck:  # fmt: skip
    """Return what a spindle's two swings come to at its nose and at the tool.

    Parameters
    ----------
    near, far : distances 0 or more, the far one further out [mm]; swings 0 or more [mm]; high places [deg]
    tool_length_mm : of the tool from the nose, 0 or more [mm]
    push_mm, pull_mm : readings while it is pushed and pulled by hand, signed [mm]

    Returns
    -------
    SpindleCheck [mm], [mm/m]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Each swing is a vector: half the total reading, toward the high place. The two lie on a straight line from the
    nose; the test bar's own run-out is in them unless it was turned end for end and the mean taken.

    References
    ----------
    Derived here: a straight axis in space.

    Examples
    --------
    >>> near = SpindleReading(distance_mm=50, total_reading_mm=0.008, high_angle_deg=0)
    >>> far = SpindleReading(distance_mm=250, total_reading_mm=0.024, high_angle_deg=0)
    >>> found = spindle_check(near=near, far=far, tool_length_mm=350)
    >>> round(found.tilt_mm_m, 3), round(found.total_reading_at_tool_mm, 3)
    (0.04, 0.032)
    """
    _require(near, far, tool_length_mm, push_mm, pull_mm)
    first, second, apart = _vector(near), _vector(far), far.distance_mm - near.distance_mm
    slope = ((second[0] - first[0]) / apart, (second[1] - first[1]) / apart)

    def off(distance_mm: float) -> float:
        along = distance_mm - near.distance_mm
        return hypot(first[0] + slope[0] * along, first[1] + slope[1] * along)

    return SpindleCheck(
        nose_eccentricity_mm=off(0.0), tilt_mm_m=1000 * hypot(*slope), total_reading_at_tool_mm=2 * off(tool_length_mm),
        play_mm=None if push_mm is None or pull_mm is None else abs(push_mm - pull_mm),
        notes=(note("test_bar_counts"),),
    )  # fmt: skip


def _vector(reading: SpindleReading) -> Vector:
    half, angle = reading.total_reading_mm / 2, radians(reading.high_angle_deg)
    return half * cos(angle), half * sin(angle)


def _require(
    near: SpindleReading, far: SpindleReading, tool_mm: float, push_mm: float | None, pull_mm: float | None
) -> None:  # fmt: skip
    for name, one in (("near", near), ("far", far)):
        require_not_negative(**{f"{name}.distance_mm": one.distance_mm,
                                f"{name}.total_reading_mm": one.total_reading_mm})  # fmt: skip
        require_finite(**{f"{name}.high_angle_deg": one.high_angle_deg})
    if far.distance_mm - near.distance_mm <= TOLERANCE:
        raise InvalidInput("far.distance_mm", "not_over", given=far.distance_mm, allowed=near.distance_mm)
    require_not_negative(tool_length_mm=tool_mm)
    require_finite(push_mm=push_mm, pull_mm=pull_mm)
