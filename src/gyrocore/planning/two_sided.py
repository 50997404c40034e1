"""Boring from two sides where the bar does not reach through."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class TwoSided:
    """How deep each side is bored; None where both together do not reach [mm]."""

    one_side_enough: Literal["a", "b"] | None
    possible: bool
    depth_a_mm: float | None
    depth_b_mm: float | None
    short_mm: float
    notes: tuple[Note, ...] = ()


def two_sided(*, length_mm: float, reach_a_mm: float, reach_b_mm: float, overlap_mm: float = 1.0) -> TwoSided:
    """Return how deep each side is bored.

    Parameters
    ----------
    length_mm : of the bore, over 0 [mm]
    reach_a_mm, reach_b_mm : how deep the tip comes from each side before anything touches, 0 or more [mm]
    overlap_mm : how far the second side cuts past where the first one ended, 0 or more [mm]

    Returns
    -------
    TwoSided [mm]; `short_mm` is the least that one side's reach must gain, 0 where it is possible

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    One side that reaches the length goes the whole of it, a before b. Else a goes as deep as it reaches, and b the
    rest and the overlap.

    References
    ----------
    Derived here.

    Examples
    --------
    >>> found = two_sided(length_mm=200, reach_a_mm=120, reach_b_mm=100)
    >>> found.depth_a_mm, found.depth_b_mm
    (120, 81.0)
    """
    require_positive(length_mm=length_mm)
    require_not_negative(reach_a_mm=reach_a_mm, reach_b_mm=reach_b_mm, overlap_mm=overlap_mm)
    if reach_a_mm >= length_mm - TOLERANCE:
        return _found("a", length_mm, 0.0)
    if reach_b_mm >= length_mm - TOLERANCE:
        return _found("b", 0.0, length_mm)
    lacks = length_mm + overlap_mm - reach_a_mm - reach_b_mm
    if lacks > TOLERANCE:
        short = min(lacks, length_mm - max(reach_a_mm, reach_b_mm))
        return TwoSided(one_side_enough=None, possible=False, depth_a_mm=None, depth_b_mm=None, short_mm=short,
                        notes=(note("two_sides_short", short_mm=short),))  # fmt: skip
    return TwoSided(
        one_side_enough=None, possible=True, depth_a_mm=reach_a_mm, depth_b_mm=length_mm - reach_a_mm + overlap_mm,
        short_mm=0.0, notes=(note("true_again_turned_round", overlap_mm=overlap_mm),),
    )  # fmt: skip


def _found(side: Literal["a", "b"], a_mm: float, b_mm: float) -> TwoSided:
    return TwoSided(one_side_enough=side, possible=True, depth_a_mm=a_mm, depth_b_mm=b_mm, short_mm=0.0,
                    notes=(note("one_side_reaches", side=side),))  # fmt: skip
