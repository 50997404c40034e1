"""A round of readings: when it is void because the indicator moved; what to read after a move."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_positive
from gyrocore.notes import Note, note

#: Shares by which a round closes: indicator steps, and part of the run-out limit (editable).
CLOSING_STEPS = 2.0
CLOSING_SHARE = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Closing:
    """Whether "first again" came back to the first reading [mm]."""

    holds: bool
    moved_mm: float
    allowed_mm: float
    notes: tuple[Note, ...] = ()


def closing_allowance_mm(*, indicator_step_mm: float, limit_mm: float) -> float:
    """Return how far "first again" may differ from the first reading.

    Parameters
    ----------
    indicator_step_mm : one division of the indicator, over 0 [mm]
    limit_mm : run-out limit (total reading), over 0 [mm]

    Returns
    -------
    allowance [mm]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    References
    ----------
    Chosen here: the larger of two indicator steps and a tenth of the limit; editable by the shop.

    Examples
    --------
    >>> closing_allowance_mm(indicator_step_mm=0.001, limit_mm=0.02)
    0.002
    """
    require_positive(indicator_step_mm=indicator_step_mm, limit_mm=limit_mm)
    return max(CLOSING_STEPS * indicator_step_mm, CLOSING_SHARE * limit_mm)


def close_round(*, first_mm: float, first_again_mm: float, allowed_mm: float) -> Closing:
    """Return whether a round stands or is void.

    Parameters
    ----------
    first_mm, first_again_mm : the reading at the first place, before and after the turn [mm]
    allowed_mm : see `closing_allowance_mm`, over 0 [mm]

    Returns
    -------
    Closing [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Shop practice: a round that does not return to its first reading has a loose indicator.

    Examples
    --------
    >>> close_round(first_mm=0.0, first_again_mm=0.004, allowed_mm=0.002).holds
    False
    """
    require_finite(first_mm=first_mm, first_again_mm=first_again_mm)
    require_positive(allowed_mm=allowed_mm)
    moved = first_again_mm - first_mm
    holds = abs(moved) <= allowed_mm + TOLERANCE
    code = "round_holds" if holds else "round_void"
    return Closing(
        holds=holds,
        moved_mm=moved,
        allowed_mm=allowed_mm,
        notes=(note(code, moved_mm=abs(moved), allowed_mm=allowed_mm),),
    )


def reading_after_move_mm(*, reading_mm: float, surface: str, offset_toward_mm: float) -> float:
    """Return what the indicator will read at a place once the work is moved onto the axis.

    Parameters
    ----------
    reading_mm : there before the move [mm]
    surface : `outside` or `inside`
    offset_toward_mm : how far the work lies off the axis toward that place, signed [mm]

    Returns
    -------
    reading [mm]

    Raises
    ------
    InvalidInput
        Where a value is not finite.

    References
    ----------
    Derived here: an outside surface recedes from the plunger by what the work moves away; an
    inside one comes to meet it.

    Examples
    --------
    >>> reading_after_move_mm(reading_mm=0.0, surface="inside", offset_toward_mm=0.027)
    0.027
    """
    require_finite(reading_mm=reading_mm, offset_toward_mm=offset_toward_mm)
    return reading_mm - offset_toward_mm if surface == "outside" else reading_mm + offset_toward_mm
