"""Setting a cutter in a bar: across the bar's back, by protrusion, or by an amount along the bit."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians

from gyrocore.checks import require_open_between, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class OverBar:
    """One setting said three ways [mm]."""

    cutting_diameter_mm: float
    reading_mm: float
    protrusion_mm: float
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class CutterAdvance:
    """How far the cutter moves on the radius and along the bit; negative draws back [mm]."""

    radial_mm: float
    advance_mm: float
    notes: tuple[Note, ...] = ()


def over_bar(
    *, bar_diameter_mm: float, cutting_diameter_mm: float | None = None, reading_mm: float | None = None
) -> OverBar:
    """Return the micrometer reading across bar and cutter for a bore, or the bore for a reading.

    Parameters
    ----------
    bar_diameter_mm : as measured where the cutter stands, over 0 [mm]
    cutting_diameter_mm, reading_mm : exactly one of the two, over the bar's diameter [mm]

    Returns
    -------
    OverBar: both of them, and the tip's height above the bar's own surface [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, at `reading_mm` where not exactly one is given.

    Notes
    -----
    Reading from the bar's back to the tip: d/2 + D/2. Tip above the surface: D/2 - d/2. Both hold only
    where the bar turns about its own centre; a bar's run-out in its bearings comes on top.

    References
    ----------
    Derived here from the two radii.

    Examples
    --------
    >>> over_bar(bar_diameter_mm=60, cutting_diameter_mm=88.2).reading_mm.__round__(3)
    74.1
    """
    require_positive(bar_diameter_mm=bar_diameter_mm, cutting_diameter_mm=cutting_diameter_mm, reading_mm=reading_mm)
    if cutting_diameter_mm is None:
        if reading_mm is None:
            raise InvalidInput("reading_mm", "one_of_two", other="cutting_diameter_mm")
        given, cutting_diameter_mm = ("reading_mm", reading_mm), 2 * reading_mm - bar_diameter_mm
    elif reading_mm is not None:
        raise InvalidInput("reading_mm", "only_one_of_two", given=reading_mm, other="cutting_diameter_mm")
    else:
        given, reading_mm = ("cutting_diameter_mm", cutting_diameter_mm), (bar_diameter_mm + cutting_diameter_mm) / 2
    if given[1] <= bar_diameter_mm:
        raise InvalidInput(given[0], "tip_inside_bar", given=given[1], allowed=bar_diameter_mm)
    return OverBar(
        cutting_diameter_mm=cutting_diameter_mm,
        reading_mm=reading_mm,
        protrusion_mm=(cutting_diameter_mm - bar_diameter_mm) / 2,
        notes=(note("bar_on_own_centre"),),
    )


def cutter_advance(
    *, measured_diameter_mm: float, target_diameter_mm: float, bit_tilt_deg: float = 0.0
) -> CutterAdvance:
    """Return how far the bit must move from a measured bore to a wanted one.

    Parameters
    ----------
    measured_diameter_mm, target_diameter_mm : over 0 [mm]
    bit_tilt_deg : the bit's lean from square to the axis, under 90 either way [deg]

    Returns
    -------
    CutterAdvance, on the radius and along the bit [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Radial r = (target - measured) / 2; along the bit r / cos(tilt): a leaning bit moves more along
    itself than on the radius.

    References
    ----------
    Derived here: the radial part of a move along the bit is its cosine.

    Examples
    --------
    >>> cutter_advance(measured_diameter_mm=71.2, target_diameter_mm=71.6, bit_tilt_deg=30).advance_mm.__round__(4)
    0.2309
    """
    require_positive(measured_diameter_mm=measured_diameter_mm, target_diameter_mm=target_diameter_mm)
    require_open_between(-90, 90, bit_tilt_deg=bit_tilt_deg)
    radial = (target_diameter_mm - measured_diameter_mm) / 2
    notes = []
    if bit_tilt_deg:
        notes.append(note("bit_leans", tilt=bit_tilt_deg))
    if radial < 0:
        notes.append(note("wind_back"))
    elif radial == 0:
        notes.append(note("no_move"))
    return CutterAdvance(radial_mm=radial, advance_mm=radial / cos(radians(bit_tilt_deg)), notes=tuple(notes))
