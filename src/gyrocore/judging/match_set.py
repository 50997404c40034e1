"""Pieces that must be alike: how far apart they are, and what to open so that they match."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceSize:
    """One piece and its size [mm]."""

    name: str
    value_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ToOpen:
    """A piece that is to be opened: to what, and how much that takes off, on diameter [mm]."""

    name: str
    to_mm: float
    cut_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchSet:
    """Largest less smallest, and what is to be opened [mm]."""

    spread_mm: float
    within: bool
    rows: tuple[ToOpen, ...]
    possible: bool
    notes: tuple[Note, ...] = ()


def match_set(
    *, pieces: Sequence[PieceSize], match_mm: float, lower_mm: float | None = None, upper_mm: float | None = None
) -> MatchSet:  # fmt: skip
    """Return whether bores are alike, and which to open so that they are.

    Parameters
    ----------
    pieces : two or more, names unique, sizes over 0 [mm]
    match_mm : the largest less the smallest at most, 0 or more [mm]
    lower_mm, upper_mm : limits of size, over 0, the lower not over the upper [mm]

    Returns
    -------
    MatchSet [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Metal can only come off: all are opened to the largest, or to the lower limit where that is larger, but for those
    that lie within `match_mm` of it and not under the lower limit. Not possible where the largest is over the upper
    limit.

    References
    ----------
    Derived here.

    Examples
    --------
    >>> two = [PieceSize(name="1", value_mm=55.004), PieceSize(name="2", value_mm=55.012)]
    >>> found = match_set(pieces=two, match_mm=0.005)
    >>> [(row.name, round(row.cut_mm, 3)) for row in found.rows]
    [('1', 0.008)]
    """
    _require(pieces, lower_mm, upper_mm)
    require_not_negative(match_mm=match_mm)
    values = [one.value_mm for one in pieces]
    spread, largest = max(values) - min(values), max(values)
    to = largest if lower_mm is None else max(largest, lower_mm)
    rows = tuple(
        ToOpen(name=one.name, to_mm=to, cut_mm=to - one.value_mm)
        for one in pieces
        if to - one.value_mm > match_mm + TOLERANCE or (lower_mm is not None and one.value_mm < lower_mm - TOLERANCE)
    )
    possible = upper_mm is None or largest <= upper_mm + TOLERANCE
    return MatchSet(
        spread_mm=spread, within=spread <= match_mm + TOLERANCE, rows=rows, possible=possible,
        notes=() if possible else (note("match_impossible", given_mm=largest, allowed_mm=upper_mm),),
    )  # fmt: skip


def _require(pieces: Sequence[PieceSize], lower_mm: float | None, upper_mm: float | None) -> None:
    if len(pieces) < 2:
        raise InvalidInput("pieces", "too_few_of", given=len(pieces), allowed=2)
    for place, one in enumerate(pieces):
        require_positive(**{f"pieces.{place}.value_mm": one.value_mm})
    require_unique("pieces.*.name", [one.name for one in pieces])
    require_positive(lower_mm=lower_mm, upper_mm=upper_mm)
    if lower_mm is not None and upper_mm is not None and upper_mm < lower_mm:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper_mm, allowed=lower_mm)
