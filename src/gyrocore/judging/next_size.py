"""The next size that exists: rings, bearings, bushes, pistons that the shop can have, for a bore that is too large."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive, require_unique
from gyrocore.choices import NoSize
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class ExistingSize:
    """A part that exists: its name and its diameter [mm]."""

    name: str
    diameter_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SizeRow:
    """One of them: what the bore would become, the radial cut, and why not; None where it can be [mm]."""

    name: str
    bore_to_mm: float
    cut_mm: float
    reason: NoSize | None


@dataclass(frozen=True, slots=True, kw_only=True)
class NextSize:
    """The first that can be, and all of them by diameter [mm]."""

    pick: str | None
    bore_to_mm: float | None
    cut_mm: float | None
    wall_mm: float | None
    rows: tuple[SizeRow, ...]
    notes: tuple[Note, ...] = ()


def next_size(
    *, bore_mm: float, sizes: Sequence[ExistingSize], play_mm: float = 0.0, least_cut_mm: float = 0.0,
    outside_mm: float | None = None, least_wall_mm: float | None = None,
) -> NextSize:  # fmt: skip
    """Return the smallest existing part that a bore can still be bored for.

    Parameters
    ----------
    bore_mm : the largest size found, over 0 [mm]
    sizes : what exists, one or more, names unique, diameters over 0 [mm]
    play_mm : bore over part; negative is a press [mm]
    least_cut_mm : radial, to clean up, 0 or more [mm]
    outside_mm, least_wall_mm : of the part around the bore, both or neither; the outside over the bore, the wall 0 or
        more [mm]

    Returns
    -------
    NextSize [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    bore_to = diameter + play, cut = (bore_to - bore)/2, wall = (outside - bore_to)/2. A cut thinner than the least
    leaves no metal to clean up, and goes before a thin wall as the reason. The bore is taken to lie in the middle of
    its metal.

    References
    ----------
    Derived here.

    Examples
    --------
    >>> sizes = [ExistingSize(name="standard", diameter_mm=72.0), ExistingSize(name="+0.5", diameter_mm=72.5)]
    >>> found = next_size(bore_mm=72.06, sizes=sizes, play_mm=0.02, least_cut_mm=0.05)
    >>> (found.pick, found.bore_to_mm, round(found.cut_mm, 3))
    ('+0.5', 72.52, 0.23)
    """
    _require(bore_mm, sizes, outside_mm, least_wall_mm)
    require_finite(play_mm=play_mm)
    require_not_negative(least_cut_mm=least_cut_mm)
    rows = []
    for one in sorted(sizes, key=lambda size: size.diameter_mm):
        to = one.diameter_mm + play_mm
        rows.append(SizeRow(name=one.name, bore_to_mm=to, cut_mm=(to - bore_mm) / 2,
                            reason=_reason(to, bore_mm, least_cut_mm, outside_mm, least_wall_mm)))  # fmt: skip
    pick = next((row for row in rows if row.reason is None), None)
    wall = None if pick is None or outside_mm is None else (outside_mm - pick.bore_to_mm) / 2
    notes = () if outside_mm is None else (note("bore_in_the_middle"),)
    return NextSize(
        pick=pick.name if pick else None, bore_to_mm=pick.bore_to_mm if pick else None,
        cut_mm=pick.cut_mm if pick else None, wall_mm=wall, rows=tuple(rows), notes=notes,
    )  # fmt: skip


def _reason(
    to_mm: float, bore_mm: float, least_cut_mm: float, outside_mm: float | None, least_wall_mm: float | None
) -> NoSize | None:  # fmt: skip
    if (to_mm - bore_mm) / 2 < least_cut_mm - TOLERANCE:
        return "no-metal"
    if outside_mm is not None and least_wall_mm is not None:
        return "thin-wall" if (outside_mm - to_mm) / 2 < least_wall_mm - TOLERANCE else None
    return None


def _require(
    bore_mm: float, sizes: Sequence[ExistingSize], outside_mm: float | None, least_wall_mm: float | None
) -> None:  # fmt: skip
    require_positive(bore_mm=bore_mm)
    if not sizes:
        raise InvalidInput("sizes", "empty")
    for place, one in enumerate(sizes):
        require_positive(**{f"sizes.{place}.diameter_mm": one.diameter_mm})
    require_unique("sizes.*.name", [one.name for one in sizes])
    require_positive(outside_mm=outside_mm)
    require_not_negative(least_wall_mm=least_wall_mm)
    if (outside_mm is None) != (least_wall_mm is None):
        raise InvalidInput("outside_mm" if outside_mm is None else "least_wall_mm", "missing")
    if outside_mm is not None and outside_mm <= bore_mm:
        raise InvalidInput("outside_mm", "not_over", given=outside_mm, allowed=bore_mm)
