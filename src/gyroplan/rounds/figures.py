"""What a closed, valid round says, and whether the move before it did what was told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from gyrocore import InvalidInput, JawMove, Sweep, sweep
from gyrocore.checks import TOLERANCE
from gyrocore.truing.jaws import split_along_jaws
from gyrocore.truing.sweep import fitted_swing_mm
from gyroplan.rounds.plan import TrueWork

#: How near to a suspected move the seen one must be, as a share of what was wanted (contract, `true_state`).
_NEAR, _NEAR_HALF = 0.35, 0.2
#: Moves under so many indicator steps are not judged: reading scatter looks like anything.
_STEPS_JUDGED = 4.0
_ORDERS = 3

Vector = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Figures:
    """A valid round's answer [mm]; `sweep` has the shape and the notes."""

    sweep: Sweep
    swing_mm: float
    moves: tuple[JawMove, ...]
    within: bool
    judged_by: str
    suspect: str | None = None

    @property
    def offset(self) -> Vector:
        """How far the work's axis lies off, x and y."""
        return self.sweep.offset_x_mm, self.sweep.offset_y_mm

    @property
    def is_form_or_too_fine(self) -> bool:
        """Over the limit, and yet nothing is to be moved."""
        return not self.within and not self.moves


def can_tell(places_deg: Sequence[float]) -> bool:
    """Whether a sweep takes these places."""
    try:
        sweep(angles_deg=places_deg, readings_mm=[0.0] * len(places_deg), surface="outside", orders=1)
    except InvalidInput:
        return False
    return True


def figures_of(work: TrueWork, places_deg: Sequence[float], readings_mm: Sequence[float]) -> Figures:
    """Return what a full round of readings says.

    Parameters
    ----------
    work : surface, limits, jaws
    places_deg, readings_mm : places that were read and their readings [deg], [mm]

    Returns
    -------
    Figures [mm]

    Notes
    -----
    Work still to be bored is judged by its centre offset: no jaw takes form away, the first cut does. Finished work is
    judged by the larger of the swing read and the swing of the fitted curve, because a peak between two places counts.

    References
    ----------
    Core contract, `true_state`; `gyrocore.truing.sweep`.
    """
    found = sweep(
        angles_deg=places_deg, readings_mm=readings_mm, surface=work.surface, jaws_deg=work.jaws_deg, orders=_ORDERS,
        acceptance_mm=work.limit_mm, diameter_mm=work.diameter_mm,
    )  # fmt: skip
    raw = found
    if work.diameter_mm is not None:
        raw = sweep(angles_deg=places_deg, readings_mm=readings_mm, surface=work.surface, orders=_ORDERS)
    swing = max(found.total_reading_mm, fitted_swing_mm(raw, work.surface))
    if work.purpose == "to-bore":
        within = found.eccentricity_mm <= work.centre_allowed_mm + TOLERANCE
    else:
        within = swing <= work.limit_mm + TOLERANCE
    unseen = found.eccentricity_mm < work.indicator_step_mm - TOLERANCE
    return Figures(
        sweep=found,
        swing_mm=swing,
        moves=() if within or unseen else found.moves,
        within=within,
        judged_by="centre" if work.purpose == "to-bore" else "swing",
    )


def suspect_of(before: Vector, now: Vector, work: TrueWork) -> str | None:
    """Return what a move seems to have done instead of what was told, or None where it did as told.

    Parameters
    ----------
    before, now : offset of the round that told the move, and of the one after it [mm]
    work : jaws and indicator step

    References
    ----------
    Core contract, `true_state`, suspect: wrong way, twice, half, mirrored, other jaws, in this order.
    """
    wanted = (-before[0], -before[1])
    done = (now[0] - before[0], now[1] - before[1])
    size = hypot(*wanted)
    if size < _STEPS_JUDGED * work.indicator_step_mm - TOLERANCE or _off(done, wanted) <= _NEAR * size + TOLERANCE:
        return None
    near = _NEAR * size + TOLERANCE
    guesses = [
        ("wrong-way", _off(done, _times(-1, wanted)) <= near),
        ("twice", _off(done, _times(2, wanted)) <= near),
        ("half", _off(done, _times(0.5, wanted)) <= _NEAR_HALF * size + TOLERANCE),
        ("mirrored", _is_mirrored(done, wanted, work)),
        ("other-jaws", min(_off(done, (-wanted[1], wanted[0])), _off(done, (wanted[1], -wanted[0]))) <= near),
    ]
    return next((name for name, holds in guesses if holds), None)


def _is_mirrored(done: Vector, wanted: Vector, work: TrueWork) -> bool:
    one, two = split_along_jaws(*wanted, work.jaws_deg)
    near = _NEAR * hypot(*wanted)
    if min(hypot(*one), hypot(*two)) <= near + TOLERANCE:
        return False
    reversed_ones = [(two[0] - one[0], two[1] - one[1]), (one[0] - two[0], one[1] - two[1])]
    return any(_off(done, guess) <= near + TOLERANCE for guess in reversed_ones)


def _off(one: Vector, other: Vector) -> float:
    return hypot(one[0] - other[0], one[1] - other[1])


def _times(factor: float, vector: Vector) -> Vector:
    return factor * vector[0], factor * vector[1]
