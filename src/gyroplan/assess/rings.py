"""What a ring or gap gauge says of an outside or a length: alone between what it lies, beside readings it narrows them.

The mirror of a plug in a bore: a ring of size s that goes over the part bounds its widest place above, one that does
not bounds it below.
"""

from __future__ import annotations

from collections.abc import Sequence

from gyrocore import GaugeBounds, Seen, gauge_bounds
from gyrocore.checks import TOLERANCE
from gyroplan.record import FeatureReadingRecord

#: Kinds of features that a ring or a gap gauge goes over.
RINGED = ("outside", "length")


def ring_bounds(
    tried: Sequence[FeatureReadingRecord], lower_mm: float | None, upper_mm: float
) -> GaugeBounds | None:  # fmt: skip
    """Between what an outside lies by the rings tried on it; None where none was tried.

    Goes: at most s + U, what a plug that does not go says of a bore. Does not: at least s - U.

    References: core contract, `gauge_bounds`; the mirror derived here.
    """
    seen = [
        Seen(kind="no-go" if one.goes else "go", size_mm=one.value,
             expanded_mm=0.0 if one.gauge is None else one.gauge.error_limit_mm)
        for one in tried if one.side
    ]  # fmt: skip
    if not seen:
        return None
    limits = {} if lower_mm is None else {"lower_mm": lower_mm, "upper_mm": upper_mm}
    return gauge_bounds(seen=seen, **limits)


def contradict(bounds: GaugeBounds, read: tuple[float, float] | None) -> bool:
    """Whether rings, and what was read (value and its expanded uncertainty) [mm], cannot all be true."""
    if not bounds.consistent:
        return True
    if read is None:
        return False
    value, expanded = read
    low, high = value - expanded, value + expanded
    above = bounds.at_most_mm is not None and low > bounds.at_most_mm + TOLERANCE
    return above or (bounds.at_least_mm is not None and high < bounds.at_least_mm - TOLERANCE)
