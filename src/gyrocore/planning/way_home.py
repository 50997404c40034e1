"""The cutter's way home: how far a bit that stands out can be run along the line before it meets something narrower."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Narrow:
    """Something on the line that a bit passes only where it is large enough [mm]; size 0 for a bearing or a wall."""

    name: str
    start_mm: float
    end_mm: float
    size_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Free:
    """How far the bit runs free past one end of its bore, and what it then meets; None and empty for nothing."""

    room_mm: float | None
    meets: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class WayHome:
    """What lies free to both ends of a bore for a bit that cuts it."""

    towards_start: Free
    towards_end: Free
    notes: tuple[Note, ...] = ()


def way_home(
    *, start_mm: float, end_mm: float, cut_diameter_mm: float, others: Sequence[Narrow] = (), clearance_mm: float = 0.2
) -> WayHome:
    """Return how far a bit can be run out of its bore on both sides before it meets what is narrower than its circle.

    Parameters
    ----------
    start_mm, end_mm : the bore along the line, the end over the start [mm]
    cut_diameter_mm : the circle of the bit's tip, over 0 [mm]
    others : bearings and other bores of the line, each name once; none may lie inside the bore [mm]
    clearance_mm : room that an opening must leave round the tip, on radius, 0 or more [mm]

    Returns
    -------
    WayHome: the room past each end up to the nearest thing that the tip does not pass [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with its place in the list.

    Notes
    -----
    An opening of size s lets the tip pass where s >= cut + 2 clearance. Nothing within a bore's own stretch is looked
    at but refused: a bearing there could not stand.

    References
    ----------
    Derived here: intervals along the line.

    Examples
    --------
    >>> found = way_home(start_mm=0, end_mm=80, cut_diameter_mm=90,
    ...                  others=[Narrow(name="H2", start_mm=400, end_mm=480, size_mm=87.6)])
    >>> found.towards_end.room_mm, found.towards_end.meets, found.towards_start.room_mm
    (320, 'H2', None)
    """
    _require(start_mm, end_mm, cut_diameter_mm, others, clearance_mm)
    stops = [one for one in others if one.size_mm < cut_diameter_mm + 2 * clearance_mm - TOLERANCE]
    before = [(start_mm - one.end_mm, one.name) for one in stops if one.end_mm <= start_mm + TOLERANCE]
    after = [(one.start_mm - end_mm, one.name) for one in stops if one.start_mm >= end_mm - TOLERANCE]
    return WayHome(
        towards_start=_nearest(before), towards_end=_nearest(after), notes=(note("bit_out_where_free"),)
    )  # fmt: skip


def _nearest(stops: Sequence[tuple[float, str]]) -> Free:
    if not stops:
        return Free(room_mm=None)
    room, name = min(stops)
    return Free(room_mm=max(0.0, room), meets=name)


def _require(
    start_mm: float, end_mm: float, cut_mm: float, others: Sequence[Narrow], clearance_mm: float
) -> None:  # fmt: skip
    require_finite(start_mm=start_mm, end_mm=end_mm)
    if end_mm <= start_mm:
        raise InvalidInput("end_mm", "not_over", given=end_mm, allowed=start_mm)
    require_positive(cut_diameter_mm=cut_mm)
    for place, one in enumerate(others):
        require_finite(**{f"others.{place}.start_mm": one.start_mm, f"others.{place}.end_mm": one.end_mm})
        require_not_negative(**{f"others.{place}.size_mm": one.size_mm})
        if one.end_mm < one.start_mm:
            raise InvalidInput(f"others.{place}.end_mm", "not_over", given=one.end_mm, allowed=one.start_mm)
        if one.end_mm > start_mm + TOLERANCE and one.start_mm < end_mm - TOLERANCE:
            raise InvalidInput(f"others.{place}.start_mm", "inside_the_bore", given=one.start_mm, name=one.name)
    require_unique("others.*.name", [one.name for one in others])
    require_not_negative(clearance_mm=clearance_mm)
