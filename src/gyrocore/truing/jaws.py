"""Moves of a chuck's jaws: a shift split along two opposite pairs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import cos, radians, sin

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite
from gyrocore.errors import InvalidInput

#: Jaws closer than this to opposite are a pair.
_SAME_PLACE_DEG = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class JawMove:
    """Slacken one jaw, then tighten its opposite, by this much [mm]."""

    slacken: str
    tighten: str
    by_mm: float


def require_jaws(jaws_deg: Mapping[str, float] | None) -> None:
    """Refuse jaws that are not two opposite pairs; raises InvalidInput at `jaws_deg`."""
    if jaws_deg is not None:
        _pairs(jaws_deg)


def split_along_jaws(
    x_mm: float, y_mm: float, jaws_deg: Mapping[str, float] | None
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return a shift as two parts, along the two pairs of jaws; along x and y without jaws.

    Parameters
    ----------
    x_mm, y_mm : the shift [mm]
    jaws_deg : name and angle of two opposite pairs, or None [deg]

    Returns
    -------
    two vectors that add up to the shift [mm]

    Raises
    ------
    InvalidInput
        At `jaws_deg` where these are not two pairs.

    References
    ----------
    Derived here: the shift in the base of the two pairs' directions.

    Examples
    --------
    >>> split_along_jaws(0.03, -0.01, None)
    ((0.03, 0.0), (0.0, -0.01))
    """
    if jaws_deg is None:
        return (x_mm, 0.0), (0.0, y_mm)
    (first, _), (second, _) = _pairs(jaws_deg)
    towards = np.array([[cos(radians(jaws_deg[a])), sin(radians(jaws_deg[a]))] for a in (first, second)])
    amounts = np.linalg.solve(towards.T, np.array([x_mm, y_mm]))
    one, two = (amount * way for amount, way in zip(amounts, towards, strict=True))
    return (float(one[0]), float(one[1])), (float(two[0]), float(two[1]))


def jaw_moves(offset: tuple[float, float], jaws_deg: Mapping[str, float] | None) -> tuple[JawMove, ...]:
    if jaws_deg is None:
        return ()
    (first, second) = _pairs(jaws_deg)
    towards = np.array([[cos(radians(jaws_deg[a])), sin(radians(jaws_deg[a]))] for a, _ in (first, second)])
    amounts = np.linalg.solve(towards.T, np.array(offset))
    moves = []
    for (a, b), amount in zip((first, second), amounts, strict=True):
        if abs(amount) > TOLERANCE:
            tighten, slacken = (a, b) if amount > 0 else (b, a)
            moves.append(JawMove(slacken=slacken, tighten=tighten, by_mm=abs(float(amount))))
    return tuple(moves)


def _pairs(jaws_deg: Mapping[str, float]) -> list[tuple[str, str]]:
    for name, angle in jaws_deg.items():
        require_finite(**{f"jaws_deg.{name}": angle})
    names = list(jaws_deg)
    pairs = []
    while names:
        first = names.pop(0)
        against = [name for name in names if abs((jaws_deg[name] - jaws_deg[first]) % 360 - 180) <= _SAME_PLACE_DEG]
        if len(against) != 1:
            raise InvalidInput("jaws_deg", "not_two_pairs", given=len(jaws_deg), allowed=4)
        names.remove(against[0])
        pairs.append((first, against[0]))
    if len(pairs) != 2 or _parallel(*(jaws_deg[a] for a, _ in pairs)):
        raise InvalidInput("jaws_deg", "not_two_pairs", given=len(jaws_deg), allowed=4)
    return pairs


def _parallel(first_deg: float, second_deg: float) -> bool:
    return abs(sin(radians(first_deg - second_deg))) < sin(radians(_SAME_PLACE_DEG))
