"""A tuned damped bar: its owner's own table of turns against overhang, looked up and never guessed between."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: An overhang within this of a point of the table is that point (chosen here: the table's own fineness, editable).
SAME_MM = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TunedPoint:
    """One line of the owner's table: at this overhang the damper stands this many turns out."""

    overhang_mm: float
    turns: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Tuning:
    """What to turn the damper to, how far from where it stands, and the table's points on either side."""

    turns: float | None
    move_turns: float | None
    before: TunedPoint | None
    after: TunedPoint | None
    notes: tuple[Note, ...] = ()


def tuning(*, points: Sequence[TunedPoint], overhang_mm: float, stands_turns: float | None = None) -> Tuning:
    """Look up the turns of a tuned damped bar at an overhang.

    Parameters
    ----------
    points : the owner's table, overhangs over 0 and all different [mm], turns 0 or more
    overhang_mm : over 0 [mm]
    stands_turns : where the damper stands now, None where not known

    Returns
    -------
    Tuning; no turns where the table has no such overhang

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    The owner's own table. Between its points nothing is guessed: a damper's tuning is not straight in the
    overhang, and a wrong one is worse than none (shop practice).

    Examples
    --------
    >>> table = [TunedPoint(overhang_mm=300, turns=2), TunedPoint(overhang_mm=400, turns=3.5)]
    >>> tuning(points=table, overhang_mm=400, stands_turns=2).move_turns
    1.5
    >>> tuning(points=table, overhang_mm=350).turns is None
    True
    """
    require_positive(overhang_mm=overhang_mm)
    if not points:
        raise InvalidInput("points", "empty")
    for place, point in enumerate(points):
        require_positive(**{f"points.{place}.overhang_mm": point.overhang_mm})
        require_not_negative(**{f"points.{place}.turns": point.turns})
    here = min(points, key=lambda p: abs(p.overhang_mm - overhang_mm))
    if abs(here.overhang_mm - overhang_mm) <= SAME_MM:
        move = None if stands_turns is None else here.turns - stands_turns
        return Tuning(turns=here.turns, move_turns=move, before=here, after=here, notes=(note("tuned_here"),))
    below = [p for p in points if p.overhang_mm < overhang_mm]
    above = [p for p in points if p.overhang_mm > overhang_mm]
    return Tuning(
        turns=None,
        move_turns=None,
        before=max(below, key=lambda p: p.overhang_mm, default=None),
        after=min(above, key=lambda p: p.overhang_mm, default=None),
        notes=(note("not_in_table", overhang_mm=overhang_mm),),
    )
