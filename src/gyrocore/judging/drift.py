"""Pieces one after the other: whether the size runs away, and how many are left before a limit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from gyrocore.checks import TOLERANCE, require_finite
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Farther ahead nothing is foretold.
MOST_PIECES = 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class Drift:
    """How the size runs from piece to piece [mm], and how many further pieces stay in the limits."""

    slope_mm_piece: float
    sd_mm: float
    next_mm: float
    pieces_left: int
    notes: tuple[Note, ...] = ()


def drift(*, values_mm: Sequence[float], lower_mm: float, upper_mm: float) -> Drift:
    """Return how a size runs over pieces made in order.

    Parameters
    ----------
    values_mm : three or more, in the order made [mm]
    lower_mm, upper_mm : limits of size, the lower not over the upper [mm]

    Returns
    -------
    Drift [mm]; pieces_left is 0 to 1000

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Least-squares line over the piece number; sd of the residuals over n - 2. A further piece counts while its
    prediction and twice that scatter either side lie in the limits, from the next one until the first that does not.
    Not seen: that the line itself is only known so well from few pieces, which errs to the hopeful side.

    References
    ----------
    Least squares of a straight line (any textbook of statistics); the count derived here.

    Examples
    --------
    >>> found = drift(values_mm=[55.020, 55.018, 55.016], lower_mm=55.0, upper_mm=55.03)
    >>> (round(found.slope_mm_piece, 4), round(found.next_mm, 4), found.pieces_left)
    (-0.002, 55.014, 8)
    """
    if len(values_mm) < 3:
        raise InvalidInput("values_mm", "too_few_of", given=len(values_mm), allowed=3)
    for place, value in enumerate(values_mm):
        require_finite(**{f"values_mm.{place}": value})
    require_finite(lower_mm=lower_mm, upper_mm=upper_mm)
    if upper_mm < lower_mm:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper_mm, allowed=lower_mm)
    count = len(values_mm)
    middle, mean = (count - 1) / 2, sum(values_mm) / count
    across = sum((n - middle) ** 2 for n in range(count))
    slope = sum((n - middle) * (value - mean) for n, value in enumerate(values_mm)) / across
    left_over = sum((value - mean - slope * (n - middle)) ** 2 for n, value in enumerate(values_mm))
    sd = sqrt(left_over / (count - 2))

    def stays(ahead: int) -> bool:
        told = mean + slope * (count - 1 + ahead - middle)
        return lower_mm - TOLERANCE <= told - 2 * sd and told + 2 * sd <= upper_mm + TOLERANCE

    left = next((n - 1 for n in range(1, MOST_PIECES + 1) if not stays(n)), MOST_PIECES)
    return Drift(
        slope_mm_piece=slope, sd_mm=sd, next_mm=mean + slope * (count - middle), pieces_left=left,
        notes=(note("drift_of_few", count=count),) if count < _FEW else (),
    )  # fmt: skip


#: Fewer pieces than this say little of a drift (chosen here: the line takes two of them).
_FEW = 6
