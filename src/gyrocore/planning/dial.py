"""Turning a change of size into turns and divisions of a dial."""

from __future__ import annotations

from dataclasses import dataclass
from math import trunc

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.choices import DialReads
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Dial:
    """A dial: what one division moves, on radius or on diameter, and how many make a turn."""

    division_mm: float
    divisions_per_turn: float
    reads: DialReads = "radius"

    @property
    def division_on_diameter_mm(self) -> float:
        """What one division changes the bore by [mm]."""
        return self.division_mm * (2 if self.reads == "radius" else 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class DialMove:
    """The move in the words of the dial; negative winds back."""

    radial_mm: float
    divisions: float
    turns: int
    odd_divisions: float
    set_to_division: float
    division_on_diameter_mm: float
    notes: tuple[Note, ...] = ()


def head_dial(
    *, measured_diameter_mm: float, target_diameter_mm: float, dial: Dial, at_division: float = 0.0
) -> DialMove:
    """Return the dial move from a measured bore to a wanted one.

    Parameters
    ----------
    measured_diameter_mm, target_diameter_mm : over 0 [mm]
    dial : division over 0 [mm], divisions a turn over 0, `radius` or `diameter`
    at_division : where the dial stands, 0 or more, under a full turn

    Returns
    -------
    DialMove [mm], [divisions]; turns are whole, toward zero

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Derived here: half the difference of diameters is the radial move.

    Examples
    --------
    >>> dial = Dial(division_mm=0.02, divisions_per_turn=100)
    >>> head_dial(measured_diameter_mm=68.4, target_diameter_mm=69.34, dial=dial).divisions.__round__(6)
    23.5
    """
    require_positive(measured_diameter_mm=measured_diameter_mm, target_diameter_mm=target_diameter_mm)
    require_dial(dial, at_division)
    per_turn, worth = dial.divisions_per_turn, dial.division_on_diameter_mm
    divisions = (target_diameter_mm - measured_diameter_mm) / worth
    nudge = TOLERANCE if divisions > 0 else -TOLERANCE
    turns = trunc((divisions + nudge) / per_turn)
    stand = (at_division + divisions) % per_turn
    if per_turn - stand <= TOLERANCE:
        stand = 0.0
    return DialMove(
        radial_mm=(target_diameter_mm - measured_diameter_mm) / 2,
        divisions=divisions,
        turns=turns,
        odd_divisions=divisions - turns * per_turn,
        set_to_division=stand,
        division_on_diameter_mm=worth,
        notes=_notes(divisions, dial),
    )


def require_dial(dial: Dial, at_division: float) -> None:
    """Refuse a dial that cannot be, or a place that is not on it."""
    require_positive(division_mm=dial.division_mm)
    if dial.reads not in ("radius", "diameter"):
        raise InvalidInput("reads", "not_radius_or_diameter", given=dial.reads)
    require_positive(divisions_per_turn=dial.divisions_per_turn)
    require_not_negative(at_division=at_division)
    if at_division >= dial.divisions_per_turn:
        raise InvalidInput("at_division", "not_under", given=at_division, allowed=dial.divisions_per_turn)


def _notes(divisions: float, dial: Dial) -> tuple[Note, ...]:
    notes = [note("dial_reads", reads=dial.reads, worth_mm=dial.division_on_diameter_mm)]
    if divisions < -TOLERANCE:
        notes.append(note("wind_back"))
    elif abs(divisions) <= TOLERANCE:
        notes.append(note("no_move"))
    return tuple(notes)
