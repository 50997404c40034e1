"""How long the passes take."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import require_not_negative, require_positive, require_whole
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class CutTime:
    """Minutes of one pass and of all [min]."""

    minutes_per_pass: float
    minutes: float
    notes: tuple[Note, ...] = ()


def cut_time(
    *,
    length_mm: float,
    feed_mm_rev: float,
    rpm: float,
    approach_mm: float = 0.0,
    overrun_mm: float = 0.0,
    passes: int = 1,
) -> CutTime:
    """Return the time under feed.

    Parameters
    ----------
    length_mm : of the bore, over 0 [mm]
    feed_mm_rev : over 0 [mm/rev]
    rpm : over 0
    approach_mm, overrun_mm : fed before and after, 0 or more [mm]
    passes : whole, 1 or more

    Returns
    -------
    CutTime [min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    t = (length + approach + overrun) / (feed x rpm). Setting and measuring are left out.

    References
    ----------
    Derived here.

    Examples
    --------
    >>> cut_time(length_mm=140, feed_mm_rev=0.2, rpm=280).minutes
    2.5
    """
    require_positive(length_mm=length_mm, feed_mm_rev=feed_mm_rev, rpm=rpm)
    require_not_negative(approach_mm=approach_mm, overrun_mm=overrun_mm)
    require_whole(1, passes=passes)
    each = (length_mm + approach_mm + overrun_mm) / (feed_mm_rev * rpm)
    return CutTime(minutes_per_pass=each, minutes=each * passes, notes=(note("time_under_feed"),))
