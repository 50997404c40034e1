"""Slips that are caught and named; nothing is changed by itself."""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive
from gyrocore.choices import UnitName

#: A change this near to twice or half the commanded one is suspect (issue of the first slice:
#: the larger of 0.02 mm and three times the scatter of one cut).
_LEAST_BAND_MM = 0.02
_SCATTERS = 3.0
_MM_PER_INCH = 25.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Slip:
    """What is suspected, and the value that would mend it [mm]."""

    kind: str
    likely_mm: float


def radius_diameter_slip(*, commanded_mm: float, came_mm: float, scatter_mm: float = 0.0) -> Slip | None:
    """Name a change of size that came out twice or half of what was commanded.

    Parameters
    ----------
    commanded_mm, came_mm : wanted and measured change of the bore, on diameter [mm]
    scatter_mm : scatter of one cut, 0 or more [mm]

    Returns
    -------
    Slip with the change the dial would have meant [mm], or None

    Raises
    ------
    InvalidInput
        Where a value is not finite.

    Notes
    -----
    Within max(0.02 mm, 3 x scatter) of twice or of half the commanded change. A change that is
    as near to the commanded one itself is no slip.

    References
    ----------
    Chosen here; a dial taken for radius that reads diameter gives a factor of exactly two.

    Examples
    --------
    >>> radius_diameter_slip(commanded_mm=0.94, came_mm=1.88).kind
    'twice'
    """
    require_finite(commanded_mm=commanded_mm, came_mm=came_mm)
    require_not_negative(scatter_mm=scatter_mm)
    band = max(_LEAST_BAND_MM, _SCATTERS * scatter_mm) + TOLERANCE
    off = abs(came_mm - commanded_mm)
    for kind, factor in (("twice", 2.0), ("half", 0.5)):
        suspect = factor * commanded_mm
        if abs(came_mm - suspect) <= band and abs(came_mm - suspect) < off:
            return Slip(kind=kind, likely_mm=suspect)
    return None


def unit_slip(*, value_mm: float, expected_mm: float, band: float = 0.2) -> Slip | None:
    """Name a size that is 25.4 times off what is expected.

    Parameters
    ----------
    value_mm : as read [mm]
    expected_mm : about what it should be, over 0 [mm]
    band : relative distance from exactly 25.4 that still counts, over 0

    Returns
    -------
    Slip with the likely size [mm], or None

    Raises
    ------
    InvalidInput
        Where a value is not finite.

    References
    ----------
    One inch is 25.4 mm exactly.

    Examples
    --------
    >>> unit_slip(value_mm=2.8346, expected_mm=72).kind
    'inch_as_mm'
    """
    require_finite(value_mm=value_mm, expected_mm=expected_mm)
    require_positive(band=band)
    for kind, likely in (
        ("inch_as_mm", value_mm * _MM_PER_INCH),
        ("mm_as_inch", value_mm / _MM_PER_INCH),
    ):
        if abs(likely - expected_mm) <= band * abs(expected_mm):
            return Slip(kind=kind, likely_mm=likely)
    return None


#: One turn of a thimble, by the reader's unit [mm]: half a millimetre; 25 and 50 thou.
_THIMBLES_MM = {"mm": (0.5,), "in": (0.635, 1.27)}
#: Nibs, rods and extension pieces, by the unit they are made in [mm].
_RODS_MM = {"mm": (10.0, 20.0, 25.0, 50.0), "in": (12.7, 25.4, 50.8)}
#: How far from what is expected the mended figure may lie, at least [mm].
_NEAR_MM = 0.02


def size_slips(
    *, value_mm: float, expected_mm: float, band_mm: float, unit: UnitName = "mm", text: str = ""
) -> tuple[Slip, ...]:
    """Name what a size that is not what was expected may be instead.

    Parameters
    ----------
    value_mm : as it was read [mm]
    expected_mm : about what it should be, over 0 [mm]
    band_mm : how far a true size may lie from that, over 0 [mm]
    unit : in which it was typed
    text : as it was typed, for figures that changed places; empty leaves that out

    Returns
    -------
    slips whose mended size lies within the band, the nearest first; none where the size itself does

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Twice and half (radius for diameter), 25.4 and 1/25.4, ten and a tenth, the other sign, one turn of the thimble
    either way, a nib or rod too many or too few, two figures beside each other that changed places. What is nearest to
    the expected size is named first; nothing is changed.

    References
    ----------
    Turns and rods: sizes that micrometers and inside micrometers are made with (shop practice, editable).

    Examples
    --------
    >>> [(one.kind, round(one.likely_mm, 3)) for one in size_slips(value_mm=71.515, expected_mm=72.01, band_mm=0.05)]
    [('thimble', 72.015)]
    """
    require_finite(value_mm=value_mm)
    require_positive(expected_mm=expected_mm, band_mm=band_mm)
    band = max(band_mm, _NEAR_MM) + TOLERANCE
    if abs(value_mm - expected_mm) <= band:
        return ()
    found = [Slip(kind=kind, likely_mm=likely) for kind, likely in _mended(value_mm, unit, text)
             if abs(likely - expected_mm) <= band]  # fmt: skip
    nearest: dict[str, Slip] = {}
    for one in sorted(found, key=lambda slip: abs(slip.likely_mm - expected_mm)):
        nearest.setdefault(one.kind, one)
    return tuple(nearest.values())


def _mended(value: float, unit: str, text: str) -> list[tuple[str, float]]:
    """What each slip would have made of another size: the sizes that give this figure."""
    found = [
        ("twice", value / 2), ("half", value * 2), ("inch_as_mm", value * _MM_PER_INCH),
        ("mm_as_inch", value / _MM_PER_INCH), ("ten", value / 10), ("ten", value * 10), ("sign", -value),
    ]  # fmt: skip
    for kind, steps in (("thimble", _THIMBLES_MM[unit]), ("rod", _RODS_MM[unit])):
        found += [(kind, value + sign * step) for step in steps for sign in (1, -1)]
    if text:
        scale = 1.0 if unit == "mm" else _MM_PER_INCH
        found += [("swapped", scale * size) for size in _swapped(text)]
    return found


def _swapped(text: str) -> list[float]:
    """Every reading of a bare figure with two neighbours changed; none of a text that is more than a figure."""
    plain = text.strip().replace(",", ".")
    if not re.fullmatch(r"\d{1,5}\.?\d{0,6}", plain):
        return []
    spots = [n for n, one in enumerate(plain) if one.isdigit()]
    found = []
    for a, b in pairwise(spots):
        letters = list(plain)
        letters[a], letters[b] = letters[b], letters[a]
        changed = "".join(letters)
        if changed != plain:
            found.append(float(changed))
    return found
