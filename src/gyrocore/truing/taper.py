"""From a measured taper to the move that takes it out."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import require_finite, require_positive
from gyrocore.choices import TaperOn
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class TaperCorrection:
    """Slope of the wall on radius [mm/m], and the move at the lever, outward positive [mm]."""

    angle_mm_m: float
    move_mm: float
    notes: tuple[Note, ...] = ()


def taper_correction(*, taper_mm: float, over_mm: float, lever_mm: float, on: TaperOn = "diameter") -> TaperCorrection:
    """Return what a point beyond the pivot must move to take a taper out.

    Parameters
    ----------
    taper_mm : positive where the bore grows with z, as read [mm]
    over_mm : length over which it was read, over 0 [mm]
    lever_mm : how far further along z than the pivot the moved point lies [mm]
    on : `diameter` or `radius`, what the taper was read on

    Returns
    -------
    TaperCorrection: slope on radius, signed [mm/m]; move, outward positive [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The wall runs out by the taper on radius over the length; turning the path by that slope about the
    pivot moves a point `lever_mm` away by slope x lever the other way. Small angles: the sine is the angle.

    References
    ----------
    Derived here by similar triangles.

    Examples
    --------
    >>> taper_correction(taper_mm=0.2, over_mm=150, lever_mm=380).move_mm.__round__(4)
    -0.2533
    """
    require_finite(taper_mm=taper_mm)
    if on not in ("diameter", "radius"):
        raise InvalidInput("on", "unknown_choice", given=on, choices="diameter, radius")
    require_positive(over_mm=over_mm)
    require_finite(lever_mm=lever_mm)
    slope = 1000 * (taper_mm / 2 if on == "diameter" else taper_mm) / over_mm
    move = 0.0 - slope * lever_mm / 1000
    notes = [note("taper_read_on", on=on)]
    if slope:
        notes.append(note("bore_grows" if slope > 0 else "bore_shrinks"))
    return TaperCorrection(angle_mm_m=slope, move_mm=move, notes=tuple(notes))
