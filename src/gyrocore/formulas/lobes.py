"""Lobes of chatter: how much more a bar stands at one spindle speed than at the worst."""

from __future__ import annotations

from collections.abc import Callable
from math import atan, ceil, floor, inf, pi, sqrt

from scipy.optimize import brentq

from gyrocore.checks import require_open_between, require_positive

#: The search goes this far above the natural frequency; there the gain is past a thousand for any damping.
_FAR = 1e3


def lobe_gain(*, speed_rpm: float, natural_frequency_hz: float, damping_ratio: float) -> float:
    """Return how many times its least chatter load a bar stands at a spindle speed.

    Parameters
    ----------
    speed_rpm : of the spindle, one edge in the cut, over 0 [rpm]
    natural_frequency_hz : of the bar at its cutter, over 0 [Hz]
    damping_ratio : over 0, under 1

    Returns
    -------
    1 at the worst speeds, more in a pocket

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    One mode, one edge, chatter at r natural frequencies, r over 1. On the border the load is
    -k / (2 G), G the real part of (1 - r^2) / ((1 - r^2)^2 + (2 z r)^2), and 60 f r / n = j + t(r) with
    t = 1 - atan((r^2 - 1) / (2 z r)) / pi, j the whole waves of a turn. The least over all j, over
    the least at any speed, 2 k z (1 + z). Process damping is left out, which errs on the safe side at low speed.

    References
    ----------
    Regenerative chatter of one mode (Tobias; Tlusty); the condition derived from 1 + K b (1 - exp(-i w T)) G(i w) = 0.

    Examples
    --------
    >>> lobe_gain(speed_rpm=3000, natural_frequency_hz=100, damping_ratio=0.03).__round__(2)
    5.03
    """
    require_positive(speed_rpm=speed_rpm, natural_frequency_hz=natural_frequency_hz)
    require_open_between(0, 1, damping_ratio=damping_ratio)
    waves = 60 * natural_frequency_hz / speed_rpm
    z = damping_ratio

    def whole_waves(r: float) -> float:
        return waves * r - 1 + atan((r * r - 1) / (2 * z * r)) / pi

    def load(r: float) -> float:
        past = r * r - 1
        return (past + (2 * z * r) ** 2 / past) / (4 * z * (1 + z)) if past > 0 else inf

    # the load falls up to here and rises after it, so only the lobes on either side can be the least
    least = whole_waves(sqrt(1 + 2 * z))
    below, above = floor(least), ceil(least)
    found = [load(_root(whole_waves, above, sqrt(1 + 2 * z), _FAR))]
    if below >= 0 and below > whole_waves(1.0):
        found.append(load(_root(whole_waves, below, 1.0, sqrt(1 + 2 * z))))
    return max(1.0, min(found))


def _root(waves_at: Callable[[float], float], whole: int, low: float, high: float) -> float:
    if waves_at(low) >= whole:
        return low
    return high if waves_at(high) <= whole else float(brentq(lambda r: waves_at(r) - whole, low, high, xtol=1e-14))
