"""Opposite flats in a four-jaw: half the difference, pair by pair."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_positive
from gyrocore.choices import SurfaceName
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Jaw = str | int


@dataclass(frozen=True, slots=True, kw_only=True)
class FlatPair:
    """The readings over two opposite jaws; positive is plunger pushed in [mm]."""

    jaws: tuple[Jaw, Jaw]
    readings_mm: tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class PairMove:
    """What one pair needs; the jaws are None where nothing is to move."""

    jaws: tuple[Jaw, Jaw]
    difference_mm: float
    by_mm: float
    slacken: Jaw | None
    tighten: Jaw | None
    within: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FourJawFlats:
    """The pairs, and whether all are within the acceptance."""

    pairs: tuple[PairMove, ...]
    within: bool
    notes: tuple[Note, ...] = ()


def four_jaw_flats(
    *, pairs: Sequence[FlatPair], acceptance_mm: float, surface: SurfaceName = "outside"
) -> FourJawFlats:
    """Return what each pair of jaws must move.

    Parameters
    ----------
    pairs : opposite jaws and their readings, one pair or more [mm]
    acceptance_mm : greatest difference of a pair that will do, over 0 [mm]
    surface : `outside` or `inside`

    Returns
    -------
    FourJawFlats [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Outside, the work sits toward the jaw with the higher reading: tighten that one, slacken the
    other, by half the difference. Inside, the reverse.

    References
    ----------
    Derived here: moving the work by m changes both readings by m, in opposite directions.

    Examples
    --------
    >>> pair = FlatPair(jaws=("1", "3"), readings_mm=(0.10, 0.04))
    >>> four_jaw_flats(pairs=[pair], acceptance_mm=0.02).pairs[0].tighten
    '1'
    """
    if not pairs:
        raise InvalidInput("pairs", "empty")
    names: list[Jaw] = []
    for place, pair in enumerate(pairs):
        for end in (0, 1):
            require_finite(**{f"pairs.{place}.readings_mm.{end}": pair.readings_mm[end]})
            if pair.jaws[end] in names:
                raise InvalidInput(f"pairs.{place}.jaws.{end}", "repeated", given=pair.jaws[end])
            names.append(pair.jaws[end])
    require_positive(acceptance_mm=acceptance_mm)
    if surface not in ("outside", "inside"):
        raise InvalidInput("surface", "not_a_surface", given=surface)
    moves = tuple(_move(pair, acceptance_mm, surface) for pair in pairs)
    within = all(move.within for move in moves)
    return FourJawFlats(pairs=moves, within=within, notes=(note("half_difference"),))


def _move(pair: FlatPair, acceptance_mm: float, surface: str) -> PairMove:
    first, second = pair.jaws
    difference = pair.readings_mm[0] - pair.readings_mm[1]
    toward_first = (difference > 0) == (surface == "outside")
    at_zero = abs(difference) <= TOLERANCE
    tighten, slacken = (first, second) if toward_first else (second, first)
    return PairMove(
        jaws=pair.jaws,
        difference_mm=difference,
        by_mm=abs(difference) / 2,
        slacken=None if at_zero else slacken,
        tighten=None if at_zero else tighten,
        within=abs(difference) <= acceptance_mm + TOLERANCE,
    )
