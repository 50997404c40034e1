"""Limits of a bore that must suit one part, measured: a bearing, a bush, a ring, a shaft."""

from __future__ import annotations

from gyrocore.checks import require_finite, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.limits.fit import Fit, fit_of
from gyrocore.limits.spec import Limits
from gyrocore.notes import note


def limits_to_suit(*, mate_mm: float, least_mm: float, most_mm: float) -> Limits:
    """Return the limits that give a measured part the clearance wanted.

    Parameters
    ----------
    mate_mm : the part's own measured size, over 0 [mm]
    least_mm, most_mm : clearance on diameter, the most over the least; negative is interference [mm]

    Returns
    -------
    Limits, the part's size as their nominal [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The part is taken at its measured size; what its gauge cannot tell is not in these limits.

    References
    ----------
    Clearance is hole less shaft, ISO 286-1:2010, 3.3.

    Examples
    --------
    >>> found = limits_to_suit(mate_mm=71.992, least_mm=0.01, most_mm=0.04)
    >>> round(found.lower_mm, 3), round(found.upper_mm, 3)
    (72.002, 72.032)
    """
    require_positive(mate_mm=mate_mm)
    require_finite(least_mm=least_mm, most_mm=most_mm)
    if most_mm <= least_mm:
        raise InvalidInput("most_mm", "most_not_over_least", given=most_mm, allowed=least_mm)
    lower, upper = mate_mm + least_mm, mate_mm + most_mm
    if lower <= 0:
        raise InvalidInput("least_mm", "nothing_left_of_bore", given=least_mm)
    remark = note("to_suit", mate_mm=mate_mm)
    return Limits(mate_mm, lower, upper, upper - lower, (lower + upper) / 2, (remark,))


def fit_with_part(*, hole: Limits, mate_mm: float) -> Fit:
    """Return how one measured part sits in a bore within its limits.

    Parameters
    ----------
    hole : limits of the bore [mm]
    mate_mm : the part's own measured size, over 0 [mm]

    Returns
    -------
    Fit [mm]

    Raises
    ------
    InvalidInput
        At `mate_mm` where it is not over 0.

    References
    ----------
    As `fit_of`; the part's limits are both its measured size.

    Examples
    --------
    >>> from gyrocore.limits.spec import read_limits
    >>> fit_with_part(hole=read_limits("72 H7"), mate_mm=72.012).kind
    'transition'
    """
    require_positive(mate_mm=mate_mm)
    return fit_of(hole, Limits(mate_mm, mate_mm, mate_mm, 0.0, mate_mm, ()))
