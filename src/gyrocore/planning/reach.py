"""How far the bar must reach, and how deep the first cut will be at its least and most."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Share of the size tolerance that the bar may spring, on radius: a quarter (chosen here, because
#: spring doubles on diameter and shares the tolerance with measuring and setting; editable).
SPRING_SHARE = 0.25
#: Share of a finish pass that a bar which only opens the bore up may spring: what it leaves out of place is cut
#: away by the finish passes, which must still meet the wall all round (chosen here, editable).
OPENING_SHARE = 0.25


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """Holder face to cutter point when the cutter has run past the far end [mm]."""

    reach_mm: float
    room_left_mm: float | None
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class FirstCut:
    """Smallest and largest radial depth the first cut meets round the wall [mm]."""

    smallest_mm: float
    largest_mm: float
    off_centre_mm: float
    notes: tuple[Note, ...] = ()


def reach_needed(
    *, bore_length_mm: float, overrun_mm: float, clear_mm: float, room_behind_mm: float | None = None
) -> Reach:
    """Return how far the bar must hang out to bore right through.

    Parameters
    ----------
    bore_length_mm : over 0 [mm]
    overrun_mm : past the far end, 0 or more, not past the room behind the work [mm]
    clear_mm : between the work and the holder when the cut ends, 0 or more [mm]
    room_behind_mm : free length behind the work, None where not known [mm]

    Returns
    -------
    Reach [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `overrun_mm` where it passes the room behind.

    References
    ----------
    Derived here: a sum of lengths along the axis.

    Examples
    --------
    >>> reach_needed(bore_length_mm=140, overrun_mm=5, clear_mm=20, room_behind_mm=12).reach_mm
    165
    """
    require_positive(bore_length_mm=bore_length_mm)
    require_not_negative(overrun_mm=overrun_mm, clear_mm=clear_mm, room_behind_mm=room_behind_mm)
    if room_behind_mm is not None and overrun_mm > room_behind_mm + TOLERANCE:
        raise InvalidInput("overrun_mm", "overrun_past_room", given=overrun_mm, allowed=room_behind_mm)
    return Reach(
        reach_mm=bore_length_mm + overrun_mm + clear_mm,
        room_left_mm=None if room_behind_mm is None else room_behind_mm - overrun_mm,
        notes=(note("room_not_known"),) if room_behind_mm is None else (),
    )


def first_cut_depths(*, cut_diameter_mm: float, found_mm: Sequence[float], off_centre_mm: float) -> FirstCut:
    """Return the least and the greatest depth of the first cut.

    Parameters
    ----------
    cut_diameter_mm : what the first pass cuts, over 0 [mm]
    found_mm : the bore as found, one size or more [mm]
    off_centre_mm : eccentricity of the old bore, 0 or more [mm]

    Returns
    -------
    FirstCut [mm], radial; a least depth under 0 is skin that the cut does not reach

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    (cut - largest)/2 - off centre, and (cut - smallest)/2 + off centre.

    References
    ----------
    Derived here: two circles whose centres lie off centre apart.

    Examples
    --------
    >>> round(first_cut_depths(cut_diameter_mm=69.34, found_mm=[68.4], off_centre_mm=0.01).largest_mm, 3)
    0.48
    """
    require_positive(cut_diameter_mm=cut_diameter_mm)
    require_not_negative(off_centre_mm=off_centre_mm)
    if not found_mm:
        raise InvalidInput("found_mm", "empty")
    for place, size in enumerate(found_mm):
        require_positive(**{f"found_mm.{place}": size})
    smallest = (cut_diameter_mm - max(found_mm)) / 2 - off_centre_mm
    return FirstCut(
        smallest_mm=smallest,
        largest_mm=(cut_diameter_mm - min(found_mm)) / 2 + off_centre_mm,
        off_centre_mm=off_centre_mm,
        notes=(note("skin_left", missing_mm=-smallest),) if smallest <= 0 else (),
    )
