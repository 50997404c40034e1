"""A bar between centres with the work on the saddle: is the bar long enough, and where must the bit stand."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkOnSaddle:
    """The work along the axis: its own length, and the stretch of it that is bored [mm]."""

    length_mm: float
    bored_from_mm: float
    bored_to_mm: float
    overrun_mm: float = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CentresBar:
    """The bar: length between its centres, and what driver and tail centre take of it [mm]."""

    length_mm: float
    driver_mm: float = 40.0
    tail_mm: float = 20.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CentresLayout:
    """Least bar, travel of the saddle, and from where to where the bit may stand, from the driver's centre [mm]."""

    least_bar_length_mm: float
    travel_mm: float
    bit_from_mm: float
    bit_to_mm: float | None
    ok: bool
    notes: tuple[Note, ...] = ()


def between_centres(
    *, work: WorkOnSaddle, bar: CentresBar, centres_mm: float | None = None, saddle_travel_mm: float | None = None
) -> CentresLayout:
    """Lay out a bar between centres for work that travels on the saddle.

    Parameters
    ----------
    work : lengths over 0, the bored stretch within it; overrun past both ends of it, 0 or more [mm]
    bar : length over 0, driver and tail 0 or more [mm]
    centres_mm : most between the machine's centres, None where not known [mm]
    saddle_travel_mm : most that the saddle travels, None where not known [mm]

    Returns
    -------
    CentresLayout [mm]; no place for the bit where the bar is too short

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The cutter stands still and must be clear of the bored stretch at both ends of the travel, with the
    whole work between driver and tail. So the bit stands at or past driver + end of the stretch +
    overrun, and at or before length - tail - what of the work lies past the start of the stretch -
    overrun. The least bar is where the two meet: twice the work for a bore right through it. Drawn clear at
    either end, the cutter can come home between passes without marking the bore.

    References
    ----------
    Derived here from the places of work and bit at both ends of the travel.

    Examples
    --------
    >>> work = WorkOnSaddle(length_mm=200, bored_from_mm=0, bored_to_mm=200, overrun_mm=5)
    >>> found = between_centres(work=work, bar=CentresBar(length_mm=500))
    >>> found.least_bar_length_mm, found.travel_mm, found.bit_from_mm, found.bit_to_mm
    (470.0, 210, 245.0, 275.0)
    """
    _require(work, bar)
    require_positive(centres_mm=centres_mm, saddle_travel_mm=saddle_travel_mm)
    stretch = work.bored_to_mm - work.bored_from_mm
    first = bar.driver_mm + work.bored_to_mm + work.overrun_mm
    last = bar.length_mm - bar.tail_mm - (work.length_mm - work.bored_from_mm) - work.overrun_mm
    least = bar.driver_mm + bar.tail_mm + work.length_mm + stretch + 2 * work.overrun_mm
    travel = stretch + 2 * work.overrun_mm
    notes = []
    if bar.length_mm < least - TOLERANCE:
        notes.append(note("centres_bar_too_short", length_mm=bar.length_mm, least_mm=least))
    if centres_mm is not None and bar.length_mm > centres_mm + TOLERANCE:
        notes.append(note("centres_too_near", length_mm=bar.length_mm, centres_mm=centres_mm))
    if saddle_travel_mm is not None and travel > saddle_travel_mm + TOLERANCE:
        notes.append(note("saddle_travel_short", travel_mm=travel, most_mm=saddle_travel_mm))
    ok = not notes
    return CentresLayout(
        least_bar_length_mm=least,
        travel_mm=travel,
        bit_from_mm=first,
        bit_to_mm=last if last >= first - TOLERANCE else None,
        ok=ok,
        notes=(*notes, note("cutter_comes_home")) if ok else tuple(notes),
    )


def _require(work: WorkOnSaddle, bar: CentresBar) -> None:
    require_positive(work_length_mm=work.length_mm, bar_length_mm=bar.length_mm)
    require_not_negative(
        bored_from_mm=work.bored_from_mm, overrun_mm=work.overrun_mm, driver_mm=bar.driver_mm, tail_mm=bar.tail_mm
    )
    require_positive(bored_to_mm=work.bored_to_mm)
    if work.bored_to_mm <= work.bored_from_mm + TOLERANCE:
        raise InvalidInput("bored_to_mm", "not_over", given=work.bored_to_mm, allowed=work.bored_from_mm)
    if work.bored_to_mm > work.length_mm + TOLERANCE:
        raise InvalidInput("bored_to_mm", "stretch_past_work", given=work.bored_to_mm, allowed=work.length_mm)
