"""The distance between two axes, from what can be reached: the walls of two bores, or plugs that stand in them."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

from gyrocore.checks import require_not_negative, require_positive
from gyrocore.choices import ReadOver
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: How many half diameters are added to a reading over what was measured.
_HALVES: dict[str, int] = {"centres": 0, "near-walls": 1, "far-walls": -1}


@dataclass(frozen=True, slots=True, kw_only=True)
class CentreDistance:
    """Distance between two axes, and its expanded uncertainty [mm]."""

    distance_mm: float
    expanded_mm: float
    notes: tuple[Note, ...] = ()


def centre_distance(
    *, reading_mm: float, over: ReadOver, first_mm: float | None = None, second_mm: float | None = None,
    reading_expanded_mm: float = 0.0, first_expanded_mm: float = 0.0, second_expanded_mm: float = 0.0,
) -> CentreDistance:  # fmt: skip
    """Return the distance between two parallel axes from a reading over walls or plugs.

    Parameters
    ----------
    reading_mm : over 0 [mm]
    over : `centres` (read as it is), `near-walls` (the metal between the two bores) or `far-walls` (from the far wall
        of one to the far wall of the other; also over two plugs)
    first_mm, second_mm : diameters of the two bores or plugs, over 0; not with `centres` [mm]
    reading_expanded_mm, first_expanded_mm, second_expanded_mm : expanded uncertainties, 0 or more [mm]

    Returns
    -------
    CentreDistance [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, or where the far walls read less than the two bores touching would.

    Notes
    -----
    C = R + (D1 + D2)/2 over near walls, C = R - (D1 + D2)/2 over far ones; U^2 = UR^2 + (U1/2)^2 + (U2/2)^2. The axes
    are taken as parallel and the reading as the shortest or longest one.

    References
    ----------
    Derived here: the radii lie on the line of the centres. GUM (JCGM 100:2008) for the uncertainty.

    Examples
    --------
    >>> found = centre_distance(reading_mm=68.985, over="near-walls", first_mm=90.012, second_mm=72.015)
    >>> round(found.distance_mm, 4)
    149.9985
    """
    require_positive(reading_mm=reading_mm, first_mm=first_mm, second_mm=second_mm)
    require_not_negative(
        reading_expanded_mm=reading_expanded_mm, first_expanded_mm=first_expanded_mm,
        second_expanded_mm=second_expanded_mm,
    )  # fmt: skip
    if over not in _HALVES:
        raise InvalidInput("over", "unknown_choice", given=over, choices=", ".join(_HALVES))
    if over == "centres":
        for name, given in (("first_mm", first_mm), ("second_mm", second_mm)):
            if given is not None:
                raise InvalidInput(name, "only_over_walls", given=given)
        return CentreDistance(distance_mm=reading_mm, expanded_mm=reading_expanded_mm)
    for name, given in (("first_mm", first_mm), ("second_mm", second_mm)):
        if given is None:
            raise InvalidInput(name, "missing")
    radii = ((first_mm or 0.0) + (second_mm or 0.0)) / 2
    found = reading_mm + _HALVES[over] * radii
    if found <= 0:
        raise InvalidInput("reading_mm", "not_over", given=reading_mm, allowed=radii)
    return CentreDistance(
        distance_mm=found, expanded_mm=hypot(reading_expanded_mm, first_expanded_mm / 2, second_expanded_mm / 2),
        notes=(note("axes_taken_parallel"),),
    )  # fmt: skip
