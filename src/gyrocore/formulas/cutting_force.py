"""Cutting force by Kienzle on the chord of the engaged edge."""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, atan2, cos, degrees, pi, radians, sin

from gyrocore.checks import (
    require_not_negative,
    require_open_between,
    require_positive,
)
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """One cut: the material's Kienzle constants, the depth and feed, and the edge."""

    kc11_mpa: float
    mc: float
    depth_mm: float
    feed_mm_rev: float
    entering_angle_deg: float = 90.0
    nose_radius_mm: float = 0.4
    thrust_ratio: float = 0.5
    surface_speed_m_min: float | None = None
    diameter_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CuttingForce:
    """Chip, specific force and the three forces of a cut."""

    effective_entering_angle_deg: float
    chip_thickness_mm: float
    chip_width_mm: float
    kc_mpa: float
    tangential_n: float
    radial_n: float
    axial_n: float
    power_w: float | None
    torque_nm: float | None
    notes: tuple[Note, ...] = ()


def effective_entering_angle(depth_mm: float, entering_angle_deg: float, nose_radius_mm: float) -> float:
    """Return the angle of the engaged edge's chord to the axis.

    Parameters
    ----------
    depth_mm : radial depth of cut, over 0 [mm]
    entering_angle_deg : of the straight edge, over 0, under 180 [deg]
    nose_radius_mm : 0 or more [mm]

    Returns
    -------
    angle [rad]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The nose arc and the straight flank are replaced by their common chord. With a <= r (1 - cos K)
    only the arc cuts and the chord leans by half its arc; otherwise its ends give the angle.

    References
    ----------
    Derived here from the geometry of an arc tangent to the finished wall; entering angle as in
    ISO 3002-1 (tool cutting edge angle).

    Examples
    --------
    >>> round(degrees(effective_entering_angle(0.4, 90, 0.4)), 6)
    45.0
    """
    require_positive(depth_mm=depth_mm)
    require_open_between(0, 180, entering_angle_deg=entering_angle_deg)
    require_not_negative(nose_radius_mm=nose_radius_mm)
    angle, r, a = radians(entering_angle_deg), nose_radius_mm, depth_mm
    arc_depth = r * (1 - cos(angle))
    if a <= arc_depth:
        return acos(max(-1.0, 1 - a / r)) / 2
    return atan2(a, r * sin(angle) + (a - arc_depth) * cos(angle) / sin(angle))


def cutting_force(cut: Cut) -> CuttingForce:
    """Return chip section, specific cutting force and the forces of one cut.

    Parameters
    ----------
    cut : all lengths [mm], feed [mm/rev], kc11 [MPa], speed [m/min]

    Returns
    -------
    CuttingForce: forces [N], power [W], torque [N m]; null where speed or diameter is missing

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    kc = kc11 h^-mc, Fc = kc a f, thrust = ratio x Fc, split along and across the axis by the
    chord's angle. Edge wear and cutting speed are left out: a worn edge pushes harder.

    References
    ----------
    Kienzle's relation for the specific cutting force; the chord is derived here.

    Examples
    --------
    >>> round(cutting_force(Cut(kc11_mpa=1100, mc=0.25, depth_mm=0.47, feed_mm_rev=0.2)).radial_n, 1)
    53.6
    """
    _require_cut(cut)
    angle = effective_entering_angle(cut.depth_mm, cut.entering_angle_deg, cut.nose_radius_mm)
    thickness = cut.feed_mm_rev * sin(angle)
    kc_mpa = cut.kc11_mpa * thickness**-cut.mc
    tangential = kc_mpa * cut.depth_mm * cut.feed_mm_rev
    thrust = cut.thrust_ratio * tangential
    speed, diameter = cut.surface_speed_m_min, cut.diameter_mm
    return CuttingForce(
        effective_entering_angle_deg=degrees(angle),
        chip_thickness_mm=thickness,
        chip_width_mm=cut.depth_mm / sin(angle),
        kc_mpa=kc_mpa,
        tangential_n=tangential,
        radial_n=thrust * cos(angle),
        axial_n=thrust * sin(angle),
        power_w=None if speed is None else tangential * speed / 60,
        torque_nm=None if diameter is None else tangential * diameter / 2000,
        notes=_notes(cut, angle),
    )


def _require_cut(cut: Cut) -> None:
    require_positive(kc11_mpa=cut.kc11_mpa)
    require_not_negative(mc=cut.mc)
    if cut.mc >= 1:
        raise InvalidInput("mc", "not_under", given=cut.mc, allowed=1)
    require_positive(depth_mm=cut.depth_mm, feed_mm_rev=cut.feed_mm_rev)
    require_open_between(0, 180, entering_angle_deg=cut.entering_angle_deg)
    require_not_negative(nose_radius_mm=cut.nose_radius_mm, thrust_ratio=cut.thrust_ratio)
    require_positive(surface_speed_m_min=cut.surface_speed_m_min, diameter_mm=cut.diameter_mm)


def _notes(cut: Cut, angle: float) -> tuple[Note, ...]:
    notes = [note("kienzle_chord")]
    if angle > pi / 2:
        notes.append(note("pulls_inward"))
    if cut.nose_radius_mm and cut.depth_mm <= cut.nose_radius_mm:
        notes.append(note("cuts_on_nose", nose_mm=cut.nose_radius_mm))
    if cut.nose_radius_mm and cut.feed_mm_rev > 2 * cut.nose_radius_mm:
        notes.append(note("feed_past_nose", limit_mm=2 * cut.nose_radius_mm))
    return tuple(notes)
