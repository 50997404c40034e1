"""What was really moved after a round, where it was not what was told; and one tap instead of two moves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from gyrocore import JawMove
from gyroplan.assess.truing import RoundStanding
from gyroplan.record import BetweenRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Tap:
    """One tap instead of a move along each of two directions: where it strikes, toward where it drives [deg; mm]."""

    at_deg: float
    toward_deg: float
    by_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MovedOtherwise:
    """What was really moved [mm], and how far off centre that should leave the work."""

    x_mm: float
    y_mm: float
    left_mm: float


def tap_of(view: RoundStanding) -> Tap | None:
    """Return the tap that does what the moves of a round do; None where it tells none, or nothing is tapped.

    References
    ----------
    The work lies off by its offset and is driven the other way by as much; derived here.
    """
    if not view.way.tapped or not view.moves or view.figures is None:
        return None
    x, y = view.figures.offset
    at = degrees(atan2(y, x)) % 360
    return Tap(at_deg=at, toward_deg=(at + 180) % 360, by_mm=hypot(x, y))


def moved_by(view: RoundStanding, amounts_mm: Sequence[float]) -> tuple[float, float]:
    """Return where the work went [mm] when each told move was made by another amount, in the order they are told.

    A negative amount went the other way. Of a tap there is one amount, along its direction.
    """
    tap = tap_of(view)
    if tap is not None:
        return _along(tap.toward_deg, amounts_mm[0])
    # a jaw that is tightened drives the work toward the one that is slackened
    parts = [_along(view.way.places_deg[one.slacken], amount)
             for one, amount in zip(view.moves, amounts_mm, strict=True)]  # fmt: skip
    return sum(x for x, _ in parts), sum(y for _, y in parts)


def _along(angle_deg: float, by_mm: float) -> tuple[float, float]:
    return by_mm * cos(radians(angle_deg)), by_mm * sin(radians(angle_deg))


def moved_otherwise(view: RoundStanding | None, happened: Sequence[BetweenRecord]) -> MovedOtherwise | None:
    """Return what was moved otherwise since a round, and how far off that leaves the work; None where nothing was."""
    if view is None or view.figures is None:
        return None
    since = [one.really_mm for one in happened if one.after_round >= view.round.number and one.really_mm is not None]
    if not since:
        return None
    x, y = (sum(one[place] for one in since) for place in (0, 1))
    off = view.figures.offset
    return MovedOtherwise(x_mm=x, y_mm=y, left_mm=hypot(off[0] + x, off[1] + y))


def told_moves(view: RoundStanding | None) -> Sequence[JawMove | Tap]:
    """Return what a round tells to move, one of each that is turned or tapped."""
    if view is None:
        return ()
    tap = tap_of(view)
    return view.moves if tap is None else (tap,)
