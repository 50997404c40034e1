"""Four readings a quarter turn apart: of a round surface opposite ones add up alike, so three tell the fourth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Each of four readings may be off by half a division, and the hand by as much again (chosen here).
STEPS_ALLOWED = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class FourPlaces:
    """What the circle rule says: the missing reading, or by how much the two diameters differ [mm]."""

    #: Place (0 to 3) and value of the one that was not read; None where all were.
    missing: int | None
    predicted_mm: float | None
    #: First and third less second and fourth; None with one missing.
    differ_mm: float | None
    #: Whether they add up alike as near as the indicator tells; None with one missing.
    holds: bool | None
    notes: tuple[Note, ...] = ()


def four_places(*, readings_mm: Sequence[float | None], indicator_step_mm: float) -> FourPlaces:
    """Return the missing one of four readings, or how the four agree with a circle.

    Parameters
    ----------
    readings_mm : four, in order round the work, at most one None [mm]
    indicator_step_mm : one division, over 0 [mm]

    Returns
    -------
    FourPlaces [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    A round surface off centre reads c + A cos t + B sin t: opposite places add up to 2 c whatever A and B are. An oval
    a cos 2t breaks it by 4 a, which is how much its two diameters through these places differ; an oval that lies at 45
    degrees to them is not seen. Four that do not add up are an oval or a slip; which, the four cannot tell.

    References
    ----------
    Derived here from the first harmonic of an eccentric circle.

    Examples
    --------
    >>> found = four_places(readings_mm=[0.03, 0.01, -0.01, None], indicator_step_mm=0.001)
    >>> found.missing, round(found.predicted_mm, 6)
    (3, 0.01)
    """
    require_positive(indicator_step_mm=indicator_step_mm)
    if len(readings_mm) != 4:
        raise InvalidInput("readings_mm", "four_readings", given=len(readings_mm), allowed=4)
    require_finite(**{f"readings_mm.{place}": value for place, value in enumerate(readings_mm) if value is not None})
    gone = [place for place, value in enumerate(readings_mm) if value is None]
    if len(gone) > 1:
        raise InvalidInput("readings_mm", "four_readings", given=4 - len(gone), allowed=4)
    values = [0.0 if value is None else value for value in readings_mm]
    even, odd = values[0] + values[2], values[1] + values[3]
    if gone:
        predicted = odd - even if gone[0] % 2 == 0 else even - odd
        return FourPlaces(missing=gone[0], predicted_mm=predicted, differ_mm=None, holds=None,
                          notes=(note("by_the_circle"),))  # fmt: skip
    holds = abs(even - odd) <= STEPS_ALLOWED * indicator_step_mm + TOLERANCE
    return FourPlaces(missing=None, predicted_mm=None, differ_mm=even - odd, holds=holds,
                      notes=() if holds else (note("not_a_circle", size_mm=abs(even - odd)),))  # fmt: skip
