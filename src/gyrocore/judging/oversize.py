"""The next sizes to bore a spoilt bore to: what the mating part is made in."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive, require_whole

#: Steps of oversize parts (shop practice, editable): a quarter of a millimetre, ten thou.
OVERSIZE_STEP_MM = 0.25
OVERSIZE_STEP_IN_MM = 0.254


@dataclass(frozen=True, slots=True, kw_only=True)
class Oversize:
    """A size to bore to, and what it leaves to cut, on diameter [mm]."""

    over_mm: float
    target_mm: float
    stock_mm: float


def next_oversizes(
    *, target_mm: float, largest_mm: float, least_depth_mm: float, step_mm: float = OVERSIZE_STEP_MM, count: int = 3
) -> tuple[Oversize, ...]:
    """Return the next sizes, whole steps over the target, that the edge can still cut all round.

    Parameters
    ----------
    target_mm : what the bore was to become, over 0 [mm]
    largest_mm : the largest size measured, over 0 [mm]
    least_depth_mm : thinnest radial cut of the edge, 0 or more [mm]
    step_mm : between one oversize and the next, over 0 [mm]
    count : how many sizes, 1 or more

    Returns
    -------
    sizes, the least first [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    target + n step, from the least n that leaves twice the least depth over the largest size measured: a thinner cut
    would rub where the bore is widest. Whether such a part exists, and the wall allows it, is for others to say.

    References
    ----------
    Shop practice: oversize rings, pistons, bearings and bushes come in even steps; editable.

    Examples
    --------
    >>> [(round(one.target_mm, 3), round(one.stock_mm, 3))
    ...  for one in next_oversizes(target_mm=72.015, largest_mm=72.06, least_depth_mm=0.05, count=2)]
    [(72.265, 0.205), (72.515, 0.455)]
    """
    require_positive(target_mm=target_mm, largest_mm=largest_mm, step_mm=step_mm)
    require_not_negative(least_depth_mm=least_depth_mm)
    require_whole(1, count=count)
    first = max(1, ceil((largest_mm + 2 * least_depth_mm - target_mm) / step_mm - TOLERANCE))
    return tuple(
        Oversize(over_mm=n * step_mm, target_mm=target_mm + n * step_mm, stock_mm=target_mm + n * step_mm - largest_mm)
        for n in range(first, first + count)
    )
