"""Faces: what an angled one does to its edges, and the time that facing takes."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, radians, tan

from gyrocore.checks import require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class AngledFace:
    """A face that leans from square: its width along the slope, and what deepening it does [mm], [deg]."""

    width_mm: float
    height_mm: float
    normal_mm: float
    inner_shift_mm: float | None
    top_slide_deg: float
    notes: tuple[Note, ...] = ()


def angled_face(
    *, angle_deg: float, inner_diameter_mm: float, outer_diameter_mm: float, deepen_mm: float = 0.0
) -> AngledFace:
    """Return the measures of a face at an angle.

    Parameters
    ----------
    angle_deg : between the face and a plane square to the axis, 0 to under 90 [deg]
    inner_diameter_mm, outer_diameter_mm : 0 or more, and over it [mm]
    deepen_mm : along the axis, 0 or more [mm]

    Returns
    -------
    AngledFace: width along the slope, height along the axis, deepening square to the face, what the inner edge moves
    on diameter where it runs out on a flat (None at 0 degrees) [mm]; the top slide's angle from the axis [deg]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Derived here: a right triangle.

    Examples
    --------
    >>> found = angled_face(angle_deg=45, inner_diameter_mm=30, outer_diameter_mm=34, deepen_mm=0.1)
    >>> round(found.width_mm, 4), round(found.inner_shift_mm, 4), found.top_slide_deg
    (2.8284, 0.2, 45)
    """
    require_not_negative(angle_deg=angle_deg)
    if angle_deg >= 90:
        raise InvalidInput("angle_deg", "not_under", given=angle_deg, allowed=90)
    _require_ring(inner_diameter_mm, outer_diameter_mm)
    require_not_negative(deepen_mm=deepen_mm)
    across, slope = (outer_diameter_mm - inner_diameter_mm) / 2, radians(angle_deg)
    return AngledFace(
        width_mm=across / cos(slope), height_mm=across * tan(slope), normal_mm=deepen_mm * cos(slope),
        inner_shift_mm=2 * deepen_mm / tan(slope) if angle_deg > 0 else None, top_slide_deg=90 - angle_deg,
        notes=(note("top_slide_from_axis"),),
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceTime:
    """Minutes under feed, and the spindle's speed at both edges."""

    minutes: float
    rpm_at_outer: float
    rpm_at_inner: float
    notes: tuple[Note, ...] = ()


def face_time(
    *, outer_diameter_mm: float, inner_diameter_mm: float = 0.0, feed_mm_rev: float, rpm: float | None = None,
    surface_speed_m_min: float | None = None, max_rpm: float | None = None,
) -> FaceTime:  # fmt: skip
    """Return how long a facing cut takes.

    Parameters
    ----------
    outer_diameter_mm, inner_diameter_mm : over it, and 0 or more [mm]
    feed_mm_rev : over 0 [mm/rev]
    rpm : a spindle speed that stays, over 0 [1/min]; or
    surface_speed_m_min : held constant, over 0 [m/min]
    max_rpm : only with a surface speed, and needed where the inner diameter is 0, over 0 [1/min]

    Returns
    -------
    FaceTime [min], [1/min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Held constant, the speed at every diameter D is the lesser of 1000 v / (pi D) and the largest; the time is the
    integral of dD / (2 f n(D)): pi (Do^2 - Dk^2) / (4000 v f) down to the diameter Dk where the largest begins, and
    (Dk - Di) / (2 f n) below it. Approach and overrun come on top.

    References
    ----------
    Derived here: integral of the feed.

    Examples
    --------
    >>> round(face_time(outer_diameter_mm=200, inner_diameter_mm=100, feed_mm_rev=0.2, rpm=250).minutes, 3)
    1.0
    """
    _require_ring(inner_diameter_mm, outer_diameter_mm)
    require_positive(feed_mm_rev=feed_mm_rev, rpm=rpm, surface_speed_m_min=surface_speed_m_min, max_rpm=max_rpm)
    if rpm is not None and surface_speed_m_min is not None:
        raise InvalidInput("surface_speed_m_min", "only_one_of_two", other="rpm")
    if rpm is not None:
        if max_rpm is not None:
            raise InvalidInput("max_rpm", "only_with_surface_speed", given=max_rpm)
        minutes = (outer_diameter_mm - inner_diameter_mm) / 2 / (feed_mm_rev * rpm)
        return FaceTime(minutes=minutes, rpm_at_outer=rpm, rpm_at_inner=rpm, notes=(note("time_under_feed"),))
    if surface_speed_m_min is None:
        raise InvalidInput("rpm", "one_of_two", other="surface_speed_m_min")
    if inner_diameter_mm == 0 and max_rpm is None:
        raise InvalidInput("max_rpm", "cap_to_centre")
    return _at_surface_speed(outer_diameter_mm, inner_diameter_mm, feed_mm_rev, surface_speed_m_min, max_rpm)


def _at_surface_speed(
    outer_mm: float, inner_mm: float, feed_mm_rev: float, speed_m_min: float, most_rpm: float | None
) -> FaceTime:
    """The surface speed held constant down to where the spindle turns no faster."""
    kept_mm = 0.0 if most_rpm is None else 1000 * speed_m_min / (pi * most_rpm)
    turn = min(max(kept_mm, inner_mm), outer_mm)
    minutes = pi * (outer_mm**2 - turn**2) / (4000 * speed_m_min * feed_mm_rev)
    if most_rpm is not None:
        minutes += (turn - inner_mm) / (2 * feed_mm_rev * most_rpm)

    def rpm_at(diameter_mm: float) -> float:
        wanted = 1000 * speed_m_min / (pi * diameter_mm) if diameter_mm > 0 else float("inf")
        return wanted if most_rpm is None else min(wanted, most_rpm)

    return FaceTime(
        minutes=minutes, rpm_at_outer=rpm_at(outer_mm), rpm_at_inner=rpm_at(inner_mm), notes=(note("time_under_feed"),)
    )


def _require_ring(inner_mm: float, outer_mm: float) -> None:
    require_not_negative(inner_diameter_mm=inner_mm)
    require_positive(outer_diameter_mm=outer_mm)
    if outer_mm <= inner_mm:
        raise InvalidInput("outer_diameter_mm", "not_over", given=outer_mm, allowed=inner_mm)
