"""A bush made to suit a seat that was measured: its outside from the seat and the fit."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.errors import InvalidInput

#: A bush thinner than this share of its outside is not pressed: it buckles or turns in its seat before it holds
#: (chosen here, because thin sleeves are shrunk or bonded instead; editable).
LEAST_WALL_SHARE = 1 / 40


@dataclass(frozen=True, slots=True, kw_only=True)
class BushOutside:
    """Limits of a bush's outside [mm] on diameter."""

    lower_mm: float
    upper_mm: float

    @property
    def aim_mm(self) -> float:
        """The middle of its limits."""
        return (self.lower_mm + self.upper_mm) / 2


def bush_outside(
    *, seat_smallest_mm: float, seat_largest_mm: float, least_mm: float, most_mm: float, uncertainty_mm: float = 0.0
) -> BushOutside:  # fmt: skip
    """Return the limits of a bush's outside that keep the interference at every place of the seat.

    Parameters
    ----------
    seat_smallest_mm, seat_largest_mm : over 0, as measured, the largest not under the smallest [mm]
    least_mm, most_mm : interference on diameter, the most over the least; negative is clearance [mm]
    uncertainty_mm : of the seat's sizes, 0 or more [mm]

    Returns
    -------
    BushOutside [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `most_mm` where the seat varies by more than the fit allows.

    Notes
    -----
    lower = largest seat + uncertainty + least; upper = smallest seat - uncertainty + most.

    References
    ----------
    Derived here from the definition of interference (ISO 286-1:2010, 3.4): outside less seat, at every place.

    Examples
    --------
    >>> found = bush_outside(seat_smallest_mm=62.012, seat_largest_mm=62.018, least_mm=0.025, most_mm=0.055,
    ...                      uncertainty_mm=0.003)
    >>> round(found.lower_mm, 3), round(found.upper_mm, 3)
    (62.046, 62.064)
    """
    require_positive(seat_smallest_mm=seat_smallest_mm, seat_largest_mm=seat_largest_mm)
    require_not_negative(uncertainty_mm=uncertainty_mm)
    if seat_largest_mm < seat_smallest_mm - TOLERANCE:
        raise InvalidInput("seat_largest_mm", "not_over_first", given=seat_largest_mm, allowed=seat_smallest_mm)
    if most_mm <= least_mm:
        raise InvalidInput("most_mm", "not_over", given=most_mm, allowed=least_mm)
    lower, upper = seat_largest_mm + uncertainty_mm + least_mm, seat_smallest_mm - uncertainty_mm + most_mm
    if upper <= lower + TOLERANCE:
        needed = seat_largest_mm - seat_smallest_mm + 2 * uncertainty_mm
        raise InvalidInput("most_mm", "seat_varies_more", given=most_mm - least_mm, allowed=needed)
    return BushOutside(lower_mm=lower, upper_mm=upper)


def require_wall(*, outside_mm: float, inside_mm: float) -> float:
    """Return a bush's wall [mm]; one too thin to be pressed is refused at `inside_mm`.

    References
    ----------
    Chosen here: the least wall is a fortieth of the outside.

    Examples
    --------
    >>> require_wall(outside_mm=62, inside_mm=54)
    4.0
    """
    require_positive(outside_mm=outside_mm)
    require_not_negative(inside_mm=inside_mm)
    wall = (outside_mm - inside_mm) / 2
    least = LEAST_WALL_SHARE * outside_mm
    if wall < least - TOLERANCE:
        raise InvalidInput("inside_mm", "wall_too_thin", given=wall, allowed=least)
    return wall
