"""A coaxial indicator wound along one axis: where its swing is least, from the swings at a few positions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SmallestSwing:
    """Where the swing is least, what it then is, and how many times the run-out the indicator shows [mm]."""

    at_mm: float
    swing_mm: float
    #: Swing shown over twice the distance from the axis; 1 is taken where two positions alone were tried.
    shown_times: float
    notes: tuple[Note, ...] = ()


def smallest_swing(*, at_mm: Sequence[float], swings_mm: Sequence[float]) -> SmallestSwing:
    """Return the position along one axis at which a coaxial indicator swings least.

    Parameters
    ----------
    at_mm : where the slide stood, two or more positions, unlike [mm]
    swings_mm : the swing at each in one turn (total reading), 0 or more [mm]

    Returns
    -------
    SmallestSwing [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `swings_mm` where the swings have no least.

    Notes
    -----
    At x along the axis that is wound and y off it the indicator swings by S = 2 k sqrt((x - x0)^2 + y^2), k times what
    a plunger square to the wall would show. S^2 / 4 is a parabola in x: three positions or more tell x0, y and k by
    least squares, two tell x0 and y with k = 1. What is left at x0 is the other axis, wound next. Form of the surface
    is left out: it makes the least swing larger than it is.

    References
    ----------
    Derived here from the distance of an eccentric circle, to its first order.

    Examples
    --------
    >>> found = smallest_swing(at_mm=[0, 0.1, 0.2], swings_mm=[0.26, 0.1077, 0.18868])
    >>> round(found.at_mm, 3), round(found.swing_mm, 3)
    (0.12, 0.1)
    """
    _require(at_mm, swings_mm)
    x = np.asarray(at_mm, dtype=np.float64)
    zero = float(x.mean())
    quarter = np.asarray(swings_mm, dtype=np.float64) ** 2 / 4
    if len(set(at_mm)) == 2:
        slope, base = np.polyfit(x - zero, quarter - (x - zero) ** 2, 1)
        times = 1.0
    else:
        curve, slope, base = np.polyfit(x - zero, quarter, 2)
        if curve <= TOLERANCE:
            raise InvalidInput("swings_mm", "no_least_swing", given=max(swings_mm))
        times = sqrt(float(curve))
        slope, base = slope / curve, base / curve
    middle = -float(slope) / 2
    left = max(0.0, float(base) - middle**2)
    at = zero + middle
    outside = at < min(at_mm) or at > max(at_mm)
    return SmallestSwing(
        at_mm=at, swing_mm=2 * times * sqrt(left), shown_times=times,
        notes=(note("least_swing_outside"),) if outside else (),
    )  # fmt: skip


def _require(at_mm: Sequence[float], swings_mm: Sequence[float]) -> None:
    require_finite(**{f"at_mm.{place}": value for place, value in enumerate(at_mm)})
    require_not_negative(**{f"swings_mm.{place}": value for place, value in enumerate(swings_mm)})
    if len(swings_mm) != len(at_mm):
        raise InvalidInput("swings_mm", "unlike_lengths", given=len(swings_mm), allowed=len(at_mm))
    if len(set(at_mm)) < 2:
        raise InvalidInput("at_mm", "two_positions", given=len(set(at_mm)), allowed=2)
    if max(at_mm) - min(at_mm) <= TOLERANCE:
        raise InvalidInput("at_mm", "two_positions", given=1, allowed=2)
