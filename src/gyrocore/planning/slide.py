"""A slide moved by its screw: turns and divisions of its dial, with the play of the screw taken up."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class SlideMove:
    """What is wound to move a slide so far: all divisions, and the same as whole turns and odd divisions."""

    divisions: float
    turns: int
    odd_divisions: float
    #: The same where the screw was wound the other way before: its play first.
    after_reversal_divisions: float
    after_reversal_turns: int
    after_reversal_odd: float
    notes: tuple[Note, ...] = ()


def slide_move(
    *, distance_mm: float, division_mm: float, divisions_per_turn: int, backlash_divisions: float = 0.0
) -> SlideMove:
    """Return the turns and divisions that move a slide by a distance.

    Parameters
    ----------
    distance_mm : over 0 [mm]
    division_mm : what one division moves the slide, over 0 [mm]
    divisions_per_turn : over 0
    backlash_divisions : play of the screw, 0 or more, in divisions of the same dial

    Returns
    -------
    SlideMove, in divisions

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    n = distance / division. Wound the other way before, the play is wound first and moves nothing. Approach the place
    always from the same side: past it, wind back more than the play and come up again.

    References
    ----------
    Derived here: a screw of constant lead.

    Examples
    --------
    >>> found = slide_move(distance_mm=150, division_mm=0.02, divisions_per_turn=200, backlash_divisions=6)
    >>> found.turns, round(found.odd_divisions, 3), round(found.after_reversal_odd, 3)
    (37, 100.0, 106.0)
    """
    require_positive(distance_mm=distance_mm, division_mm=division_mm, divisions_per_turn=divisions_per_turn)
    require_not_negative(backlash_divisions=backlash_divisions)
    divisions = distance_mm / division_mm
    with_play = divisions + backlash_divisions
    turns, odd = _turned(divisions, divisions_per_turn)
    again, again_odd = _turned(with_play, divisions_per_turn)
    return SlideMove(
        divisions=divisions, turns=turns, odd_divisions=odd, after_reversal_divisions=with_play,
        after_reversal_turns=again, after_reversal_odd=again_odd, notes=(note("same_side"),),
    )  # fmt: skip


def _turned(divisions: float, per_turn: int) -> tuple[int, float]:
    """Whole turns and the rest; a rest that is a whole turn but for the last bit is one."""
    turns = int((divisions + TOLERANCE) // per_turn)
    return turns, max(0.0, divisions - turns * per_turn)
