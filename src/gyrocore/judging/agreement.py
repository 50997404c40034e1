"""Two ways of measuring one size: whether they agree, and what both say together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """What one way says: a value and its expanded uncertainty, 0 for known exactly [mm]."""

    value_mm: float
    expanded_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreement:
    """Second less first, whether that is within what both are known to, and the weighted value [mm]."""

    difference_mm: float
    en: float | None
    agree: bool
    value_mm: float
    expanded_mm: float
    notes: tuple[Note, ...] = ()


def agreement(*, first: Found, second: Found) -> Agreement:
    """Return whether two ways of measuring one size agree.

    Parameters
    ----------
    first, second : value and expanded uncertainty (k = 2), 0 or more [mm]

    Returns
    -------
    Agreement [mm]; `en` has no unit, and is None where both are known exactly

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    E_n = |x2 - x1| / sqrt(U1^2 + U2^2); they agree up to 1. The value is weighted by 1/U^2. The two are taken as
    independent: set on one ring, they share its error, and E_n is then too small.

    References
    ----------
    E_n number: ISO 13528. Weighted mean: GUM (JCGM 100:2008).

    Examples
    --------
    >>> one, other = Found(value_mm=72.010, expanded_mm=0.003), Found(value_mm=72.016, expanded_mm=0.004)
    >>> found = agreement(first=one, second=other)
    >>> (round(found.en, 2), found.agree)
    (1.2, False)
    """
    for name, one in (("first", first), ("second", second)):
        require_finite(**{f"{name}.value_mm": one.value_mm})
        require_not_negative(**{f"{name}.expanded_mm": one.expanded_mm})
    difference, both = second.value_mm - first.value_mm, hypot(first.expanded_mm, second.expanded_mm)
    value, expanded = weighted_mm((first, second))
    agree = abs(difference) <= both + TOLERANCE
    return Agreement(
        difference_mm=difference, en=abs(difference) / both if both > 0 else None, agree=agree, value_mm=value,
        expanded_mm=expanded,
        notes=() if agree else (note("ways_disagree", difference_mm=abs(difference), allowed_mm=both),),
    )  # fmt: skip


def weighted_mm(found: Sequence[Found]) -> tuple[float, float]:
    """Return the mean of several ways weighted by 1/U^2, and its expanded uncertainty [mm].

    Parameters
    ----------
    found : one or more; those known exactly (U = 0) are taken whole [mm]

    Returns
    -------
    value and expanded uncertainty [mm]

    References
    ----------
    GUM (JCGM 100:2008): weights that give the least variance.

    Examples
    --------
    >>> weighted_mm([Found(value_mm=72.01, expanded_mm=0), Found(value_mm=72.02, expanded_mm=0.01)])
    (72.01, 0.0)
    """
    exact = [one.value_mm for one in found if one.expanded_mm == 0]
    if exact:
        return sum(exact) / len(exact), 0.0
    weights = [one.expanded_mm**-2 for one in found]
    total = sum(weights)
    return sum(w * one.value_mm for w, one in zip(weights, found, strict=True)) / total, float(total**-0.5)
